import type { PicturePoint } from '../conventions'
import { leastSquares } from '../least-squares'
import { makeEye, rayOf, type Eye } from './view'

/** Points of one ring of the piece as seen, undistorted px. */
export interface SeenRing {
  /**
   * A ring alone leaves open whether it is seen from above or from below. A foot stands on something, so it is seen
   * from above; for others the camera that is held more level is taken.
   */
  place: 'foot' | 'rim' | 'band'
  points: readonly PicturePoint[]
  /** Standard error of a point across the ellipse, px. */
  sdPx: number
}

/** A value with its standard error. */
export interface Known {
  value: number
  sd: number
}

export interface NearFacts {
  /** Undistorted picture points of the axis. */
  plumb: { foot: PicturePoint; top: PicturePoint }
  /** Principal point, px. */
  centre: PicturePoint
  rings: readonly SeenRing[]
  /** Focal length, px, from the file or typed; null when unknown. */
  focal: Known | null
  /** Pitch, radians, when somebody measured it; the rings tell it better. */
  pitch: Known | null
  /** Camera distance from the axis, mm, by tape measure. */
  distance: Known | null
  /**
   * Mm for one camera distance, from the known sizes as seen with an eye; needed when the focal length has to come
   * from the distance. Null when there is no known size.
   */
  scaleOf?: (eye: Eye) => number | null
}

/** The solved camera in units of its own distance. */
export interface SolvedNear {
  eye: Eye
  pitch: Known
  focal: Known
  /** Each ring's radius and height against the camera, in camera distances. */
  rings: { r: number; z: number; sdR: number; sdZ: number; rmsPx: number }[]
  /** Root mean square distance of all ring points from the rings as this camera would see them, px. */
  rmsPx: number
  /** True when tilt, or focal length, rests on nothing but an assumption. */
  assumed: { pitch: boolean; focal: boolean }
}

/** A hint, not a measure: side views are taken within some 15° of level (common practice, no source), radians. */
const SIDE_VIEW_SD = 0.26
/** Cameras are held level to about this when nothing says otherwise, radians (2°; an estimate, no source). */
const LEVEL_SD = (2 * Math.PI) / 180
/** Pitches tried for a start; beyond 40° nobody speaks of a side view. */
const PITCHES = Array.from({ length: 33 }, (_, i) => (-40 + 2.5 * i) * (Math.PI / 180))
/** Focal lengths tried for a start when none is known, in picture diagonals: 20 mm to 400 mm lenses. */
const FOCALS = [0.5, 0.7, 1, 1.4, 2, 2.8, 4, 5.6, 8]

/**
 * Pitch, focal length and the rings themselves by one weighted least squares over all ring points (distance from the
 * ring's image, Sampson 1982) and whatever else is known. Only pitch and focal length shape what is seen; the camera's
 * distance merely scales it.
 * @param diagonalPx of the uncropped picture, for trying focal lengths
 * @returns null when nothing fits
 */
export function solveNear(facts: NearFacts, diagonalPx: number): SolvedNear | null {
  const { rings, focal, pitch, distance, scaleOf } = facts
  const total = rings.reduce((n, ring) => n + ring.points.length, 0)
  const free = !focal
  const focalAssumed = !focal && !(distance && scaleOf) && rings.length < 2
  if (focalAssumed) return null
  const eyeAt = (T: number, f: number) => makeEye(f, facts.centre, facts.plumb, T)
  const extra = 3
  const residualsOf = (x: readonly number[], out: Float64Array) => {
    const T = x[0]!
    const f = Math.exp(x[1]!)
    const eye = eyeAt(T, f)
    let at = 0
    rings.forEach((ring, k) => {
      const r = x[2 + 2 * k]!
      const z = x[3 + 2 * k]!
      for (const p of ring.points) out[at++] = ringDistance(eye, p, r, z) / ring.sdPx
    })
    out[at++] = pitch ? (T - pitch.value) / pitch.sd : T / (rings.length === 0 ? LEVEL_SD : SIDE_VIEW_SD)
    out[at++] = focal ? (x[1]! - Math.log(focal.value)) / (focal.sd / focal.value) : 0
    const mm = distance && scaleOf ? scaleOf(eye) : null
    out[at++] =
      distance && mm ? (Math.log(mm) - Math.log(distance.value)) / (distance.sd / distance.value) : 0
  }
  const scratch = new Float64Array(total + extra)
  let start: number[] | null = null
  let least = Infinity
  const pitches = rings.length > 0 ? PITCHES : [pitch?.value ?? 0]
  for (const f of free ? FOCALS.map((k) => k * diagonalPx) : [focal!.value]) {
    for (const T of pitches) {
      const eye = eyeAt(T, f)
      const guesses = rings.map((ring) => guessRing(eye, ring.points))
      if (guesses.some((g, k) => g === null || (rings[k]!.place === 'foot' && g.z >= 0))) continue
      const x = [T, Math.log(f), ...guesses.flatMap((g) => [g!.r, g!.z])]
      residualsOf(x, scratch)
      const cost =
        scratch.reduce((s, v) => s + Math.min(v * v, 1e6), 0) / Math.max(1, total) + (T / SIDE_VIEW_SD) ** 2
      if (cost < least) {
        least = cost
        start = x
      }
    }
  }
  if (!start) return null
  const steps = start.map((_, i) => (i < 2 ? 1e-6 : 1e-7))
  const fit = leastSquares(start, total + extra, residualsOf, { steps, huber: 3, rounds: 100 })
  const sdOf = (i: number) => (fit.covariance ? Math.sqrt(fit.covariance[i * start!.length + i]!) : Infinity)
  const T = fit.parameters[0]!
  const f = Math.exp(fit.parameters[1]!)
  let at = 0
  const solvedRings = rings.map((ring, k) => {
    const part = fit.residuals.subarray(at, at + ring.points.length)
    at += ring.points.length
    return {
      r: Math.abs(fit.parameters[2 + 2 * k]!),
      z: fit.parameters[3 + 2 * k]!,
      sdR: sdOf(2 + 2 * k),
      sdZ: sdOf(3 + 2 * k),
      rmsPx: ring.sdPx * Math.sqrt(part.reduce((s, v) => s + v * v, 0) / part.length),
    }
  })
  const squares = rings.reduce((s, ring, k) => s + ring.points.length * solvedRings[k]!.rmsPx ** 2, 0)
  return {
    eye: eyeAt(T, f),
    pitch: { value: T, sd: sdOf(0) },
    focal: { value: f, sd: f * sdOf(1) },
    rings: solvedRings,
    rmsPx: total > 0 ? Math.sqrt(squares / total) : 0,
    assumed: { pitch: rings.length === 0 && !pitch, focal: false },
  }
}

/**
 * Distance of a picture point from the image of the ring (r, z), px, by Sampson's first-order formula. A ray d from
 * (0, -1, 0) meets the ring when (z dx)² + (z dy - dz)² = (r dz)².
 */
export function ringDistance(eye: Eye, p: PicturePoint, r: number, z: number): number {
  const [x, y, w] = rayOf(eye, p)
  const ahead = z * y - w
  const g = z * z * x * x + ahead * ahead - r * r * w * w
  const slope = (k: 0 | 1) => {
    const dx = eye.right[k] / eye.f
    const dy = eye.away[k] / eye.f
    const dw = eye.up[k] / eye.f
    return 2 * (z * z * x * dx + ahead * (z * dy - dw) - r * r * w * dw)
  }
  return g / (Math.hypot(slope(0), slope(1)) + 1e-15)
}

/** Ring through points seen by an eye, by linear least squares of p² + q² - 2 p / z + B = 0 with p = dy/dz, q = dx/dz. */
function guessRing(eye: Eye, points: readonly PicturePoint[]): { r: number; z: number } | null {
  let spp = 0
  let sp = 0
  let n = 0
  let spy = 0
  let sy = 0
  for (const point of points) {
    const [x, y, w] = rayOf(eye, point)
    if (Math.abs(w) < 1e-6 * Math.abs(y)) continue
    // Weighted by the fourth power of dz, so that rays near the horizon don't rule: in effect dy² + dx² - 2 A dy dz + B dz².
    const k = w * w
    const p = y / w
    const v = -(p * p + (x / w) ** 2)
    const wt = k * k
    spp += wt * 4 * p * p
    sp += wt * -2 * p
    n += wt
    spy += wt * -2 * p * v
    sy += wt * v
  }
  const det = spp * n - sp * sp
  if (!(Math.abs(det) > 1e-12 * spp * n) || n === 0) return null
  const A = (spy * n - sy * sp) / det
  const B = (spp * sy - sp * spy) / det
  if (A === 0) return null
  const z = 1 / A
  const r2 = 1 - B * z * z
  return r2 > 0 && r2 < 1 ? { r: Math.sqrt(r2), z } : null
}
