import { BACK, BARE, LEAST_JUMP, LINE_JUMP, meanEdge, sharpestNear, TALLEST } from './jumps'
import { leadStraight, rowsOf, type Silhouette, type Strip } from './silhouette'

/** Bulges taller than this, rows, begin and end with so many that the lines across them bound. */
const TALL_ROWS = 12
const MARGIN_ROWS = 3

/** An edge of the piece is looked for so far from the straight way past a bulge, px, but not so near the bulge's own. */
const PAST_REACH = 6
const OWN_EDGE = 2
/** One is, when the bulge begins with a jump as wide as a line's, so many rows from the ends; nearer to them that may be rim or foot. */
const END_ROWS = 8
/** Past one that reaches to an end the side leads on as it does over so many rows before, unless it leans more than this there. */
const LEAN_ROWS = 10
const MOST_LEAN = 1
/** … when it is at least this share as sharp as the bulge's own, the bulge is made of the backdrop's lines; before one taken for plain, as sharp. */
const PAST_SHARE = 0.6
const PAST_AS_WELL = 1
const MANY_ROWS = 8
/** Before any, one side's edge is enough for a bulge where less than this share of it is seen on the straight way past. */
const ONE_SIDE_PAST = 0.5

/** What looks like piece on both sides says so much, of two; what may be lines of the floor beside a foot must say more, by firm evidence. */
const LIKE_PIECE = 0.7
const FIRMLY_LIKE_PIECE = 1

/** What speaks for the piece on both sides of each place, as `mirrored` has it. */
export interface ToldPiece {
  sums: () => Float32Array
  /** It is firm evidence before a backdrop of many colours: only what reaches to an end is judged by it, since lines may bound that. */
  isFirm: boolean
}

/** The rows of a silhouette in the order in which they are gone through, from one end to the other. */
interface Way {
  from: number
  to: number
  down: 1 | -1
}

const isOn = ({ to, down }: Way, row: number) => (down > 0 ? row <= to : row >= to)

/** Where the half-width grows suddenly, until it is back. */
interface Bulge {
  way: Way
  /** Its first row, and that in which it is as wide as it jumps to. */
  start: number
  row: number
  /** The first row beyond it. */
  end: number
  rows: number
  /** Half-width before it, px. */
  before: number
  /** It jumps as level lines of floor or wall make silhouettes jump; … */
  mayBeLine: boolean
  /** … and ends as they let them. */
  line: boolean
  /** It begins or ends next to an end of the piece. */
  isNearEnd: boolean
}

/**
 * The silhouette without bulges that no sharp edge bounds: floor, shadow or a handle's mirror image that was taken along.
 * A flange or a foot has edges on both sides and stays.
 * @param busy the backdrop has lines of its own (boards, bricks), which may bound a bulge: then one goes more easily when the
 *   piece's own edge runs past it
 * @param told before a backdrop that tells: a bulge that looks like piece on both sides stays, though a rough axis may part its edges, or
 *   what is painted on a flange runs on past it
 */
export function withoutBareBulges(
  strip: Strip,
  silhouette: Silhouette,
  busy: boolean,
  told: ToldPiece | null = null,
): Silhouette {
  const half = silhouette.half.slice()
  const [first, last] = rowsOf(silhouette)
  const ways: Way[] = [
    { from: first, to: last, down: 1 },
    { from: last, to: first, down: -1 },
  ]
  for (const way of ways)
    for (let row = way.from + 2 * way.down; isOn(way, row); row += way.down) {
      const bulge = bulgeAt(half, row, way, busy)
      if (!bulge || bulge.rows > TALLEST * (last - first)) continue
      const after = widthAfter(half, bulge)
      if (!isBare(strip, half, bulge, after, busy)) continue
      if (told && isToldPiece(strip, told, half, bulge, after)) continue
      const { start, end, before } = bulge
      if (way.down > 0) leadStraight(half, { from: start, to: end }, before, after)
      else leadStraight(half, { from: end + 1, to: start + 1 }, after, before)
    }
  return { ...silhouette, half }
}

/** The bulge that has begun in a row; null where none has. */
function bulgeAt(half: Float32Array, row: number, way: Way, busy: boolean): Bulge | null {
  const { from, to, down } = way
  const before = half[row - 2 * down]!
  const jump = half[row]! - before
  if (jump < LEAST_JUMP || before === 0) return null
  const start = half[row - down]! - before < LEAST_JUMP ? row : row - down
  const mayBeLine = jump >= LINE_JUMP
  /** A floor's horizon is left as suddenly as it was taken, also above a flare that grows meanwhile. */
  const stepsBack = (k: number) =>
    half[k - 2 * down]! - half[k]! >= LINE_JUMP && half[k]! - before <= MOST_LEAN * Math.abs(k - start)
  let end = row
  while (isOn(way, end) && half[end]! > before + BACK && !(busy && mayBeLine && stepsBack(end))) end += down
  // Next to an end of the piece a jump is its rim or its foot, unless its own edge runs on to it before a busy backdrop's lines.
  const startsAtEnd = Math.abs(start - from) < END_ROWS
  const isNearEnd = startsAtEnd || Math.abs(to - end) < END_ROWS
  const line = mayBeLine && isOn(way, end) && (!isNearEnd || (busy && !startsAtEnd))
  return { way, start, row, end, rows: Math.abs(end - start), before, mayBeLine, line, isNearEnd }
}

/** The half-width to which the straight way past a bulge leads. */
function widthAfter(half: Float32Array, { way, row, end, rows, before, line, isNearEnd }: Bulge): number {
  if (line && isNearEnd) return Math.max(0, before + leanTo(half, row - 2 * way.down, way) * (rows + 1))
  return isOn(way, end) ? half[end]! : before
}

/** By how much the half-width grows a row, on the way to a row; nought where it jumps there. */
function leanTo(half: Float32Array, row: number, { down }: Way): number {
  const lean = (half[row]! - (half[row - LEAN_ROWS * down] || NaN)) / LEAN_ROWS
  return Math.abs(lean) < MOST_LEAN ? lean : 0
}

/** Whether nothing but colour speaks for a bulge, or only lines, while the piece's own edge is seen on the straight way past it. */
function isBare(strip: Strip, half: Float32Array, bulge: Bulge, after: number, busy: boolean): boolean {
  const { rows, line } = bulge
  const isSeenPast = (shown: Float32Array, share: number) =>
    edgePast(strip, shown, half, bulge, after) >= share * edgeAlong(strip, shown, half, bulge)
  if (edgeAlong(strip, strip.weaker, half, bulge) <= BARE && isSeenPast(strip.both, ONE_SIDE_PAST))
    return true
  // Over many rows one side's edge is enough: the other may lie before its own colour.
  const edges = rows >= MANY_ROWS ? strip.both : strip.weaker
  return line && isSeenPast(edges, busy ? PAST_SHARE : PAST_AS_WELL)
}

/** Whether both sides of a bulge look like piece, between its edge and the straight way past it. */
function isToldPiece(
  { radii }: Strip,
  told: ToldPiece,
  half: Float32Array,
  bulge: Bulge,
  after: number,
): boolean {
  const isAsked = told.isFirm ? bulge.line && bulge.isNearEnd : !bulge.mayBeLine
  if (!isAsked) return false
  const sums = told.sums()
  let [sum, count] = [0, 0]
  for (const { row, past } of straightPast(bulge, after)) {
    for (let r = Math.ceil(past) + 1; r < half[row]!; r++, count++) sum += sums[row * (radii + 1) + r]!
  }
  return count > 0 && sum >= (told.isFirm ? FIRMLY_LIKE_PIECE : LIKE_PIECE) * count
}

/** Mean edge along a bulge, without the rows with which a tall one begins and ends: lines that run across lie there. */
function edgeAlong(strip: Strip, edges: Float32Array, half: Float32Array, { row, end }: Bulge): number {
  const [low, high] = [Math.min(row, end + 1), Math.max(row + 1, end)]
  const margin = high - low > TALL_ROWS ? MARGIN_ROWS : 0
  return meanEdge(strip, edges, half, { from: low + margin, to: high - margin })
}

/** The straight way past a bulge: half-widths, row by row. */
const straightPast = ({ way, start, rows, before }: Bulge, after: number) =>
  Array.from({ length: rows }, (_, n) => ({
    row: start + n * way.down,
    past: before + ((after - before) * (n + 1)) / (rows + 1),
  }))

/** Mean of the sharpest edges near the straight way past a bulge. */
function edgePast(
  { radii }: Strip,
  edges: Float32Array,
  half: Float32Array,
  bulge: Bulge,
  after: number,
): number {
  let sum = 0
  for (const { row, past } of straightPast(bulge, after)) {
    // The bulge's own edge lies past nothing.
    const reach = Math.max(0, Math.min(PAST_REACH, Math.floor(half[row]! - past) - OWN_EDGE))
    sum += sharpestNear(edges, row * (radii + 1) + Math.round(past), reach)
  }
  return sum / Math.max(1, bulge.rows)
}
