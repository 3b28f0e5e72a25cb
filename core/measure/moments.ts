import { derivativeOn, pointOn, type Segment } from '../profile/segments'
import { GAUSS_T, GAUSS_W } from './quadrature'

/** Volume and its first moment along the axis, of what a curve encloses with the axis. */
export interface Moments {
  /** mm³; negative where the curve runs down. */
  volumeMm3: number
  /** ∫ z dV, mm⁴: divided by the volume the height of its centre. */
  momentMm4: number
}

/** Eight points integrate an eighth of a circle or of a fair cubic to rounding. */
const PARTS = 8

/** ∫ π r² dz and ∫ π r² z dz along the exact curve. Scale a piece and they scale by the third and fourth power. */
export function moments(segments: readonly Segment[]): Moments {
  let [volumeMm3, momentMm4] = [0, 0]
  for (const s of segments)
    for (let k = 0; k < PARTS; k++)
      for (let i = 0; i < GAUSS_T.length; i++) {
        const t = (k + GAUSS_T[i]!) / PARTS
        const [r, z] = pointOn(s, t)
        const disc = ((GAUSS_W[i]! * Math.PI) / PARTS) * r * r * derivativeOn(s, t)[1]
        volumeMm3 += disc
        momentMm4 += disc * z
      }
  return { volumeMm3, momentMm4 }
}
