import { upperMedian } from '../upper-median'
import { coveredLines, leadOver, OTHER_HUE, type LineEnds } from './covered-lines'

/** Lines on either side among which one is unusual, as a share of all. */
const USUAL_REACH = 0.09
/** Ends that differ from their neighbours by less than this are as usual, OKLab units. */
const LEAST_AWAY = 0.05
/** … or less than this share of that from what the opposite ends do. */
const SAME_SHARE = 0.3

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

type Lab = readonly [number, number, number]

/** What is read along the borders: the ends of lines, and how far the backdrop wavers there. */
export interface Borders {
  ends: LineEnds
  limits: Float32Array
  hueLimits: Float32Array
}

/** An end of a line that is unlike its neighbours, and what they make expect there. */
interface UnlikeEnd {
  side: 0 | 1
  line: number
  colour: Lab
  usual: Lab
  limit: number
  hueLimit: number
}

/** Ends that are unlike their neighbours, while the opposite ones are not unlike theirs in the same way. */
function unlikeEnds({ ends, limits, hueLimits }: Borders): UnlikeEnd[] {
  const [usualLimits, usualHueLimits] = [limits, hueLimits].map((list) => runningMedian(list, 1, 0)) as [Float32Array, Float32Array] // prettier-ignore
  const usualEnds = ends.map((end) => [0, 1, 2].map((c) => runningMedian(end, 3, c)))
  const at = (side: number, line: number): Lab => {
    const end = ends[side]!
    return [end[3 * line]!, end[3 * line + 1]!, end[3 * line + 2]!]
  }
  const usualAt = (side: number, line: number): Lab => {
    const [l, a, b] = usualEnds[side]!
    return [l![line]!, a![line]!, b![line]!]
  }
  const out: UnlikeEnd[] = []
  for (let line = 0; line < limits.length; line++) {
    const aways = [0, 1].map((side) => minus(at(side, line), usualAt(side, line)))
    // The strip of shade where floor and wall meet crosses both.
    const apart = Math.hypot(...minus(aways[0]!, aways[1]!))
    for (const side of [0, 1] as const) {
      const away = Math.hypot(...aways[side]!)
      if (away <= Math.max(LEAST_AWAY, usualLimits[line]!) || apart < SAME_SHARE * away) continue
      const [limit, hueLimit] = [usualLimits[line]!, usualHueLimits[line]!]
      out.push({ side, line, colour: at(side, line), usual: usualAt(side, line), limit, hueLimit })
    }
  }
  return out
}

const minus = (p: Lab, q: Lab): Lab => [p[0] - q[0], p[1] - q[1], p[2] - q[2]]

/** What crosses a border, a handle or another thing, foretells nothing of the backdrop along its lines: they are led over, in place. */
export function withoutThingsAcross(borders: Borders): void {
  const { ends, limits, hueLimits } = borders
  const leadOverFew = (few: readonly UnlikeEnd[]) => {
    for (const { side, line, usual, limit, hueLimit } of few) {
      ends[side].set(usual, 3 * line)
      limits[line] = limit
      hueLimits[line] = hueLimit
    }
  }
  const few = unlikeEnds(borders)
  // What no shade is doesn't hide what the opposite border shows; then what is longer; then whatever else only one end shows.
  const odd = few.filter(({ colour, usual }) => isOtherHue(colour, usual))
  leadOverFew(odd)
  const covered = coveredLines(ends)
  for (const lines of covered) {
    leadOver(ends, lines)
    for (const list of [limits, hueLimits])
      list.set(runningMedian(list, 1, 0).subarray(lines.from, lines.to), lines.from)
  }
  leadOverFew(odd.length + covered.length > 0 ? unlikeEnds(borders) : few)
}

/** Whether a colour differs from another one by more than a shadow makes it. */
const isOtherHue = ([l, a, b]: Lab, [l0, a0, b0]: Lab) => {
  const dim = l / Math.max(l0, 1e-3)
  return dim > 1 || Math.hypot(a - dim * a0, b - dim * b0) > OTHER_HUE
}
