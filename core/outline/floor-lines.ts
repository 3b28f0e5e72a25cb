import type { LabPicture } from '../picture/reduce'
import { meanColour, oneApart } from './mean-colour'
import { onlyRows, type Silhouette } from './silhouette'

/** Colours are looked at so many px inside and outside of a way, and on it, over so many rows. */
const BESIDE = [3, 5] as const
const ON_WAY = 1
const ROWS = 1
/** A way is a line where the colour on it differs by this from what lies on either side, which differ less from each other. */
const LEAST_LINE = 0.04
const CLEARLY = 1.3
/** Of the rows of an opaque piece no more than this share run along lines; those of thin glass do. */
const MOST_LINES = 0.2
/** Lines that are followed outwards run straight over so many rows at least, which go so far out each, px … */
const LEAST_ROWS = 10
const LEAST_LEAN = 0.25
const STRAIGHT_PX = 3
/** … and so many of which are lines. Above them so many of so many rows show the piece's own edges. */
const MOSTLY = 0.4
const EDGE_ROWS = 6
const MANY_EDGES = 4

/**
 * The silhouette without what leads on from its foot along lines of the floor on both sides: joints of boards run away from the camera,
 * so that those beside a piece stand about evenly around it. A line has the same colour on either side, an edge hasn't.
 */
export function withoutFloorLines(picture: LabPicture, silhouette: Silhouette): Silhouette {
  const to = floorLinesFrom(picture, silhouette)
  return to === null ? silhouette : { ...silhouette, half: onlyRows(silhouette.half, { from: 0, to }) }
}

/** The row from which on a silhouette follows lines of the floor down to its foot; null where it doesn't. */
function floorLinesFrom(picture: LabPicture, silhouette: Silhouette): number | null {
  const { half } = silhouette
  const ways = Array.from(half, (r, row) => (r > 0 ? wayAt(picture, silhouette, row) : null))
  const first = ways.findIndex((way) => way !== null)
  const last = ways.findLastIndex((way) => way !== null)
  const edgesAbove = (row: number) =>
    ways.slice(row - EDGE_ROWS, row).filter((way) => way === 'edge').length >= MANY_EDGES
  let from = last
  while (from > first && !edgesAbove(from)) from--
  while (from < last - LEAST_ROWS && spreadAboutLine(half, from, last) > STRAIGHT_PX) from++
  const share = (start: number, end: number) => {
    const seen = ways.slice(start, end).filter((way) => way !== null)
    return seen.filter((way) => way === 'line').length / Math.max(1, seen.length)
  }
  if (last - from < LEAST_ROWS || half[last]! - half[from]! < LEAST_LEAN * (last - from)) return null
  if (share(from, last + 1) < MOSTLY || share(first, from) > MOST_LINES) return null
  return from
}

/** Root mean square distance of half-widths from the straight line through them, least squares. */
function spreadAboutLine(half: Float32Array, first: number, last: number): number {
  const n = last + 1 - first
  const middle = (first + last) / 2
  let [mean, moment, squares] = [0, 0, 0]
  for (let row = first; row <= last; row++) {
    mean += half[row]! / n
    moment += (row - middle) * half[row]!
    squares += (row - middle) ** 2
  }
  let sum = 0
  for (let row = first; row <= last; row++)
    sum += (half[row]! - mean - (moment / squares) * (row - middle)) ** 2 / n
  return Math.sqrt(sum)
}

/** What the silhouette runs along on both sides in a row; null where a side lies at the picture's border. */
function wayAt(
  picture: LabPicture,
  { axis, top, half }: Silhouette,
  row: number,
): 'line' | 'edge' | 'neither' | null {
  let beyond = false
  const vs = oneApart(top - row - ROWS, top - row + ROWS)
  /** Mean colour of the rows about this one, between two distances from the axis; to the left they are negative. */
  const mean = (from: number, to: number): number[] => {
    const { colour, isBeyond } = meanColour(picture, axis, oneApart(from, to), vs)
    beyond ||= isBeyond
    return colour ?? [0, 0, 0]
  }
  const sides = ([-1, 1] as const).map((side) => {
    const r = side * half[row]!
    const beside = (sign: 1 | -1) => {
      const [p, q] = BESIDE.map((d) => r + sign * d) as [number, number]
      return mean(Math.min(p, q), Math.max(p, q))
    }
    const [one, other] = [beside(-1), beside(1)]
    const between = one.map((v, k) => (v + other[k]!) / 2)
    const ways = Array.from({ length: 2 * ON_WAY + 1 }, (_, k) => mean(r + k - ON_WAY, r + k - ON_WAY))
    return { line: Math.max(...ways.map((way) => apart(way, between))), step: apart(one, other) }
  })
  if (beyond) return null
  if (sides.every(({ line, step }) => line > LEAST_LINE && line > CLEARLY * step)) return 'line'
  return sides.every(({ line, step }) => step > LEAST_LINE && step > CLEARLY * line) ? 'edge' : 'neither'
}

const apart = (p: readonly number[], q: readonly number[]) => Math.hypot(...p.map((v, k) => v - q[k]!))
