/**
 * Interpolating splines after J. D. Hobby, "Smooth, Easy to Compute Interpolating Splines",
 * Discrete & Computational Geometry 1 (1986) 123-140, with all tensions 1. Chosen over Catmull-Rom
 * because unevenly spaced clicks stay fair: a circle clicked at random angles comes out round.
 */

/** Direction of the curve at an end of the chain: an angle in radians, or `free` (curl 1). */
export type EndDirection = number | 'free'

/** One cubic: [x0 y0 x1 y1 x2 y2 x3 y3]. */
export type Cubic = [number, number, number, number, number, number, number, number]

/** How a spline leaves and reaches the ends of one of its parts: angles in radians against the chord, to the left and to the right. */
export interface HobbyPart {
  leaves: number
  reaches: number
}

/**
 * The cubics through a chain of at least two distinct consecutive points.
 * @param points flat [x0 y0 x1 y1 ...]
 */
export function hobbyChain(points: readonly number[], start: EndDirection, end: EndDirection): Cubic[] {
  return hobbyParts(points, start, end).map((part, k) =>
    hobbyCubic(points[2 * k]!, points[2 * k + 1]!, points[2 * k + 2]!, points[2 * k + 3]!, part),
  )
}

/** The angles of all parts of the spline through a chain of points, without its cubics. */
export function hobbyParts(points: readonly number[], start: EndDirection, end: EndDirection): HobbyPart[] {
  const n = points.length / 2 - 1
  const d = new Array<number>(n)
  const chord = new Array<number>(n)
  for (let k = 0; k < n; k++) {
    const [dx, dy] = [points[2 * k + 2]! - points[2 * k]!, points[2 * k + 3]! - points[2 * k + 1]!]
    d[k] = Math.sqrt(dx * dx + dy * dy)
    chord[k] = Math.atan2(dy, dx)
  }
  /** psi[k]: turn of the chords at knot k; 0 at both ends. */
  const psi = new Array<number>(n + 1).fill(0)
  for (let k = 1; k < n; k++) psi[k] = wrap(chord[k]! - chord[k - 1]!)
  const theta = solveAngles(d, psi, chord, start, end)
  return d.map((_, k) => ({ leaves: theta[k]!, reaches: -psi[k + 1]! - theta[k + 1]! }))
}

/** The cubic of one part from (x0, y0) to (x3, y3). */
export function hobbyCubic(x0: number, y0: number, x3: number, y3: number, part: HobbyPart): Cubic {
  const { leaves, reaches } = part
  const [dx, dy] = [x3 - x0, y3 - y0]
  const d = Math.sqrt(dx * dx + dy * dy)
  const out = velocity(leaves, reaches) * d
  const into = velocity(reaches, leaves) * d
  const chord = Math.atan2(dy, dx)
  const [a, b] = [chord + leaves, chord - reaches]
  return [
    x0, y0,
    x0 + out * Math.cos(a), y0 + out * Math.sin(a),
    x3 - into * Math.cos(b), y3 - into * Math.sin(b),
    x3, y3,
  ] // prettier-ignore
}

/** Leaving angles theta at the knots, relative to the chords: a tridiagonal system (Thomas algorithm). */
function solveAngles(
  d: readonly number[],
  psi: readonly number[],
  chord: readonly number[],
  start: EndDirection,
  end: EndDirection,
): number[] {
  const n = d.length
  if (n === 1 && start === 'free' && end === 'free') return [0, 0]
  const lower = new Array<number>(n + 1).fill(0)
  const diag = new Array<number>(n + 1).fill(1)
  const upper = new Array<number>(n + 1).fill(0)
  const right = new Array<number>(n + 1).fill(0)
  if (start === 'free') {
    upper[0] = 1
    right[0] = -psi[1]!
  } else right[0] = wrap(start - chord[0]!)
  for (let k = 1; k < n; k++) {
    lower[k] = 1 / d[k - 1]!
    diag[k] = 2 / d[k - 1]! + 2 / d[k]!
    upper[k] = 1 / d[k]!
    right[k] = (-2 * psi[k]!) / d[k - 1]! - psi[k + 1]! / d[k]!
  }
  if (end === 'free') lower[n] = 1
  else right[n] = wrap(end - chord[n - 1]!)
  for (let k = 1; k <= n; k++) {
    const w = lower[k]! / diag[k - 1]!
    diag[k] = diag[k]! - w * upper[k - 1]!
    right[k] = right[k]! - w * right[k - 1]!
  }
  const theta = new Array<number>(n + 1).fill(0)
  theta[n] = right[n]! / diag[n]!
  for (let k = n - 1; k >= 0; k--) theta[k] = (right[k]! - upper[k]! * theta[k + 1]!) / diag[k]!
  return theta
}

/** Hobby's velocity function: distance of the control point as a fraction of the chord. */
function velocity(theta: number, phi: number): number {
  const st = Math.sin(theta)
  const sp = Math.sin(phi)
  const ct = Math.cos(theta)
  const cp = Math.cos(phi)
  const alpha = Math.SQRT2 * (st - sp / 16) * (sp - st / 16) * (ct - cp)
  const sqrt5 = Math.sqrt(5)
  const v = (2 + alpha) / (3 * (1 + 0.5 * (sqrt5 - 1) * ct + 0.5 * (3 - sqrt5) * cp))
  // The formula has a pole near theta = phi = pi; METAFONT caps there too (from memory: at 4).
  return Math.min(v, 4)
}

function wrap(angle: number): number {
  return angle - 2 * Math.PI * Math.round(angle / (2 * Math.PI))
}
