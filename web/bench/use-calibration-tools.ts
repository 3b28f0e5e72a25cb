import { ref, shallowRef } from 'vue'
import type { PicturePoint } from '../../core/conventions'
import { acrossOf } from '../../core/calibrate/frame'
import type { KnownSize, KnownSizeKind } from '../../core/calibrate/known-size'
import type { Command } from '../../core/piece/commands'
import { useView, type ScreenPoint } from '../composables/use-view'
import { useBench, type Tool } from '../stores/bench'
import { usePiece } from '../stores/piece'
import { markPlace, moveMark, type Mark } from './calibration-marks'
import { newId } from './new-id'

/** Marks that are being placed or dragged: shown, but not yet in the document. */
export interface CalibrationDraft {
  plumb?: { foot: PicturePoint; top: PicturePoint | null }
  ground?: PicturePoint
  size?: { a: PicturePoint; b: PicturePoint | null }
}

/** Where marks lie on each other, the one named first is taken. */
const MARKS: readonly Mark[] = ['size-a', 'size-b', 'plumb-foot', 'plumb-top', 'ground']
/** Marks within this angle of the axis are meant as a height, within it of the square to it as a diameter. */
const KIND_ANGLE = (15 * Math.PI) / 180

/** Placing and moving plumb line, ground line and known size. */
export function useCalibrationTools() {
  const bench = useBench()
  const piece = usePiece()
  const view = useView()
  const draft = shallowRef<CalibrationDraft>({})
  /** Counts known sizes marked, so that the panel can put the cursor into their field. */
  const sizesMarked = ref(0)
  /** What letting go of a dragged mark will do. */
  let pending: Command | null = null

  function handles(): { mark: Mark; at: ScreenPoint }[] {
    return MARKS.flatMap((mark) => {
      const place = markPlace(mark, piece.document)
      return place ? [{ mark, at: view.pictureToScreen(place) }] : []
    })
  }

  /** Uses the chosen tool at a place; a finished tool hands over to the next one that is needed. */
  function place(at: ScreenPoint): void {
    const p = view.screenToPicture(at)
    if (bench.tool === 'ground') {
      piece.dispatch({ type: 'set-ground', ground: p })
      bench.tool = nextTool()
    } else if (bench.tool === 'plumb') placePlumb(p)
    else if (bench.tool === 'size') placeSize(p)
  }

  function placePlumb(p: PicturePoint): void {
    const first = draft.value.plumb?.foot
    if (!first) {
      draft.value = { plumb: { foot: p, top: null } }
      return
    }
    draft.value = {}
    // Of two clicks the one nearer to the foot of the picture as it stands is the foot end.
    const { up } = view.frame.value
    const height = (q: PicturePoint) => q.x * up.x + q.y * up.y
    const [foot, top] = height(first) <= height(p) ? [first, p] : [p, first]
    piece.dispatch({ type: 'set-plumb', plumb: { foot, top } })
    bench.tool = nextTool()
  }

  function placeSize(p: PicturePoint): void {
    const a = draft.value.size?.a
    if (!a) {
      draft.value = { size: { a: p, b: null } }
      return
    }
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
    sizesMarked.value++
  }

  function guessKind(a: PicturePoint, b: PicturePoint): KnownSizeKind {
    const { up } = view.frame.value
    const across = acrossOf({ up })
    const dz = Math.abs((b.x - a.x) * up.x + (b.y - a.y) * up.y)
    const dx = Math.abs((b.x - a.x) * across.x + (b.y - a.y) * across.y)
    const limit = Math.tan(KIND_ANGLE)
    return dx <= limit * dz ? 'height' : dz <= limit * dx ? 'diameter' : 'length'
  }

  function nextTool(): Tool {
    const { plumb, ground, knownSizes } = piece.document.calibration
    return !plumb ? 'plumb' : !ground ? 'ground' : knownSizes.length === 0 ? 'size' : 'none'
  }

  /** Shows a mark elsewhere without changing the document: the picture must not turn beneath the hand. */
  function drag(mark: Mark, at: ScreenPoint): void {
    pending = moveMark(mark, view.screenToPicture(at), piece.document)
    if (pending?.type === 'set-ground') draft.value = { ground: pending.ground! }
    else if (pending?.type === 'set-plumb') draft.value = { plumb: pending.plumb! }
    else if (pending?.type === 'set-known-size') draft.value = { size: pending.size }
  }

  function drop(): void {
    const command = pending
    cancel()
    if (command) piece.dispatch(command)
  }

  function cancel(): void {
    draft.value = {}
    pending = null
  }

  return { draft, sizesMarked, handles, place, drag, drop, cancel }
}
