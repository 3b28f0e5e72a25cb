import { leadStraight, rowsOf, type Run, type Silhouette, type Strip } from './silhouette'

/** A bulge begins where the half-width grows by this much over two rows, px. */
const LEAST_JUMP = 4
/** … and ends where it is back to within this, px. */
const BACK = 2
/** No bulge is taller than this share of the silhouette. */
const TALLEST = 0.25
/** Mean sharpness along a bulge below which nothing but colour speaks for it. */
const BARE = 0.12
/** Bulges taller than this, rows, begin and end with so many that the lines across them bound. */
const TALL_ROWS = 12
const MARGIN_ROWS = 3

/** An edge of the piece is looked for so far from the straight way past a bulge, px, but not so near the bulge's own. */
const PAST_REACH = 6
const OWN_EDGE = 2
/** One is, when the bulge begins with a jump this wide, px, as level lines of floor and wall make (beads and rings are narrower); */
const LINE_JUMP = 14
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

/**
 * The silhouette without bulges that no sharp edge bounds: floor, shadow or a handle's mirror image that was taken along.
 * A flange or a foot has edges on both sides and stays.
 * @param busy the backdrop has lines of its own (boards, bricks), which may bound a bulge: then one goes more easily when the
 *   piece's own edge runs past it
 */
export function withoutBareBulges(strip: Strip, silhouette: Silhouette, busy: boolean): Silhouette {
  const half = silhouette.half.slice()
  const [first, last] = rowsOf(silhouette)
  const tallest = TALLEST * (last - first)
  /** Mean edge along the rows of a bulge, without those with which a tall one begins and ends: lines that run across lie there. */
  const edgesAlong = (edges: Float32Array, row: number, end: number) => {
    const [low, high] = [Math.min(row, end + 1), Math.max(row + 1, end)]
    const margin = high - low > TALL_ROWS ? MARGIN_ROWS : 0
    return meanEdge(strip, edges, half, { from: low + margin, to: high - margin })
  }
  /** Mean of the sharpest edges near a way past a bulge. */
  const edgePast = (
    edges: Float32Array,
    start: number,
    rows: number,
    down: 1 | -1,
    past: (n: number) => number,
  ) => {
    let sum = 0
    for (let n = 1; n <= rows; n++) {
      const row = start + (n - 1) * down
      // The bulge's own edge lies past nothing.
      const reach = Math.max(0, Math.min(PAST_REACH, Math.floor(half[row]! - past(n)) - OWN_EDGE))
      sum += sharpestNear(edges, row * (strip.radii + 1) + Math.round(past(n)), reach)
    }
    return sum / Math.max(1, rows)
  }
  /** By how much the half-width grows a row, on the way to a row; nought where it jumps there. */
  const leanTo = (row: number, down: 1 | -1) => {
    const lean = (half[row]! - (half[row - LEAN_ROWS * down] || NaN)) / LEAN_ROWS
    return Math.abs(lean) < MOST_LEAN ? lean : 0
  }
  for (const down of [1, -1] as const) {
    const [from, to] = down > 0 ? [first, last] : [last, first]
    const inside = (row: number) => (down > 0 ? row <= to : row >= to)
    for (let row = from + 2 * down; inside(row); row += down) {
      const before = half[row - 2 * down]!
      const jump = half[row]! - before
      if (jump < LEAST_JUMP || before === 0) continue
      const start = half[row - down]! - before < LEAST_JUMP ? row : row - down
      const mayBeLine = jump >= LINE_JUMP
      /** A floor's horizon is left as suddenly as it was taken, also above a flare that grows meanwhile. */
      const stepsBack = (k: number) =>
        half[k - 2 * down]! - half[k]! >= LINE_JUMP && half[k]! - before <= MOST_LEAN * Math.abs(k - start)
      let end = row
      while (inside(end) && half[end]! > before + BACK && !(busy && mayBeLine && stepsBack(end))) end += down
      const rows = Math.abs(end - start)
      // Next to an end of the piece a jump is its rim or its foot, unless its own edge runs on to it before a busy backdrop's lines.
      const startsAtEnd = Math.abs(start - from) < END_ROWS
      const isNearEnd = startsAtEnd || Math.abs(to - end) < END_ROWS
      const line = mayBeLine && inside(end) && (!isNearEnd || (busy && !startsAtEnd))
      const leant = Math.max(0, before + leanTo(row - 2 * down, down) * (rows + 1))
      const after = line && isNearEnd ? leant : inside(end) ? half[end]! : before
      const past = (n: number) => before + ((after - before) * n) / (rows + 1)
      // Over many rows one side's edge is enough: the other may lie before its own colour.
      const edges = rows >= MANY_ROWS ? strip.both : strip.weaker
      const isSeenPast = (shown: Float32Array, share: number) =>
        edgePast(shown, start, rows, down, past) >= share * edgesAlong(shown, row, end)
      const bare =
        (edgesAlong(strip.weaker, row, end) <= BARE && isSeenPast(strip.both, ONE_SIDE_PAST)) ||
        (line && isSeenPast(edges, busy ? PAST_SHARE : PAST_AS_WELL))
      if (rows > tallest || !bare) continue
      if (down > 0) leadStraight(half, { from: start, to: end }, before, after)
      else leadStraight(half, { from: end + 1, to: start + 1 }, after, before)
    }
  }
  return { ...silhouette, half }
}

/** Mean edge of a strip along rows of half-widths. */
function meanEdge({ radii }: Strip, edges: Float32Array, half: Float32Array, { from, to }: Run): number {
  let sum = 0
  for (let k = from; k < to; k++) sum += edges[k * (radii + 1) + Math.round(half[k]!)] ?? 0
  return sum / Math.max(1, to - from)
}

/** The sharpest edge within so many px of a place of a strip. */
function sharpestNear(edges: Float32Array, at: number, reach: number): number {
  return edges.subarray(Math.max(0, at - reach), at + reach + 1).reduce((p, q) => Math.max(p, q), 0)
}

/** A notch along which both sides together show less than this shows no edge at all. */
const NO_EDGE = 0.15

/** A notch of so many rows that comes back to where it was left, px, and hardly shows an edge of both sides, … */
const NOTCH_ROWS = 8
const COMES_BACK = 3
const ONE_SIDED = 0.25
/** … is none when the straight way past it shows as much, within so many px. */
const PAST_PX = 2

/** True when the straight way past a notch, back to where it was left, shows at least the edge that the notch shows. */
function isClearerPast(
  strip: Strip,
  half: Float32Array,
  { start, row, end, before }: { start: number; row: number; end: number; before: number },
): boolean {
  const after = Math.max(...half.subarray(end, end + LANDING_ROWS))
  if (end - row < NOTCH_ROWS || Math.abs(after - before) > COMES_BACK) return false
  const past = half.slice(0, end + 1)
  leadStraight(past, { from: start, to: end }, before, after)
  const notch = { from: row, to: end }
  if (meanEdge(strip, strip.weaker, half, notch) >= ONE_SIDED) return false
  let beside = 0
  for (let k = row; k < end; k++)
    beside += sharpestNear(strip.both, k * (strip.radii + 1) + Math.round(past[k]!), PAST_PX)
  return beside / (end - row) >= meanEdge(strip, strip.both, half, notch)
}

/**
 * Specks reach over no more rows than this. What they led inwards went in by so many px, since less is a groove's bottom that is
 * hardly seen, and comes back to about where it was left, but for this share.
 */
const SPECK_ROWS = 16
const SPECK_DEPTH = 8
const BACK_SHARE = 0.2
/** The way into a notch shows a step where edges across it are this sharp on average, within so many rows. */
const STEP_INTO = 0.2
const STEP_ROWS = 2

/**
 * True when specks or grain that happen to lie evenly about the axis lead a way inwards for a few rows, since no edge shows that what
 * stands out farther ends there. Seen from above a notch's upper step is the clear one, the lower one a slant; of a lying piece
 * either may be.
 */
function isLedBySpecks(
  strip: Strip,
  half: Float32Array,
  { start, end, before }: { start: number; end: number; before: number },
): boolean {
  const after = Math.max(...half.subarray(end, end + LANDING_ROWS))
  const depth = before - Math.min(...half.subarray(start, end))
  const isGroove = end - start > SPECK_ROWS || depth < SPECK_DEPTH
  if (isGroove || Math.abs(after - before) > BACK_SHARE * before) return false
  let first = start
  while (first + 1 < end && half[first + 1]! < half[first]!) first++
  let last = end - 1
  while (last - 1 > first && half[last - 1]! < half[last]!) last--
  if (stepAlong(strip, half, { from: start, to: first + 1 }, before) >= STEP_INTO) return false
  const isUpright = Math.abs(strip.axis.up.y) > Math.abs(strip.axis.up.x)
  return isUpright || stepAlong(strip, half, { from: last + 1, to: end + 1 }, half[last]!) < STEP_INTO
}

/** Mean of the sharpest edges across the axis that a way crosses in rows that lead on from a half-width. */
function stepAlong({ level, radii }: Strip, half: Float32Array, { from, to }: Run, before: number): number {
  let sum = 0
  let count = 0
  for (let row = from, was = before; row < to; was = half[row]!, row++) {
    const [low, high] = [was, half[row]!].map(Math.round).sort((p, q) => p - q) as [number, number]
    for (let r = low + 1; r <= high; r++, count++) {
      let sharpest = 0
      for (let k = -STEP_ROWS; k <= STEP_ROWS; k++)
        sharpest = Math.max(sharpest, level[(row + k) * (radii + 1) + r] ?? 0)
      sum += sharpest
    }
  }
  return count > 0 ? sum / count : 0
}

/** Rows without growth that the way out of a notch may rest on. */
const LANDING_ROWS = 3

/**
 * The silhouette without notches along which neither side shows an edge: where an edge is lost in a shadow and the body looks like
 * the backdrop, the straight way on from the rows before to the rows after is the better guess.
 */
export function withoutBareNotches(strip: Strip, silhouette: Silhouette): Silhouette {
  const half = silhouette.half.slice()
  const [first, last] = rowsOf(silhouette)
  const bothAt = (row: number) => strip.both[row * (strip.radii + 1) + Math.round(half[row]!)] ?? 0
  for (let row = first + 2; row <= last; row++) {
    const before = half[row - 2]!
    if (before - half[row]! < LEAST_JUMP) continue
    const start = before - half[row - 1]! < LEAST_JUMP ? row : row - 1
    const inside = (k: number) => k <= last && k - start <= TALLEST * (last - first)
    let end = row
    let edges = 0
    while (inside(end) && half[end]! < before - BACK && half[end]! - half[end - 2]! < LEAST_JUMP)
      edges += bothAt(end++)
    const rows = end - row
    // Out of the notch to its very edge, over a landing or two.
    const climbs = () =>
      half.subarray(end + 1, end + 1 + LANDING_ROWS).some((r, k) => inside(end + 1 + k) && r > half[end]!)
    while (climbs()) end++
    if (!inside(end) || rows === 0) continue
    const notch = { start, row, end: row + rows, before }
    if (edges > NO_EDGE * rows && !isClearerPast(strip, half, notch) && !isLedBySpecks(strip, half, notch))
      continue
    leadStraight(half, { from: start, to: end }, before, half[end]!)
    row = end
  }
  return { ...silhouette, half }
}

/** A ragged notch goes in and out by so much of what a plain one of its depth does, and shows so much edge at most. */
const RAGGED = 1.35
const FAINT = 0.4
const BACK_ROWS = 4

/**
 * The silhouette without ragged notches: where a flank looks like the backdrop, the way leads inwards from speckle to speckle until
 * the flank is seen again where it was left.
 */
export function withoutRaggedNotches(strip: Strip, silhouette: Silhouette): Silhouette {
  const half = silhouette.half.slice()
  const [first, last] = rowsOf(silhouette)
  const tallest = TALLEST * (last - first)
  for (let row = first + 2; row <= last; row++) {
    const before = half[row - 2]!
    if (before - half[row]! < LEAST_JUMP) continue
    let end = row
    while (end <= last && end - row <= tallest && half[end]! < before - BACK) end++
    // Where the way leads farther out than it was it has found something else: a foot, or the shadow before it.
    const back = Math.max(...half.subarray(end, end + BACK_ROWS))
    if (end > last || end - row > tallest || back > before + LEAST_JUMP) continue
    let travelled = 0
    let deepest = 0
    for (let k = row - 1; k <= end; k++) travelled += Math.abs(half[k]! - half[k - 1]!)
    for (let k = row; k < end; k++) deepest = Math.max(deepest, before - half[k]!)
    const edge = meanEdge(strip, strip.weaker, half, { from: row, to: end })
    if (travelled < RAGGED * 2 * deepest || edge > FAINT) continue
    leadStraight(half, { from: row - 1, to: end }, before, half[end]!)
    row = end
  }
  return { ...silhouette, half }
}

/** Runs of so many rows, up to this share of the silhouette, in which no side shows an edge … */
const BARE_ROWS = 10
const LONGEST_RUN = 0.4
/** … begin and end with so many that do. */
const SEEN_ROWS = 3
/** A way that turns by so much, px over as many rows before as after, turns because of nothing that is seen. */
const TURN = 6
const TURN_ROWS = 4
/**
 * … and so does one that jumps without a step being seen, if both sides together show less than this along it: what looks like the
 * backdrop there is a part of the flank.
 */
const HARDLY_SEEN = 0.35
/** A step is seen where this share of it runs along an edge. */
const STEP_SEEN = 0.2

/**
 * The silhouette without kinks that lead inwards and out again, or jump, where neither side shows an edge: a body that looks like the
 * backdrop loses its flank so, until its foot or its rim is seen again. The straight way there is the better guess.
 */
export function withoutBareKinks(strip: Strip, silhouette: Silhouette): Silhouette {
  const half = silhouette.half.slice()
  const [first, last] = rowsOf(silhouette)
  const n = strip.radii + 1
  const sharpest = (row: number, from: number, to: number) =>
    strip.weaker.subarray(row * n + Math.max(0, from), row * n + to + 1).reduce((p, q) => Math.max(p, q), 0)
  const stepSeen = (row: number) => {
    const [from, to] = [half[row]!, half[row - 1]!].map(Math.round).sort((p, q) => p - q) as [number, number]
    if (to - from < LEAST_JUMP) return false
    const edges = [row - 1, row].map((k) =>
      strip.level.subarray(k * n + from + 1, k * n + to + 1).reduce((sum, v) => sum + v, 0),
    )
    return Math.max(...edges) > STEP_SEEN * (to - from)
  }
  const isSeen = (row: number) => {
    const r = Math.round(half[row]!)
    return sharpest(row, r - BACK, r + BACK) > BARE || (row > first && stepSeen(row))
  }
  const seen = Array.from({ length: last - first + 1 }, (_, i) => isSeen(first + i))
  /** Where from a row on so many show edges. */
  const nextSeen = (from: number) => {
    let k = from
    while (k <= last && !seen.slice(k - first, k - first + SEEN_ROWS).every((is) => is)) k++
    return k
  }
  const turns = (k: number) =>
    k - TURN_ROWS >= first &&
    k + TURN_ROWS <= last &&
    half[k + TURN_ROWS]! - 2 * half[k]! + half[k - TURN_ROWS]! >= TURN
  const jumps = (k: number) => Math.abs(half[k]! - half[k - 1]!) >= LEAST_JUMP && !stepSeen(k)
  /** True when rows that show no edge turn and lead inwards and out again, or jump. */
  const isKink = (run: Run, before: number, after: number) => {
    const rows = Array.from({ length: run.to - run.from }, (_, i) => run.from + i)
    if (!rows.some(turns)) return false
    const deepest = Math.min(...half.subarray(run.from, run.to))
    if (deepest <= Math.min(before, after) - LEAST_JUMP) return true
    return [...rows, run.to].some(jumps) && meanEdge(strip, strip.both, half, run) < HARDLY_SEEN
  }
  for (let row = first + 1; row < last; row++) {
    if (seen[row - first]) continue
    const end = nextSeen(row)
    if (end + SEEN_ROWS > last + 1) break
    const run = { from: row, to: end }
    const [before, after] = [half[row - 1]!, half[end]!]
    if (end - row >= BARE_ROWS && end - row <= LONGEST_RUN * (last - first) && isKink(run, before, after))
      leadStraight(half, run, before, after)
    row = end
  }
  return { ...silhouette, half }
}
