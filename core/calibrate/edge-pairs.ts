import type { PicturePoint } from '../conventions'
import { bestLine } from '../line-fit'

/** A left and a right edge point at about one height; the axis passes midway between them. */
export interface EdgePair {
  id: string
  left: PicturePoint
  right: PicturePoint
}

export interface PairAxis {
  foot: PicturePoint
  top: PicturePoint
  /** Distance of each pair's middle from the line, px, positive to the right of the upright piece. */
  residuals: number[]
  /** Standard error of the direction, radians; Infinity for two pairs, which nothing checks. */
  sdAngle: number
}

/**
 * The axis by the midpoint rule: the best line (total least squares) through the middles of the pairs.
 * @param up rough direction of the axis in the picture
 * @returns null for fewer than two pairs, or pairs at one height
 */
export function axisFromPairs(pairs: readonly EdgePair[], up: PicturePoint): PairAxis | null {
  const n = pairs.length
  if (n < 2) return null
  const middles = pairs.map(({ left, right }) => ({ x: (left.x + right.x) / 2, y: (left.y + right.y) / 2 }))
  const { x: mx, y: my, angle } = bestLine(middles)
  let ux = Math.cos(angle)
  let uy = Math.sin(angle)
  if (ux * up.x + uy * up.y < 0) {
    ux = -ux
    uy = -uy
  }
  const along = middles.map((p) => (p.x - mx) * ux + (p.y - my) * uy)
  const low = Math.min(...along)
  const high = Math.max(...along)
  if (high - low < LEAST_SPAN_PX) return null
  const residuals = middles.map((p) => -(p.x - mx) * uy + (p.y - my) * ux)
  const squares = residuals.reduce((s, r) => s + r * r, 0)
  const lever = along.reduce((s, v) => s + v * v, 0)
  return {
    foot: { x: mx + low * ux, y: my + low * uy },
    top: { x: mx + high * ux, y: my + high * uy },
    residuals,
    sdAngle: n > 2 ? Math.sqrt(squares / (n - 2) / lever) : Infinity,
  }
}

/** Pairs must span this much along the axis, px: half a pixel at each end is then a degree. */
const LEAST_SPAN_PX = 30
