import type { PicturePoint } from '../conventions'
import type { Raster } from '../picture/raster'
import { addLight } from '../picture/sample'
import { normalCdf } from './edge-fit'

/** Shadows' borders are more than so many times as soft as the picture's edges, most of them. */
export const SOFTER = 2.5
/** … and explain so many times as much as sharp ones: noise and edges side by side are explained by either alike. */
const MORE = 1.01
/** Each line's step may lie so many px from its middle, tried so far apart. */
const ASIDE_PX = 1.5
const ASIDE_STEP_PX = 0.5
/** Level, slope and bend of what lies on either side tell nothing of a step. */
const SMOOTH = 3
/** Lines across a step are averages of so many, px apart; samples lie so far apart, px. */
const ROWS = [-1.3, 0, 1.3]
const STEP_PX = 0.5

/** So far on either side of a step what there is tells how soft it is, px: farther off other edges stand. */
export const reachOfSteps = (blur: number) => 2 + 4 * blur
const samplesAside = (blur: number) => Math.round(reachOfSteps(blur) / STEP_PX)

/** The root of the light along a normal on either side of a place, whose noise is even; all three colours together. */
export function lightAcross(
  raster: Raster,
  { x, y }: PicturePoint,
  normal: PicturePoint,
  blur: number,
): Float32Array {
  const half = samplesAside(blur)
  const count = 2 * half + 1
  const [dx, dy] = [STEP_PX * normal.x, STEP_PX * normal.y]
  const light = new Float32Array(3 * count)
  for (const t of ROWS)
    addLight(
      raster,
      { x: x - half * dx - t * normal.y, y: y - half * dy + t * normal.x, dx, dy, count },
      light,
    )
  return Float32Array.from({ length: count }, (_, k) =>
    Math.sqrt(light[k]! + light[count + k]! + light[2 * count + k]!),
  )
}

/**
 * Whether the steps in the middle of lines of light across an edge are those of a shadow, much softer than the picture's edges: blurred
 * steps of either kind are fitted to each line beside its level, slope and bend, and what they explain is summed.
 * @param lines as `lightAcross` reads them
 * @param blur of the picture's edges (standard deviation), px
 */
export function areSoft(lines: readonly Float32Array[], blur: number): boolean {
  const [sharp, soft] = [blur, SOFTER * blur].map((sigma) => stepsAbout(samplesAside(blur), sigma)) as [
    Float64Array[],
    Float64Array[],
  ]
  const explained = (steps: readonly Float64Array[]) =>
    lines.reduce((sum, line) => sum + Math.max(...steps.map((step) => dot(step, line) ** 2)), 0)
  return explained(soft) > MORE * explained(sharp)
}

/** Steps of this blur about the middle of a line, of length 1, square to its level, slope and bend. */
function stepsAbout(half: number, sigma: number): Float64Array[] {
  const samples = (valueAt: (k: number) => number) =>
    Float64Array.from({ length: 2 * half + 1 }, (_, i) => valueAt(i - half))
  const smooth: Float64Array[] = []
  for (let power = 0; power < SMOOTH; power++)
    smooth.push(
      squareTo(
        smooth,
        samples((k) => (k / half) ** power),
      ),
    )
  const out: Float64Array[] = []
  for (let aside = -ASIDE_PX; aside <= ASIDE_PX; aside += ASIDE_STEP_PX)
    out.push(
      squareTo(
        smooth,
        samples((k) => normalCdf((k * STEP_PX - aside) / sigma)),
      ),
    )
  return out
}

/** What of a vector is square to some that are square to each other, all of length 1 (Gram-Schmidt). */
function squareTo(others: readonly Float64Array[], vector: Float64Array): Float64Array {
  const out = vector.slice()
  for (const other of others) {
    const share = dot(other, out)
    other.forEach((v, k) => (out[k]! -= share * v))
  }
  const length = Math.sqrt(dot(out, out))
  return out.map((v) => v / length)
}

function dot(p: ArrayLike<number>, q: ArrayLike<number>): number {
  let sum = 0
  for (let k = 0; k < p.length; k++) sum += p[k]! * q[k]!
  return sum
}
