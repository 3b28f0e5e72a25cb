import { reachAlong, type AxisLine } from './axis-line'
import { OUTLINE_ENDS, type OutlineEnd } from './open-ends'
import type { OutlineSide } from './refine'
import { rowsOf, type Silhouette } from './silhouette'

/**
 * How far both sides of an outline reach beyond the place where they meet at each end, px along the axis. What closes a round piece,
 * seen from above or from below, bulges out of it: where the middle lies deeper than both corners, the way closes along a line that
 * lies on the piece (a crease below its lip), and the corners are what is seen of the rest.
 */
export function hornsOf(
  sides: readonly [OutlineSide, OutlineSide],
  axis: AxisLine,
): Record<OutlineEnd, number> {
  const [left, right] = sides.map(({ points }) => {
    const { low, high } = reachAlong(points, axis)
    const foot = reachAlong(points.subarray(0, 2), axis).low
    const top = reachAlong(points.subarray(-2), axis).high
    return { foot: foot - low, top: high - top }
  }) as [Record<OutlineEnd, number>, Record<OutlineEnd, number>]
  return { foot: Math.min(left.foot, right.foot), top: Math.min(left.top, right.top) }
}

/** Horns lower than this, px of the silhouette, are its own rounding. */
const LEAST_ROWS = 2

/**
 * A silhouette with ends that have horns led straight on to where these end; null where none has.
 * @param horns px of the silhouette
 */
export function ledToHorns(silhouette: Silhouette, horns: Record<OutlineEnd, number>): Silhouette | null {
  const half = silhouette.half.slice()
  const [first, last] = rowsOf(silhouette)
  const led = OUTLINE_ENDS.filter((end) => horns[end] >= LEAST_ROWS)
  for (const end of led) {
    const [row, outwards] = end === 'top' ? [first, -1] : [last, 1]
    const wide = half[row - outwards]!
    for (let k = 0; k <= Math.round(horns[end]); k++) {
      const at = row + outwards * k
      if (at >= 0 && at < half.length) half[at] = Math.max(half[at]!, wide)
    }
  }
  return led.length > 0 ? { ...silhouette, half } : null
}
