import type { BrushStroke } from '../../../core/outline/guides'
import { useView, type ScreenPoint } from '../../composables/use-view'
import { useBench } from '../../stores/bench'

/** Half the brush's width on the screen, px. */
export const BRUSH_PX = 9

/** Painting what is piece and what is not, and marking places of the outline, to help the search. */
export function useGuides() {
  const bench = useBench()
  const view = useView()
  const painting = () => bench.tool === 'paint-piece' || bench.tool === 'paint-backdrop'
  const kind = () => (bench.tool === 'paint-piece' ? 'piece' : 'backdrop') as 'piece' | 'backdrop'

  function begin(at: ScreenPoint): void {
    const stroke: BrushStroke = {
      points: [view.screenToPicture(at)],
      radius: BRUSH_PX / view.magnification.value,
    }
    bench.guides = { ...bench.guides, [kind()]: [...bench.guides[kind()], stroke] }
  }
  function paint(at: ScreenPoint): void {
    const strokes = bench.guides[kind()]
    const stroke = strokes[strokes.length - 1]
    if (!stroke) return
    const longer = { ...stroke, points: [...stroke.points, view.screenToPicture(at)] }
    bench.guides = { ...bench.guides, [kind()]: [...strokes.slice(0, -1), longer] }
  }
  function mark(at: ScreenPoint): void {
    bench.guides = { ...bench.guides, marks: [...bench.guides.marks, view.screenToPicture(at)] }
  }
  return { painting, begin, paint, mark }
}
