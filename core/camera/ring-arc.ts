import { solvePositive } from '../least-squares'

/** An ellipse whose axes lie along and across the plumb line: v - v0 over b, u over a. Px. */
export interface AxisEllipse {
  v0: number
  a: number
  b: number
}

/** The arc with which the outline closes at the foot or at the rim. */
export interface ClosingArc {
  /** Points of the arc [u v ...], u across (0 on the axis), v along the axis upwards; px. */
  points: Float64Array
  /** The ellipse through it; b is 0 where the ring is seen edge-on. */
  ellipse: AxisEllipse
  /** Half-width of the arc as a share of the ellipse's: near 1 for a ring with an edge, less for a dome. */
  coverage: number
  /** Root mean square distance from the ellipse, px. */
  rms: number
}

/** Arcs lower than this are a straight row to the fit: the ring is seen edge-on. */
export const EDGE_ON_PX = 3
/** An arc that covers less of its ellipse belongs to a dome or a wide rounding, which has no ring to be measured. */
const LEAST_COVERAGE = 0.88
/** The first arc points needed before a fit says anything. */
const LEAST_POINTS = 12
/** Steps in which ever longer arcs are tried. */
const GROWTH = 1.06
/** Points nearer to the ellipse's end than this share of its half-width are where roundings begin; they aren't used. */
const KEPT = 0.95
/** So many of all points, and of the outermost tenth, must lie within the tolerance. */
const MOST_WITHIN = 0.85
const END_WITHIN = 0.6
const OUTERMOST = 0.9

/** Tolerances tried one after the other, px: an edge against the open backdrop, and ever darker contact shadows. */
const TOLERANCES = [0.4, 0.8]

/**
 * The arc of a ring of the piece with which the outline closes at one end: the image of a circle about the axis is
 * exactly an ellipse with its axes along and across the plumb line. The strictest tolerance that finds an arc covering
 * its ellipse is taken; a contact shadow needs a wider one.
 * @param halves the two sides of the outline from the crossing outwards, [u v ...] each
 * @returns null when no ring with an edge closes the outline here: a dome, a wide rounding, or a ring seen edge-on
 */
export function closingArc(halves: readonly [Float64Array, Float64Array]): ClosingArc | null {
  for (const least of TOLERANCES) {
    const arc = longestArc(halves, least)
    if (arc) return arc
  }
  return null
}

/** An ellipse rounder than this is no ring seen from the side but a dome: sin 45°. */
const ROUNDEST = 0.7
/** … so that none rises by more than this of its half-width, and by what its points may be off. */
const HIGHEST = 2 * ROUNDEST
const HIGHEST_PX = 4
/** The ellipse ends where the outline's side begins, to within this share. */
const WIDTH_FIT = 0.1
/**
 * Wider spreads than this, px, are no clean edge. Feet in a dark contact shadow spread by 1 to 2 px and give tilts
 * that are wrong by several degrees, so they are left to the hand.
 */
const MOST_SPREAD_PX = 0.3

/** True when an arc is a ring with an edge: it covers its ellipse, and the side of the piece begins where it ends. */
function isRing(arc: ClosingArc, halves: readonly [Float64Array, Float64Array]): boolean {
  const { a, b } = arc.ellipse
  if (b <= EDGE_ON_PX / 2 || b > ROUNDEST * a || arc.coverage < LEAST_COVERAGE || arc.rms > MOST_SPREAD_PX)
    return false
  const crossing = arc.points[1]!
  const reach = 2 * b + 4
  let wide = 0
  for (const half of halves)
    for (let i = 0; i < half.length && Math.abs(half[i + 1]! - crossing) <= reach; i += 2)
      wide = Math.max(wide, Math.abs(half[i]!))
  return Math.abs(a / wide - 1) <= WIDTH_FIT
}

/**
 * The longest arc about the axis crossing that is part of one ellipse, from the crossing outwards on both sides
 * at once, that most points and those at its end lie on and that is a ring with an edge.
 */
function longestArc(halves: readonly [Float64Array, Float64Array], least: number): ClosingArc | null {
  let best: ClosingArc | null = null
  for (const n of lengthsOf(halves)) if ((best = ringWith(halves, n, least))) break
  if (!best) return null
  // The last few points may already be on the rounding of the edge: fit again without them, and without strays.
  const limit = KEPT * best.ellipse.a
  const kept = best.points.filter((_, i, all) => Math.abs(all[i - (i % 2)]!) <= limit)
  const again = kept.length >= 4 * LEAST_POINTS ? fitArc(kept) : null
  if (!again || again.ellipse.b === 0) return best
  const tolerance = Math.max(least, 3 * roughness(kept))
  const points = kept.filter((_, i) => Math.abs(again.distances[i >> 1]!) <= tolerance)
  return { points, ellipse: again.ellipse, coverage: best.coverage, rms: again.rms }
}

/** Numbers of points a side of arcs that may be rings, the longest first: no ring rises higher beside its tip than it is round. */
function lengthsOf(halves: readonly [Float64Array, Float64Array]): number[] {
  const most = Math.min(halves[0].length, halves[1].length) / 2
  const lengths: number[] = []
  let wide = 0
  let i = 0
  for (let n = LEAST_POINTS; n <= most; n = Math.ceil(n * GROWTH)) {
    for (; i < n; i++) wide = Math.max(wide, Math.abs(halves[0][2 * i]!), Math.abs(halves[1][2 * i]!))
    const outermost = 2 * Math.floor(OUTERMOST * n) + 1
    const rise = Math.min(...halves.map((half) => Math.abs(half[outermost]! - half[1]!)))
    if (rise > (HIGHEST * wide) / LEAST_COVERAGE + HIGHEST_PX) break
    lengths.push(n)
  }
  return lengths.reverse()
}

/** The arc of so many points a side, if it is a ring with an edge. */
function ringWith(
  halves: readonly [Float64Array, Float64Array],
  n: number,
  least: number,
): ClosingArc | null {
  const points = join(halves, n)
  const fit = fitArc(points)
  if (!fit) return null
  const tolerance = Math.max(least, 3 * roughness(points))
  const within = (from: number) => {
    let inside = 0
    let all = 0
    for (let side = 0; side < 2; side++)
      for (let i = side * n + from; i < (side + 1) * n; i++) {
        all++
        if (Math.abs(fit.distances[i]!) <= tolerance) inside++
      }
    return inside / all
  }
  const arc = { points, ellipse: fit.ellipse, coverage: fit.coverage, rms: fit.rms }
  const isOne = within(0) >= MOST_WITHIN && within(Math.floor(OUTERMOST * n)) >= END_WITHIN
  return isOne && isRing(arc, halves) ? arc : null
}

function join([left, right]: readonly [Float64Array, Float64Array], n: number): Float64Array {
  const out = new Float64Array(4 * n)
  out.set(left.subarray(0, 2 * n), 0)
  out.set(right.subarray(0, 2 * n), 2 * n)
  return out
}

/** Noise of the points along v from their third differences, which no ellipse this large has: sd = median / 0.6745 / √20. */
function roughness(points: Float64Array): number {
  const third: number[] = []
  for (let i = 1; i + 6 < points.length; i += 2)
    third.push(Math.abs(points[i + 6]! - 3 * points[i + 4]! + 3 * points[i + 2]! - points[i]!))
  third.sort((a, b) => a - b)
  return third[third.length >> 1]! / 0.6745 / Math.sqrt(20)
}

interface ArcFit {
  ellipse: AxisEllipse
  coverage: number
  /** Robust spread of the distances, px. */
  rms: number
  distances: Float64Array
}

/**
 * Least squares of u² + B v² + C v + E = 0, which is linear and, for an arc this clean, close to the nearest ellipse;
 * reweighted twice so that strays (a speck, a contact shadow) don't bend it. Low arcs are fitted by a row.
 */
export function fitArc(points: Float64Array): ArcFit | null {
  const n = points.length / 2
  let wide = 0
  for (let i = 0; i < points.length; i += 2) wide = Math.max(wide, Math.abs(points[i]!))
  const sorted = points.filter((_, i) => i % 2 === 1).sort()
  const low = sorted[Math.floor(0.02 * n)]!
  const high = sorted[Math.floor(0.98 * (n - 1))]!
  if (high - low < EDGE_ON_PX) {
    const v0 = sorted[n >> 1]!
    const distances = Float64Array.from({ length: n }, (_, i) => points[2 * i + 1]! - v0)
    return { ellipse: { v0, a: wide, b: 0 }, coverage: 1, rms: spreadOf(distances), distances }
  }
  const vm = (low + high) / 2
  const scaleV = (high - low) / 2
  const weights = new Float64Array(n).fill(1)
  const distances = new Float64Array(n)
  const row = new Float64Array([0, 0, 1])
  let ellipse: AxisEllipse | null = null
  for (let round = 0; round < 4; round++) {
    const m = new Float64Array(9)
    const y = new Float64Array(3)
    for (let i = 0; i < n; i++) {
      const u = points[2 * i]! / wide
      const v = (points[2 * i + 1]! - vm) / scaleV
      row[0] = v * v
      row[1] = v
      for (let j = 0; j < 3; j++) {
        const weighted = weights[i]! * row[j]!
        y[j]! -= weighted * u * u
        for (let k = 0; k < 3; k++) m[3 * j + k]! += weighted * row[k]!
      }
    }
    const x = solvePositive(m, y, 3)
    if (!x) return null
    const [B, C, E] = x as unknown as [number, number, number]
    const a2 = (C * C) / (4 * B) - E
    if (!(B > 0) || !(a2 > 0)) return null
    const a = wide * Math.sqrt(a2)
    const b = scaleV * Math.sqrt(a2 / B)
    const v0 = vm - (scaleV * C) / (2 * B)
    ellipse = { v0, a, b }
    for (let i = 0; i < n; i++) {
      const u = points[2 * i]!
      const v = points[2 * i + 1]! - v0
      const g = (u * u) / (a * a) + (v * v) / (b * b) - 1
      distances[i] = g / (2 * steepness(u, v, ellipse) + 1e-12)
    }
    const limit = 4.685 * Math.max(0.05, spreadOf(distances))
    for (let i = 0; i < n; i++) {
      const t = distances[i]! / limit
      // Algebraic residuals grow with the gradient; dividing by it makes them distances (Sampson's weighting).
      const slope = a * a * steepness(points[2 * i]!, points[2 * i + 1]! - v0, ellipse)
      weights[i] = Math.abs(t) < 1 ? ((1 - t * t) ** 2 * a * a) / (slope * slope + 1e-9 * a * a) : 0
    }
  }
  const { a } = ellipse!
  return { ellipse: ellipse!, coverage: Math.min(1, wide / a), rms: spreadOf(distances), distances }
}

/** Half the gradient of u² / a² + v² / b², v from the ellipse's middle; `Math.hypot` would take much longer. */
function steepness(u: number, v: number, { a, b }: AxisEllipse): number {
  return Math.sqrt((u / (a * a)) ** 2 + (v / (b * b)) ** 2)
}

function spreadOf(distances: Float64Array): number {
  const sizes = distances.map(Math.abs).sort()
  return 1.4826 * sizes[sizes.length >> 1]!
}
