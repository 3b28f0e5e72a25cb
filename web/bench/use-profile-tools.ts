import { computed, shallowRef, watch } from 'vue'
import { bulgeLeaving, bulgeThrough } from '../../core/profile/arc'
import { appendNode, picturePointOf } from '../../core/profile/edit'
import { isClosed, type ProfileNode } from '../../core/profile/profile'
import { profileSegments } from '../../core/profile/profile-segments'
import { pointOn, sharpSegments, tangentAt } from '../../core/profile/segments'
import { useView, type ScreenPoint } from '../composables/use-view'
import { useBench } from '../stores/bench'
import { usePiece } from '../stores/piece'
import { newId } from './new-id'
import { snapNode, type Snapped } from './snapping'
import { useBends } from './use-bends'

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

  /** A place that the pen's next arc passes through, set by the click before. */
  const via = shallowRef<{ r: number; z: number } | null>(null)
  watch([() => bench.penKind, () => bench.tool], () => (via.value = null))

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
    const grown = appendNode(piece.document.profile, node, penEnd.value).nodes
    const from = penEnd.value === 'first' ? 0 : nodes.length - 1
    return profileSegments(grown).filter((s) => s.index === from)
  })

  /** The node that the pen would set; it brings the segment that leads to it. */
  function nodeOf(id: string, { r, z }: { r: number; z: number }): ProfileNode {
    const node: ProfileNode = {
      id,
      r,
      z,
      joint: bench.penKind === 'curve' ? 'smooth' : 'corner',
      next: bench.penKind,
    }
    return bench.penKind === 'arc' ? { ...node, bulge: penBulge(node) } : node
  }

  /** Through the place of the click before; without one the arc goes on in the direction of what it continues. */
  function penBulge({ r, z }: ProfileNode): number {
    const { nodes } = piece.document.profile
    const first = penEnd.value === 'first'
    const from = first ? nodes[0] : nodes[nodes.length - 1]
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
    return Number.isFinite(bulge) && Math.abs(bulge) < 20 ? (first ? -bulge : bulge) : 0
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

  /** Adds a node where the pen stands; an arc takes the place it passes through first, unless Shift is held. */
  function place(at: ScreenPoint, keys: Modifiers | null): void {
    const { profile } = piece.document
    const p = snapped(at, keys, null)
    if (bench.penKind === 'arc' && profile.nodes.length > 0 && !via.value && !keys?.shiftKey) {
      via.value = { r: p.r, z: p.z }
      return
    }
    // The first click off the axis decides on which side the profile is drawn.
    const undecided = profile.nodes.every((n) => n.r === 0) && p.r > 0
    const drawnSide = undecided ? (view.screenToPlane(at).x < 0 ? 'left' : 'right') : profile.side
    const node = { ...nodeOf(newId(), p), drawn: picturePointOf(drawnSide, p, view.seen.value) }
    piece.dispatch({ type: 'add-node', node, at: penEnd.value, side: drawnSide })
    via.value = null
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
    const from = grabbed.get(id) ?? remember(id)
    if (from && (bench.selected.size > 1 || bench.reach > 0)) {
      const [dr, dz] = [p.r - from.r, p.z - from.z]
      piece.preview = { type: 'move-nodes', ids: [...bench.selected], dr, dz, reachMm: bench.reach }
      return
    }
    piece.preview = {
      type: 'move-node',
      id,
      r: p.r,
      z: p.z,
      drawn: picturePointOf(side.value, p, view.seen.value),
    }
  }

  /** Where a node stood when it was taken: moves of several are reckoned from there. */
  const grabbed = new Map<string, { r: number; z: number }>()
  function remember(id: string) {
    const node = piece.settled.profile.nodes.find((n) => n.id === id)
    if (node) grabbed.set(id, { r: node.r, z: node.z })
    return node
  }
  function letGo(): void {
    grabbed.clear()
  }

  const { bends, bend } = useBends(sign, nodeScreen)

  return {
    via,
    bends,
    bend,
    letGo,
    snap,
    insertAt,
    sign,
    nodeScreen,
    handles,
    penPreview,
    snapped,
    place,
    insert,
    curveHit,
    drag,
  }
}
