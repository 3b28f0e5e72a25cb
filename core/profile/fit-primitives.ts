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

/** A fit looks at so many of its points at most. */
const MOST_POINTS = 80

/** Indices from..to (inclusive), thinned evenly to so many. */
export function thinned(from: number, to: number, most = MOST_POINTS): Int32Array {
  const n = Math.min(most, to - from + 1)
  const out = new Int32Array(n)
  for (let k = 0; k < n; k++) out[k] = n === 1 ? from : from + Math.round(((to - from) * k) / (n - 1))
  return out
}

/** Line through some points of a chain with the least squared distances; null for a single place. */
export function fitLine({ r, z }: Chain, at: Int32Array): Primitive | null {
  const n = at.length
  let [mr, mz] = [0, 0]
  for (const i of at) {
    mr += r[i]! / n
    mz += z[i]! / n
  }
  let [rr, rz, zz] = [0, 0, 0]
  for (const i of at) {
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
 * Circle through some points of a chain after G. Taubin (IEEE PAMI 13, 1991, 1115-1138), in N. Chernov's form by Newton's
 * method from nought (Circular and Linear Regression, 2010, section 5.10): short noisy arcs aren't drawn to small
 * radii as by the plain algebraic fit. Null where the points are as good as straight.
 */
export function fitCircle({ r, z }: Chain, at: Int32Array): Primitive | null {
  const n = at.length
  if (n < 4) return null
  let [mr, mz] = [0, 0]
  for (const i of at) {
    mr += r[i]! / n
    mz += z[i]! / n
  }
  let [xx, yy, xy, xq, yq, qq] = [0, 0, 0, 0, 0, 0]
  for (const i of at) {
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

/** A cubic is fitted to so many of its points at most, */
const CUBIC_POINTS = 28
/** … by so many rounds of Gauss and Newton after the first guess. */
const CUBIC_ROUNDS = 3
/** Share of the normal matrix's diagonal that keeps control points from running along the curve, where nothing holds them. */
const CUBIC_DAMPING = 1e-6

/** Cubic through some points of a chain with the least squared distances, its ends near the first and the last one. */
export function fitCubic({ r, z }: Chain, all: Int32Array): Primitive | null {
  if (all.length < 5) return null
  const at = thinned(0, all.length - 1, CUBIC_POINTS).map((k) => all[k]!)
  const n = at.length
  const t = new Float64Array(n)
  for (let k = 1; k < n; k++)
    t[k] = t[k - 1]! + Math.hypot(r[at[k]!]! - r[at[k - 1]!]!, z[at[k]!]! - z[at[k - 1]!]!)
  const length = t[n - 1]!
  if (length === 0) return null
  for (let k = 0; k < n; k++) t[k] = t[k]! / length
  let cubic = byParameters({ r, z }, at, t)
  for (let round = 0; round < CUBIC_ROUNDS && cubic; round++) {
    for (let k = 1; k + 1 < n; k++) t[k] = nearestOn(cubic, r[at[k]!]!, z[at[k]!]!, t[k]!)
    cubic = byDistances({ r, z }, at, t, cubic)
  }
  return cubic && { kind: 'cubic', cubic }
}

const basisAt = (t: number) => [(1 - t) ** 3, 3 * (1 - t) ** 2 * t, 3 * (1 - t) * t * t, t ** 3]

/** The cubic nearest to points at given parameters. */
function byParameters({ r, z }: Chain, at: Int32Array, t: Float64Array): Cubic | null {
  const ata = new Float64Array(16)
  const [br, bz] = [new Float64Array(4), new Float64Array(4)]
  at.forEach((i, k) => {
    const basis = basisAt(t[k]!)
    for (let a = 0; a < 4; a++) {
      br[a]! += basis[a]! * r[i]!
      bz[a]! += basis[a]! * z[i]!
      for (let b = 0; b < 4; b++) ata[4 * a + b]! += basis[a]! * basis[b]!
    }
  })
  const [cr, cz] = [solvePositive(ata, br, 4), solvePositive(ata, bz, 4)]
  return cr && cz && [cr[0]!, cz[0]!, cr[1]!, cz[1]!, cr[2]!, cz[2]!, cr[3]!, cz[3]!]
}

/** One step of Gauss and Newton on the distances across the curve; at the ends also along it. */
function byDistances({ r, z }: Chain, at: Int32Array, t: Float64Array, c: Cubic): Cubic | null {
  const ata = new Float64Array(64)
  const atb = new Float64Array(8)
  const row = new Float64Array(8)
  at.forEach((i, k) => {
    const basis = basisAt(t[k]!)
    const [p, q] = pointAt(c, t[k]!)
    const [dr, dz] = derivativeAt(c, t[k]!)
    const size = Math.hypot(dr, dz) || 1
    const end = k === 0 || k === at.length - 1
    for (const [nr, nz] of end
      ? ([
          [1, 0],
          [0, 1],
        ] as const)
      : ([[dz / size, -dr / size]] as const)) {
      // prettier-ignore
      for (let a = 0; a < 4; a++) {
        row[2 * a] = basis[a]! * nr
        row[2 * a + 1] = basis[a]! * nz
      }
      const off = (r[i]! - p) * nr + (z[i]! - q) * nz
      for (let a = 0; a < 8; a++) {
        atb[a]! += row[a]! * off
        for (let b = 0; b < 8; b++) ata[8 * a + b]! += row[a]! * row[b]!
      }
    }
  })
  let trace = 0
  for (let a = 0; a < 8; a++) trace += ata[9 * a]!
  for (let a = 0; a < 8; a++) ata[9 * a]! += CUBIC_DAMPING * trace
  const step = solvePositive(ata, atb, 8)
  return step && (c.map((v, a) => v + step[a]!) as Cubic)
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

/** Signed distances of some points of a chain, in its order, positive to the right of the way. */
export function distancesFrom(shape: Primitive, { r, z }: Chain, at: Int32Array): Float64Array {
  const n = at.length
  const out = new Float64Array(n)
  if (shape.kind === 'line') {
    const [dr, dz] = shape.along
    for (let k = 0; k < n; k++) out[k] = (r[at[k]!]! - shape.at[0]) * dz - (z[at[k]!]! - shape.at[1]) * dr
  } else if (shape.kind === 'arc') {
    const [cr, cz] = shape.centre
    for (let k = 0; k < n; k++) {
      const [dr, dz] = [r[at[k]!]! - cr, z[at[k]!]! - cz]
      out[k] = Math.sqrt(dr * dr + dz * dz) - shape.radius
    }
  } else {
    let t = 0
    for (let k = 0; k < n; k++) {
      // Points run along the curve, so each starts from the place of the one before.
      t = nearestOn(shape.cubic, r[at[k]!]!, z[at[k]!]!, Math.max(t, k / n))
      const [p, q] = pointAt(shape.cubic, t)
      const [dr, dz] = derivativeAt(shape.cubic, t)
      out[k] = ((r[at[k]!]! - p) * dz - (z[at[k]!]! - q) * dr) / (Math.hypot(dr, dz) || 1)
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
