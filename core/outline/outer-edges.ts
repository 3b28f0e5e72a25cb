import type { Plane } from '../picture/raster'
import type { Sharpness } from '../picture/sharpness'

/** What an edge keeps that has nothing but piece about it. */
const KEPT = Number(process.env.IL_KEPT ?? 0.4)
/** Looked about so far, px. */
const REACH = 2
/** From this evidence on a pixel speaks clearly for the piece. */
const CLEARLY = 0.4
/** Where the evidence goes from so much for the piece to so much for the backdrop within two px, it has an edge worth this. */
const PIECE = 0.6
const BACKDROP = -0.3
const WORTH = Number(process.env.IL_WORTH ?? 0.7)
/** … if there is any step at all: a body that shades off through the backdrop's colour has none. */
const FAINT = Number(process.env.IL_FAINT ?? 0)

/**
 * Sharp edges as the evidence before a plain backdrop sees them. Those that lie within the piece (grain, painted lines, edges of
 * light) are damped: the outline has backdrop on one side, or what may be its shadow. Where piece ends at backdrop there is an
 * edge, however faint it is beside the grain.
 * @param evidence -1 (backdrop) to 1 (piece), what may be shadow held back
 */
export function outerEdges({ x, y }: Sharpness, evidence: Plane): Sharpness {
  const least = leastAbout(evidence)
  const of = (sharp: Plane, stride: number): Plane => ({
    ...sharp,
    data: sharp.data.map((v, i) => {
      const inner = Math.max(0, Math.min(1, (least[i]! - CLEARLY) / (1 - CLEARLY)))
      const [p, q] = [evidence.data[i - stride] ?? 0, evidence.data[i + stride] ?? 0]
      const ends = Math.max(p, q) >= PIECE && Math.min(p, q) <= BACKDROP
      const stands = Math.max(v, sharp.data[i - stride] ?? 0, sharp.data[i + stride] ?? 0) >= FAINT
      return Math.max(v * (1 - (1 - KEPT) * inner), ends && stands ? WORTH : 0)
    }),
  })
  return { x: of(x, 1), y: of(y, evidence.width) }
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
