import { derivativeOn, pointOn, type Segment } from '../profile/segments'
import type { Turn } from '../solid/revolve'
import { moments } from './moments'
import { profileMeasures } from './profile-measures'
import { GAUSS_T, GAUSS_W } from './quadrature'

/** What a solid encloses and shows. */
export interface Quantities {
  volumeMm3: number
  areaMm2: number
  /** Centre of gravity, filled evenly, mm. */
  centre: [number, number, number]
}

/** Eight points integrate an eighth of a circle or of a fair cubic to rounding. */
const PARTS = 8

/**
 * Volume, surface and centre of gravity of the exact body that a closed half-profile makes, all round or over a part of a turn
 * that flat ends close. A wedge of the angle 2a has the centre of its section's second moment on its middle plane:
 * x = (2 sin a ∫ r³/3 dz) / (a ∫ r² dz), closed form.
 */
export function bodyQuantities(segments: readonly Segment[], turn?: Turn | null): Quantities {
  const { volumeMm3, areaMm2 } = profileMeasures(segments)
  const { momentMm4 } = moments(segments)
  const z = momentMm4 / volumeMm3
  if (!turn || turn.sweep >= 2 * Math.PI) return { volumeMm3, areaMm2, centre: [0, 0, z] }
  const share = turn.sweep / (2 * Math.PI)
  const half = turn.sweep / 2
  const { sectionMm2, thirdMm4 } = sectionOf(segments)
  const aside = (2 * Math.sin(half) * thirdMm4) / (share * volumeMm3)
  const middle = turn.start + half
  return {
    volumeMm3: share * volumeMm3,
    areaMm2: share * areaMm2 + 2 * sectionMm2,
    centre: [aside * Math.cos(middle), aside * Math.sin(middle), z],
  }
}

/** Of the surface between a closed curve and the axis: its area ∫ r dz, and ∫ r³/3 dz. */
function sectionOf(segments: readonly Segment[]): { sectionMm2: number; thirdMm4: number } {
  let [sectionMm2, thirdMm4] = [0, 0]
  for (const s of segments)
    for (let k = 0; k < PARTS; k++)
      for (let i = 0; i < GAUSS_T.length; i++) {
        const t = (k + GAUSS_T[i]!) / PARTS
        const r = pointOn(s, t)[0]
        const dz = (GAUSS_W[i]! / PARTS) * derivativeOn(s, t)[1]
        sectionMm2 += r * dz
        thirdMm4 += (r ** 3 / 3) * dz
      }
  return { sectionMm2, thirdMm4 }
}
