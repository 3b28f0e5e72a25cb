import type { RowMiddle } from './silhouette'

/** A line through fewer middles isn't known. */
const LEAST_MIDDLES = 12

/** Offset c + a·v of most middles, by reweighted least squares that starts from their median. */
export function lineThroughMiddles(rows: readonly RowMiddle[]): { a: number; c: number } | null {
  if (rows.length < LEAST_MIDDLES) return null
  const offsets = rows.map((m) => m.offset).sort((p, q) => p - q)
  let line = { a: 0, c: offsets[offsets.length >> 1]! }
  for (const limit of [6, 3, 2, 1.5, 1.5, 1.5]) {
    let [w, wv, wvv, wo, wvo] = [0, 0, 0, 0, 0]
    for (const { v, offset, edge } of rows) {
      const t = (offset - line.c - line.a * v) / limit
      if (Math.abs(t) >= 1) continue
      const k = edge * (1 - t * t) ** 2
      w += k
      wv += k * v
      wvv += k * v * v
      wo += k * offset
      wvo += k * v * offset
    }
    const det = w * wvv - wv * wv
    if (!(det > 1e-6 * w * wvv)) return null
    line = { a: (w * wvo - wv * wo) / det, c: (wvv * wo - wv * wvo) / det }
  }
  return line
}
