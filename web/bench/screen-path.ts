import { cubicsOf, endOf, startOf, type Segment } from '../../core/profile/segments'
import type { ScreenPoint } from '../composables/use-view'

/** SVG path data of segments on the screen, on the side of the given sign. */
export function screenPath(
  segments: readonly Segment[],
  sign: number,
  toScreen: (p: { x: number; z: number }) => ScreenPoint,
): string {
  let d = ''
  let last: readonly [number, number] = [NaN, NaN]
  const place = ([r, z]: readonly [number, number]) => {
    const { sx, sy } = toScreen({ x: sign * r, z })
    return `${sx.toFixed(2)} ${sy.toFixed(2)}`
  }
  for (const segment of segments) {
    const [start, end] = [startOf(segment), endOf(segment)]
    // Ends that only rounding keeps apart stay joined: areas are filled by these paths too.
    const joined = (start[0] === last[0] && start[1] === last[1]) || place(start) === place(last)
    if (!joined) d += `M${place(start)}`
    last = end
    if (segment.kind === 'line') d += `L${place(end)}`
    else
      for (const c of cubicsOf(segment))
        d += `C${place([c[2], c[3]])} ${place([c[4], c[5]])} ${place([c[6], c[7]])}`
  }
  return d
}
