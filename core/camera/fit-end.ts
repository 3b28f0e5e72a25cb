import { leastSquares, type LeastSquaresFit } from '../least-squares'
import type { HalfOutline } from './half-outline'
import { grazingMiss, type End, type RoundedRing } from './rounded-ring'
import type { Vec } from './view'

/** The edge with which a piece ends, fitted to the closing part of its outline. */
export interface FittedEnd extends RoundedRing {
  /** Robust spread of the outline about it, px. */
  spreadPx: number
  /** The same by the points that lie far off: a part of the outline that doesn't belong to the edge tells itself by them. */
  farPx: number
  /** Points of the half-outline that it was fitted to, at most so many as are worth while. */
  indices: number[]
  /** True when the rounding is most of it: a dome has no ring that would tell the camera's tilt. */
  dome: boolean
}

/** The closing part ends where the outline has turned by so much: short of a chamfer, or over a rounding. */
const TURNS = [60, 45, 30, 20].map((degrees) => (degrees * Math.PI) / 180)
const MOST_POINTS = 90
const LEAST_POINTS = 8
/** Parts that reach over less than this share of the width at which the outline closes tell no ring. */
const LEAST_WIDTH = 0.3
/** Starts are followed with about so many of them. */
const ROUGH_POINTS = 24
/** A fit that spreads by no more than this, px, can't be bettered; others may be so much worse than the best, or spread so far. */
const GOOD_PX = 0.1
const ABOUT_AS_GOOD = 1.4
const GOOD_ENOUGH_PX = 0.15
/** Edges aren't known better than this where a piece closes, px. */
const LEAST_SD_PX = 0.12
/** Rounding as a share of the radius, as the fit starts: an edge, a bead, a dome. */
const STARTS = [0.03, 0.3, 0.95]
const DOME_SHARE = 0.6
/** Steps that count as none, in camera distances. */
const STEP = 1e-7

/**
 * Fits the rounded edge at one end of a half-outline seen by a level camera (near view).
 * @returns null when too little of the outline closes there
 */
export function fitEnd(half: HalfOutline, end: End): FittedEnd | null {
  const closing = closingOf(half, end)
  if (!closing) return null
  const fits: FittedEnd[] = []
  let before = 0
  for (const turn of TURNS) {
    const indices = closingPart(half, end, turn)
    if (indices.length < LEAST_POINTS || indices.at(-1) === before) continue
    before = indices.at(-1)!
    const fit = fitRegion(half, indices, end)
    if (!fit || !isPossible(fit, closing, end)) continue
    // A few level points fit any ring.
    if (fits[0] && !fits[0].dome && half.points[2 * indices.at(-1)!]! < LEAST_WIDTH * closing.wide) continue
    fits.push(fit)
    if (fits.length === 1 && Math.max(fit.spreadPx, fit.farPx) <= GOOD_PX) return fit
  }
  if (fits.length === 0) return flatEnd(closing, end)
  // Of those that are about as good the one that reaches farthest knows most of the edge.
  const limit = (of: (fit: FittedEnd) => number) =>
    Math.max(GOOD_ENOUGH_PX, ABOUT_AS_GOOD * Math.min(...fits.map(of)))
  const [spread, far] = [limit((f) => f.spreadPx), limit((f) => f.farPx)]
  const worst = (f: FittedEnd) => Math.max(f.spreadPx / spread, f.farPx / far)
  return fits.find((f) => worst(f) <= 1) ?? fits.reduce((p, q) => (worst(q) < worst(p) ? q : p))
}

/** Where the outline crosses the axis, how wide it closes there, and its closing points. */
interface Closing {
  crossing: number
  wide: number
  indices: number[]
}

/** @returns null when too little of the outline closes there */
function closingOf(half: HalfOutline, end: End): Closing | null {
  const indices = closingPart(half, end, TURNS[0]!)
  if (indices.length < LEAST_POINTS) return null
  const wide = Math.max(...indices.map((i) => half.points[2 * i]!))
  return { crossing: half.points[2 * indices[0]! + 1]!, wide, indices }
}

/** Beyond the ring's own foreshortening an end lies off the outline's crossing by at most this share of its width. */
const BEYOND_CROSSING = 0.06

/** A ring's middle lies within its own picture; a fit to no ring may say anything. */
function isPossible(fit: FittedEnd, { crossing, wide }: Closing, end: End): boolean {
  return Math.abs(endLevel(fit, end) - crossing) <= (1.05 * Math.abs(crossing) + BEYOND_CROSSING) * wide
}

/** The end as a sharp ring as wide as the outline closes, through its crossing, where the closing part itself fits none. */
function flatEnd({ crossing, wide, indices }: Closing, end: End): FittedEnd {
  const r = wide / Math.hypot(1, wide)
  return {
    r,
    z: ringLevel(r, crossing, end),
    rounding: 0,
    spreadPx: Infinity,
    farPx: Infinity,
    indices,
    dome: false,
  }
}

/** Height of a sharp ring whose near or far edge, whichever closes the outline, crosses the axis there. */
function ringLevel(r: number, crossing: number, end: End): number {
  const front = end === 'foot' ? crossing < 0 : crossing >= 0
  return crossing * (front ? 1 - r : 1 + r)
}

/** Points from the axis crossing to where the outline has turned by an angle from level. */
function closingPart(half: HalfOutline, end: End, most: number): number[] {
  const n = half.points.length / 2
  const at = (k: number) => (end === 'foot' ? k : n - 1 - k)
  const reach = 4
  let count = n
  for (let k = 1; k < n - reach; k++) {
    const [i, j] = [at(Math.max(0, k - reach)), at(k + reach)]
    const dx = half.points[2 * j]! - half.points[2 * i]!
    const dw = (half.points[2 * j + 1]! - half.points[2 * i + 1]!) * (end === 'foot' ? 1 : -1)
    if (Math.atan2(dw, dx) > most || dx < 0) {
      count = k
      break
    }
  }
  const all: number[] = []
  for (let k = 0; k < count; k++) if (Number.isFinite(half.sd[at(k)]!)) all.push(at(k))
  const step = Math.max(1, all.length / MOST_POINTS)
  const indices: number[] = []
  for (let i = 0; i < all.length; i += step) indices.push(all[Math.floor(i)]!)
  return indices
}

function fitRegion(
  half: HalfOutline,
  indices: number[],
  end: End,
  starts: readonly number[] = STARTS,
  rounds = 25,
  leastSd = LEAST_SD_PX,
): (FittedEnd & { capped: number }) | null {
  const { points, sd, pxPerUnit } = half
  const rays = indices.map((i): Vec => [points[2 * i]!, 1, points[2 * i + 1]!])
  const sds = indices.map((i) => Math.max(leastSd, sd[i]!) / pxPerUnit)
  const widest = Math.max(...rays.map((d) => d[0]))
  const wide = widest / Math.hypot(1, widest)
  const crossing = rays[0]![2]
  const roomAt = roomsFrom(half, crossing, wide, end)
  const n = rays.length
  const inwards = end === 'foot' ? 1 : -1
  const one = [0, 0, 0]
  /** The misfit of every so many points, each of them counting for those left out. */
  const misfit = (stride: number) => {
    const used = rays.map((_, i) => i).filter((i) => i % stride === 0)
    const m = used.length
    const weight = Math.sqrt(n / m)
    /** How the misses last reckoned change with r, z and rounding: where a fit is to go on from, they have just been. */
    const slopes = new Float64Array(3 * m)
    let slopesAt: readonly number[] | null = null
    const missesOf = (x: readonly number[], out: Float64Array) => {
      const ring = ringOf(x)
      for (let k = 0; k < m; k++) {
        out[k] = (weight * grazingMiss(rays[used[k]!]!, ring, end, one)) / sds[used[k]!]!
        slopes.set(one, 3 * k)
      }
      slopesAt = x
      return ring
    }
    const residualsOf = (x: readonly number[], out: Float64Array) => {
      const ring = missesOf(x, out)
      // Neither radius nor rounding grows out of bounds where the points say nothing of it.
      out[m] = (ring.r + ring.rounding - wide) / (0.5 * wide)
      out[m + 1] = ring.rounding / (3 * wide)
      // No edge is wider than the outline beside it.
      const room = roomAt(inwards * (ring.z - crossing))
      out[m + 2] = Math.max(0, ring.r + ring.rounding - room) / (ROOM_SD * wide)
    }
    const slopesOf = (x: readonly number[], out: Float64Array) => {
      const ring = slopesAt === x ? ringOf(x) : missesOf(x, out)
      const [signR, signRounding] = [x[0]! < 0 ? -1 : 1, Math.max(-1, Math.min(1, x[2]! / STEP))]
      const crowded = ring.r + ring.rounding > roomAt(inwards * (ring.z - crossing))
      for (let k = 0; k < m; k++) {
        const scale = weight / sds[used[k]!]!
        out[3 * k] = signR * scale * slopes[3 * k]!
        out[3 * k + 1] = scale * slopes[3 * k + 1]!
        out[3 * k + 2] = signRounding * scale * slopes[3 * k + 2]!
      }
      const narrow = crowded ? 1 / (ROOM_SD * wide) : 0
      out.set([signR / (0.5 * wide), 0, signRounding / (0.5 * wide)], 3 * m)
      out.set([0, 0, signRounding / (3 * wide)], 3 * m + 3)
      out.set([signR * narrow, 0, signRounding * narrow], 3 * m + 6)
    }
    return { count: m + 3, residualsOf, slopesOf }
  }
  const follow = (start: readonly number[], { count, residualsOf, slopesOf }: ReturnType<typeof misfit>) =>
    leastSquares(start, count, residualsOf, { steps: [1e-6, STEP, STEP], slopesOf, huber: 3, rounds })
  const rough = misfit(Math.max(1, Math.floor(n / ROUGH_POINTS)))
  const scratch = new Float64Array(rough.count)
  let found: LeastSquaresFit | null = null
  for (const share of starts) {
    const rounding = share * wide
    const r = wide - rounding
    const start = [r, ringLevel(r, crossing, end) + inwards * rounding, rounding]
    rough.residualsOf(start, scratch)
    if (!scratch.every(Number.isFinite)) continue
    const fit = follow(start, rough)
    if (!found || fit.cost < found.cost) found = fit
  }
  if (!found) return null
  // The best start is followed to its end with all points.
  const best = rough.count < n + 3 ? follow(found.parameters, misfit(1)) : found
  const ring = ringOf(best.parameters)
  const sizes = Array.from(best.residuals.subarray(0, n), (v, i) => Math.abs(v) * sds[i]! * pxPerUnit)
  sizes.sort((p, q) => p - q)
  let capped = 0
  for (let i = 0; i < n; i++) capped += Math.min(CAP, Math.abs(best.residuals[i]!)) ** 2 / n
  capped += Math.min(CAP, best.residuals[n + 2]!) ** 2
  return {
    ...ring,
    capped,
    spreadPx: 1.4826 * sizes[n >> 1]!,
    farPx: sizes[Math.floor(0.9 * n)]! / 1.645,
    indices,
    dome: ring.rounding > DOME_SHARE * (ring.r + ring.rounding),
  }
}

/** An edge that is wider than the outline by more than this share isn't its end's. */
const ROOM_SD = 0.002
const ROOM_STEPS = 96
/** Deeper than so many half-widths no edge begins. */
const DEEPEST = 2.5

/** The outline's largest half-width so far into the piece from where it closes; both in the unit of the points. */
function roomsFrom(
  { points }: HalfOutline,
  crossing: number,
  wide: number,
  end: End,
): (depth: number) => number {
  const most = new Float64Array(ROOM_STEPS + 1)
  const binOf = (depth: number) => Math.ceil((Math.max(0, depth) / (DEEPEST * wide)) * ROOM_STEPS)
  for (let i = 0; i < points.length; i += 2) {
    const bin = binOf(end === 'foot' ? points[i + 1]! - crossing : crossing - points[i + 1]!)
    if (bin <= ROOM_STEPS) most[bin] = Math.max(most[bin]!, points[i]! / Math.hypot(1, points[i]!))
  }
  for (let k = 1; k <= ROOM_STEPS; k++) most[k] = Math.max(most[k]!, most[k - 1]!)
  return (depth) => most[Math.min(ROOM_STEPS, binOf(depth) + 1)]!
}

function ringOf(x: readonly number[]): RoundedRing {
  return { r: Math.abs(x[0]!), z: x[1]!, rounding: Math.abs(x[2]!) }
}

/** The half-outline as the same camera sees it when it is held level, after looking down by `pitch`. */
export function levelled(half: HalfOutline, pitch: number): HalfOutline {
  const c = Math.cos(pitch)
  const s = Math.sin(pitch)
  const points = half.points.slice()
  for (let i = 0; i < points.length; i += 2) {
    const w = points[i + 1]!
    const ahead = c + s * w
    points[i]! /= ahead
    points[i + 1] = (c * w - s) / ahead
  }
  return { ...half, points }
}

/** A ring of less than this share of the end's half-width, seen by a level camera, is none: the end is a ball's. */
const BALL_RING = 0.1
const BALL_SPREAD_PX = 0.4
/** … nor is one that is next to nothing, though the outline, an egg's, spreads about a ball by up to this share of the half-width. */
const EGG_RING = 0.03
const EGG_SPREAD = 0.004

/**
 * True where an outline closes as a ball's does, which looks the same from everywhere: it tells no tilt, and looks like a ring
 * from far enough above.
 * @param half seen by the camera as if it were level
 */
export function endsInBall(half: HalfOutline, end: End): boolean {
  const fit = fitEnd(half, end)
  if (!fit) return false
  const wide = fit.r + fit.rounding
  const isBall = fit.r < BALL_RING * wide && fit.spreadPx < BALL_SPREAD_PX
  return isBall || (fit.r < EGG_RING * wide && fit.spreadPx < EGG_SPREAD * wide * half.pxPerUnit)
}

/** Fine steps where cameras usually look, coarse ones beyond, degrees. */
const PITCHES = [
  ...Array.from({ length: 8 }, (_, i) => -36 + 3 * i),
  ...Array.from({ length: 17 }, (_, i) => -12 + 1.5 * i),
  ...Array.from({ length: 8 }, (_, i) => 15 + 3 * i),
].map((degrees) => (degrees * Math.PI) / 180)
/**
 * The best few are bettered by halving steps: the lowest valleys, and the lowest of all, since the valley of a sharp ring is
 * narrower than the steps.
 */
const FOLLOWED_VALLEYS = 2
const FOLLOWED = 3
const HALVINGS = 4
/**
 * The valley of a large sharp ring may lie between all steps: where the best costs more than this, finer ones are tried, and one is
 * taken at which the ends look like edges indeed.
 */
const DOUBTFUL = 2
const LIKE_EDGES = 1
const FINE_PITCHES = Array.from({ length: 65 }, (_, i) => ((0.1875 * i - 6) * Math.PI) / 180)
/** A chamfer doesn't belong to the ring that it leads to. */
const SCAN_TURN = TURNS[2]!
/** Points and rounds suffice to tell good pitches from bad ones. */
const SCAN = { most: 26, starts: STARTS.slice(0, 2), rounds: 8 }
/** The best pitch is found from more of them, so that it doesn't depend on which: rounds of a parabola over such steps, radians. */
const POLISH = { most: 100, starts: STARTS, rounds: 25 }
const POLISHINGS = 2
const POLISH_STEP = 0.004
/** A foot in its contact shadow isn't known better than this, px. */
const SCAN_SD_PX = 0.15
/** A point that misses by more standard deviations says no more than that it misses. */
const CAP = 6
/** Feet are rounded by about this share of their radius or less (an estimate, no source). */
const FOOT_ROUNDING = 0.12
/** Side views are taken within some 10° of level (common practice, no source); a weak hint, radians. */
const USUAL_PITCH = (12 * Math.PI) / 180

/** A pitch of the camera, and how badly the ends of a piece look like edges at it: mean squares of their misses in standard errors. */
export interface LikelyPitch {
  /** Radians. */
  pitch: number
  cost: number
}

/** What the ends of a half-outline show. */
interface Closings {
  /** The ends that may show a ring. */
  closings?: readonly End[]
  /** The upper one is known to be looked down on. */
  topFromAbove?: boolean
}

/**
 * The pitch at which both closing arcs look most like rounded edges; a start for `solveNear`.
 * @param half seen by the camera as if it were level
 * @param quick follows only the best of the pitches tried, and to about a tenth of a degree
 */
export function likelyPitch(
  half: HalfOutline,
  { quick = false, ...options }: Closings & { quick?: boolean } = {},
): LikelyPitch {
  const costOf = pitchCost(half, options, SCAN)
  const tried = PITCHES.map((pitch) => ({ pitch, cost: costOf(pitch) }))
  const valleys = tried.filter(
    ({ cost }, i) => cost <= (tried[i - 1]?.cost ?? Infinity) && cost <= (tried[i + 1]?.cost ?? Infinity),
  )
  const lowest = (list: typeof tried, count: number) =>
    [...list].sort((p, q) => p.cost - q.cost).slice(0, quick ? 1 : count)
  const starts = new Set([...lowest(valleys, FOLLOWED_VALLEYS), ...lowest(tried, FOLLOWED)])
  const cheapest = (list: readonly LikelyPitch[]) => list.reduce((p, q) => (q.cost < p.cost ? q : p))
  const best = cheapest([...starts].map((start) => settled(start, costOf)))
  if (quick) return best
  const finer = () => settled(cheapest(FINE_PITCHES.map((pitch) => ({ pitch, cost: costOf(pitch) }))), costOf)
  const between = best.cost > DOUBTFUL ? finer() : best
  return polished(between.cost < LIKE_EDGES ? between : best, pitchCost(half, options, POLISH))
}

/** The pitch near another one at which both closing arcs look most like rounded edges. */
export function likelyPitchNear(half: HalfOutline, pitch: number, options: Closings): LikelyPitch {
  const costOf = pitchCost(half, options, SCAN)
  return settled({ pitch, cost: costOf(pitch) }, costOf)
}

function settled(start: LikelyPitch, costOf: (pitch: number) => number): LikelyPitch {
  let best = start
  let step = Math.abs(start.pitch) < 0.22 ? 0.0131 : 0.0262
  for (let k = 0; k < HALVINGS; k++, step /= 2)
    for (const pitch of [best.pitch - step, best.pitch + step]) {
      const cost = costOf(pitch)
      if (cost < best.cost) best = { pitch, cost }
    }
  return best
}

/** The lowest place of a parabola through three costs about a pitch, twice. */
function polished({ pitch }: LikelyPitch, costOf: (pitch: number) => number): LikelyPitch {
  let best = { pitch, cost: costOf(pitch) }
  for (let k = 0; k < POLISHINGS; k++) {
    const [below, above] = [costOf(best.pitch - POLISH_STEP), costOf(best.pitch + POLISH_STEP)]
    const bend = below - 2 * best.cost + above
    if (bend <= 0) return best
    const shift = Math.max(-1, Math.min(1, (below - above) / (2 * bend))) * POLISH_STEP
    const cost = costOf(best.pitch + shift)
    if (cost >= best.cost) return best
    best = { pitch: best.pitch + shift, cost }
  }
  return best
}

/** How badly the ends look like edges, by the pitch; so many of their points, fitted from so many starts. */
function pitchCost(
  half: HalfOutline,
  { closings = ['foot', 'top'], topFromAbove = false }: Closings,
  { most, starts, rounds }: typeof SCAN,
): (pitch: number) => number {
  const ends = closings.map((end) => {
    const all = closingPart(half, end, SCAN_TURN)
    const step = Math.max(1, all.length / most)
    return {
      end,
      indices: Array.from({ length: Math.floor(all.length / step) }, (_, i) => all[Math.floor(i * step)]!),
    }
  })
  return (pitch) => {
    const turned = levelled(half, pitch)
    let cost = (pitch / USUAL_PITCH) ** 2
    for (const { end, indices } of ends) {
      if (indices.length < LEAST_POINTS) continue
      // A foot stands on something, so it is seen from above.
      if (end === 'foot' && turned.points[1]! > 0) cost += CAP ** 2
      if (end === 'top' && topFromAbove && turned.points.at(-1)! > 0) cost += CAP ** 2
      const fit = fitRegion(turned, indices, end, starts, rounds, SCAN_SD_PX)
      cost += fit ? fit.capped : CAP ** 2
      // At a wrong pitch a ring looks like part of a dome, which few pieces stand on.
      if (fit && end === 'foot') cost += (fit.rounding / (FOOT_ROUNDING * (fit.r + fit.rounding))) ** 2
    }
    return cost
  }
}

/** Height at which the piece ends, in the unit of the points. */
export function endLevel({ z, rounding }: RoundedRing, end: End): number {
  return end === 'foot' ? z - rounding : z + rounding
}
