import { rowsOf, type Silhouette, type Strip } from './silhouette'

/** A bulge begins where the half-width grows by this much over two rows, px. */
const LEAST_JUMP = 4
/** … and ends where it is back to within this, px. */
const BACK = 2
/** No bulge is taller than this share of the silhouette. */
const TALLEST = 0.25
/** Mean sharpness along a bulge below which nothing but colour speaks for it. */
const BARE = 0.12

/** Before a busy backdrop an edge of the piece is looked for so far from the straight way past a bulge, px. */
const PAST_REACH = 6
/** … when it begins with a jump this wide, px, as level lines of floor and wall make; beads and rings are narrower, */
const LINE_JUMP = 14
const END_ROWS = 8
/** … and when it is at least this share as sharp as the bulge's own, the bulge is made of the backdrop's lines. */
const PAST_SHARE = 0.6

/**
 * The silhouette without bulges that no sharp edge bounds: floor, shadow or a handle's mirror image that was taken along.
 * A flange or a foot has edges on both sides and stays.
 * @param busy the backdrop has lines of its own (boards, bricks), which may bound a bulge: then one goes also when the
 *   piece's own edge runs past it
 */
export function withoutBareBulges(strip: Strip, silhouette: Silhouette, busy: boolean): Silhouette {
  const half = silhouette.half.slice()
  const [first, last] = rowsOf(silhouette)
  const tallest = TALLEST * (last - first)
  const edgeAt = (row: number, r: number) => strip.weaker[row * (strip.radii + 1) + Math.round(r)] ?? 0
  /** Mean of the sharpest edges near a way past a bulge. */
  const edgePast = (start: number, rows: number, down: 1 | -1, past: (n: number) => number) => {
    let sum = 0
    for (let n = 1; n <= rows; n++) {
      let best = 0
      for (let d = -PAST_REACH; d <= PAST_REACH; d++)
        best = Math.max(best, edgeAt(start + (n - 1) * down, past(n) + d))
      sum += best
    }
    return sum / Math.max(1, rows)
  }
  for (const down of [1, -1] as const) {
    const [from, to] = down > 0 ? [first, last] : [last, first]
    const inside = (row: number) => (down > 0 ? row <= to : row >= to)
    for (let row = from + 2 * down; inside(row); row += down) {
      const before = half[row - 2 * down]!
      const jump = half[row]! - before
      if (jump < LEAST_JUMP || before === 0) continue
      const start = half[row - down]! - before < LEAST_JUMP ? row : row - down
      let end = row
      let edges = 0
      while (inside(end) && half[end]! > before + BACK) {
        edges += edgeAt(end, half[end]!)
        end += down
      }
      const rows = Math.abs(end - start)
      const after = inside(end) ? half[end]! : before
      const past = (n: number) => before + ((after - before) * n) / (rows + 1)
      const own = edges / Math.max(1, Math.abs(end - row))
      // Next to an end of the piece a jump is its rim or its foot.
      const line = busy && jump >= LINE_JUMP && inside(end) && Math.abs(start - from) >= END_ROWS
      const bare = own <= BARE || (line && edgePast(start, rows, down, past) >= PAST_SHARE * own)
      if (rows > tallest || !bare) continue
      for (let k = start, n = 1; k !== end; k += down, n++) half[k] = past(n)
    }
  }
  return { ...silhouette, half }
}

/** A notch along which both sides together show less than this shows no edge at all. */
const NO_EDGE = 0.15

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
    // Out of the notch to its very edge.
    while (inside(end + 1) && half[end + 1]! > half[end]!) end++
    if (!inside(end) || rows === 0 || edges > NO_EDGE * rows) continue
    const after = half[end]!
    for (let k = start; k < end; k++)
      half[k] = before + ((after - before) * (k - start + 1)) / (end - start + 1)
    row = end
  }
  return { ...silhouette, half }
}

/** A step inwards by so much, px, along which hardly an edge runs is none of the piece's … */
const BARE_STEP = 8
const BARE_LEVEL = 0.2
/** … if so many rows behind it show none either, until so many do. */
const BARE_ROWS = 10
const SEEN_ROWS = 3
const LONGEST_STEP = 0.4

/**
 * The silhouette without steps inwards that no edge marks, where none is seen behind them either: a body that looks like the
 * backdrop loses its flank so, while its foot or its rim is seen again. The straight way there is the better guess.
 */
export function withoutBareSteps(strip: Strip, silhouette: Silhouette): Silhouette {
  const half = silhouette.half.slice()
  const [first, last] = rowsOf(silhouette)
  const n = strip.radii + 1
  const seen = (row: number) => {
    const from = row * n + Math.round(half[row]!)
    return Math.max(...strip.weaker.subarray(Math.max(row * n, from - BACK), from + BACK + 1)) > BARE
  }
  const levelled = (row: number, from: number, to: number) => {
    const edges = strip.level.subarray(row * n + Math.round(from) + 1, row * n + Math.round(to) + 1)
    return edges.reduce((sum, v) => sum + v, 0) > BARE_LEVEL * edges.length
  }
  for (const down of [1, -1] as const) {
    const inside = (row: number) => row >= first && row <= last
    for (let row = down > 0 ? first + 1 : last - 1; inside(row); row += down) {
      const before = half[row - down]!
      if (before - half[row]! < BARE_STEP) continue
      if (levelled(row, half[row]!, before) || levelled(row - down, half[row]!, before)) continue
      const seenFrom = (k: number) => Array.from({ length: SEEN_ROWS }, (_, i) => k + i * down).every((r) => inside(r) && seen(r)) // prettier-ignore
      let end = row
      while (inside(end) && !seenFrom(end)) end += down
      const rows = Math.abs(end - row)
      if (!inside(end) || rows < BARE_ROWS || rows > LONGEST_STEP * (last - first)) continue
      const after = half[end]!
      for (let k = 0; k < rows; k++) half[row + k * down] = before + ((after - before) * (k + 1)) / (rows + 1)
      row = end
    }
  }
  return { ...silhouette, half }
}
