import { computed, shallowRef, watch, type Ref } from 'vue'
import { bulgeLeaving, bulgeThrough } from '../../core/profile/arc'
import { appendNode, picturePointOf } from '../../core/profile/edit'
import { isClosed, type ProfileNode } from '../../core/profile/profile'
import { profileSegments } from '../../core/profile/profile-segments'
import { sharpSegments, tangentAt } from '../../core/profile/segments'
import { useView, type ScreenPoint } from '../composables/use-view'
import { useBench } from '../stores/bench'
import { usePiece } from '../stores/piece'
import { newId } from './new-id'
import type { Snapped } from './snapping'
import { useEdgeRun } from './use-edge-run'
import type { Modifiers } from './use-profile-tools'

/** Which end of the stroke in hand the pen continues. */
export type StrokeEnd = 'first' | 'last'

/** More than this is nothing that a click asks for: 348 degrees of a circle. */
const MOST_BULGE = 20

/**
 * The pen: sets nodes at the open end of the stroke in hand, with lines, arcs through three points, curves, or along the
 * edge of the photo, in one stroke.
 * @param snap where a node would come to stand
 */
export function usePen(snap: Ref<Snapped | null>, sign: Ref<number>) {
  const bench = useBench()
  const piece = usePiece()
  const view = useView()
  const edgeRun = useEdgeRun(sign)

  /** A place that the pen's next arc passes through, set by the click before. */
  const via = shallowRef<{ r: number; z: number } | null>(null)
  watch([() => bench.penKind, () => bench.tool], () => {
    via.value = null
    edgeRun.drop()
  })

  /** The end that the pen continues: the selected one if it is open, otherwise the last, or the first when the last is done. */
  const penEnd = computed<StrokeEnd>(() => {
    const { nodes } = piece.document.profile
    const first = nodes[0]
    const last = nodes[nodes.length - 1]
    if (!first || !last || nodes.length < 2 || first.r === 0) return 'last'
    const chosen = bench.selected.size === 1 && bench.selected.has(first.id)
    return chosen || last.r === 0 ? 'first' : 'last'
  })
  const endNode = () => piece.document.profile.nodes.at(penEnd.value === 'first' ? 0 : -1)

  /** The pen's next segment from the open end to the pointer. */
  const preview = computed(() => {
    const p = snap.value
    const { nodes } = piece.document.profile
    if (bench.tool !== 'pen' || bench.penKind === 'edge' || !p || nodes.length === 0) return []
    const grown = appendNode(piece.document.profile, nodeOf('pen', p), penEnd.value).nodes
    const from = penEnd.value === 'first' ? 0 : nodes.length - 1
    return profileSegments(grown).filter((s) => s.index === from)
  })

  /** The node that the pen would set; it brings the segment that leads to it. */
  function nodeOf(id: string, { r, z }: { r: number; z: number }): ProfileNode {
    const kind = bench.penKind === 'edge' ? 'line' : bench.penKind
    const node: ProfileNode = { id, r, z, joint: kind === 'curve' ? 'smooth' : 'corner', next: kind }
    return kind === 'arc' ? { ...node, bulge: penBulge(node) } : node
  }

  /** Through the place of the click before; without one the arc goes on in the direction of what it continues. */
  function penBulge({ r, z }: ProfileNode): number {
    const { nodes } = piece.document.profile
    const first = penEnd.value === 'first'
    const from = endNode()
    if (!from) return 0
    const [a, b] = [[from.r, from.z], [r, z]] as const // prettier-ignore
    let bulge = 0
    if (via.value) bulge = bulgeThrough(a, [via.value.r, via.value.z], b)
    else {
      const segments = sharpSegments(nodes)
      const next = first ? segments[0] : segments[segments.length - 1]
      if (next) {
        const [dr, dz] = tangentAt(next, first ? 0 : 1)
        bulge = bulgeLeaving(a, b, Math.atan2(first ? -dz : dz, first ? -dr : dr))
      }
    }
    // Set before the first node it runs the other way.
    return Number.isFinite(bulge) && Math.abs(bulge) < MOST_BULGE ? (first ? -bulge : bulge) : 0
  }

  /** Shows the way along the edge to the pointer. */
  function look(p: Snapped): void {
    const from = endNode()
    if (bench.penKind === 'edge' && from) edgeRun.look(from, p)
  }

  /** Sets a node; an arc takes the place it passes through first, unless Shift is held. */
  function place(p: Snapped, at: ScreenPoint, keys: Modifiers | null): void {
    const { profile } = piece.document
    const begun = profile.nodes.length > 0
    // On another stroke's end the pen goes on with that stroke.
    if (p.joins && !begun) {
      take(p.joins, p)
      return
    }
    if (bench.penKind === 'edge' && begun) {
      void alongEdge(p)
      return
    }
    if (bench.penKind === 'arc' && begun && !via.value && !keys?.shiftKey) {
      via.value = { r: p.r, z: p.z }
      return
    }
    // The first click off the axis decides on which side the profile is drawn.
    const drawn = [profile, ...(profile.aside ?? [])].flatMap((stroke) => stroke.nodes)
    const undecided = drawn.every((n) => n.r === 0) && p.r > 0
    const side = undecided ? (view.screenToPlane(at).x < 0 ? 'left' : 'right') : profile.side
    const node = { ...nodeOf(newId(), p), drawn: picturePointOf(side, p, view.seen.value) }
    piece.dispatch({ type: 'add-node', node, at: penEnd.value, side }, p.joins && `join ${node.id}`)
    join(p, node.id)
    via.value = null
    finish(node.id)
  }

  async function alongEdge(p: Snapped): Promise<void> {
    const from = endNode()
    const end = penEnd.value
    const run = from && (await edgeRun.nodesTo(from, p))
    // Meanwhile another click may have moved the end.
    if (!run || endNode()?.id !== from.id) return
    const last = run[run.length - 1]!
    piece.dispatch({ type: 'add-nodes', nodes: run, at: end }, p.joins && `join ${last.id}`)
    join(p, last.id)
    finish(last.id)
  }

  /** What was drawn onto the end of another stroke joins it, in the same step. */
  function join({ joins }: Snapped, id: string): void {
    if (joins) piece.dispatch({ type: 'join-stroke', id: joins, mergeMm: MEETING_MM }, `join ${id}`)
  }

  /** Takes a stroke in hand at the end that was pressed. */
  function take(stroke: string, { r, z }: Snapped): void {
    piece.dispatch({ type: 'take-stroke', id: stroke, as: newId() })
    const end = piece.document.profile.nodes.find((n) => n.r === r && n.z === z)
    if (end) bench.select(end.id)
  }

  function finish(id: string): void {
    bench.select(id)
    if (isClosed(piece.document.profile.nodes)) bench.tool = 'none'
  }

  return { via, preview, penEnd, look, place, edgeWay: edgeRun.way, edgeProblem: edgeRun.problem }
}

/** Ends that snapped onto each other are this near, mm: rounding. */
export const MEETING_MM = 1e-6
