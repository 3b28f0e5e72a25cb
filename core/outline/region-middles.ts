import type { PicturePoint } from '../conventions'
import type { Plane } from '../picture/raster'
import type { AxisLine } from './axis-line'
import { lineThroughMiddles } from './middles-line'
import { turn } from './symmetry'

/** From this evidence on a pixel counts as piece. */
const THRESHOLDS = [0, 0.3]
/** Gaps up to this share of a row are bridged: reflections and bands that look like the backdrop. */
const BRIDGED = 0.1
/** Shorter runs than this share of the row aren't the piece's. */
const SHORTEST = 0.04

/**
 * Axes through the middles of what looks like piece before a plain backdrop, row by row; a shadow on one side bends some of the
 * rows, but not most of them.
 * @param up rough direction of the axis in the picture, one of the four
 */
export function regionMiddleAxes(evidence: Plane, up: PicturePoint): AxisLine[] {
  const { width, height } = evidence
  const level = Math.abs(up.x) > 0.5
  const [rows, length] = level ? [width, height] : [height, width]
  const at = (row: number, k: number) => evidence.data[level ? k * width + row : row * width + k]!
  // Rows count along the axis, upwards; across is to its right.
  const along = (row: number) => (row + 0.5 - rows / 2) * (level ? up.x : up.y)
  const across = level ? up.x : -up.y
  const axes: AxisLine[] = []
  for (const threshold of THRESHOLDS) {
    const middles = Array.from({ length: rows }, (_, row) => {
      const run = longestRun((k) => at(row, k) > threshold, length)
      return run && { v: along(row), offset: across * ((run[0] + run[1]) / 2 - length / 2), edge: 1 }
    }).filter((m) => m !== null)
    const line = lineThroughMiddles(middles)
    if (!line) continue
    const side = { x: -up.y, y: up.x }
    axes.push({
      at: { x: width / 2 + line.c * side.x, y: height / 2 + line.c * side.y },
      up: turn(up, Math.atan(line.a)),
    })
  }
  return axes
}

/** First and last + 1 of the longest run of a row, with its small gaps. */
function longestRun(isPiece: (k: number) => boolean, length: number): [number, number] | null {
  let best: [number, number] | null = null
  let from = -1
  let last = -1
  for (let k = 0; k <= length; k++) {
    if (k < length && isPiece(k)) {
      if (from < 0) from = k
      last = k
    } else if (from >= 0 && (k === length || k - last > BRIDGED * length)) {
      if (!best || last + 1 - from > best[1] - best[0]) best = [from, last + 1]
      from = -1
    }
  }
  return best && best[1] - best[0] >= SHORTEST * length ? best : null
}
