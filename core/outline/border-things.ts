import { upperMedian } from '../upper-median'
import { coveredLines, leadOver, type LineEnds } from './covered-lines'

/** Lines on either side among which one is unusual, as a share of all. */
const USUAL_REACH = 0.09
/** Ends that differ from their neighbours by less than this are as usual, OKLab units. */
const LEAST_AWAY = 0.05

/** Medians of every `stride`-th value, from the first on, over ever as many neighbours on either side, fewer at the ends. */
function runningMedian(values: Float32Array, stride: number, first: number): Float32Array {
  const n = values.length / stride
  const reach = Math.round(USUAL_REACH * n)
  return Float32Array.from({ length: n }, (_, i) => {
    const r = Math.min(reach, i, n - 1 - i)
    return upperMedian(
      Float32Array.from({ length: 2 * r + 1 }, (_, k) => values[stride * (i - r + k) + first]!),
    )
  })
}

/** What is read along the borders: the ends of lines, and how far the backdrop wavers there. */
export interface Borders {
  ends: LineEnds
  limits: Float32Array
  hueLimits: Float32Array
}

/**
 * What crosses a border, a handle or another thing, foretells nothing of the backdrop along its lines: they are led over, in place; few
 * lines, which are unlike their neighbours, by those, and then many by the opposite border.
 */
export function withoutThingsAcross({ ends, limits, hueLimits }: Borders): void {
  const [usualLimits, usualHueLimits] = [limits, hueLimits].map((list) => runningMedian(list, 1, 0)) as [Float32Array, Float32Array] // prettier-ignore
  for (const end of ends) {
    const usual = [0, 1, 2].map((c) => runningMedian(end, 3, c))
    for (let line = 0; line < limits.length; line++) {
      const away = Math.hypot(...usual.map((u, c) => end[3 * line + c]! - u[line]!))
      if (away <= Math.max(LEAST_AWAY, usualLimits[line]!)) continue
      usual.forEach((u, c) => (end[3 * line + c] = u[line]!))
      limits[line] = usualLimits[line]!
      hueLimits[line] = usualHueLimits[line]!
    }
  }
  for (const covered of coveredLines(ends)) {
    leadOver(ends, covered)
    limits.set(usualLimits.subarray(covered.from, covered.to), covered.from)
    hueLimits.set(usualHueLimits.subarray(covered.from, covered.to), covered.from)
  }
}
