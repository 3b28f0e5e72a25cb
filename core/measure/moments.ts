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
/** A share along the height is as smooth as its levels let it be. */
const SQUEEZED_PARTS = 48

/**
 * ∫ π r² dz and ∫ π r² z dz along the exact curve. Scale a piece and they scale by the third and fourth power.
 * @param share of each section that is there, by height: of what was squeezed out of round
 */
export function moments(segments: readonly Segment[], share?: (z: number) => number): Moments {
  const parts = share ? SQUEEZED_PARTS : PARTS
  let [volumeMm3, momentMm4] = [0, 0]
  for (const s of segments)
    for (let k = 0; k < parts; k++)
      for (let i = 0; i < GAUSS_T.length; i++) {
        const t = (k + GAUSS_T[i]!) / parts
        const [r, z] = pointOn(s, t)
        const disc =
          ((GAUSS_W[i]! * Math.PI) / parts) * r * r * derivativeOn(s, t)[1] * (share ? share(z) : 1)
        volumeMm3 += disc
        momentMm4 += disc * z
      }
  return { volumeMm3, momentMm4 }
}
