import { inAxis, reachAlong, type AxisLine } from './axis-line'
import type { OutlineSide } from './refine'

type Both = readonly [OutlineSide, OutlineSide]

/** Share of the points of both sides that show an edge. */
export function edgeShare(sides: Both): number {
  const [left, right] = sides.map(({ sd }) => sd.filter(Number.isFinite).length / sd.length) as [
    number,
    number,
  ]
  return (left + right) / 2
}

/** How far either side reaches along an axis, px. */
export function reachOfBoth(sides: Both, axis: AxisLine): { low: number; high: number } {
  const [left, right] = sides.map(({ points }) => reachAlong(points, axis)) as [Reach, Reach]
  return { low: Math.min(left.low, right.low), high: Math.max(left.high, right.high) }
}

type Reach = ReturnType<typeof reachAlong>

/** The height is looked at in so many equal steps; a side shows an edge in one where so many of its points there do. */
const STEPS = 100
const MOSTLY = 0.5

/**
 * Share of a piece's height over which both sides of its outline show an edge. Where only one does, the other may lie in shadow or
 * before its own colour; but two that hardly ever do at the same height mostly follow other things.
 */
export function seenByBoth(sides: Both, axis: AxisLine): number {
  const along = sides.map(({ points }) => inAxis(points, axis).filter((_, i) => i % 2 === 1))
  const { low, high } = reachOfBoth(sides, axis)
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
