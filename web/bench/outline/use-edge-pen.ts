import { computed, shallowRef } from 'vue'
import type { PicturePoint } from '../../../core/conventions'
import { useView, type ScreenPoint } from '../../composables/use-view'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { newId } from '../new-id'
import { useEdgePath } from './use-edge-path'

/** Clicks nearer to the last one than this, px, are the second half of a double click. */
const SAME_PLACE_PX = 3

/** The pen that hugs the visible edge: its way is shown before the click that takes it. */
export function useEdgePen() {
  const bench = useBench()
  const piece = usePiece()
  const view = useView()
  const way = useEdgePath()
  /** The way so far [x y ...], picture px. */
  const settled = shallowRef<Float64Array>(new Float64Array(0))
  const last = shallowRef<PicturePoint | null>(null)

  const begun = computed(() => last.value !== null)

  function look(at: ScreenPoint): void {
    if (last.value && piece.document.photo) way.look(last.value, view.screenToPicture(at))
  }

  async function place(at: ScreenPoint): Promise<void> {
    if (!piece.document.photo) return
    const p = view.screenToPicture(at)
    const start = last.value
    if (!start) {
      last.value = p
      return
    }
    if (Math.hypot(p.x - start.x, p.y - start.y) * view.magnification.value < SAME_PLACE_PX) return
    const path = await way.find(start, p)
    if (!path) return
    settled.value = Float64Array.from([...settled.value, ...path])
    last.value = p
    way.live.value = new Float64Array(0)
  }

  /** The stroke replaces what was found beside it. */
  function lay(): void {
    const points = Array.from(settled.value, (v) => Math.round(v * 1000) / 1000)
    drop()
    if (points.length < 8) return
    if (!piece.document.outline) {
      way.problem.value = 'Find the outline first; strokes of the edge pen correct it.'
      return
    }
    let aside = 0
    for (let i = 0; i < points.length; i += 2)
      aside += view.screenToPlane(view.pictureToScreen({ x: points[i]!, y: points[i + 1]! })).x
    piece.dispatch({
      type: 'lay-edge',
      stroke: { id: newId(), side: aside < 0 ? 'left' : 'right', points },
    })
    bench.tool = 'none'
  }

  function drop(): void {
    way.drop()
    settled.value = new Float64Array(0)
    last.value = null
  }

  return { settled, live: way.live, last, begun, problem: way.problem, look, place, lay, drop }
}

export type EdgePen = ReturnType<typeof useEdgePen>
