import { computed, ref, shallowRef, watch } from 'vue'
import type { PicturePoint } from '../../core/conventions'
import { acrossOf } from '../../core/calibrate/frame'
import type { KnownSize, KnownSizeKind } from '../../core/calibrate/known-size'
import type { Stage } from '../../core/piece/stages'
import { picturePointOf } from '../../core/profile/edit'
import { isClosed, type ProfileNode } from '../../core/profile/profile'
import { pointAt, profileSegments } from '../../core/profile/segments'
import type { PaneHandlers } from '../composables/use-pane-gestures'
import { useView, type ScreenPoint } from '../composables/use-view'
import { useBench } from '../stores/bench'
import { usePiece } from '../stores/piece'
import { newId } from './new-id'
import { snapNode, type Snapped } from './snapping'

/** Handles answer within this distance, px; fingers get more. */
const HIT_PX = 13
const TOUCH_HIT_PX = 22
const CURVE_HIT_PX = 7

/** Marks of the calibration that are being placed or dragged: shown, but not yet in the document. */
export interface CalibrationDraft {
  plumb?: { foot: PicturePoint; top: PicturePoint | null }
  ground?: PicturePoint
  size?: { a: PicturePoint; b: PicturePoint | null }
}

type Grip =
  | { what: 'plumb-foot' | 'plumb-top' | 'ground' | 'size-a' | 'size-b' }
  | { what: 'node'; id: string }
  | { what: 'place' }

/** What presses on the photo do, by stage and tool. */
export function usePhotoTools(stage: () => Stage) {
  const bench = useBench()
  const piece = usePiece()
  const view = useView()
  const draft = shallowRef<CalibrationDraft>({})
  const grip = shallowRef<Grip | null>(null)
  const pointer = shallowRef<ScreenPoint | null>(null)
  const snap = shallowRef<Snapped | null>(null)
  /** Place on the curve where a press would insert a node. */
  const insertAt = shallowRef<{ index: number; t: number; at: ScreenPoint } | null>(null)
  const dragging = computed(() => grip.value !== null && grip.value.what !== 'place')
  const focusSize = ref(0)

  watch([() => bench.tool, stage], () => {
    draft.value = {}
    snap.value = null
    insertAt.value = null
  })

  const side = computed(() => piece.document.profile.side)
  const sign = computed(() => (side.value === 'left' ? -1 : 1))
  const nodeScreen = (n: { r: number; z: number }) => view.planeToScreen({ x: sign.value * n.r, z: n.z })

  /** The profile end that the pen continues: the selected end, otherwise the last. */
  const penEnd = computed<'first' | 'last'>(() => {
    const { nodes } = piece.document.profile
    if (nodes.length < 2) return 'last'
    const first = nodes[0]!
    const chosen = bench.selected.size === 1 && bench.selected.has(first.id)
    const lastDone = nodes[nodes.length - 1]!.r === 0
    return (chosen && first.r !== 0) || (lastDone && first.r !== 0) ? 'first' : 'last'
  })

  function handles(): { grip: Grip; at: ScreenPoint }[] {
    const { calibration, profile } = piece.document
    if (stage() === 'calibrate') {
      const list: { grip: Grip; at: ScreenPoint }[] = []
      const size = calibration.knownSizes[0]
      if (size && !draft.value.size) {
        list.push(
          { grip: { what: 'size-a' }, at: view.pictureToScreen(size.a) },
          { grip: { what: 'size-b' }, at: view.pictureToScreen(size.b) },
        )
      }
      if (calibration.plumb && !draft.value.plumb) {
        list.push({ grip: { what: 'plumb-foot' }, at: view.pictureToScreen(calibration.plumb.foot) })
        list.push({ grip: { what: 'plumb-top' }, at: view.pictureToScreen(calibration.plumb.top) })
      }
      if (calibration.ground)
        list.push({ grip: { what: 'ground' }, at: view.pictureToScreen(calibration.ground) })
      return list
    }
    if (stage() === 'profile')
      return profile.nodes.map((n) => ({ grip: { what: 'node', id: n.id }, at: nodeScreen(n) }))
    return []
  }

  function hit(at: ScreenPoint, event: PointerEvent): Grip | null {
    const reach = event.pointerType === 'touch' ? TOUCH_HIT_PX : HIT_PX
    let best: Grip | null = null
    let nearest = reach
    for (const handle of handles()) {
      const d = Math.hypot(handle.at.sx - at.sx, handle.at.sy - at.sy)
      if (d <= nearest) {
        nearest = d
        best = handle.grip
      }
    }
    return best
  }

  /** Nearest place on the drawn curve within reach, in the profile stage. */
  function curveHit(at: ScreenPoint) {
    if (stage() !== 'profile') return null
    let best: { index: number; t: number; at: ScreenPoint } | null = null
    let nearest = CURVE_HIT_PX
    for (const { cubic, index } of piece.derived.segments) {
      for (let k = 1; k < 60; k++) {
        const t = k / 60
        const [r, z] = pointAt(cubic, t)
        const s = nodeScreen({ r, z })
        const d = Math.hypot(s.sx - at.sx, s.sy - at.sy)
        if (d < nearest) {
          nearest = d
          best = { index, t, at: s }
        }
      }
    }
    return best
  }

  function snapped(at: ScreenPoint, event: PointerEvent, id: string | null): Snapped {
    const plane = view.screenToPlane(at)
    const { nodes } = piece.document.profile
    const index = nodes.findIndex((n) => n.id === id)
    const drawingEnd = penEnd.value
    const neighbours =
      id === null
        ? [drawingEnd === 'last' ? nodes[nodes.length - 1] : nodes[0]]
        : [nodes[index - 1], nodes[index + 1]]
    return snapNode({
      r: Math.abs(plane.x),
      z: plane.z,
      mayEndOnAxis:
        id === null ? nodes.length !== 1 || nodes[0]!.r !== 0 : index === 0 || index === nodes.length - 1,
      neighbours: neighbours.filter((n): n is ProfileNode => n !== undefined),
      mmPerScreenPx: 1 / bench.view.pxPerMm,
      straight: event.shiftKey,
      free: event.altKey || event.ctrlKey || event.metaKey,
    })
  }

  function placeNode(at: ScreenPoint, event: PointerEvent): void {
    const { profile } = piece.document
    const plane = view.screenToPlane(at)
    const p = snapped(at, event, null)
    // The first click off the axis decides on which side the profile is drawn.
    const undecided = profile.nodes.every((n) => n.r === 0) && p.r > 0
    const drawnSide = undecided ? (plane.x < 0 ? 'left' : 'right') : profile.side
    const node: ProfileNode = {
      id: newId(),
      r: p.r,
      z: p.z,
      joint: bench.penKind === 'curve' ? 'smooth' : 'corner',
      next: bench.penKind,
      drawn: picturePointOf(drawnSide, p, view.frame.value),
    }
    piece.dispatch({ type: 'add-node', node, at: penEnd.value, side: drawnSide })
    bench.select(node.id)
    if (isClosed(piece.document.profile.nodes)) bench.tool = 'none'
  }

  function placeMark(at: ScreenPoint): void {
    const p = view.screenToPicture(at)
    if (bench.tool === 'ground') {
      piece.dispatch({ type: 'set-ground', ground: p })
      bench.tool = nextTool()
    } else if (bench.tool === 'plumb') {
      const first = draft.value.plumb?.foot
      if (!first) draft.value = { plumb: { foot: p, top: null } }
      else {
        draft.value = {}
        piece.dispatch({ type: 'set-plumb', plumb: footFirst(first, p) })
        bench.tool = nextTool()
      }
    } else if (bench.tool === 'size') {
      const a = draft.value.size?.a
      if (!a) draft.value = { size: { a: p, b: null } }
      else {
        draft.value = {}
        const old = piece.document.calibration.knownSizes[0]
        const size: KnownSize = {
          id: old?.id ?? newId(),
          kind: guessKind(a, p),
          a,
          b: p,
          mm: old?.mm ?? null,
          text: old?.text ?? '',
        }
        piece.dispatch({ type: 'set-known-size', size })
        bench.tool = 'none'
        focusSize.value++
      }
    }
  }

  /** Of two clicks the one nearer to the foot of the picture as it stands is the foot end. */
  function footFirst(a: PicturePoint, b: PicturePoint) {
    const { up } = view.frame.value
    const height = (p: PicturePoint) => p.x * up.x + p.y * up.y
    return height(a) <= height(b) ? { foot: a, top: b } : { foot: b, top: a }
  }

  /** Along the axis within 15° it is meant as a height, across within 15° as a diameter. */
  function guessKind(a: PicturePoint, b: PicturePoint): KnownSizeKind {
    const { up } = view.frame.value
    const across = acrossOf({ up })
    const dz = Math.abs((b.x - a.x) * up.x + (b.y - a.y) * up.y)
    const dx = Math.abs((b.x - a.x) * across.x + (b.y - a.y) * across.y)
    const limit = Math.tan((15 * Math.PI) / 180)
    return dx <= limit * dz ? 'height' : dz <= limit * dx ? 'diameter' : 'length'
  }

  function nextTool() {
    const { plumb, ground, knownSizes } = piece.document.calibration
    return !plumb ? 'plumb' : !ground ? 'ground' : knownSizes.length === 0 ? 'size' : 'none'
  }

  function dragCalibration(what: Grip['what'], p: PicturePoint): void {
    const { plumb, knownSizes } = piece.document.calibration
    const size = knownSizes[0]
    if (what === 'ground') draft.value = { ground: p }
    else if (what === 'plumb-foot' && plumb) draft.value = { plumb: { foot: p, top: plumb.top } }
    else if (what === 'plumb-top' && plumb) draft.value = { plumb: { foot: plumb.foot, top: p } }
    else if (what === 'size-a' && size) draft.value = { size: { a: p, b: size.b } }
    else if (what === 'size-b' && size) draft.value = { size: { a: size.a, b: p } }
  }

  function commitCalibration(): void {
    const { plumb, ground, size } = draft.value
    const old = piece.document.calibration.knownSizes[0]
    draft.value = {}
    if (ground) piece.dispatch({ type: 'set-ground', ground })
    if (plumb?.top) piece.dispatch({ type: 'set-plumb', plumb: { foot: plumb.foot, top: plumb.top } })
    if (size?.b && old) piece.dispatch({ type: 'set-known-size', size: { ...old, a: size.a, b: size.b } })
  }

  function previewNode(id: string, at: ScreenPoint, event: PointerEvent): void {
    const p = snapped(at, event, id)
    snap.value = p
    piece.preview = {
      type: 'move-node',
      id,
      r: p.r,
      z: p.z,
      drawn: picturePointOf(side.value, p, view.frame.value),
    }
  }

  const handlers: Omit<PaneHandlers, 'pan' | 'zoom'> = {
    press(at, event) {
      if (!piece.document.photo) return false
      const found = hit(at, event)
      if (found) {
        grip.value = found
        if (found.what === 'node') {
          if (event.shiftKey && !bench.selected.has(found.id))
            bench.selected = new Set([...bench.selected, found.id])
          else if (!bench.selected.has(found.id)) bench.select(found.id)
        }
        return true
      }
      if (bench.tool !== 'none') {
        grip.value = { what: 'place' }
        return true
      }
      const onCurve = curveHit(at)
      if (onCurve) {
        const id = newId()
        piece.dispatch({ type: 'insert-node', index: onCurve.index, t: onCurve.t, id })
        bench.select(id)
        insertAt.value = null
        grip.value = { what: 'node', id }
        return true
      }
      return false
    },
    move(at, event) {
      pointer.value = at
      const held = grip.value
      if (!held || held.what === 'place') return
      if (held.what === 'node') previewNode(held.id, at, event)
      else dragCalibration(held.what, view.screenToPicture(at))
    },
    release(at, event, click) {
      const held = grip.value
      grip.value = null
      snap.value = null
      if (!held) return
      if (event.type === 'pointercancel') {
        draft.value = held.what === 'place' ? draft.value : {}
        piece.preview = null
      } else if (held.what === 'place') {
        if (bench.tool === 'pen') placeNode(at, event)
        else placeMark(at)
      } else if (held.what === 'node') {
        if (piece.preview) piece.dispatch(piece.preview)
        else if (click && !event.shiftKey) bench.select(held.id)
      } else if (!click) commitCalibration()
    },
    hover(at, event) {
      pointer.value = at
      if (!at) {
        snap.value = null
        insertAt.value = null
        bench.level = null
        return
      }
      bench.level = view.screenToPlane(at).z
      if (grip.value && grip.value.what !== 'place') return
      if (bench.tool === 'pen') snap.value = hit(at, event) ? null : snapped(at, event, null)
      else if (bench.tool === 'none' && event.buttons === 0)
        insertAt.value = hit(at, event) ? null : curveHit(at)
    },
  }

  /** The pen's next segment from the open end to the pointer. */
  const penPreview = computed(() => {
    const p = snap.value
    const { nodes } = piece.document.profile
    if (bench.tool !== 'pen' || !p || dragging.value || nodes.length === 0) return []
    const node: ProfileNode = {
      id: 'pen',
      r: p.r,
      z: p.z,
      joint: bench.penKind === 'curve' ? 'smooth' : 'corner',
      next: bench.penKind,
    }
    if (penEnd.value === 'first') return profileSegments([node, ...nodes]).filter((s) => s.index === 0)
    const kept = nodes.map((n, i) => (i === nodes.length - 1 ? { ...n, next: bench.penKind } : n))
    return profileSegments([...kept, node]).filter((s) => s.index >= nodes.length - 1)
  })

  return { handlers, draft, pointer, snap, insertAt, dragging, grip, penPreview, sign, nodeScreen, focusSize }
}
