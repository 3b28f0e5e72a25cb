import { rowsOf, type Silhouette, type Strip } from './silhouette'

/** A bulge begins where the half-width grows by this much over two rows, px. */
const LEAST_JUMP = 4
/** … and ends where it is back to within this, px. */
const BACK = 2
/** No bulge is taller than this share of the silhouette. */
const TALLEST = 0.25
/** Mean sharpness along a bulge below which nothing but colour speaks for it. */
const BARE = 0.12

/**
 * The silhouette without bulges that no sharp edge bounds: floor, shadow or a handle's mirror image that was taken along.
 * A flange or a foot has edges on both sides and stays.
 */
export function withoutBareBulges(strip: Strip, silhouette: Silhouette): Silhouette {
  const half = silhouette.half.slice()
  const [first, last] = rowsOf(silhouette)
  const tallest = TALLEST * (last - first)
  const edgeAt = (row: number, r: number) => strip.weaker[row * (strip.radii + 1) + Math.round(r)] ?? 0
  for (const down of [1, -1] as const) {
    const [from, to] = down > 0 ? [first, last] : [last, first]
    const inside = (row: number) => (down > 0 ? row <= to : row >= to)
    for (let row = from + 2 * down; inside(row); row += down) {
      const before = half[row - 2 * down]!
      if (half[row]! - before < LEAST_JUMP || before === 0) continue
      const start = half[row - down]! - before < LEAST_JUMP ? row : row - down
      let end = row
      let edges = 0
      while (inside(end) && half[end]! > before + BACK) {
        edges += edgeAt(end, half[end]!)
        end += down
      }
      const rows = Math.abs(end - start)
      if (rows > tallest || edges / Math.max(1, Math.abs(end - row)) > BARE) continue
      const after = inside(end) ? half[end]! : before
      for (let k = start, n = 1; k !== end; k += down, n++)
        half[k] = before + ((after - before) * n) / (rows + 1)
    }
  }
  return { ...silhouette, half }
}
