import type { Vec } from './view'

/**
 * The rounded edge with which a piece ends at its foot or its top: a tube of radius `rounding` about a circle. A sharp
 * edge has no rounding, a dome no circle. Lengths in camera distances, the eye at (0, -1, 0).
 */
export interface RoundedRing {
  /** Radius of the circle in the tube's middle, and its height against the eye. */
  r: number
  z: number
  rounding: number
}

/** Which way the piece ends there. */
export type End = 'foot' | 'top'

const NEWTON = 4
const MOST_STEP = 0.2
/** The distance changes with the square of what is missing to the nearest place, radians. */
const SETTLED = 1e-9

function arcsine(v: number): number {
  return Math.asin(v > 1 ? 1 : v < -1 ? -1 : v)
}

/**
 * How far a ray passes outside (positive) the edge it should graze, as an angle: the ray touches the tube when its
 * distance from the circle is the rounding, which holds exactly for a torus (own derivation). Nearest place of the
 * circle by Newton's method on the half that the outline shows: at the foot the near half when it is seen from above.
 * @param d direction of the ray, of any length
 */
export function grazingMiss(d: Vec, { r, z, rounding }: RoundedRing, end: End): number {
  const length = Math.sqrt(d[0] * d[0] + d[1] * d[1] + d[2] * d[2])
  const x = d[0] / length
  const y = d[1] / length
  const w = d[2] / length
  const near = end === 'foot' ? z < 0 : z >= 0
  const front = near ? 1 : -1
  // Angle φ of the circle's place nearest to the ray (0: on the axis, front or back); first the place as far aside:
  // r sin φ = m (1 - front r cos φ).
  const m = x / y
  let phi = arcsine(m / (r * Math.sqrt(1 + m * m) + 1e-12)) - Math.atan(front * m)
  let px = 0
  let py = 0
  let along = 0
  let s = 0
  let c = 0
  for (let k = 0; k <= NEWTON; k++) {
    s = Math.sin(phi)
    c = Math.cos(phi)
    px = r * s
    py = 1 - front * r * c
    along = px * x + py * y + z * w
    if (k === NEWTON) break
    const qx = r * c
    const qy = front * r * s
    const alongSlope = qx * x + qy * y
    const slope = px * qx + py * qy - along * alongSlope
    const bend =
      qx * qx +
      qy * qy +
      px * -px +
      py * front * r * c -
      alongSlope ** 2 -
      along * (-px * x + front * r * c * y)
    const step = bend > 0 ? slope / bend : Math.sign(slope) * MOST_STEP
    if (Math.abs(step) < SETTLED) break
    phi = Math.min(1.7, Math.max(-1.7, phi - Math.min(MOST_STEP, Math.max(-MOST_STEP, step))))
  }
  // From the circle to the ray.
  const ox = along * x - px
  const oy = along * y - py
  const oz = along * w - z
  const distance = Math.sqrt(ox * ox + oy * oy + oz * oz)
  const outwards = ox * s - front * oy * c + (end === 'foot' ? -oz : oz)
  return ((outwards < 0 ? -distance : distance) - rounding) / Math.max(along, 0.05)
}
