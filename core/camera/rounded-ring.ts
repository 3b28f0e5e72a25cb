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
const SETTLED = 1e-6
/** No place of the half that is seen lies farther round, radians. */
const ROUND_MOST = { cos: Math.cos(1.7), sin: Math.sin(1.7) }
/** Its slopes need the nearest place itself; far from it they are difference quotients over this step. */
const NEARLY_SETTLED = 1e-4
const STEP = 1e-7

/**
 * How far a ray passes outside (positive) the edge it should graze, as an angle: the ray touches the tube when its
 * distance from the circle is the rounding, which holds exactly for a torus (own derivation). Nearest place of the
 * circle by Newton's method on the half that the outline shows: at the foot the near half when it is seen from above.
 * @param d direction of the ray, of any length
 * @param slopes becomes how the miss changes with r, z and rounding
 */
export function grazingMiss(
  d: Vec,
  { r, z, rounding }: RoundedRing,
  end: End,
  slopes?: { [i: number]: number },
): number {
  const length = Math.sqrt(d[0] * d[0] + d[1] * d[1] + d[2] * d[2])
  const x = d[0] / length
  const y = d[1] / length
  const w = d[2] / length
  const near = end === 'foot' ? z < 0 : z >= 0
  const front = near ? 1 : -1
  // Angle φ of the circle's place nearest to the ray (0: on the axis, front or back); first the place as far aside:
  // r sin φ = m (1 - front r cos φ).
  const m = x / y
  const per = 1 / Math.sqrt(1 + m * m)
  const most = (m * per) / (r + 1e-12 * per)
  const sine = most > 1 ? 1 : most < -1 ? -1 : most
  const cosine = Math.sqrt(1 - sine * sine)
  // That is φ = arcsin(sine) - arctan(front m); turned by sines and cosines, since this runs some millions of times a picture.
  let s = per * (sine - front * m * cosine)
  let c = per * (cosine + front * m * sine)
  let px = 0
  let py = 0
  let along = 0
  let settled = false
  for (let k = 0; k <= NEWTON; k++) {
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
    settled = Math.abs(step) < NEARLY_SETTLED
    if (Math.abs(step) < SETTLED) break
    const back = Math.min(MOST_STEP, Math.max(-MOST_STEP, step))
    const norm = 1 / Math.sqrt(1 + back * back)
    const turned = norm * (s - back * c)
    c = norm * (c + back * s)
    s = turned
    if (c < ROUND_MOST.cos) {
      c = ROUND_MOST.cos
      s = s < 0 ? -ROUND_MOST.sin : ROUND_MOST.sin
    }
  }
  // From the circle to the ray.
  const ox = along * x - px
  const oy = along * y - py
  const oz = along * w - z
  const distance = Math.sqrt(ox * ox + oy * oy + oz * oz)
  const outwards = ox * s - front * oy * c + (end === 'foot' ? -oz : oz)
  const ahead = Math.max(along, 0.05)
  const miss = ((outwards < 0 ? -distance : distance) - rounding) / ahead
  if (slopes && settled) {
    // Nearest places move along ray and circle, which changes no distance. The ray passes the circle across both, however
    // near it comes.
    const ux = -front * s * w
    const uy = c * w
    const uz = front * s * x - c * y
    const out = ux * s - front * uy * c + (end === 'foot' ? -uz : uz)
    const scale = 1 / (Math.sqrt(ux * ux + uy * uy + uz * uz) * (out < 0 ? -ahead : ahead))
    slopes[0] = -(ux * s - front * uy * c) * scale
    slopes[1] = -uz * scale
    slopes[2] = -1 / ahead
  } else if (slopes) {
    const at = (dr: number, dz: number) => grazingMiss(d, { r: r + dr, z: z + dz, rounding }, end)
    slopes[0] = (at(STEP, 0) - at(-STEP, 0)) / (2 * STEP)
    slopes[1] = (at(0, STEP) - at(0, -STEP)) / (2 * STEP)
    slopes[2] = -1 / ahead
  }
  return miss
}
