import type { Plane } from '../picture/raster'
import { placeAt } from './axis-line'
import { middleAcross, sideOf, type Beside } from './beside'
import { lineThroughRows } from './rows-line'
import { areaOf, rowsOf, type Silhouette } from './silhouette'

/** A bar is so many times as long as wide, … */
const SLENDER = 3
/** … its sides, but for this share of its rows at either end, are straight to within this, px, over most rows, … */
const END_SHARE = 0.05
const STRAIGHT_PX = 1
const MOST_ROWS = 0.9
/** … and one end is wider than the other by no more than this share: seen from above it tapers a little. */
const TAPER = 0.12

/** Whether a silhouette is that of a straight bar, as a ruler's is. */
export function isBar(silhouette: Silhouette): boolean {
  const [first, last] = rowsOf(silhouette)
  const rows = last - first + 1
  const ends = Math.ceil(END_SHARE * rows)
  const run = { from: first + ends, to: last + 1 - ends }
  const half = silhouette.half.subarray(run.from, run.to)
  if (first < 0 || half.length < 2) return false
  const { mean, slope, at } = lineThroughRows(silhouette.half, run)
  if (mean <= 0 || rows < SLENDER * 2 * mean) return false
  if (Math.abs(slope) * half.length > TAPER * mean) return false
  const straight = half.filter((h, i) => Math.abs(h - at(run.from + i)) <= STRAIGHT_PX).length
  return straight >= MOST_ROWS * half.length
}

/** Px about a bar that its soft edge reaches. */
const SOFT_PX = 1

/** What a bar takes of the picture: all from its side towards the middle on. */
export function besideOf(bar: Silhouette, picture: Plane): Beside {
  const { axis, top, half } = bar
  const [first, last] = rowsOf(bar)
  const inwards = sideOf(axis, picture)
  const at = placeAt(axis, inwards * (Math.max(...half) + SOFT_PX), 0)
  return { line: { at, up: axis.up }, inwards, low: top - last - SOFT_PX, high: top - first + SOFT_PX }
}

/** Whether one thing only stands beside another: that is larger, and its axis nearer to the picture's middle than all of the first. */
export function standsBeside(bar: Silhouette, thing: Silhouette, picture: Plane): boolean {
  const off = ({ axis }: Silhouette) => Math.abs(middleAcross(axis, picture))
  return areaOf(thing) > areaOf(bar) && off(thing) + Math.max(...bar.half) < off(bar)
}
