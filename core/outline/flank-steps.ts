import type { Raster } from '../picture/raster'
import { addLight } from '../picture/sample'
import { upperMedian } from '../upper-median'
import { inAxis, type AxisLine } from './axis-line'
import { normalsOf } from './chain'
import { answered, stepFilter } from './edge-band'
import { inPicture } from './end-view'
import type { OutlineSide } from './refine'

/** Of the mirrored upper flank only what runs along the piece is asked: its normal points aside by more than this. */
const FLANK = 0.6
/** Light is read at places so far apart, px. */
export const STEP_PX = 0.5
/** Rows averaged along the flank, px. */
const ROWS = [-4, -2.7, -1.3, 0, 1.3, 2.7, 4]
/** The filter's window, px and blurs: short, so that both borders of a thin stripe answer by themselves. */
const WINDOW_PX = 1.5
const WINDOW_BLURS = 1.5
/** A step is one from so many times the noise on, and no noise is less than this, in the root of light. */
const STEP_ANSWERS = 4
const LEAST_NOISE = 2e-4
/** Beside a step the filter answers with up to this share of it, of the other sign. */
const LOBE = 0.35
/** A stripe of shadow is at least so wide, px: a thinner one is no more than the edge's own dark side. */
const LEAST_STRIPE_PX = 2

/** The mirrored upper flank [u v ...] with its normals, outwards, and which of its points show an edge. */
export interface Flank {
  points: Float64Array
  normals: Float64Array
  seen: boolean[]
}

export function mirroredFlank({ points, sd }: OutlineSide, axis: AxisLine, left: boolean): Flank {
  const flank = inAxis(points, axis, left)
  // In the axis' own frame v grows upwards: the outside lies to the right of the way.
  const normals = normalsOf(flank, -1, 3)
  return { points: flank, normals, seen: Array.from(sd, Number.isFinite) }
}

/** A place of the mirrored flank: how far out from it the outline runs, and all steps to a darker outside within the outline, px. */
export interface Place {
  index: number
  v: number
  found: number
  edges: number[]
}

/**
 * What the picture shows along the normals of a flank.
 * @param own the outline there [u v ...]
 * @param reach so far to either side it is looked at, px
 * @param left the flank lies on the left of the axis
 */
export function placesAlong(
  raster: Raster,
  flank: Flank,
  own: Float64Array,
  { axis, left, reach, blur }: { axis: AxisLine; left: boolean; reach: number; blur: number },
): Place[] {
  const { points, normals, seen } = flank
  const window = Math.ceil((WINDOW_PX + WINDOW_BLURS * blur) / STEP_PX)
  const filter = stepFilter(window, STEP_PX, blur)
  const half = Math.round(reach / STEP_PX)
  const count = 2 * half + 1
  const samples = count + 2 * window
  const light = new Float32Array(3 * samples)
  const at = inPicture(points, axis, left)
  const ends = inPicture(
    points.map((c, i) => c + normals[i]!),
    axis,
    left,
  )
  const rows: { index: number; v: number; found: number; answers: Float32Array; roots: Float32Array }[] = []
  for (let i = 0; i < seen.length; i++) {
    if (!seen[i] || normals[2 * i]! < FLANK) continue
    const found = crossingOf(own, flank, i, reach)
    if (found === null) continue
    const [nx, ny] = [ends[2 * i]! - at[2 * i]!, ends[2 * i + 1]! - at[2 * i + 1]!]
    const from = -(half + window) * STEP_PX
    light.fill(0)
    for (const t of ROWS)
      addLight(raster, { x: at[2 * i]! + from * nx - t * ny, y: at[2 * i + 1]! + from * ny + t * nx, dx: STEP_PX * nx, dy: STEP_PX * ny, count: samples }, light) // prettier-ignore
    // The root of light, whose noise is even, on average over the colours.
    const rootAt = (k: number) => Math.sqrt(light[k]! / ROWS.length) / 3
    const roots = Float32Array.from({ length: samples }, (_, k) => rootAt(k) + rootAt(samples + k) + rootAt(2 * samples + k)) // prettier-ignore
    const answers = new Float32Array(count)
    answered(roots, filter, 1, answers)
    rows.push({ index: i, v: points[2 * i + 1]!, found, answers, roots })
  }
  const noise = Math.max(LEAST_NOISE, 1.4826 * upperMedian(Float32Array.from(rows.flatMap(({ answers }) => Array.from(answers, Math.abs))))) // prettier-ignore
  return rows.map(({ answers, roots, ...place }) => {
    const beyond = answerNear(answers, half + place.found / STEP_PX)
    const least = Math.max(STEP_ANSWERS * noise, LOBE * beyond)
    const edges = beyond >= STEP_ANSWERS * noise ? stepsDown(answers, least, half, place.found) : []
    return {
      ...place,
      edges: edges.filter((at) =>
        isDark(roots, half + window + at / STEP_PX, half + window + place.found / STEP_PX),
      ),
    }
  })
}

/** What lies between two borders of a stripe is darker than what lies within by this share. */
const DARKER = 0.08
/** Told from so far of a border, px, over so many. */
const ASIDE_PX = 1.5
const OVER_PX = 3

function isDark(roots: Float32Array, edge: number, border: number): boolean {
  const mean = (from: number, to: number) => {
    const part = roots.subarray(Math.max(0, Math.round(from)), Math.max(0, Math.round(to)) + 1)
    return part.reduce((sum, v) => sum + v, 0) / part.length
  }
  const aside = ASIDE_PX / STEP_PX
  const within = mean(edge - aside - OVER_PX / STEP_PX, edge - aside)
  const stripe = Math.min(...roots.subarray(Math.round(edge), Math.round(border) + 1))
  return stripe < (1 - DARKER) * within
}

/** The largest answer within a px of an index. */
function answerNear(answers: Float32Array, index: number): number {
  const [from, to] = [Math.max(0, Math.floor(index) - 2), Math.ceil(index) + 3]
  return Math.max(-Infinity, ...answers.subarray(from, to))
}

/** Places of the peaks of steps to a darker outside, px, farther in than the outline by a stripe at least. */
function stepsDown(answers: Float32Array, least: number, half: number, found: number): number[] {
  const out: number[] = []
  for (let k = 1; k + 1 < answers.length; k++) {
    const at = (k - half) * STEP_PX
    if (at > found - LEAST_STRIPE_PX) break
    if (-answers[k]! >= least && answers[k]! <= answers[k - 1]! && answers[k]! < answers[k + 1]!) out.push(at)
  }
  return out
}

/** How far along the normal of one of a flank's points a chain [u v ...] crosses it, px, the outermost time; null beyond the reach. */
function crossingOf(
  chain: Float64Array,
  { points, normals }: Flank,
  i: number,
  reach: number,
): number | null {
  const [u, v, nu, nv] = [points[2 * i]!, points[2 * i + 1]!, normals[2 * i]!, normals[2 * i + 1]!]
  const across = (k: number) => (chain[k + 1]! - v) * nu - (chain[k]! - u) * nv
  const along = (k: number) => (chain[k]! - u) * nu + (chain[k + 1]! - v) * nv
  let best: number | null = null
  for (let k = 0; k + 3 < chain.length; k += 2) {
    const [from, to] = [across(k), across(k + 2)]
    if (from * to > 0 || from === to) continue
    const at = along(k) + ((along(k + 2) - along(k)) * from) / (from - to)
    if (Math.abs(at) <= reach && (best === null || at > best)) best = at
  }
  return best
}
