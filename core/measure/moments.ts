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
  let [volumeMm3, momentMm4] = [0, 0]
  for (const segment of segments) {
    const own = share ? integral(segment, SQUEEZED_PARTS, share) : roundMoments(segment)
    volumeMm3 += own.volumeMm3
    momentMm4 += own.momentMm4
  }
  return { volumeMm3, momentMm4 }
}

/** Segments never change in place, so each is integrated once. */
const ROUND = new WeakMap<Segment, Moments>()

function roundMoments(segment: Segment): Moments {
  const known = ROUND.get(segment)
  if (known) return known
  const own = integral(segment, PARTS, () => 1)
  ROUND.set(segment, own)
  return own
}

function integral(segment: Segment, parts: number, share: (z: number) => number): Moments {
  let [volumeMm3, momentMm4] = [0, 0]
  for (let k = 0; k < parts; k++)
    for (let i = 0; i < GAUSS_T.length; i++) {
      const t = (k + GAUSS_T[i]!) / parts
      const [r, z] = pointOn(segment, t)
      const disc = ((GAUSS_W[i]! * Math.PI) / parts) * r * r * derivativeOn(segment, t)[1] * share(z)
      volumeMm3 += disc
      momentMm4 += disc * z
    }
  return { volumeMm3, momentMm4 }
}
