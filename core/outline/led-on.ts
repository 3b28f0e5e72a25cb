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
 */
export function ledOn(strip: Strip, silhouette: Silhouette): Silhouette {
  const half = silhouette.half.slice()
  let isLed = false
  for (const down of [1, -1] as const) {
    const [first, last] = rowsOf({ half })
    if (first < 0) return silhouette
    const end = down > 0 ? last : first
    if (isClosed(strip, half, end, down)) continue
    followed(strip, half, end, down).forEach((r, i) => {
      half[end + down * (i + 1)] = r
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
