import { computed, shallowRef } from 'vue'
import { picturePointOf } from '../../core/profile/edit'
import type { ProfileNode } from '../../core/profile/profile'
import { profileSegments } from '../../core/profile/profile-segments'
import { pointOn, type Segment } from '../../core/profile/segments'
import { useView, type ScreenPoint } from '../composables/use-view'
import { useBench } from '../stores/bench'
import { usePiece } from '../stores/piece'
import { newId } from './new-id'
import { useOutlineRead } from './outline/use-outline-read'
import { snapNode, type Place, type Snapped } from './snapping'
import { useBends } from './use-bends'
import { MEETING_MM, usePen } from './use-pen'

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
  const { read } = useOutlineRead()
  /** Where a node would come to stand, snapped. */
  const snap = shallowRef<Snapped | null>(null)
  /** Place on the curve where a press would insert a node. */
  const insertAt = shallowRef<{ index: number; t: number; at: ScreenPoint } | null>(null)
  /** The frame that is drawn to choose what lies in it, screen px. */
  const frame = shallowRef<{ from: ScreenPoint; to: ScreenPoint } | null>(null)

  const side = computed(() => piece.document.profile.side)
  const sign = computed(() => (side.value === 'left' ? -1 : 1))
  const nodeScreen = (n: Place) => view.planeToScreen({ x: sign.value * n.r, z: n.z })
  const planeOf = (at: ScreenPoint): Place => {
    const p = view.screenToPlane(at)
    return { r: sign.value * p.x, z: p.z }
  }
  const handles = () => piece.document.profile.nodes.map((n) => ({ id: n.id, at: nodeScreen(n) }))
  const pen = usePen(snap, sign)

  /** Ends of the strokes that lie aside, to go on from or to join. */
  const ends = computed(() =>
    (piece.document.profile.aside ?? []).flatMap(({ id, nodes }) =>
      [nodes[0]!, ...nodes.slice(1).slice(-1)]
        .filter((n) => n.r > 0)
        .map((n) => ({ r: n.r, z: n.z, stroke: id })),
    ),
  )
  /** Strokes that lie aside, each with its curve. */
  const aside = computed(() =>
    (piece.document.profile.aside ?? []).map(({ id, nodes }) => ({ id, segments: profileSegments(nodes) })),
  )

  /** @param id the node that moves, or null for one that is to be added by the pen */
  function snapped(at: ScreenPoint, keys: Modifiers | null, id: string | null): Snapped {
    const plane = view.screenToPlane(at)
    const { nodes } = piece.document.profile
    const index = nodes.findIndex((n) => n.id === id)
    const last = nodes.length - 1
    const isEnd = id === null || index === 0 || index === last
    const beside = id === null ? [nodes[pen.penEnd.value === 'last' ? last : 0]] : [nodes[index - 1], nodes[index + 1]] // prettier-ignore
    const neighbours = beside.filter((n): n is ProfileNode => n !== undefined)
    return snapNode({
      r: Math.abs(plane.x),
      z: plane.z,
      mayEndOnAxis: id === null ? nodes.length !== 1 || nodes[0]!.r !== 0 : isEnd,
      neighbours,
      others: nodes.filter((n) => n.id !== id && !neighbours.includes(n) && !bench.selected.has(n.id)),
      levels: piece.document.stations,
      edge: read.value?.points,
      ends: isEnd ? ends.value : [],
      gridMm: bench.gridMm,
      mmPerScreenPx: 1 / bench.view.pxPerMm,
      straight: keys?.shiftKey ?? false,
      free: Boolean(keys?.altKey || keys?.ctrlKey || keys?.metaKey),
    })
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
    const hit = nearestOn(piece.derived.segments, at)
    if (!hit) return null
    const [from, to] = hit.segment.span ?? [0, 1]
    return { index: hit.segment.index, t: from + (to - from) * hit.t, at: hit.at }
  }

  function nearestOn(segments: readonly Segment[], at: ScreenPoint) {
    let best: { segment: Segment; t: number; at: ScreenPoint } | null = null
    let nearest = CURVE_HIT_PX
    for (const segment of segments) {
      if (segment.edge) continue
      for (let k = 1; k < CURVE_SAMPLES; k++) {
        const t = k / CURVE_SAMPLES
        const [r, z] = pointOn(segment, t)
        const s = nodeScreen({ r, z })
        const d = Math.hypot(s.sx - at.sx, s.sy - at.sy)
        if (d < nearest) {
          nearest = d
          best = { segment, t, at: s }
        }
      }
    }
    return best
  }

  /** Takes the stroke under the pointer in hand. */
  function takeStroke(at: ScreenPoint): boolean {
    const stroke = aside.value.find(({ segments }) => nearestOn(segments, at))
    if (!stroke) return false
    piece.dispatch({ type: 'take-stroke', id: stroke.id, as: newId() })
    bench.select()
    return true
  }

  /** Chooses both nodes of the segment under the pointer, with what is chosen already. */
  function chooseSegment(at: ScreenPoint): boolean {
    const hit = curveHit(at)
    if (!hit) return false
    const { nodes } = piece.document.profile
    bench.selected = new Set([...bench.selected, nodes[hit.index]!.id, nodes[hit.index + 1]!.id])
    return true
  }
  /** True where a press takes hold of a segment whose two nodes are chosen. */
  function onChosenSegment(at: ScreenPoint): boolean {
    const hit = bench.selected.size > 1 && curveHit(at)
    if (!hit) return false
    const { nodes } = piece.document.profile
    return [hit.index, hit.index + 1].every((i) => nodes[i] && bench.selected.has(nodes[i].id))
  }

  /** Shows a node elsewhere; `piece.preview` becomes a step when it is let go. */
  function drag(id: string, at: ScreenPoint, keys: Modifiers): void {
    const p = snapped(at, keys, id)
    snap.value = p
    const from = grabbed.get(id) ?? remember(id)
    if (from && (bench.selected.size > 1 || bench.reach > 0)) {
      moveChosen(p.r - from.r, p.z - from.z, at)
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

  /** Shows all that is chosen elsewhere, by as much as the pointer moved. */
  function dragChosen(from: ScreenPoint, at: ScreenPoint): void {
    const [a, b] = [planeOf(from), planeOf(at)]
    moveChosen(b.r - a.r, b.z - a.z, at)
  }
  /** How far what is chosen is being moved, with a place on the screen to say it. */
  const moved = shallowRef<{ dr: number; dz: number; at: ScreenPoint } | null>(null)
  function moveChosen(dr: number, dz: number, at: ScreenPoint): void {
    moved.value = { dr, dz, at }
    piece.preview = { type: 'move-nodes', ids: [...bench.selected], dr, dz, reachMm: bench.reach }
  }

  /** Where a node stood when it was taken: moves of several are reckoned from there. */
  const grabbed = new Map<string, Place>()
  function remember(id: string) {
    const node = piece.settled.profile.nodes.find((n) => n.id === id)
    if (node) grabbed.set(id, { r: node.r, z: node.z })
    return node
  }

  /** Makes a step of what is shown; an end that was dragged onto another stroke's end joins it. */
  function letGo(id: string | null): void {
    grabbed.clear()
    moved.value = null
    const shown = piece.preview
    if (!shown) return
    const joins = shown.type === 'move-node' ? snap.value?.joins : undefined
    piece.dispatch(shown, joins && `join ${id}`)
    if (joins) piece.dispatch({ type: 'join-stroke', id: joins, mergeMm: MEETING_MM }, `join ${id}`)
  }

  /** Chooses the nodes in the frame, with what is chosen already. */
  function chooseFramed(): void {
    const f = frame.value
    frame.value = null
    if (!f) return
    const within = (v: number, a: number, b: number) => v >= Math.min(a, b) && v <= Math.max(a, b)
    const inside = handles().filter(({ at }) => within(at.sx, f.from.sx, f.to.sx) && within(at.sy, f.from.sy, f.to.sy)) // prettier-ignore
    bench.selected = new Set([...bench.selected, ...inside.map(({ id }) => id)])
  }

  const { bends, bend } = useBends(sign, nodeScreen)

  return {
    pen,
    ends,
    aside,
    frame,
    moved,
    bends,
    bend,
    letGo,
    snap,
    insertAt,
    sign,
    nodeScreen,
    handles,
    snapped,
    insert,
    curveHit,
    takeStroke,
    chooseSegment,
    onChosenSegment,
    chooseFramed,
    drag,
    dragChosen,
  }
}
