import { shallowRef } from 'vue'
import { NO_GUIDES, type BrushStroke, type OutlineGuides } from '../../../core/outline/guides'
import { useView, type ScreenPoint } from '../../composables/use-view'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'

/** Half the brush's width on the screen, px. */
export const BRUSH_PX = 9
/** A stroke's points lie at least this share of the brush apart: nearer ones paint the same. */
const APART = 0.3

/** Painting what is piece and what is not, and marking places of the outline, to help the search. */
export function useGuides() {
  const bench = useBench()
  const piece = usePiece()
  const view = useView()
  /** With the stroke that is being painted; null when none is. */
  const shown = shallowRef<OutlineGuides | null>(null)
  const painting = () => bench.tool === 'paint-piece' || bench.tool === 'paint-backdrop'
  const kept = () => piece.document.guides ?? NO_GUIDES

  function show(stroke: BrushStroke): void {
    const kind = bench.tool === 'paint-piece' ? 'piece' : 'backdrop'
    shown.value = { ...kept(), [kind]: [...kept()[kind], stroke] }
    under = stroke
  }
  let under: BrushStroke | null = null

  function begin(at: ScreenPoint): void {
    show({ points: [view.screenToPicture(at)], radius: BRUSH_PX / view.magnification.value })
  }
  function paint(at: ScreenPoint): void {
    if (!under) return
    const p = view.screenToPicture(at)
    const last = under.points[under.points.length - 1]!
    if (Math.hypot(p.x - last.x, p.y - last.y) < APART * under.radius) return
    show({ ...under, points: [...under.points, p] })
  }
  /** Lets the stroke go; without `keep` it is dropped. */
  function end(keep: boolean): void {
    if (keep && shown.value) piece.dispatch({ type: 'set-guides', guides: shown.value })
    shown.value = null
    under = null
  }
  function mark(at: ScreenPoint): void {
    const marks = [...kept().marks, view.screenToPicture(at)]
    piece.dispatch({ type: 'set-guides', guides: { ...kept(), marks } })
  }
  return { painting, shown, begin, paint, end, mark }
}
