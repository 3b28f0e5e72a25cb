import type { Plane } from '../picture/raster'
import type { Sharpness } from '../picture/sharpness'
import { leastAbout } from './opened'

/** What an edge keeps that has nothing but piece about it. */
const KEPT = 0.4
/** Looked about so far, px. */
const REACH = 2
/** From this evidence on a pixel speaks clearly for the piece. */
const CLEARLY = 0.4
/** Where the evidence goes from so much for the piece to so much for the backdrop within two px, it has an edge worth this. */
const PIECE = 0.6
const BACKDROP = -0.3
const WORTH = 0.7

/**
 * Sharp edges as the evidence before a plain backdrop sees them. Those that lie within the piece (grain, painted lines, edges of
 * light) are damped: the outline has backdrop on one side, or what may be its shadow. Where piece ends at backdrop there is an
 * edge, however faint it is beside the grain.
 * @param evidence -1 (backdrop) to 1 (piece), what may be shadow held back
 */
export function outerEdges({ x, y }: Sharpness, evidence: Plane): Sharpness {
  const least = leastAbout(evidence, REACH)
  const of = (sharp: Plane, stride: number): Plane => ({
    ...sharp,
    data: sharp.data.map((v, i) => {
      const inner = Math.max(0, Math.min(1, (least[i]! - CLEARLY) / (1 - CLEARLY)))
      const [p, q] = [evidence.data[i - stride] ?? 0, evidence.data[i + stride] ?? 0]
      const ends = Math.max(p, q) >= PIECE && Math.min(p, q) <= BACKDROP
      return Math.max(v * (1 - (1 - KEPT) * inner), ends ? WORTH : 0)
    }),
  })
  return { x: of(x, 1), y: of(y, evidence.width) }
}
