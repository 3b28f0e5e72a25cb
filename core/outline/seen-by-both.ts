import { inAxis, reachAlong, type AxisLine } from './axis-line'
import type { OutlineSide } from './refine'

/** The height is looked at in so many equal steps; a side shows an edge in one where so many of its points there do. */
const STEPS = 100
const MOSTLY = 0.5

/**
 * Share of a piece's height over which both sides of its outline show an edge. Where only one does, the other may lie in shadow or
 * before its own colour; but two that hardly ever do at the same height mostly follow other things.
 */
export function seenByBoth(sides: readonly [OutlineSide, OutlineSide], axis: AxisLine): number {
  const along = sides.map(({ points }) => inAxis(points, axis).filter((_, i) => i % 2 === 1))
  const reach = sides.map(({ points }) => reachAlong(points, axis))
  const low = Math.min(...reach.map((side) => side.low))
  const high = Math.max(...reach.map((side) => side.high))
  const shown = sides.map(({ sd }, k) => {
    const all = new Uint32Array(STEPS)
    const seen = new Uint32Array(STEPS)
    along[k]!.forEach((v, i) => {
      const step = Math.min(STEPS - 1, Math.floor((STEPS * (v - low)) / (high - low)))
      all[step]!++
      if (Number.isFinite(sd[i]!)) seen[step]!++
    })
    return Array.from(all, (n, step) => (n === 0 ? null : seen[step]! >= MOSTLY * n))
  }) as [(boolean | null)[], (boolean | null)[]]
  // Points may lie farther apart than steps.
  const told = shown[0].flatMap((left, step) => {
    const right = shown[1][step]
    return left === null || right === null || right === undefined ? [] : [left && right]
  })
  return told.filter(Boolean).length / Math.max(1, told.length)
}
