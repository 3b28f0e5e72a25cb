import { OUTLINE_ENDS, type OutlineEnd } from './open-ends'
import { rowsOf, type Silhouette, type Strip } from './silhouette'

/** An end over whose width edges across the axis show less than this on average, within so many rows, is closed by none. */
const CLOSED = 0.25
const CLOSING_ROWS = 5
/** The last rows but a few, where the way may bend, tell how the side leads on. */
const LEADING_ROWS = 14
const SKIPPED_ROWS = 2
/** A side's edge lies within so many px of where it leads, and is no weaker than this. */
const ASIDE = 2
const LEAST_EDGE = 0.2
/** The side is followed over so many rows without an edge; where one is found it moves, and bends, by these shares of how far off. */
const MOST_GAP = 8
const MOVES = 1 / 2
const BENDS = 1 / 16
/** What is found counts from so many rows on, most of which show an edge. */
const LEAST_ROWS = 12
const SEEN = 0.75
/** Half-widths below this, px, have no two sides. */
const LEAST_HALF = 6

/**
 * The silhouette with ends that no edge closes led on as far as one of its sides shows its edge: where a flank and what is seen
 * between the flanks look like the backdrop, both sides together earn nothing, but one of them goes on. The same silhouette where
 * nothing is led on.
 * @param ends the ends that may be led on
 */
export function ledOn(
  strip: Strip,
  silhouette: Silhouette,
  ends: readonly OutlineEnd[] = OUTLINE_ENDS,
): Silhouette {
  const half = silhouette.half.slice()
  let isLed = false
  for (const end of ends) {
    const [first, last] = rowsOf({ half })
    if (first < 0) return silhouette
    const [row, down] = end === 'foot' ? ([last, 1] as const) : ([first, -1] as const)
    if (isClosed(strip, half, row, down)) continue
    followed(strip, half, row, down).forEach((r, i) => {
      half[row + down * (i + 1)] = r
      isLed = true
    })
  }
  return isLed ? { ...silhouette, half } : silhouette
}

/** Whether edges across the axis close an end, on average over its width. */
export function isClosed(strip: Strip, half: Float32Array, end: number, down: 1 | -1): boolean {
  return closedness(strip, half, end, down) >= CLOSED
}

/** The edges across the axis that close a silhouette if it ends in a row, on average over its width there; 1 where it is narrow. */
export function closedness(
  { level, radii, rows }: Strip,
  half: Float32Array,
  end: number,
  down: 1 | -1,
): number {
  const n = radii + 1
  const wide = Math.max(...[0, 1, 2, 3].map((k) => half[end - down * k] ?? 0))
  const columns = Math.round(0.8 * wide)
  if (columns <= LEAST_HALF) return 1
  let sum = 0
  for (let r = LEAST_HALF; r < columns; r++) {
    let best = 0
    for (let k = -CLOSING_ROWS; k <= CLOSING_ROWS; k++) {
      const row = end + k
      if (row >= 0 && row < rows) best = Math.max(best, level[row * n + r]!)
    }
    sum += best
  }
  return sum / (columns - LEAST_HALF)
}

/** Half-widths beyond an end, as far as a side shows its edge there; none where it doesn't. */
function followed(strip: Strip, half: Float32Array, end: number, down: 1 | -1): number[] {
  const { both, weaker, radii, rows } = strip
  const n = radii + 1
  const leading = Array.from({ length: LEADING_ROWS }, (_, k) => half[end - down * (SKIPPED_ROWS + k)] ?? 0)
  if (leading.some((r) => r < LEAST_HALF)) return []
  const middle = (LEADING_ROWS - 1) / 2
  const mean = leading.reduce((s, r) => s + r, 0) / LEADING_ROWS
  let lean =
    leading.reduce((s, r, k) => s + (middle - k) * (r - mean), 0) /
    leading.reduce((s, _, k) => s + (middle - k) ** 2, 0)
  let at = mean + lean * (middle + SKIPPED_ROWS)
  const out: number[] = []
  let seen = 0
  let kept = 0
  for (let row = end + down; row >= 0 && row < rows && out.length - kept <= MOST_GAP; row += down) {
    at += lean
    if (at < LEAST_HALF || at + ASIDE >= n) break
    let best = LEAST_EDGE
    let found: number | null = null
    for (let d = -ASIDE; d <= ASIDE; d++) {
      const i = row * n + Math.round(at) + d
      const edge = both[i]! - weaker[i]!
      // Of two as clear the nearer one.
      if (edge > best + 0.02 * Math.abs(d)) [best, found] = [edge, Math.round(at) + d]
    }
    if (found !== null) {
      const off = found - at
      at += MOVES * off
      lean += BENDS * off
      seen++
      kept = out.length + 1
    }
    out.push(at)
  }
  return kept >= LEAST_ROWS && seen >= SEEN * kept ? out.slice(0, kept) : []
}

/** A lip begins where the side leads from so many rows below an end, as straight as over so many; it leans no more than this. */
const BELOW_ROWS = 4
const STRAIGHT_ROWS = 10
const MOST_LIP_LEAN = 1
/** Both sides show an edge this sharp in nearly all its rows; it is no lower than so many, nor taller than this share of the piece. */
const LIP_EDGE = 0.2
const MOST_LIP_GAP = 2
const LIP_SEEN = 0.85
const LEAST_LIP_ROWS = 5
const TALLEST_LIP = 0.2

/**
 * The silhouette with its top led straight on over a lip of another colour, whose own edge is fainter than the line below it: both
 * sides go on to where an edge across closes them. Feet aren't led on, since joints and shadows of the floor go on below them.
 */
export function ledToLip(strip: Strip, silhouette: Silhouette): Silhouette {
  const { weaker, radii } = strip
  const n = radii + 1
  const half = silhouette.half.slice()
  const [first, last] = rowsOf(silhouette)
  const [from, to] = [half[first + BELOW_ROWS] ?? 0, half[first + BELOW_ROWS + STRAIGHT_ROWS - 1] ?? 0]
  const lean = (from - to) / (STRAIGHT_ROWS - 1)
  if (from < LEAST_HALF || to < LEAST_HALF || Math.abs(lean) > MOST_LIP_LEAN) return silhouette
  const wayAt = (rows: number) => from + lean * (rows + BELOW_ROWS)
  let seen = 0
  let tall = 0
  const most = Math.min(first, Math.floor(TALLEST_LIP * (last - first)))
  for (let rows = 1; rows <= most && rows - tall <= MOST_LIP_GAP + 1; rows++) {
    const r = Math.round(wayAt(rows))
    if (r < LEAST_HALF || r + ASIDE >= n) break
    const i = (first - rows) * n + r
    if (Math.max(...weaker.subarray(i - ASIDE, i + ASIDE + 1)) < LIP_EDGE) continue
    seen++
    tall = rows
  }
  if (tall < LEAST_LIP_ROWS || seen < LIP_SEEN * tall) return silhouette
  for (let rows = -BELOW_ROWS; rows <= tall; rows++) half[first - rows] = Math.round(wayAt(rows))
  return isClosed(strip, half, first - tall, -1) ? { ...silhouette, half } : silhouette
}
