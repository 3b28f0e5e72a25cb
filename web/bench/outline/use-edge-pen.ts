import { computed, ref, shallowRef } from 'vue'
import type { PicturePoint } from '../../../core/conventions'
import { useView, type ScreenPoint } from '../../composables/use-view'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { photoClient, pixelsOf } from '../../workers/photo-client'
import { Stopped } from '../../workers/worker-client'
import { newId } from '../new-id'

/** Clicks nearer to the last one than this, px, are the second half of a double click. */
const SAME_PLACE_PX = 3

/** The pen that hugs the visible edge: its way is shown before the click that takes it. */
export function useEdgePen() {
  const bench = useBench()
  const piece = usePiece()
  const view = useView()
  /** The way so far [x y ...], picture px, and the way on to the pointer. */
  const settled = shallowRef<Float64Array>(new Float64Array(0))
  const live = shallowRef<Float64Array>(new Float64Array(0))
  const last = shallowRef<PicturePoint | null>(null)
  const problem = ref('')
  let wanted: PicturePoint | null = null
  let looking = false
  /** Counts strokes, so that an answer that comes too late is thrown away. */
  let stroke = 0

  const begun = computed(() => last.value !== null)

  function pathTo(to: PicturePoint): Promise<Float64Array> {
    const { photo, outline } = piece.document
    return photoClient.call((worker) =>
      worker.edgePath(pixelsOf(photo!), last.value!, to, outline?.blur ?? 1),
    )
  }

  /** Shows the way to a place; while one is computed only the newest place is kept. */
  function look(at: ScreenPoint): void {
    if (!last.value || !piece.document.photo) return
    wanted = view.screenToPicture(at)
    if (!looking) void follow()
  }
  async function follow(): Promise<void> {
    looking = true
    try {
      while (wanted && last.value) {
        const [to, now] = [wanted, stroke]
        wanted = null
        const path = await pathTo(to)
        if (now === stroke) live.value = path
      }
    } catch (error) {
      if (!(error instanceof Stopped)) problem.value = (error as Error).message
    } finally {
      looking = false
    }
  }

  async function place(at: ScreenPoint): Promise<void> {
    if (!piece.document.photo) return
    problem.value = ''
    const p = view.screenToPicture(at)
    const start = last.value
    if (!start) {
      last.value = p
      return
    }
    if (Math.hypot(p.x - start.x, p.y - start.y) * view.magnification.value < SAME_PLACE_PX) return
    const now = stroke
    try {
      const path = await pathTo(p)
      if (now !== stroke) return
      settled.value = Float64Array.from([...settled.value, ...path])
      last.value = p
      live.value = new Float64Array(0)
    } catch (error) {
      if (!(error instanceof Stopped)) problem.value = (error as Error).message
    }
  }

  /** The stroke replaces what was found beside it. */
  function lay(): void {
    const points = Array.from(settled.value, (v) => Math.round(v * 1000) / 1000)
    drop()
    if (points.length < 8) return
    if (!piece.document.outline) {
      problem.value = 'Find the outline first; strokes of the edge pen correct it.'
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
    stroke++
    settled.value = new Float64Array(0)
    live.value = new Float64Array(0)
    last.value = null
    wanted = null
  }

  return { settled, live, last, begun, problem, look, place, lay, drop }
}

export type EdgePen = ReturnType<typeof useEdgePen>
