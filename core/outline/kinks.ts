import { bestPath, FORBIDDEN } from './best-path'
import { BACK, BARE, LEAST_JUMP, LINE_JUMP, meanEdge } from './jumps'
import { leadStraight, rowsOf, type Run, type Silhouette, type Strip } from './silhouette'

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

/** A way that leaps back from where such rows end, within so many more, has come to a line across there, which is no flank's. */
const LINE_ROWS = 8

/** An edge that one side shows is looked for so far on either side of the straight way, as a share of its rows, … */
const ASIDE = 0.25
/** … and followed where it is seen in so many of them, this clearly; each px that it changes by costs so much. */
const MOSTLY = 0.7
const CLEARLY = 0.5
const CHANGE = { step: () => 0.1, most: 2 }

/** Leads a way past a kink: along the edge of one side where it shows one beside the straight way, or else straight. */
function leadPast(strip: Strip, half: Float32Array, run: Run, before: number, after: number): void {
  leadStraight(half, run, before, after)
  const rows = run.to - run.from
  const reach = Math.round(ASIDE * rows)
  const places = 2 * reach + 1
  const n = strip.radii + 1
  const worth = new Float32Array(rows * places)
  for (let i = 0; i < rows; i++)
    for (let k = 0; k < places; k++) {
      const r = Math.round(half[run.from + i]!) + k - reach
      worth[i * places + k] = r < 1 || r >= n ? FORBIDDEN : Math.min(1, strip.both[(run.from + i) * n + r]!)
    }
  const path = bestPath(worth, rows, places, CHANGE)
  const seen = path.filter((k, i) => worth[i * places + k]! >= CLEARLY).length
  if (seen < MOSTLY * rows) return
  path.forEach((k, i) => (half[run.from + i] = Math.round(half[run.from + i]!) + k - reach))
}

/**
 * The silhouette without kinks that lead inwards and out again, or jump, where neither side shows an edge: a body that looks like the
 * backdrop loses its flank so, until its foot or its rim is seen again. The straight way there is the better guess, and the edge that one side shows beside it a better one.
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
    const run = { from: row, to: pastLine(half, row - 1, end, last) }
    const [before, after] = [half[row - 1]!, half[run.to]!]
    if (end - row >= BARE_ROWS && end - row <= LONGEST_RUN * (last - first) && isKink(run, before, after))
      leadPast(strip, half, run, before, after)
    row = end
  }
  return { ...silhouette, half }
}

/**
 * The row up to which rows without an edge are led past: the first one that shows some, or, where a line across leads far out
 * there, the one to which the way comes back.
 */
function pastLine(half: Float32Array, before: number, end: number, last: number): number {
  if (half[end]! - half[before]! < LINE_JUMP) return end
  for (let k = end + 1; k <= Math.min(last, end + LINE_ROWS); k++) {
    if (half[k - 1]! - half[k]! >= LEAST_JUMP && half[end]! - half[k]! >= LINE_JUMP) return k
  }
  return end
}
