import type { Plane } from '../picture/raster'
import type { Sharpness } from '../picture/sharpness'

/** What an edge keeps that has nothing but piece about it. */
const KEPT = Number(process.env.IL_KEPT ?? 0.4)
/** Looked about so far, px. */
const REACH = Number(process.env.IL_REACH ?? 2)
/** From this evidence on a pixel speaks clearly for the piece. */
const CLEARLY = 0.4

/**
 * Sharp edges with those damped that lie within the piece: grain, painted lines, edges of light. The outline has backdrop on
 * one side, or what may be its shadow.
 * @param evidence -1 (backdrop) to 1 (piece)
 */
export function withoutInnerLines({ x, y }: Sharpness, evidence: Plane): Sharpness {
  const least = leastAbout(evidence)
  const damp = (plane: Plane): Plane => ({
    ...plane,
    data: plane.data.map(
      (v, i) => v * (1 - (1 - KEPT) * Math.max(0, Math.min(1, (least[i]! - CLEARLY) / (1 - CLEARLY)))),
    ),
  })
  return { x: damp(x), y: damp(y) }
}

/** The least value about each pixel, along rows, then columns. */
function leastAbout({ width, height, data }: Plane): Float32Array {
  const rows = new Float32Array(data.length)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let least = Infinity
      for (let k = Math.max(0, x - REACH); k <= Math.min(width - 1, x + REACH); k++)
        least = Math.min(least, data[y * width + k]!)
      rows[y * width + x] = least
    }
  const out = new Float32Array(data.length)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let least = Infinity
      for (let k = Math.max(0, y - REACH); k <= Math.min(height - 1, y + REACH); k++)
        least = Math.min(least, rows[k * width + x]!)
      out[y * width + x] = least
    }
  return out
}
