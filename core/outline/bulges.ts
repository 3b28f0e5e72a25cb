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
