import { isEdgeless, type Raster } from '../picture/raster'
import { upperMedian } from '../upper-median'
import { leastNoise } from '../picture/least-noise'
import { addLight } from '../picture/sample'
import { FORBIDDEN } from './best-path'
import { normalsOf } from './chain'
import { normalCdf } from './edge-fit'

/** The picture along the normals of a chain, as evidence for an edge at each distance from it. */
export interface EdgeBand {
  /** Points of the chain. */
  count: number
  /** Places along each normal; place k lies at (k - (places - 1) / 2) · step px, positive outwards. */
  places: number
  step: number
  /** How many times the noise the step there is, count rows of places. */
  strength: Float32Array
}

export interface BandOptions {
  /** Distance looked at on either side, px. */
  reach: number
  /** Blur of the picture's edges (standard deviation), px. */
  blur: number
  /** Distance of the places, px. */
  step: number
  /** Averaged so far along the edge on either side, px; more for edges that are known to run straight. Default 1.3. */
  along?: number
  /**
   * Each step answers where it is alone. Otherwise a clear one seems to have a twin on either side, which a path that runs
   * through the strongest doesn't mind, and a second edge close by keeps all its strength.
   */
  alone?: boolean
}

/** Rows averaged along the edge lie so far apart, px, and farther where there would be more than so many on either side. */
const ROWS_APART = 1.3
const MOST_ROWS = 3
/** The window of the fit reaches so many px, and so many blurs, beyond the place. */
const WINDOW_PX = 2.5
const WINDOW_BLURS = 1.5
/** Noise is the median over the band of so many points each way. */
const NOISE_POINTS = 25
/** No noise is less than this, in linear light: half a step of an 8-bit picture in the shadows; nor less than so many codes. */
const LEAST_NOISE = 4e-4
/** Linear light grows with about this power of the codes. */
const GAMMA = 2.2

/**
 * Looks for steps with the picture's own blur on top of a brightness that may slope and bend, as a shaded body and a
 * contact shadow do: the step's least-squares height beside level, slope and bend, which is one filter (the step made
 * orthogonal to the others), in all three colours. A soft shadow is no step of this blur and hardly answers.
 */
export function edgeBand(
  raster: Raster,
  points: Float64Array,
  normals: Float64Array,
  { reach, blur, step, along = ROWS_APART, alone = false }: BandOptions,
): EdgeBand {
  const across = Math.max(1, Math.min(MOST_ROWS, Math.round(along / ROWS_APART)))
  const apart = Math.max(ROWS_APART, along / (across + 0.5))
  const rows = Array.from({ length: 2 * across + 1 }, (_, i) => (i - across) * apart)
  const count = points.length / 2
  const half = Math.round(reach / step)
  const places = 2 * half + 1
  const window = Math.ceil((WINDOW_PX + WINDOW_BLURS * blur) / step)
  const filter = stepFilter(window, step, blur)
  const samples = places + 2 * window
  const light = new Float32Array(3 * samples)
  /** Each colour's answers at all places. */
  const answers = [0, 1, 2].map(() => new Float32Array(count * places))
  const start = -(half + window) * step
  /** The least noise of each point's light, in each colour. */
  const least = answers.map(() => new Float32Array(count))
  const codes = leastNoise(raster)
  for (let i = 0; i < count; i++) {
    const [x, y, nx, ny] = [points[2 * i]!, points[2 * i + 1]!, normals[2 * i]!, normals[2 * i + 1]!]
    light.fill(0)
    for (const t of rows)
      addLight(
        raster,
        {
          x: x + start * nx - t * ny,
          y: y + start * ny + t * nx,
          dx: step * nx,
          dy: step * ny,
          count: samples,
        },
        light,
      )
    answers.forEach((answer, channel) => {
      const line = light.subarray(channel * samples, (channel + 1) * samples)
      answered(line, filter, rows.length, answer.subarray(i * places, (i + 1) * places))
      least[channel]![i] = Math.max(LEAST_NOISE, codes * lightOfCode(line, rows.length))
    })
  }
  const strength = new Float32Array(count * places)
  answers.forEach((answer, channel) =>
    addSquares(answer, noiseOf(answer, count, places, least[channel]!), strength),
  )
  for (let i = 0; i < strength.length; i++) strength[i] = Math.sqrt(strength[i]! / answers.length)
  const lobes = alone ? lobesOf(filter, step, blur) : null
  const band = { count, places, step, strength: lobes ? withoutLobes(strength, places, lobes) : strength }
  if (raster.edgeless) dropEdgeless(raster, points, normals, band)
  return band
}

/** Takes all strength from the places whose edges, somebody has said, are none of the piece's. */
function dropEdgeless(
  raster: Raster,
  points: Float64Array,
  normals: Float64Array,
  { count, places, step, strength }: EdgeBand,
): void {
  for (let i = 0; i < count; i++)
    for (let k = 0; k < places; k++) {
      const off = (k - (places - 1) / 2) * step
      const [x, y] = [points[2 * i]! + off * normals[2 * i]!, points[2 * i + 1]! + off * normals[2 * i + 1]!]
      if (isEdgeless(raster, x, y)) strength[i * places + k] = 0
    }
}

/** What an antisymmetric filter answers to the mean of so many lines' light, at each place with room for it. */
export function answered(light: Float32Array, filter: Float32Array, lines: number, out: Float32Array): void {
  const window = filter.length - 1
  for (let k = 0; k < out.length; k++) {
    const middle = k + window
    let sum = 0
    for (let j = 1; j <= window; j++) sum += filter[j]! * (light[middle + j]! - light[middle - j]!)
    out[k] = sum / lines
  }
}

/** Adds the squares of answers in units of their point's noise. */
function addSquares(answers: Float32Array, noise: Float32Array, out: Float32Array): void {
  const places = out.length / noise.length
  for (let i = 0; i < noise.length; i++) {
    const per = 1 / noise[i]!
    for (let at = i * places; at < (i + 1) * places; at++) out[at]! += (answers[at]! * per) ** 2
  }
}

/** What of a lobe is taken off: a little more than is expected of it, since no edge has exactly the picture's blur. */
const LOBE_SHARE = 1.15

/**
 * How strongly the filter answers so many places beside a step, as a share of its answer to it: where it has turned its sign,
 * about 3 px aside, with half of it; 0 before.
 */
function lobesOf(filter: Float32Array, step: number, blur: number): Float32Array {
  const window = filter.length - 1
  const answer = (places: number) => {
    let sum = 0
    for (let j = 1; j <= window; j++)
      sum += filter[j]! * (normalCdf(((places + j) * step) / blur) - normalCdf(((places - j) * step) / blur))
    return sum
  }
  const most = answer(0)
  return Float32Array.from(
    { length: 2 * window + 1 },
    (_, d) => (LOBE_SHARE * Math.max(0, -answer(d))) / most,
  )
}

/** The strengths less what the lobes of stronger steps beside them explain. */
function withoutLobes(strength: Float32Array, places: number, lobes: Float32Array): Float32Array {
  const lobe = new Float32Array(strength.length)
  lobes.forEach((share, d) => {
    if (share > 0) raiseLobes(strength, places, { share, d }, lobe)
  })
  return strength.map((s, i) => Math.max(0, s - lobe[i]!))
}

function raiseLobes(
  strength: Float32Array,
  places: number,
  { share, d }: { share: number; d: number },
  lobe: Float32Array,
): void {
  for (let from = 0; from < strength.length; from += places)
    for (let i = from; i + d < from + places; i++) {
      const here = share * strength[i]!
      const beside = share * strength[i + d]!
      if (here > lobe[i + d]!) lobe[i + d] = here
      if (beside > lobe[i]!) lobe[i] = beside
    }
}

/** Antisymmetric filter, by its right half: the blurred step less its part along the slope (level and bend are even). */
export function stepFilter(window: number, step: number, blur: number): Float32Array {
  const shape = Float64Array.from({ length: window + 1 }, (_, j) => normalCdf((j * step) / blur) - 0.5)
  let xx = 0
  let xs = 0
  for (let j = 1; j <= window; j++) {
    xx += j * j
    xs += j * shape[j]!
  }
  let norm = 0
  const out = Float32Array.from(shape, (s, j) => s - (xs / xx) * j)
  for (let j = 1; j <= window; j++) norm += 2 * out[j]! * out[j]!
  return out.map((v) => v / Math.sqrt(norm))
}

/** How much more light a code more is, about the mean of so many lines' light. */
function lightOfCode(light: Float32Array, lines: number): number {
  let sum = 0
  for (const v of light) sum += v
  return (GAMMA / 255) * (sum / (light.length * lines)) ** (1 - 1 / GAMMA)
}

function noiseOf(part: Float32Array, count: number, places: number, least: Float32Array): Float32Array {
  const each = new Float32Array(count)
  const line = new Float32Array(places)
  for (let i = 0; i < count; i++) {
    for (let k = 0; k < places; k++) line[k] = Math.abs(part[i * places + k]!)
    each[i] = upperMedian(line)
  }
  const near = new Float32Array(2 * NOISE_POINTS + 1)
  return each.map((_, i) => {
    const from = Math.max(0, i - NOISE_POINTS)
    const n = Math.min(count, i + NOISE_POINTS + 1) - from
    for (let k = 0; k < n; k++) near[k] = each[from + k]!
    return Math.max(least[i]!, 1.4826 * upperMedian(n < near.length ? near.subarray(0, n) : near))
  })
}

/** What a clear edge farther out takes from one: the outline is the outermost edge. */
const OUTER_SHARE = 0.4
/** … of a clear piece, whose inside shows many; there an edge that is clear is as good as the clearest. */
const OUTER_SHARE_CLEAR = 0.9
const CLEAR_ENOUGH = 1.8
/** Grain answers with up to this. */
export const GRAIN = 0.7

/** What each place's step is worth; the logarithm keeps one glaring edge from outvoting many clear ones. */
export function clearness({ strength }: EdgeBand): Float32Array {
  return strength.map((s) => Math.log(1 + (s * s) / 4))
}

/** Noise is told by so many px on either side of a chain. */
const NOISE_PX = 12

/** How clear the clearest edge is within so many px of each point of a chain. @param turn as `normalsOf` */
export function clearestAlong(
  raster: Raster,
  chain: Float64Array,
  { turn, blur, aside }: { turn: 1 | -1; blur: number; aside: number },
): number[] {
  const band = edgeBand(raster, chain, normalsOf(chain, turn, 2), { reach: NOISE_PX, blur, step: 0.5 })
  const clear = clearness(band)
  const middle = (band.places - 1) / 2
  const look = Math.round(aside / band.step)
  return Array.from({ length: band.count }, (_, i) => {
    const at = i * band.places + middle
    return Math.max(...clear.subarray(at - look, at + look + 1))
  })
}

/** An edge is clear from this worth on, and a way's own edge lies within so many px of it. */
export const CLEAR_EDGE = 1
export const OWN_PX = 1.5

/** How clear the edge along ways is, on average over their points; clear is 1. */
export function shownAlong(raster: Raster, ways: readonly Float64Array[], blur: number): number {
  const clear = ways.flatMap((way) => clearestAlong(raster, way, { turn: 1, blur, aside: OWN_PX }))
  return clear.reduce((sum, v) => sum + Math.min(CLEAR_EDGE, v) / clear.length, 0)
}

/**
 * What a path along the outline earns at each place: an edge with another one outside it is likely a rim's near side or a
 * reflection.
 * @param blur of the picture's edges, px: nearer than a few of them, two places show the same edge
 * @param seeThrough the piece is clear
 * @param isBackdrop 1 for the places of a band whose edges are the backdrop's own lines: what lies within one is no inner edge for that
 */
export function worthOf(
  band: EdgeBand,
  blur: number,
  seeThrough = false,
  isBackdrop: Uint8Array | null = null,
): Float32Array {
  const { count, places, step } = band
  const share = seeThrough ? OUTER_SHARE_CLEAR : OUTER_SHARE
  const clear = seeThrough
    ? clearness(band).map((v) => Math.min(Math.max(0, v - GRAIN), CLEAR_ENOUGH))
    : clearness(band)
  const out = clear.slice()
  const gap = Math.ceil((3 * blur + 1) / step)
  for (let i = 0; i < count; i++) {
    let outer = 0
    for (let k = places - 1 - gap; k >= 0; k--) {
      const beyond = i * places + k + gap
      if (!isBackdrop?.[beyond]) outer = Math.max(outer, clear[beyond]!)
      out[i * places + k]! -= share * outer
    }
  }
  return out
}

/** Worths of two bands of mirrored chains, so that an edge counts that both sides show, to within `slack` places. */
export function sharedWorth(
  [a, b]: readonly [EdgeBand, EdgeBand],
  [p, q]: readonly [Float32Array, Float32Array],
  slack: number,
): Float32Array {
  const other = spread(q, b, slack)
  return spread(p, a, slack).map((v, i) => v + other[i]!)
}

/** Each place takes the best within `slack`. */
function spread(worth: Float32Array, { count, places }: EdgeBand, slack: number): Float32Array {
  const out = new Float32Array(worth.length)
  for (let i = 0; i < count; i++)
    for (let k = 0; k < places; k++) {
      let best = -Infinity
      for (let j = Math.max(0, k - slack); j <= Math.min(places - 1, k + slack); j++)
        best = Math.max(best, worth[i * places + j]! - 0.05 * Math.abs(j - k))
      out[i * places + k] = best
    }
  return out
}

/** The worths with places that a path may not take ruled out. */
export function within(
  worth: Float32Array,
  { count, places }: Pick<EdgeBand, 'count' | 'places'>,
  allowed: (i: number, k: number) => boolean,
): Float32Array {
  const out = worth.slice()
  for (let i = 0; i < count; i++)
    for (let k = 0; k < places; k++) if (!allowed(i, k)) out[i * places + k] = FORBIDDEN
  return out
}

/** A chain moved to the places of a path through its band. */
export function moveTo(
  path: Int32Array,
  points: Float64Array,
  normals: Float64Array,
  { places, step }: EdgeBand,
): Float64Array {
  const half = (places - 1) / 2
  return points.map((p, i) => p + normals[i]! * (path[i >> 1]! - half) * step)
}
