import { solvePositive } from '../least-squares'
import type { Raster } from '../picture/raster'
import { addLight } from '../picture/sample'

/** An edge found along a normal. */
export interface EdgeFit {
  /** Distance from the start along the normal, px, positive outwards. */
  offset: number
  /** Standard error of the offset from the fit's residuals, px. */
  sd: number
  /** Step height in linear light, as a share of the noise. */
  contrast: number
  /** Blur of the edge (standard deviation of its Gaussian), px. */
  blur: number
}

/** Edges that stand out of the noise by this tell the blur. */
export const TELLS_BLUR = 15

const STEP_PX = 0.5
/** Rows averaged along an edge. */
export interface Along {
  /** They lie a px apart, up to so many px on either side. */
  reach: number
  /** How the edge bends outwards meanwhile: half its curvature, per px. */
  bend: number
  /** In a copy that was enlarged, so that a soft edge takes up more px than usual. */
  enlarged?: boolean
}

/** Halves the noise, and bends no edge that is worth the name. */
export const USUAL_ALONG: Along = { reach: 2, bend: 0 }
/** While still searching, fewer rows do. */
const ALONG_SEARCH = [-1.5, 1.5]

/**
 * Brightness along the normal through (x, y), in linear light, projected on the colour difference between its outer
 * and inner end so that a change of hue counts as an edge too. Sample k lies at (k - reach/STEP) · STEP px.
 */
function profileAlong(
  raster: Raster,
  x: number,
  y: number,
  nx: number,
  ny: number,
  reach: number,
  { rows, bend = 0, step = STEP_PX }: { rows: readonly number[]; bend?: number; step?: number },
): Float32Array {
  const n = Math.round(reach / step)
  const count = 2 * n + 1
  const rgb = new Float32Array(3 * count)
  for (const t of rows) {
    const from = bend * t * t - n * step
    addLight(
      raster,
      { x: x + from * nx - t * ny, y: y + from * ny + t * nx, dx: step * nx, dy: step * ny, count },
      rgb,
    )
  }
  // The direction in colour space in which the two sides of the middle differ most.
  const near = Math.max(2, Math.min(n, Math.round(4 / step)))
  const diff = [0, 0, 0]
  for (let k = 1; k <= near; k++)
    for (let j = 0; j < 3; j++) diff[j]! += rgb[count * j + n + k]! - rgb[count * j + n - k]!
  const length = Math.hypot(diff[0]!, diff[1]!, diff[2]!)
  const [wr, wg, wb] = length > 0 ? diff.map((v) => v / length) : [0.58, 0.58, 0.58]
  const out = new Float32Array(count)
  for (let k = 0; k < count; k++)
    out[k] = (wr! * rgb[k]! + wg! * rgb[count + k]! + wb! * rgb[2 * count + k]!) / rows.length
  return out
}

/**
 * Place of the strongest edge within reach of (x, y) along its normal: the steepest ascent of the brightness blurred
 * by `sigma`, places farther off counting less.
 */
export function strongestEdge(
  raster: Raster,
  x: number,
  y: number,
  nx: number,
  ny: number,
  reach: number,
  sigma: number,
): { offset: number; strength: number } {
  const tail = 2 * sigma
  // A wide look needs no fine steps.
  const step = Math.max(STEP_PX, sigma / 4)
  const p = profileAlong(raster, x, y, nx, ny, reach + tail, { rows: ALONG_SEARCH, step })
  const n = (p.length - 1) / 2
  const half = Math.round(tail / step)
  const weight = Float32Array.from({ length: half + 1 }, (_, k) => {
    const d = k * step
    return d * Math.exp((-d * d) / (2 * sigma * sigma))
  })
  let best = { offset: 0, strength: 0 }
  let bestScore = 0
  for (let k = half; k < p.length - half; k++) {
    let g = 0
    for (let j = 1; j <= half; j++) g += weight[j]! * (p[k + j]! - p[k - j]!)
    const offset = (k - n) * step
    const score = Math.abs(g) * (1 - 0.5 * (offset / reach) ** 2)
    if (score > bestScore) {
      bestScore = score
      best = { offset, strength: Math.abs(g) }
    }
  }
  return best
}

const ROUNDS = 8
/** Inner and outer level, their slopes, place and blur. */
const PARAMETERS = 6
/** Picks the place among them. */
const PLACE = [0, 0, 0, 0, 1, 0]
/** Reach of the fine fit, px: beyond so many blurs an edge is over, which is so far in all but enlarged pictures. */
const FIT_REACH = 6
const OVER_BLURS = 3
/** Edges of one picture share their blur to about this factor. */
const BLUR_LIKE = 0.25

/**
 * Fits a blurred step to the brightness along a normal: a level and a slope on either side (a round body shades off
 * towards its limb, the floor towards a contact shadow), and a Gaussian blur, by damped Gauss-Newton. The half-way place
 * of the step is where the edge is.
 * @param usualBlur blur of the picture's edges, px, which the fit is held near to; null while it isn't known
 * @param along rows averaged; more where noise hides the edge
 * @returns null when no step stands out of the noise or the fit runs away
 */
export function fitEdge(
  raster: Raster,
  x: number,
  y: number,
  nx: number,
  ny: number,
  usualBlur: number | null,
  { reach, bend, enlarged = false }: Along = USUAL_ALONG,
): EdgeFit | null {
  const rows = Array.from({ length: 2 * reach + 1 }, (_, i) => i - reach)
  const within = (far: number, most: number) =>
    fitStep(profileAlong(raster, x, y, nx, ny, far, { rows, bend }), usualBlur, most)
  const near = within(FIT_REACH, FIT_REACH - 1.5)
  if (near || !enlarged || !usualBlur || usualBlur * OVER_BLURS <= FIT_REACH) return near
  // Of a softer edge so few px show too little of what lies on either side.
  return within(usualBlur * OVER_BLURS, usualBlur)
}

/** A blurred step fitted to brightness along a normal, at most so far from its middle, px. */
function fitStep(y0: Float32Array, usualBlur: number | null, mostOff: number): EdgeFit | null {
  const count = y0.length
  const n = (count - 1) / 2
  let t0 = 0
  let blur = usualBlur ?? 1
  let outer = mean(y0, n + Math.round(1.5 / STEP_PX), n + Math.round(3 / STEP_PX))
  let inner = mean(y0, n - Math.round(3 / STEP_PX), n - Math.round(1.5 / STEP_PX))
  let slopeIn = 0
  let slopeOut = 0
  let variance = Infinity
  let sd = Infinity
  const j = new Float64Array(PARAMETERS)
  for (let round = 0; round < ROUNDS; round++) {
    const ata = new Float64Array(PARAMETERS ** 2)
    const atb = new Float64Array(PARAMETERS)
    let sum = 0
    for (let k = 0; k < count; k++) {
      const t = (k - n) * STEP_PX
      const s = (t - t0) / blur
      const cover = normalCdf(s)
      const density = Math.exp(-0.5 * s * s) / Math.sqrt(2 * Math.PI)
      const inside = Math.min(0, t - t0)
      const outside = Math.max(0, t - t0)
      const r = y0[k]! - (inner * (1 - cover) + outer * cover + slopeIn * inside + slopeOut * outside)
      const step = outer - inner
      j[0] = 1 - cover
      j[1] = cover
      j[2] = inside
      j[3] = outside
      j[4] = (-step * density) / blur - (inside < 0 ? slopeIn : slopeOut)
      j[5] = (-step * density * s) / blur
      sum += r * r
      for (let a = 0; a < PARAMETERS; a++) {
        atb[a]! += j[a]! * r
        // The lower half is all that is solved with.
        for (let b = 0; b <= a; b++) ata[PARAMETERS * a + b]! += j[a]! * j[b]!
      }
    }
    // Samples half a px apart, bilinear, aren't independent: about one in two tells something new.
    variance = sum / Math.max(1, count / 2 - PARAMETERS)
    const last = PARAMETERS ** 2 - 1
    if (usualBlur !== null) {
      const weight = variance / (BLUR_LIKE * usualBlur) ** 2
      ata[last]! += weight
      atb[PARAMETERS - 1]! += weight * (usualBlur - blur)
    }
    for (let a = 0; a < PARAMETERS; a++) ata[(PARAMETERS + 1) * a]! *= 1 + 1e-4
    const change = solvePositive(ata, atb, PARAMETERS)
    if (!change) return null
    const [d0, d1, d2, d3, d4, d5] = change as unknown as [number, number, number, number, number, number]
    inner += d0
    outer += d1
    slopeIn += d2
    slopeOut += d3
    t0 += Math.max(-1, Math.min(1, d4))
    blur = Math.min(4, Math.max(0.35, blur + Math.max(-0.5, Math.min(0.5, d5))))
    if (Math.abs(t0) > mostOff || !Number.isFinite(t0)) return null
    if ((Math.abs(d4) < 3e-3 && round > 1) || round === ROUNDS - 1) {
      // The place's variance is its entry of the inverse.
      const inverse = solvePositive(ata, PLACE, PARAMETERS)
      sd = inverse ? Math.sqrt(2 * variance * inverse[4]!) : Infinity
      break
    }
  }
  const contrast = Math.abs(outer - inner) / Math.sqrt(variance + 1e-9)
  return contrast > 4 && sd < 1 ? { offset: t0, sd, contrast, blur } : null
}

function mean(values: Float32Array, from: number, to: number): number {
  let sum = 0
  for (let i = from; i < to; i++) sum += values[i]!
  return sum / (to - from)
}

/** Normal distribution by Abramowitz & Stegun 7.1.26, error below 1.5e-7. */
export function normalCdf(s: number): number {
  const z = Math.abs(s) / Math.SQRT2
  const t = 1 / (1 + 0.3275911 * z)
  const erfc =
    t *
    (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429)))) *
    Math.exp(-z * z)
  return s > 0 ? 1 - 0.5 * erfc : 0.5 * erfc
}
