import type { Raster } from '../picture/raster'
import { sampleLinear } from '../picture/sample'
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
}

/** Rows averaged along the edge, px. */
const ALONG = [-1.3, 0, 1.3]
/** The window of the fit reaches so many px, and so many blurs, beyond the place. */
const WINDOW_PX = 2.5
const WINDOW_BLURS = 1.5
/** Noise is the median over the band of so many points each way. */
const NOISE_POINTS = 25
/** No noise is less than this, in linear light: half a step of an 8-bit picture in the shadows. */
const LEAST_NOISE = 4e-4

/**
 * Looks for steps with the picture's own blur on top of a brightness that may slope and bend, as a shaded body and a
 * contact shadow do: the step's least-squares height beside level, slope and bend, which is one filter (the step made
 * orthogonal to the others), in all three colours. A soft shadow is no step of this blur and hardly answers.
 */
export function edgeBand(
  raster: Raster,
  points: Float64Array,
  normals: Float64Array,
  { reach, blur, step }: BandOptions,
): EdgeBand {
  const count = points.length / 2
  const half = Math.round(reach / step)
  const places = 2 * half + 1
  const window = Math.ceil((WINDOW_PX + WINDOW_BLURS * blur) / step)
  const filter = stepFilter(window, step, blur)
  const samples = places + 2 * window
  const light = new Float32Array(3 * samples)
  const responses = new Float32Array(3 * count * places)
  const c = [0, 0, 0]
  for (let i = 0; i < count; i++) {
    const [x, y, nx, ny] = [points[2 * i]!, points[2 * i + 1]!, normals[2 * i]!, normals[2 * i + 1]!]
    light.fill(0)
    for (let k = 0; k < samples; k++) {
      const d = (k - half - window) * step
      for (const t of ALONG) {
        sampleLinear(raster, x + d * nx - t * ny, y + d * ny + t * nx, c)
        light[k]! += c[0]!
        light[samples + k]! += c[1]!
        light[2 * samples + k]! += c[2]!
      }
    }
    for (let channel = 0; channel < 3; channel++) {
      const from = channel * samples
      for (let k = 0; k < places; k++) {
        let sum = 0
        for (let j = 1; j <= window; j++)
          sum += filter[j]! * (light[from + k + window + j]! - light[from + k + window - j]!)
        responses[(channel * count + i) * places + k] = sum / ALONG.length
      }
    }
  }
  const strength = new Float32Array(count * places)
  for (let channel = 0; channel < 3; channel++) {
    const part = responses.subarray(channel * count * places, (channel + 1) * count * places)
    const noise = noiseOf(part, count, places)
    for (let i = 0; i < count; i++)
      for (let k = 0; k < places; k++) strength[i * places + k]! += (part[i * places + k]! / noise[i]!) ** 2
  }
  for (let i = 0; i < strength.length; i++) strength[i] = Math.sqrt(strength[i]! / 3)
  return { count, places, step, strength }
}

/** Antisymmetric filter, by its right half: the blurred step less its part along the slope (level and bend are even). */
function stepFilter(window: number, step: number, blur: number): Float32Array {
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

function noiseOf(part: Float32Array, count: number, places: number): Float32Array {
  const each = new Float32Array(count)
  const line = new Float32Array(places)
  for (let i = 0; i < count; i++) {
    for (let k = 0; k < places; k++) line[k] = Math.abs(part[i * places + k]!)
    line.sort()
    each[i] = line[places >> 1]!
  }
  return each.map((_, i) => {
    const near = each.slice(Math.max(0, i - NOISE_POINTS), i + NOISE_POINTS + 1).sort()
    return Math.max(LEAST_NOISE, 1.4826 * near[near.length >> 1]!)
  })
}

/** What a clear edge farther out takes from one: the outline is the outermost edge. */
const OUTER_SHARE = 0.4

/**
 * What a path through the band earns at each place. The logarithm keeps one glaring edge from outvoting many clear ones;
 * an edge with another one outside it is likely a rim's near side or a reflection.
 * @param blur of the picture's edges, px: nearer than a few of them, two places show the same edge
 */
export function worthOf({ strength, count, places, step }: EdgeBand, blur: number): Float32Array {
  const out = strength.map((s) => Math.log(1 + (s * s) / 4))
  const gap = Math.ceil((3 * blur + 1) / step)
  for (let i = 0; i < count; i++) {
    let outer = 0
    for (let k = places - 1 - gap; k >= 0; k--) {
      outer = Math.max(outer, Math.log(1 + strength[i * places + k + gap]! ** 2 / 4))
      out[i * places + k]! -= OUTER_SHARE * outer
    }
  }
  return out
}

/** Two bands of mirrored chains, so that an edge counts that both sides show, to within `slack` places. */
export function sharedWorth(a: EdgeBand, b: EdgeBand, slack: number, blur: number): Float32Array {
  const [p, q] = [spread(worthOf(a, blur), a, slack), spread(worthOf(b, blur), b, slack)]
  return p.map((v, i) => v + q[i]!)
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

/**
 * The path through a band that earns most: one place a point, each change of place costs in proportion up to a limit (a
 * corner). Exact dynamic program.
 * @param allowed places that the path may take at each point; default all
 */
export function bestPath(
  worth: Float32Array,
  count: number,
  places: number,
  cost: { perPlace: number; most: number },
  allowed: (i: number, k: number) => boolean = () => true,
): Int32Array {
  const from = new Uint16Array(count * places)
  let score = new Float32Array(places)
  for (let k = 0; k < places; k++) score[k] = allowed(0, k) ? worth[k]! : -1e6
  for (let i = 1; i < count; i++) {
    const next = new Float32Array(places)
    let best = 0
    for (let k = 1; k < places; k++) if (score[k]! > score[best]!) best = k
    for (let k = 0; k < places; k++) {
      next[k] = score[k]!
      from[i * places + k] = k
      if (k > 0 && next[k - 1]! - cost.perPlace > next[k]!) {
        next[k] = next[k - 1]! - cost.perPlace
        from[i * places + k] = from[i * places + k - 1]!
      }
    }
    for (let k = places - 2; k >= 0; k--) {
      if (next[k + 1]! - cost.perPlace <= next[k]!) continue
      next[k] = next[k + 1]! - cost.perPlace
      from[i * places + k] = from[i * places + k + 1]!
    }
    const far = score[best]! - cost.most
    for (let k = 0; k < places; k++) {
      if (far > next[k]!) {
        next[k] = far
        from[i * places + k] = best
      }
      next[k] = allowed(i, k) ? next[k]! + worth[i * places + k]! : -1e6
    }
    score = next
  }
  const out = new Int32Array(count)
  let k = 0
  for (let j = 1; j < places; j++) if (score[j]! > score[k]!) k = j
  for (let i = count - 1; i >= 0; i--) {
    out[i] = k
    k = from[i * places + k]!
  }
  return out
}
