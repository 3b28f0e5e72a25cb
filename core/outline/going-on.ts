import type { Raster } from '../picture/raster'
import { placeAt, type AxisLine } from './axis-line'
import { seenFromEnd } from './dome-ends'
import { clearestAlong } from './edge-band'
import { openEnds, type OutlineEnd } from './open-ends'
import type { OutlineSide } from './refine'

/** The last edges of a side, over this share of its length, lead on beyond it; fewer points than the least don't. */
const LEADING = 0.15
/** … but for these, where the way bends into the line that closes it. */
const SKIPPED = 0.03
const LEAST_POINTS = 12
/** They are looked for beyond over this share, from so many px on, and so many px aside. */
const BEYOND = 0.12
const GAP_PX = 8
const ASIDE_PX = 2.5
/** Nearer to the picture's border, px, nothing is looked for. */
const BORDER_PX = 12
/** An edge is this clear, and there is one along so much of the way on either side. */
const CLEAR = 1.2
const GOES_ON = 0.6
const STEP_PX = 2

/**
 * Open ends beyond which the edges of both sides go on straight: the piece doesn't end there, whatever the search took for its end.
 */
export function endsGoingOn(
  raster: Raster,
  sides: readonly [OutlineSide, OutlineSide],
  axis: AxisLine,
): OutlineEnd[] {
  return openEnds(sides).filter((end) =>
    sides.every((side, k) => shareBeyond(raster, side, axis, k === 0, end) >= GOES_ON),
  )
}

/** Share of the way beyond an end that shows an edge. */
function shareBeyond(
  raster: Raster,
  side: OutlineSide,
  axis: AxisLine,
  left: boolean,
  end: OutlineEnd,
): number {
  const sign = end === 'top' ? 1 : -1
  const { blur } = side
  const seen = seenFromEnd(side, axis, left, sign)
  const levels = seen.map(([, v]) => v)
  const [low, high] = [levels.reduce((p, q) => Math.min(p, q), Infinity), levels.reduce((p, q) => Math.max(p, q), -Infinity)] // prettier-ignore
  const tall = high - low
  const leading = seen.filter(([, v]) => v > high - (SKIPPED + LEADING) * tall && v < high - SKIPPED * tall)
  if (leading.length < LEAST_POINTS) return 0
  const mean = (of: (p: readonly [number, number]) => number) =>
    leading.reduce((sum, p) => sum + of(p), 0) / leading.length
  const [u0, v0] = [mean(([u]) => u), mean(([, v]) => v)]
  const lean = mean(([u, v]) => (u - u0) * (v - v0)) / mean(([, v]) => (v - v0) ** 2)
  const way: number[] = []
  for (let v = high + GAP_PX; v < high + GAP_PX + BEYOND * tall; v += STEP_PX) {
    const u = u0 + lean * (v - v0)
    const { x, y } = placeAt(axis, left ? -u : u, sign * v)
    if (Math.min(x, y, raster.width - x, raster.height - y) < BORDER_PX) break
    way.push(x, y)
  }
  if (way.length < 2 * LEAST_POINTS) return 0
  const clear = clearestAlong(raster, Float64Array.from(way), { turn: 1, blur: Number.isFinite(blur) ? blur : 1, aside: ASIDE_PX }) // prettier-ignore
  return clear.filter((v) => v > CLEAR).length / clear.length
}
