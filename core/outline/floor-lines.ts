import type { Plane } from '../picture/raster'
import type { LabPicture } from '../picture/reduce'
import type { AxisLine } from './axis-line'
import { meanColour, oneApart } from './mean-colour'
import { lineThroughRows, type RowsLine } from './rows-line'
import {
  likeness,
  onlyRows,
  rowsOf,
  withoutEdgesAlong,
  type Run,
  type Silhouette,
  type Strip,
} from './silhouette'

/** Colours are looked at so many px inside and outside of a way, and up to so many from it on it: for fine lines, and for wide ones; … */
const FINE = { on: 1, beside: [3, 5] } as const
const WIDE = { on: 3, beside: [6, 8] } as const
/** … over so many rows. */
const ROWS = 1
/** A way is a line where the colour on it differs by this from what lies on either side, which differ less from each other. */
const LEAST_LINE = 0.04
const CLEARLY = 1.3
/** Of the rows of an opaque piece no more than this share run along lines; those of thin glass do. */
const MOST_LINES = 0.2
/** Lines run straight over so many rows at least, to within so many px, mostly as lines, … */
const LEAST_ROWS = 10
const STRAIGHT_PX = 2.5
const MOSTLY = 0.4
/** … and go so far outwards each row, or, where they run on to the picture's border, to which no piece does, so far. */
const LEAST_LEAN = 0.25
const LEAST_LEAN_TO_BORDER = 0.08
/** A silhouette follows one by steps of no more than this a row, px: seen from near the floor they run almost level. */
const MOST_STEP_PX = 4
/** The edges of a line are seen over so many px on either side. */
const LINE_PX = 7
/** Boards have so many joints on either side of a piece, at most, that a silhouette may follow one after the other. */
const MOST_PAIRS = 3

/** Lines of the floor on both sides: how far from the axis, by row, from one row on downwards. */
export interface FloorLines {
  from: number
  halfAt: (row: number) => number
}

/**
 * What is found about an axis once lines of the floor no longer lead it: joints of boards run away from the camera, so that those
 * beside a piece stand about evenly around its foot, and may show more clearly than that. A line has the same colour on either side, an
 * edge hasn't.
 */
export function withoutFloorLines(
  picture: LabPicture,
  strip: Strip,
  { find, isClear }: { find: (strip: Strip) => Silhouette; isClear: (found: Silhouette) => boolean },
): { strip: Strip; silhouette: Silhouette } {
  let silhouette = find(strip)
  for (let pair = 0; pair < MOST_PAIRS && isUpright(strip.axis); pair++) {
    const lines = floorLinesOf(picture, silhouette, isClear(silhouette))
    if (!lines) break
    strip = withoutEdgesAlong(strip, { from: lines.from, to: strip.rows }, lines.halfAt, LINE_PX)
    silhouette = find(strip)
  }
  return { strip, silhouette }
}

/** Whether what stands about an axis stands on a floor. */
const isUpright = ({ up }: AxisLine) => up.y < -Math.SQRT1_2

/**
 * The joint behind a piece's middle is no wider than this, px on either side, and the foot above it at least so many times as wide;
 * above one that is so many rows long, within so many more of them, over which a foot seen from above closes.
 */
const JOINT_PX = 4
const FOOT_WIDER = 5
const JOINT_ROWS = 3
const CLOSES_OVER = 2
/** A needle is no longer than so many rows, and the foot so many times as wide in the row before it, which none narrows to. */
const NEEDLE_ROWS = 12
const NEEDLE_STEP = 4
/** Half-width over which a line's own colour is asked for, px. */
const WITHIN_PX = 2.5

/** A silhouette whose foot isn't led on down the one joint that lies behind its middle: a piece that stands ends in no needle. */
export function withoutMiddleJoint(silhouette: Silhouette): Silhouette {
  const { axis, half } = silhouette
  let [, foot] = rowsOf(silhouette)
  // What lies on its side may end in one.
  if (!isUpright(axis) || !(half[foot]! <= JOINT_PX)) return silhouette
  const [thin, last] = [half[foot]!, foot]
  while (foot > 0 && half[foot]! > 0 && half[foot]! <= JOINT_PX) foot--
  const closesOver = last - foot >= JOINT_ROWS ? CLOSES_OVER : 0
  const isFoot = half[Math.max(0, foot - closesOver)]! >= FOOT_WIDER * thin
  const to = isFoot ? foot + 1 : needleFrom(half, last)
  return to === null ? silhouette : { ...silhouette, half: onlyRows(half, { from: 0, to }) }
}

/** The first row of a needle in which a way ends that narrows along other lines on its way down to the joint; null where it ends in none. */
function needleFrom(half: Float32Array, last: number): number | null {
  for (let row = last + 1 - JOINT_ROWS; row > Math.max(0, last - NEEDLE_ROWS); row--)
    if (half[row - 1]! >= NEEDLE_STEP * half[row]!) return row
  return null
}

/** What looks less like piece than this, before a backdrop of many colours, may be its line. */
const LIKE_PIECE = 0.25

/** A silhouette whose top isn't led on up the one joint of the wall that lies above its middle: a piece's own needle looks unlike the backdrop. */
export function withoutJointAbove(silhouette: Silhouette, evidence: Plane): Silhouette {
  const { half } = silhouette
  const [first] = rowsOf(silhouette)
  if (!(half[first]! <= JOINT_PX)) return silhouette
  let top = first
  while (top < half.length && half[top]! > 0 && half[top]! <= JOINT_PX) top++
  if (top - first < JOINT_ROWS || !(half[top + CLOSES_OVER]! >= FOOT_WIDER * half[first]!)) return silhouette
  const line = { ...silhouette, half: onlyRows(half, { from: first, to: top }).map((r) => r && WITHIN_PX) }
  if (likeness(line, evidence) >= LIKE_PIECE) return silhouette
  return { ...silhouette, half: onlyRows(half, { from: top, to: half.length }) }
}

/**
 * The lines of the floor that a silhouette follows down to its foot, past it, or in its middle; the lowest ones, null where there are none.
 * @param isClear the piece is seen through, so that its own edges may be as fine as lines: only those that run on to the border are none
 */
export function floorLinesOf(
  picture: LabPicture,
  silhouette: Silhouette,
  isClear = false,
): FloorLines | null {
  const ways = Array.from(silhouette.half, (r, row) => (r > 0 ? wayAt(picture, silhouette, row, r) : null))
  const straight = stretchesOf(silhouette.half, ways).flatMap(({ from, to }) => {
    const line = straightUpTo(silhouette.half, from, to - 1)
    return line ? [{ ...line, last: to - 1 }] : []
  })
  const joints = straight.filter(
    ({ slope, from, last }) => slope >= LEAST_LEAN && areLines(ways.slice(from, last + 1)),
  )
  for (const line of straight) {
    // What follows other joints says nothing of the piece.
    const others = joints.filter((joint) => joint !== line)
    const lines = linesAlong(picture, silhouette, ways, line, { others, isClear })
    if (lines) return lines
  }
  return null
}

/** A straight part of a silhouette, from one of its rows to the last. */
type Straight = RowsLine & { from: number; last: number }

type Ways = readonly (Way | null)[]

const count = (ways: Ways, kind: Way) => ways.filter((way) => way === kind).length
const seen = (ways: Ways) => ways.filter((way) => way !== null).length
const shareOfLines = (ways: Ways) => count(ways, 'line') / seen(ways)

/** Whether a silhouette runs along lines mostly. */
const areLines = (ways: Ways) => count(ways, 'line') >= LEAST_ROWS && shareOfLines(ways) >= MOSTLY

/** Stretches of rows within the picture over which a silhouette doesn't jump, the lowest first. */
function stretchesOf(half: Float32Array, ways: Ways): Run[] {
  const out: Run[] = []
  let to = 0
  for (let row = half.length - 1; row >= 0; row--) {
    if (ways[row] === null) continue
    if (to <= row) to = row + 1
    const goesOn = row > 0 && ways[row - 1] !== null && Math.abs(half[row - 1]! - half[row]!) <= MOST_STEP_PX
    if (goesOn) continue
    out.push({ from: row, to })
    to = 0
  }
  return out
}

/** The lines that lie along a straight one, if there are any. */
function linesAlong(
  picture: LabPicture,
  silhouette: Silhouette,
  ways: Ways,
  line: Straight,
  { others, isClear }: { others: readonly Straight[]; isClear: boolean },
): FloorLines | null {
  const { half } = silhouette
  const isOn = (row: number) => half[row]! > 0 && Math.abs(half[row]! - line.at(row)) <= STRAIGHT_PX
  // A silhouette may leave them for a while, to a part of the piece that reaches beyond them.
  const from = ways.findIndex((way, row) => row >= line.from || (way === 'line' && isOn(row)))
  const onLine = ways.filter((_, row) => row >= from && isOn(row))
  const isOnOther = (row: number) => others.some((other) => row >= other.from && row <= other.last)
  const elsewhere = ways.filter((_, row) => (row < from || !isOn(row)) && !isOnOther(row))
  if (!areLines(onLine) || count(onLine, 'line') < count(onLine, 'edge')) return null
  if (seen(elsewhere) < LEAST_ROWS || shareOfLines(elsewhere) > MOST_LINES) return null
  const usual = isClear ? Infinity : LEAST_LEAN
  const least = reachesBorder(picture, silhouette, line.last) ? LEAST_LEAN_TO_BORDER : usual
  return line.slope < least ? null : { from: topOf(picture, silhouette, line, from), halfAt: line.at }
}

/** The row from which on lines are seen, though a silhouette that leans beside them there may not follow them yet. */
function topOf(picture: LabPicture, silhouette: Silhouette, { at }: Straight, from: number): number {
  let top = from
  while (top > 0 && wayAt(picture, silhouette, top - 1, at(top - 1)) === 'line') top--
  return top
}

/** The straight line through half-widths from a row upwards, as far as they lie on one; null where they don't. */
function straightUpTo(half: Float32Array, first: number, last: number) {
  let from = last + 1 - LEAST_ROWS
  if (from < first) return null
  let line = lineThroughRows(half, { from, to: last + 1 })
  for (let row = from; row <= last; row++) if (Math.abs(half[row]! - line.at(row)) > STRAIGHT_PX) return null
  while (from > first && Math.abs(half[from - 1]! - line.at(from - 1)) <= STRAIGHT_PX)
    line = lineThroughRows(half, { from: --from, to: last + 1 })
  return { from, ...line }
}

/** Whether what lies below a row, or beside it, is no longer in the picture on one side. */
function reachesBorder(picture: LabPicture, { axis, top, half }: Silhouette, row: number): boolean {
  const air = FINE.beside[1] + LINE_PX
  const us = [-half[row]! - air, half[row]! + air]
  return meanColour(picture, axis, us, [top - row - ROWS - LINE_PX]).isBeyond
}

/** What a way runs along on both sides of the axis in a row. */
type Way = 'line' | 'edge' | 'neither'

/** What a silhouette of this half-width runs along in a row; null where a side lies at the picture's border. */
function wayAt(picture: LabPicture, silhouette: Silhouette, row: number, half: number): Way | null {
  const fine = lookAt(picture, silhouette, row, half, FINE)
  // A wide line has an edge on either side.
  return fine === 'edge' && lookAt(picture, silhouette, row, half, WIDE) === 'line' ? 'line' : fine
}

function lookAt(
  picture: LabPicture,
  { axis, top }: Silhouette,
  row: number,
  half: number,
  { on, beside: [near, far] }: typeof FINE | typeof WIDE,
): Way | null {
  let beyond = false
  const vs = oneApart(top - row - ROWS, top - row + ROWS)
  /** Mean colour of the rows about this one, between two distances from the axis; to the left they are negative. */
  const mean = (from: number, to: number): number[] => {
    const { colour, isBeyond } = meanColour(picture, axis, oneApart(from, to), vs)
    beyond ||= isBeyond
    return colour ?? [0, 0, 0]
  }
  const sides = ([-1, 1] as const).map((side) => {
    const r = side * half
    const [one, other] = [mean(r - far, r - near), mean(r + near, r + far)]
    const between = one.map((v, k) => (v + other[k]!) / 2)
    const ways = Array.from({ length: 2 * on + 1 }, (_, k) => mean(r + k - on, r + k - on))
    return { line: Math.max(...ways.map((way) => apart(way, between))), step: apart(one, other) }
  })
  if (beyond) return null
  if (sides.every(({ line, step }) => line > LEAST_LINE && line > CLEARLY * step)) return 'line'
  return sides.every(({ line, step }) => step > LEAST_LINE && step > CLEARLY * line) ? 'edge' : 'neither'
}

const apart = (p: readonly number[], q: readonly number[]) => Math.hypot(...p.map((v, k) => v - q[k]!))
