import { computed, shallowRef, watch } from 'vue'
import type { Stage } from '../../core/piece/stages'
import type { PaneHandlers } from '../composables/use-pane-gestures'
import { useView, type ScreenPoint } from '../composables/use-view'
import { useBench } from '../stores/bench'
import { usePiece } from '../stores/piece'
import type { Mark } from './calibration-marks'
import { useEdgePen } from './outline/use-edge-pen'
import { useGuides } from './outline/use-guides'
import { useFitting } from './solid/use-fitting'
import { useCalibrationTools } from './use-calibration-tools'
import type { Bend } from './use-bends'
import { useProfileTools, type Modifiers } from './use-profile-tools'

/** Handles answer within this distance, px; fingers get more. */
const HIT_PX = 13
const TOUCH_HIT_PX = 22
/** While drawing, nodes may be set close to each other; only a press right on one takes it. */
const PEN_HIT_PX = 5
/** A press that is drawn this far sets both ends of what has two; shorter ones only look for the place. */
const DRAWN_PX = 24
const TOUCH_DRAWN_PX = 60

/** What the pressed pointer holds. */
type Grip =
  | { what: 'mark'; mark: Mark }
  | { what: 'node'; id: string }
  | { what: 'bend'; bend: Bend }
  /** All that is chosen, taken by a segment. */
  | { what: 'chosen'; from: ScreenPoint }
  | { what: 'fitting'; index: number }
  | { what: 'frame' }
  /** The press itself did it all. */
  | { what: 'done' }
  | { what: 'place'; from: ScreenPoint; drawn: boolean }
  | { what: 'paint' }

/** What presses on the photo do, by stage and tool. */
export function usePhotoTools(stage: () => Stage) {
  const bench = useBench()
  const piece = usePiece()
  const view = useView()
  const calibration = useCalibrationTools()
  const profile = useProfileTools()
  const edgePen = useEdgePen()
  const guides = useGuides()
  const fitting = useFitting()
  const grip = shallowRef<Grip | null>(null)
  const pointer = shallowRef<ScreenPoint | null>(null)
  const dragging = computed(
    () => grip.value !== null && !['place', 'paint', 'frame', 'done'].includes(grip.value.what),
  )

  watch(dragging, (now) => (bench.dragging = now), { flush: 'sync' })

  watch([() => bench.tool, stage], () => {
    calibration.cancel()
    edgePen.drop()
    profile.snap.value = null
    profile.insertAt.value = null
  })

  function handles(): { grip: Grip; at: ScreenPoint }[] {
    if (stage() === 'calibrate')
      return calibration.handles().map(({ mark, at }) => ({ grip: { what: 'mark', mark }, at }))
    if (stage() === 'profile')
      return [
        ...profile.handles().map(({ id, at }) => ({ grip: { what: 'node' as const, id }, at })),
        ...profile.bends.value.map(({ bend, at }) => ({ grip: { what: 'bend' as const, bend }, at })),
      ]
    if (stage() === 'solid')
      return fitting.handles().map(({ index, at }) => ({ grip: { what: 'fitting', index }, at }))
    return []
  }

  function hit(at: ScreenPoint, event: PointerEvent): Grip | null {
    // A mark may be set right on another one (a height starts where the plumb line does), so placing comes first.
    if (bench.tool !== 'none' && bench.tool !== 'pen' && bench.tool !== 'fitting') return null
    let nearest = bench.tool === 'pen' ? PEN_HIT_PX : event.pointerType === 'touch' ? TOUCH_HIT_PX : HIT_PX
    let best: Grip | null = null
    for (const handle of handles()) {
      const d = Math.hypot(handle.at.sx - at.sx, handle.at.sy - at.sy)
      if (d < nearest) {
        nearest = d
        best = handle.grip
      }
    }
    return best
  }

  /** Uses the tool at a place, as a click there does. */
  function useAt(at: ScreenPoint, keys: Modifiers | null = null): void {
    if (bench.tool === 'pen') profile.pen.place(profile.snapped(at, keys, null), at, keys)
    else if (bench.tool === 'edge') edgePen.place(at)
    else if (bench.tool === 'fitting') fitting.add(at)
    else if (bench.tool === 'mark') guides.mark(at)
    else calibration.place(at)
  }

  /** A line or a box is drawn from where it was pressed to where it is let go, as an alternative to two clicks. */
  function drawFrom(from: ScreenPoint, at: ScreenPoint, event: PointerEvent): void {
    const far = event.pointerType === 'touch' ? TOUCH_DRAWN_PX : DRAWN_PX
    if (!calibration.canBeDrawn() || Math.hypot(at.sx - from.sx, at.sy - from.sy) < far) return
    calibration.place(from)
    grip.value = { what: 'place', from, drawn: true }
  }

  function takeNode(id: string, keys: Modifiers): void {
    if (keys.shiftKey && !bench.selected.has(id)) bench.selected = new Set([...bench.selected, id])
    else if (!bench.selected.has(id)) bench.select(id)
  }

  /** What a press off the nodes takes: with Shift a segment or a frame, otherwise a new node, or another stroke. */
  function takeCurve(at: ScreenPoint, keys: Modifiers): Grip | null {
    if (keys.shiftKey) {
      if (profile.chooseSegment(at)) return { what: 'chosen', from: at }
      profile.frame.value = { from: at, to: at }
      return { what: 'frame' }
    }
    if (profile.onChosenSegment(at)) return { what: 'chosen', from: at }
    const id = profile.insert(at)
    if (id) return { what: 'node', id }
    return profile.takeStroke(at) ? { what: 'done' } : null
  }

  const handlers: Omit<PaneHandlers, 'pan' | 'zoom'> = {
    press(at, event) {
      if (!piece.document.photo) return false
      grip.value = hit(at, event)
      if (grip.value?.what === 'node') takeNode(grip.value.id, event)
      if (!grip.value && guides.painting()) {
        guides.begin(at)
        grip.value = { what: 'paint' }
      }
      if (!grip.value && bench.tool !== 'none') grip.value = { what: 'place', from: at, drawn: false }
      if (!grip.value && stage() === 'profile') grip.value = takeCurve(at, event)
      return grip.value !== null
    },
    move(at, event) {
      pointer.value = at
      if (grip.value?.what === 'node') profile.drag(grip.value.id, at, event)
      else if (grip.value?.what === 'chosen') profile.dragChosen(grip.value.from, at)
      else if (grip.value?.what === 'frame') profile.frame.value = { from: profile.frame.value!.from, to: at }
      else if (grip.value?.what === 'fitting') fitting.drag(grip.value.index, at)
      else if (grip.value?.what === 'bend') profile.bend(grip.value.bend, at)
      else if (grip.value?.what === 'paint') guides.paint(at)
      else if (grip.value?.what === 'mark') calibration.drag(grip.value.mark, at)
      else if (grip.value?.what === 'place') drawFrom(grip.value.from, at, event)
    },
    release(at, event, click) {
      const held = grip.value
      grip.value = null
      if (held?.what === 'paint') guides.end(event.type !== 'pointercancel')
      else if (event.type === 'pointercancel') {
        piece.preview = null
        profile.frame.value = null
        if (held?.what === 'mark' || (held?.what === 'place' && held.drawn)) calibration.cancel()
      } else if (held?.what === 'place') useAt(at, event)
      else if (held?.what === 'mark') calibration.drop()
      else if ((held?.what === 'bend' || held?.what === 'fitting') && piece.preview)
        piece.dispatch(piece.preview)
      else if (held?.what === 'frame') profile.chooseFramed()
      else if (held?.what === 'chosen') profile.letGo(null)
      else if (held?.what === 'node') {
        if (click && !piece.preview && !event.shiftKey) bench.select(held.id)
        profile.letGo(held.id)
      }
      profile.snap.value = null
    },
    hover(at, event) {
      pointer.value = at
      if (!at) {
        profile.snap.value = null
        profile.insertAt.value = null
        bench.level = null
        return
      }
      bench.level = view.screenToHeight(at.sy)
      if (dragging.value) return
      if (bench.tool === 'edge') edgePen.look(at)
      const free = hit(at, event) === null
      if (bench.tool === 'pen') {
        profile.snap.value = free ? profile.snapped(at, event, null) : null
        if (profile.snap.value) profile.pen.look(profile.snap.value)
      }
      if (bench.tool !== 'pen' && stage() === 'profile' && event.buttons === 0)
        profile.insertAt.value = free ? profile.curveHit(at) : null
    },
  }

  return { handlers, useAt, calibration, profile, edgePen, guides, pointer, dragging }
}

export type PhotoTools = ReturnType<typeof usePhotoTools>
