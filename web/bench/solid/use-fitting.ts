import { computed } from 'vue'
import { project, toUprightPlane } from '../../../core/camera/view'
import type { Part } from '../../../core/piece/schema'
import { useView, type ScreenPoint } from '../../composables/use-view'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'

type Fitting = Extract<Part['shape'], { kind: 'tube' | 'plate' }>

/** The fitting in hand: its points lie in the upright plane through the axis that the photo shows. */
export function useFitting() {
  const bench = useBench()
  const piece = usePiece()
  const view = useView()

  const part = computed(() => piece.whole.parts.find((p) => p.id === bench.fitting) ?? null)
  const shape = computed(() => {
    const s = part.value?.shape
    return s?.kind === 'tube' || s?.kind === 'plate' ? s : null
  })
  const toScreen = (x: number, z: number): ScreenPoint =>
    view.pictureToScreen(project(view.seen.value, [x, 0, z]))
  const placeOf = (at: ScreenPoint) => {
    const { x, z } = toUprightPlane(view.seen.value, view.screenToPicture(at), 0)
    // A hundredth mm is far below what a hand sets.
    return { x: Math.round(100 * x) / 100, z: Math.round(100 * z) / 100 }
  }

  const commandOf = (changed: Fitting) => ({
    type: 'set-part' as const,
    part: { ...part.value!, shape: changed },
  })
  /** The shape with other points; a new point of a tube is as thick as the one before it. */
  function withPoints(points: readonly { x: number; z: number; mm?: number }[]): Fitting {
    const s = shape.value!
    if (s.kind === 'plate') return { ...s, points: points.map(({ x, z }) => ({ x, z })) }
    return { ...s, points: points.map(({ x, z, mm }, k) => ({ x, z, mm: mm ?? s.points[k - 1]?.mm ?? 5 })) }
  }
  const set = (points: readonly { x: number; z: number; mm?: number }[]) =>
    piece.dispatch(commandOf(withPoints(points)))

  function add(at: ScreenPoint) {
    if (shape.value) set([...shape.value.points, placeOf(at)])
  }
  /** Shows a point elsewhere; it is a step when it is let go. */
  function drag(index: number, at: ScreenPoint) {
    if (!shape.value) return
    piece.preview = commandOf(
      withPoints(shape.value.points.map((p, k) => (k === index ? { ...p, ...placeOf(at) } : p))),
    )
  }
  const handles = () => (shape.value?.points ?? []).map((p, index) => ({ index, at: toScreen(p.x, p.z) }))
  return { shape, toScreen, set, add, drag, handles }
}
