import type { PicturePoint } from '../conventions'
import { leastSquares, quotients, type LeastSquaresFit } from '../least-squares'
import { grazingMiss } from './rounded-ring'
import { ringDistance } from './ring-distance'
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
  /** The points run along the closing outline, over the rounding of the edge, rather than along the ring alone. */
  rounded?: boolean
  /** Pitch of the camera at which they were found, radians: where the solution is looked for first. */
  foundAt?: number
  /** The camera looks down on it: its near half was seen in front of the piece. */
  fromAbove?: boolean
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

/** `r` and `z` are those of the edge where it is sharp, of the middle of its rounding where it isn't. */
export interface SolvedRing {
  r: number
  z: number
  rounding: number
  sdR: number
  sdZ: number
  rmsPx: number
}

/** The solved camera in units of its own distance. */
export interface SolvedNear {
  eye: Eye
  pitch: Known
  focal: Known
  /** Each ring's radius and height against the camera, in camera distances. */
  rings: SolvedRing[]
  /** Root mean square distance of all ring points from the rings as this camera would see them, px. */
  rmsPx: number
  /** True when the tilt rests on nothing but an assumption. */
  assumed: { pitch: boolean }
}

/**
 * An arc's widest point lies at least at 0.88 of its ring's half-width. A ring seen edge-on tells no more of its
 * radius than this.
 */
const ARC_REACH = 1.03
const ARC_REACH_SD = 0.08
/** A hint, not a measure: side views are taken within some 15° of level (common practice, no source), radians. */
const SIDE_VIEW_SD = 0.26
/** Cameras are held level to about this when nothing says otherwise, radians (2°; an estimate, no source). */
const LEVEL_SD = (2 * Math.PI) / 180
/** Then they are held so, or a distance that is off would be taken for a tilt, however absurd. */
const HELD_SD = LEVEL_SD / 1000
/** Rounded edges found by the search may tell nothing of the pitch; then this does, 4° (an estimate, no source). */
const FOUND_SD = 2 * LEVEL_SD
/** Pitches tried for a start; beyond 40° nobody speaks of a side view. */
const PITCHES = Array.from({ length: 33 }, (_, i) => (-40 + 2.5 * i) * (Math.PI / 180))
/** Fits whose cost (half a chi-square) differs by less than this can't be told apart by noisy points: some 4 σ. */
const AS_GOOD = 8
/** Starts followed to their ends. */
const STARTS = 3
/** … and without a focal length, which adds valleys. */
const STARTS_WITHOUT_LENS = 9
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
  const free = !focal
  const total = rings.reduce((n, ring) => n + ring.points.length, 0)
  if (!focal && !(distance && scaleOf) && rings.length < 2) return null
  const eyeAt = (T: number, f: number) => makeEye(f, facts.centre, facts.plumb, T)
  const exact = misfit(facts, diagonalPx)
  // Starts are followed with a part of the points, the best one to its end with all.
  const rough = misfit({ ...facts, rings: rings.map(thinned) }, diagonalPx)
  const scratch = new Float64Array(rough.count)
  const starts: { x: number[]; cost: number }[] = []
  const hints = [...new Set(rings.flatMap((r) => r.foundAt ?? []))]
  const pitches = rings.length > 0 ? [...PITCHES, ...hints].sort((a, b) => a - b) : [pitch?.value ?? 0]
  for (const f of free ? FOCALS.map((k) => k * diagonalPx) : [focal!.value]) {
    const tried: { x: number[]; cost: number }[] = []
    for (const T of pitches) {
      const eye = eyeAt(T, f)
      const guesses = rings.map((ring) => guessRing(eye, ring))
      if (guesses.some((g) => g === null)) continue
      const x = [T, Math.log(f), ...guesses.flatMap((g, k) => startOf(g!, rings[k]!))]
      rough.residualsOf(x, scratch)
      const squares = scratch.reduce((s, v) => s + Math.min(v * v, 1e6), 0)
      const cost = squares / Math.max(1, total) + (T / SIDE_VIEW_SD) ** 2
      if (Number.isFinite(cost) && x.every(Number.isFinite)) tried.push({ x, cost })
    }
    // The valleys over the pitches: seen from above and from below.
    const costAt = (i: number) => tried[i]?.cost ?? Infinity
    const valleys = tried.filter((t, i) => costAt(i - 1) >= t.cost && costAt(i + 1) >= t.cost)
    const level = tried.length
      ? [tried.reduce((p, q) => (Math.abs(q.x[0]!) < Math.abs(p.x[0]!) ? q : p))]
      : []
    valleys.sort((p, q) => p.cost - q.cost)
    const hinted = tried.filter((t) => hints.includes(t.x[0]!))
    // The pitch nearest to level may be a valley, or the one that was found; each is followed once.
    const chosen = focal
      ? [...hinted, ...valleys.slice(0, STARTS - 1), ...level]
      : [...hinted, ...valleys.slice(0, 2)]
    starts.push(...new Set(chosen))
  }
  if (starts.length === 0) return null
  starts.sort((p, q) => (focal ? 0 : p.cost - q.cost))
  // Without a focal length there are several valleys over it too; the lowest of the best few is taken.
  const fits = starts
    .slice(0, focal ? STARTS + hints.length : STARTS_WITHOUT_LENS)
    .map(({ x }) => followed(x, rough))
  // A ring alone fits from above and from below alike, up to noise: then the camera is taken that is held more as the whole
  // outline said, or more level.
  const usual = rings.length === 1 ? (rings[0]!.foundAt ?? 0) : 0
  const isAsSeen = ({ parameters }: LeastSquaresFit) =>
    rings.every((ring, k) => !ring.fromAbove || parameters[3 + 3 * k]! < 0)
  const asSeen = fits.some(isAsSeen) ? fits.filter(isAsSeen) : fits
  const least = Math.min(...asSeen.map((f) => f.cost))
  const best = asSeen
    .filter((f) => f.cost <= least + (rings.length === 1 ? AS_GOOD : 0))
    .reduce((p, q) => (Math.abs(q.parameters[0]! - usual) < Math.abs(p.parameters[0]! - usual) ? q : p))
  const fit = followed(best.parameters, exact)
  const n = fit.parameters.length
  const sdOf = (i: number) => (fit.covariance ? Math.sqrt(fit.covariance[i * n + i]!) : Infinity)
  const T = fit.parameters[0]!
  const f = Math.exp(fit.parameters[1]!)
  let at = 0
  const solvedRings = rings.map((ring, k) => {
    const part = fit.residuals.subarray(at, at + ring.points.length)
    at += ring.points.length
    return {
      r: Math.abs(fit.parameters[2 + 3 * k]!),
      z: fit.parameters[3 + 3 * k]!,
      rounding: ring.rounded ? Math.abs(fit.parameters[4 + 3 * k]!) : 0,
      sdR: sdOf(2 + 3 * k),
      sdZ: sdOf(3 + 3 * k),
      rmsPx: ring.sdPx * Math.sqrt(part.reduce((s, v) => s + v * v, 0) / part.length),
    }
  })
  const isAssumed = rings.length === 0 && !pitch
  const squares = rings.reduce((s, ring, k) => s + ring.points.length * solvedRings[k]!.rmsPx ** 2, 0)
  return {
    eye: eyeAt(T, f),
    pitch: { value: T, sd: isAssumed ? LEVEL_SD : sdOf(0) },
    focal: { value: f, sd: f * sdOf(1) },
    rings: solvedRings,
    rmsPx: total > 0 ? Math.sqrt(squares / total) : 0,
    assumed: { pitch: isAssumed },
  }
}

/**
 * The rings of rounded ends tell the pitch no better than this, radians (0.3°), since shading and contact shadows bend
 * their arcs; and so many times worse than the angle by which they miss. Both from the bench of made-up photos.
 */
const ROUNDED_PITCH_SD = (0.3 * Math.PI) / 180
const MISS_COUNTS = 5

/** The solved camera with what a fit to rounded ends doesn't know of its pitch's error. */
export function withRoundedError(
  solved: SolvedNear,
  rings: readonly Pick<SeenRing, 'rounded'>[],
): SolvedNear {
  const misses = solved.rings.flatMap(({ r, rounding, rmsPx }, k) =>
    rings[k]!.rounded ? rmsPx / (solved.eye.f * (r + rounding)) : [],
  )
  if (misses.length === 0) return solved
  const more = ROUNDED_PITCH_SD + MISS_COUNTS * Math.max(...misses)
  return { ...solved, pitch: { ...solved.pitch, sd: Math.hypot(solved.pitch.sd, more) } }
}

/** Edges are rounded by this share of their radius or less, where nothing shows more (an estimate, no source). */
const USUAL_ROUNDING = 0.06

/** Residuals of a camera and its rings, in their standard errors, for parameters [pitch, log f, then r, z, rounding a ring]. */
interface Misfit {
  count: number
  residualsOf: (x: readonly number[], out: Float64Array) => void
  /** How they change with the parameters, row by row. */
  slopesOf: (x: readonly number[], out: Float64Array) => void
}

/** Steps of the difference quotients: of pitch and log f, and of a ring's lengths. */
const EYE_STEP = 1e-6
const RING_STEP = 1e-7

function misfit(
  { rings, focal, pitch, distance, scaleOf, centre, plumb }: NearFacts,
  diagonalPx: number,
): Misfit {
  const total = rings.reduce((n, ring) => n + ring.points.length, 0)
  const eyeAt = (T: number, f: number) => makeEye(f, centre, plumb, T)
  const widest = rings.map((ring) => widestPoint(eyeAt(0, focal?.value ?? diagonalPx), ring.points))
  const levelSd = rings.length === 0 ? HELD_SD : rings.every((r) => r.rounded) ? FOUND_SD : SIDE_VIEW_SD
  const residualsOf = (x: readonly number[], out: Float64Array) => {
    const T = x[0]!
    const f = Math.exp(x[1]!)
    const eye = eyeAt(T, f)
    let at = 0
    rings.forEach((ring, k) => {
      const [r, z, rounding] = [x[2 + 3 * k]!, x[3 + 3 * k]!, x[4 + 3 * k]!]
      if (ring.rounded) {
        const edge = { r: Math.abs(r), z, rounding: Math.abs(rounding) }
        const end = ring.place === 'foot' ? 'foot' : 'top'
        for (const p of ring.points) out[at++] = (f * grazingMiss(rayOf(eye, p), edge, end)) / ring.sdPx
      } else for (const p of ring.points) out[at++] = ringDistance(eye, p, r, z) / ring.sdPx
    })
    rings.forEach((_, k) => {
      const wide = asideOf(eye, widest[k]!)
      const r = x[2 + 3 * k]!
      const rounding = x[4 + 3 * k]!
      const { rounded } = rings[k]!
      out[at++] =
        (rounded ? (r + Math.abs(rounding)) / wide : r / (ARC_REACH * wide)) / ARC_REACH_SD - 1 / ARC_REACH_SD
      // Where there is no rounding it stays nought, and where nothing shows it, small.
      out[at++] = rounding / (USUAL_ROUNDING * wide)
    })
    out[at++] = pitch ? (T - pitch.value) / pitch.sd : T / levelSd
    out[at++] = focal ? (x[1]! - Math.log(focal.value)) / (focal.sd / focal.value) : 0
    const mm = distance && scaleOf ? scaleOf(eye) : null
    out[at++] =
      distance && mm ? (Math.log(mm) - Math.log(distance.value)) / (distance.sd / distance.value) : 0
  }
  const count = total + 3 + 2 * rings.length
  const scratch = [new Float64Array(count), new Float64Array(count)] as const
  const slopesOf = (x: readonly number[], out: Float64Array) => {
    const n = x.length
    out.fill(0)
    // Every point is seen by the eye …
    for (const j of [0, 1]) quotients(x, j, EYE_STEP, residualsOf, scratch, out)
    // … but belongs to one ring.
    const f = Math.exp(x[1]!)
    const eye = eyeAt(x[0]!, f)
    let row = 0
    rings.forEach((ring, k) => {
      const at = 2 + 3 * k
      ringSlopes(ring, { eye, f }, x.slice(at, at + 3), (values) => out.set(values, n * row++ + at))
    })
    rings.forEach(({ rounded }, k) => {
      const at = 2 + 3 * k
      const wide = asideOf(eye, widest[k]!)
      const reach = 1 / (wide * ARC_REACH_SD)
      out.set(rounded ? [reach, 0, Math.sign(x[at + 2]!) * reach] : [reach / ARC_REACH], n * row++ + at)
      out[n * row++ + at + 2] = 1 / (USUAL_ROUNDING * wide)
    })
  }
  return { count, residualsOf, slopesOf }
}

/** How the misses of a ring's points, in their standard errors, change with its r, z and rounding, one point after the other. */
function ringSlopes(
  { points, place, rounded, sdPx }: SeenRing,
  { eye, f }: { eye: Eye; f: number },
  [r, z, rounding]: readonly number[],
  each: (slopes: Float64Array) => void,
): void {
  const edge = { r: Math.abs(r!), z: z!, rounding: Math.abs(rounding!) }
  const slopes = new Float64Array(3)
  for (const p of points) {
    if (rounded) {
      grazingMiss(rayOf(eye, p), edge, place === 'foot' ? 'foot' : 'top', slopes)
      slopes[0]! *= (Math.sign(r!) * f) / sdPx
      slopes[1]! *= f / sdPx
      slopes[2]! *= (Math.sign(rounding!) * f) / sdPx
    } else {
      const distance = (dr: number, dz: number) => ringDistance(eye, p, r! + dr, z! + dz)
      slopes[0] = (distance(RING_STEP, 0) - distance(-RING_STEP, 0)) / (2 * RING_STEP * sdPx)
      slopes[1] = (distance(0, RING_STEP) - distance(0, -RING_STEP)) / (2 * RING_STEP * sdPx)
    }
    each(slopes)
  }
}

function followed(x: readonly number[], { count, residualsOf, slopesOf }: Misfit): LeastSquaresFit {
  const steps = x.map((_, i) => (i < 2 ? EYE_STEP : RING_STEP))
  return leastSquares(x, count, residualsOf, { steps, slopesOf, huber: 3, rounds: 40 })
}

/** Points of one ring that its starts are followed with. */
const ROUGH_POINTS = 48

/** A ring with a part of its points, each of them counting for those left out. */
function thinned(ring: SeenRing): SeenRing {
  const stride = Math.ceil(ring.points.length / ROUGH_POINTS)
  const points = ring.points.filter((_, i) => i % stride === 0)
  return { ...ring, points, sdPx: ring.sdPx * Math.sqrt(points.length / ring.points.length) }
}

/** How far beside the axis a ray passes, as a share of the camera's distance. */
function asideOf(eye: Eye, p: PicturePoint): number {
  const [x, y] = rayOf(eye, p)
  return Math.abs(x) / Math.hypot(x, y)
}

function widestPoint(eye: Eye, points: readonly PicturePoint[]): PicturePoint {
  return points.reduce((p, q) => (asideOf(eye, q) > asideOf(eye, p) ? q : p))
}

/** Share of the radius that a rounded edge starts with. */
const FIRST_ROUNDING = 0.04

function startOf({ r, z }: { r: number; z: number }, { rounded, place }: SeenRing): number[] {
  if (!rounded) return [r, z, 0]
  const rounding = FIRST_ROUNDING * r
  return [r - rounding, z + (place === 'foot' ? rounding : -rounding), rounding]
}

/** Points of a ring that its first guess is judged by. */
const GUESS_POINTS = 16

/**
 * A first guess of the ring through points seen by an eye: its widest rays graze it, and the row where it crosses the
 * axis shows its near or its far edge; whichever fits the points better. A foot is below the eye.
 */
function guessRing(eye: Eye, { points: all, place }: SeenRing): { r: number; z: number } | null {
  const points = all.filter((_, i) => i % Math.ceil(all.length / GUESS_POINTS) === 0)
  let r = 0
  let middle = Infinity
  let slope = 0
  for (const p of points) {
    const [x, y, w] = rayOf(eye, p)
    const aside = Math.abs(x) / Math.hypot(x, y)
    r = Math.max(r, aside)
    if (aside < middle) {
      middle = aside
      slope = w / y
    }
  }
  if (!(r > 0) || r > 0.9) return null
  let best: { r: number; z: number } | null = null
  let least = Infinity
  const wide = ARC_REACH * r
  for (const z of [slope * (1 - wide), slope * (1 + wide)]) {
    if (place === 'foot' && z >= 0) continue
    let cost = 0
    for (const p of points) cost += Math.min(1e4, ringDistance(eye, p, wide, z) ** 2)
    if (cost < least) {
      least = cost
      best = { r: wide, z }
    }
  }
  return best
}
