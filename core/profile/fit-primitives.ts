import { solvePositive } from '../least-squares'
import type { Cubic } from './hobby'
import { derivativeAt, pointAt } from './segments'

/** A chain of points, mm. */
export interface Chain {
  r: Float64Array
  z: Float64Array
}

/** A shape that a run of points lies on; lines and circles without their ends. */
export type Primitive =
  | { kind: 'line'; at: readonly [number, number]; along: readonly [number, number] }
  | { kind: 'arc'; centre: readonly [number, number]; radius: number }
  | { kind: 'cubic'; cubic: Cubic }

/** Line through the points from..to (inclusive) with the least squared distances; null for a single place. */
export function fitLine({ r, z }: Chain, from: number, to: number): Primitive | null {
  const n = to - from + 1
  let [mr, mz] = [0, 0]
  for (let i = from; i <= to; i++) {
    mr += r[i]! / n
    mz += z[i]! / n
  }
  let [rr, rz, zz] = [0, 0, 0]
  for (let i = from; i <= to; i++) {
    const [a, b] = [r[i]! - mr, z[i]! - mz]
    rr += a * a
    rz += a * b
    zz += b * b
  }
  if (rr + zz === 0) return null
  const angle = Math.atan2(2 * rz, rr - zz) / 2
  return { kind: 'line', at: [mr, mz], along: [Math.cos(angle), Math.sin(angle)] }
}

const TAUBIN_ROUNDS = 20

/**
 * Circle through the points from..to after G. Taubin (IEEE PAMI 13, 1991, 1115-1138), in N. Chernov's form by Newton's
 * method from nought (Circular and Linear Regression, 2010, section 5.10): short noisy arcs aren't drawn to small
 * radii as by the plain algebraic fit. Null where the points are as good as straight.
 */
export function fitCircle({ r, z }: Chain, from: number, to: number): Primitive | null {
  const n = to - from + 1
  if (n < 4) return null
  let [mr, mz] = [0, 0]
  for (let i = from; i <= to; i++) {
    mr += r[i]! / n
    mz += z[i]! / n
  }
  let [xx, yy, xy, xq, yq, qq] = [0, 0, 0, 0, 0, 0]
  for (let i = from; i <= to; i++) {
    const [x, y] = [r[i]! - mr, z[i]! - mz]
    const q = x * x + y * y
    xx += (x * x) / n
    yy += (y * y) / n
    xy += (x * y) / n
    xq += (x * q) / n
    yq += (y * q) / n
    qq += (q * q) / n
  }
  const m = xx + yy
  const cov = xx * yy - xy * xy
  const spread = qq - m * m
  const a3 = 4 * m
  const a2 = -3 * m * m - qq
  const a1 = spread * m + 4 * cov * m - xq * xq - yq * yq
  const a0 = xq * (xq * yy - yq * xy) + yq * (yq * xx - xq * xy) - spread * cov
  let root = 0
  for (let k = 0; k < TAUBIN_ROUNDS; k++) {
    const value = a0 + root * (a1 + root * (a2 + root * a3))
    const slope = a1 + root * (2 * a2 + 3 * root * a3)
    const next = root - value / slope
    if (!(next >= 0) || Math.abs(next - root) <= 1e-14 * m) break
    root = next
  }
  const det = 2 * (root * root - root * m + cov)
  if (!(Math.abs(det) > 1e-12 * m * m)) return null
  const cx = (xq * (yy - root) - yq * xy) / det
  const cy = (yq * (xx - root) - xq * xy) / det
  const radius = Math.sqrt(cx * cx + cy * cy + m)
  return Number.isFinite(radius) ? { kind: 'arc', centre: [cx + mr, cy + mz], radius } : null
}

const CUBIC_ROUNDS = 4
/** A cubic is fitted to so many of its points at most. */
const CUBIC_POINTS = 48

/** Cubic through the points from..to by least squares: by chord length first, then at each point's nearest place. */
export function fitCubic({ r, z }: Chain, from: number, to: number): Primitive | null {
  if (to - from < 4) return null
  const stride = Math.max(1, Math.floor((to - from) / CUBIC_POINTS))
  const at: number[] = []
  for (let i = from; i < to; i += stride) at.push(i)
  at.push(to)
  const t = new Float64Array(at.length)
  for (let k = 1; k < at.length; k++)
    t[k] = t[k - 1]! + Math.hypot(r[at[k]!]! - r[at[k - 1]!]!, z[at[k]!]! - z[at[k - 1]!]!)
  const length = t[t.length - 1]!
  if (length === 0) return null
  for (let k = 0; k < t.length; k++) t[k] = t[k]! / length
  let cubic: Cubic | null = null
  for (let round = 0; round < CUBIC_ROUNDS; round++) {
    if (cubic) for (let k = 1; k + 1 < at.length; k++) t[k] = nearestOn(cubic, r[at[k]!]!, z[at[k]!]!, t[k]!)
    const ata = new Float64Array(16)
    const [br, bz] = [new Float64Array(4), new Float64Array(4)]
    for (let k = 0; k < at.length; k++) {
      const [u, v] = [t[k]!, 1 - t[k]!]
      const basis = [v * v * v, 3 * v * v * u, 3 * v * u * u, u * u * u]
      for (let a = 0; a < 4; a++) {
        br[a]! += basis[a]! * r[at[k]!]!
        bz[a]! += basis[a]! * z[at[k]!]!
        for (let b = 0; b < 4; b++) ata[4 * a + b]! += basis[a]! * basis[b]!
      }
    }
    const [cr, cz] = [solvePositive(ata, br, 4), solvePositive(ata, bz, 4)]
    if (!cr || !cz) return null
    cubic = [cr[0]!, cz[0]!, cr[1]!, cz[1]!, cr[2]!, cz[2]!, cr[3]!, cz[3]!]
  }
  return { kind: 'cubic', cubic: cubic! }
}

/** Parameter of the place of a cubic nearest to a point, by two Newton steps from a guess. */
export function nearestOn(c: Cubic, r: number, z: number, guess: number): number {
  let t = guess
  for (let k = 0; k < 2; k++) {
    const [p, q] = pointAt(c, t)
    const [dr, dz] = derivativeAt(c, t)
    const [er, ez] = [p - r, q - z]
    const [sr, sz] = secondAt(c, t)
    const slope = dr * dr + dz * dz + Math.max(0, er * sr + ez * sz)
    if (slope === 0) return t
    t = Math.min(1, Math.max(0, t - (er * dr + ez * dz) / slope))
  }
  return t
}

function secondAt(c: Cubic, t: number): [number, number] {
  const s = 1 - t
  return [
    6 * s * (c[4] - 2 * c[2] + c[0]) + 6 * t * (c[6] - 2 * c[4] + c[2]),
    6 * s * (c[5] - 2 * c[3] + c[1]) + 6 * t * (c[7] - 2 * c[5] + c[3]),
  ]
}

/** Signed distances of the points from..to, positive to the right of the way. */
export function distancesFrom(shape: Primitive, { r, z }: Chain, from: number, to: number): Float64Array {
  const out = new Float64Array(to - from + 1)
  if (shape.kind === 'line') {
    const [dr, dz] = shape.along
    for (let i = from; i <= to; i++)
      out[i - from] = (r[i]! - shape.at[0]) * dz - (z[i]! - shape.at[1]) * dr
  } else if (shape.kind === 'arc') {
    const { centre, radius } = shape
    for (let i = from; i <= to; i++) out[i - from] = Math.hypot(r[i]! - centre[0], z[i]! - centre[1]) - radius
  } else {
    let t = 0
    for (let i = from; i <= to; i++) {
      // Points run along the curve, so each starts from the place of the one before.
      t = nearestOn(shape.cubic, r[i]!, z[i]!, Math.max(t, (i - from) / (to - from + 1)))
      const [p, q] = pointAt(shape.cubic, t)
      const [dr, dz] = derivativeAt(shape.cubic, t)
      out[i - from] = ((r[i]! - p) * dz - (z[i]! - q) * dr) / (Math.hypot(dr, dz) || 1)
    }
  }
  return out
}

/** Largest mean of `window` neighbouring distances: what is off beyond the noise of single points. */
export function largestOf(distances: Float64Array, window: number): { most: number; where: number } {
  const w = Math.min(window, distances.length)
  let [sum, most, where] = [0, 0, 0]
  for (let i = 0; i < distances.length; i++) {
    sum += distances[i]! - (i >= w ? distances[i - w]! : 0)
    if (i >= w - 1 && Math.abs(sum / w) > most) {
      most = Math.abs(sum / w)
      where = i - (w >> 1)
    }
  }
  return { most, where }
}
