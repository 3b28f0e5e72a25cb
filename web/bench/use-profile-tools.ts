import { computed, shallowRef } from 'vue'
import { picturePointOf } from '../../core/profile/edit'
import { isClosed, type ProfileNode } from '../../core/profile/profile'
import { profileSegments } from '../../core/profile/profile-segments'
import { pointOn } from '../../core/profile/segments'
import { useView, type ScreenPoint } from '../composables/use-view'
import { useBench } from '../stores/bench'
import { usePiece } from '../stores/piece'
import { newId } from './new-id'
import { snapNode, type Snapped } from './snapping'

/** The keys that change what a press means. */
export type Modifiers = Pick<MouseEvent, 'shiftKey' | 'altKey' | 'ctrlKey' | 'metaKey'>

const CURVE_HIT_PX = 7
/** A segment is tried at so many places when the pointer looks for the curve: a few px apart on the screen. */
const CURVE_SAMPLES = 60

/** Drawing and moving the nodes of the half-profile. */
export function useProfileTools() {
  const bench = useBench()
  const piece = usePiece()
  const view = useView()
  /** Where a node would come to stand, snapped. */
  const snap = shallowRef<Snapped | null>(null)
  /** Place on the curve where a press would insert a node. */
  const insertAt = shallowRef<{ index: number; t: number; at: ScreenPoint } | null>(null)

  const side = computed(() => piece.document.profile.side)
  const sign = computed(() => (side.value === 'left' ? -1 : 1))
  const nodeScreen = (n: { r: number; z: number }) => view.planeToScreen({ x: sign.value * n.r, z: n.z })
  const handles = () => piece.document.profile.nodes.map((n) => ({ id: n.id, at: nodeScreen(n) }))

  /** The end that the pen continues: the selected one if it is open, otherwise the last, or the first when the last is done. */
  const penEnd = computed<'first' | 'last'>(() => {
    const { nodes } = piece.document.profile
    const first = nodes[0]
    const last = nodes[nodes.length - 1]
    if (!first || !last || nodes.length < 2 || first.r === 0) return 'last'
    const chosen = bench.selected.size === 1 && bench.selected.has(first.id)
    return chosen || last.r === 0 ? 'first' : 'last'
  })

  /** The pen's next segment from the open end to the pointer. */
  const penPreview = computed(() => {
    const p = snap.value
    const { nodes } = piece.document.profile
    if (bench.tool !== 'pen' || !p || nodes.length === 0) return []
    const node = nodeOf('pen', p)
    if (penEnd.value === 'first') return profileSegments([node, ...nodes]).filter((s) => s.index === 0)
    const kept = nodes.map((n, i) => (i === nodes.length - 1 ? { ...n, next: bench.penKind } : n))
    return profileSegments([...kept, node]).filter((s) => s.index >= nodes.length - 1)
  })

  function nodeOf(id: string, { r, z }: { r: number; z: number }): ProfileNode {
    return { id, r, z, joint: bench.penKind === 'curve' ? 'smooth' : 'corner', next: bench.penKind }
  }

  /** @param id the node that moves, or null for one that is to be added by the pen */
  function snapped(at: ScreenPoint, keys: Modifiers | null, id: string | null): Snapped {
    const plane = view.screenToPlane(at)
    const { nodes } = piece.document.profile
    const index = nodes.findIndex((n) => n.id === id)
    const last = nodes.length - 1
    const neighbours =
      id === null ? [nodes[penEnd.value === 'last' ? last : 0]] : [nodes[index - 1], nodes[index + 1]]
    return snapNode({
      r: Math.abs(plane.x),
      z: plane.z,
      mayEndOnAxis: id === null ? nodes.length !== 1 || nodes[0]!.r !== 0 : index === 0 || index === last,
      neighbours: neighbours.filter((n): n is ProfileNode => n !== undefined),
      mmPerScreenPx: 1 / bench.view.pxPerMm,
      straight: keys?.shiftKey ?? false,
      free: Boolean(keys?.altKey || keys?.ctrlKey || keys?.metaKey),
    })
  }

  /** Adds a node where the pen stands. */
  function place(at: ScreenPoint, keys: Modifiers | null): void {
    const { profile } = piece.document
    const p = snapped(at, keys, null)
    // The first click off the axis decides on which side the profile is drawn.
    const undecided = profile.nodes.every((n) => n.r === 0) && p.r > 0
    const drawnSide = undecided ? (view.screenToPlane(at).x < 0 ? 'left' : 'right') : profile.side
    const node = { ...nodeOf(newId(), p), drawn: picturePointOf(drawnSide, p, view.seen.value) }
    piece.dispatch({ type: 'add-node', node, at: penEnd.value, side: drawnSide })
    bench.select(node.id)
    if (isClosed(piece.document.profile.nodes)) bench.tool = 'none'
  }

  /** Inserts a node where the pointer is on the curve. @returns its id, or null away from the curve */
  function insert(at: ScreenPoint): string | null {
    const place = curveHit(at)
    if (!place) return null
    const id = newId()
    piece.dispatch({ type: 'insert-node', index: place.index, t: place.t, id })
    bench.select(id)
    insertAt.value = null
    return id
  }

  /** Nearest place on the drawn curve within reach. */
  function curveHit(at: ScreenPoint) {
    let best: { index: number; t: number; at: ScreenPoint } | null = null
    let nearest = CURVE_HIT_PX
    for (const segment of piece.derived.segments) {
      if (segment.edge) continue
      const [from, to] = segment.span ?? [0, 1]
      for (let k = 1; k < CURVE_SAMPLES; k++) {
        const t = k / CURVE_SAMPLES
        const [r, z] = pointOn(segment, t)
        const s = nodeScreen({ r, z })
        const d = Math.hypot(s.sx - at.sx, s.sy - at.sy)
        if (d < nearest) {
          nearest = d
          best = { index: segment.index, t: from + (to - from) * t, at: s }
        }
      }
    }
    return best
  }

  /** Shows a node elsewhere; `piece.preview` becomes a step when it is let go. */
  function drag(id: string, at: ScreenPoint, keys: Modifiers): void {
    const p = snapped(at, keys, id)
    snap.value = p
    piece.preview = {
      type: 'move-node',
      id,
      r: p.r,
      z: p.z,
      drawn: picturePointOf(side.value, p, view.seen.value),
    }
  }

  return { snap, insertAt, sign, nodeScreen, handles, penPreview, snapped, place, insert, curveHit, drag }
}
