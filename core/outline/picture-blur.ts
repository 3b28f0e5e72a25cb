import { fitEdge, TELLS_BLUR } from './edge-fit'
import type { Raster } from '../picture/raster'

/** The picture's longer side is divided into so many blocks, of which each gives its strongest step. */
const BLOCKS = 48
/** So many of the strongest steps are asked, if they reach this share of the strongest of all. */
const MOST_ASKED = 240
const LEAST_SHARE = 0.15
/** Steps are looked for over so many px to either side of every so many px, of large pictures of every so many. */
const APART = 2
const STRIDE = 2
const STRIDE_LARGE = 3
const LARGE = 2400
/** Fewer edges than this tell nothing. */
const LEAST_TOLD = 12
/** Of all edges the sharper ones are those of things in focus: shadows and what stands far behind spread over more. */
const IN_FOCUS = 0.3

/**
 * How far the edges of a picture spread: the standard deviation, px, of the Gaussian that blurs the sharper ones of its strongest steps.
 * Wider ones than about 3 px are told too small.
 * @returns null where too few edges stand out of the noise
 */
export function pictureBlur(raster: Raster): number | null {
  const steps = strongestSteps(raster)
  const blurs: number[] = []
  for (const { x, y, dx, dy } of steps) {
    const l = Math.hypot(dx, dy)
    const fit = fitEdge(raster, x + 0.5, y + 0.5, dx / l, dy / l, null)
    if (fit && fit.contrast > TELLS_BLUR) blurs.push(fit.blur)
  }
  if (blurs.length < LEAST_TOLD) return null
  blurs.sort((p, q) => p - q)
  return blurs[Math.floor(IN_FOCUS * blurs.length)]!
}

interface Step {
  x: number
  y: number
  /** How the light grows across x and y. */
  dx: number
  dy: number
}

/** The strongest step of each block, the strongest of them first. */
function strongestSteps({ width, height, data }: Raster): Step[] {
  const size = Math.max(8, Math.ceil(Math.max(width, height) / BLOCKS))
  const columns = Math.ceil(width / size)
  const stride = Math.max(width, height) > LARGE ? STRIDE_LARGE : STRIDE
  /** The strongest step of each block, and the byte it was found at. */
  const strengths = new Int32Array(columns * Math.ceil(height / size))
  const found = new Int32Array(strengths.length)
  const row = 4 * APART * width
  const across = (i: number) => data[i + 4 * APART]! - data[i - 4 * APART]!
  const down = (i: number) => data[i + row]! - data[i - row]!
  for (let y = APART + 1; y < height - APART - 1; y += stride) {
    const blocks = Math.floor(y / size) * columns
    for (let x = APART + 1; x < width - APART - 1; x += stride) {
      // Green is most of the light.
      const i = 4 * (y * width + x) + 1
      const [dx, dy] = [across(i), down(i)]
      const strength = dx * dx + dy * dy
      const block = blocks + Math.floor(x / size)
      if (strength > strengths[block]!) {
        strengths[block] = strength
        found[block] = i
      }
    }
  }
  const sorted = [...found.keys()]
    .filter((block) => strengths[block]! > 0)
    .sort((p, q) => strengths[q]! - strengths[p]!)
  const least = LEAST_SHARE ** 2 * (sorted.length > 0 ? strengths[sorted[0]!]! : 0)
  return sorted
    .slice(0, MOST_ASKED)
    .filter((block) => strengths[block]! >= least)
    .map((block) => {
      const i = found[block]!
      const px = i >> 2
      return { x: px % width, y: Math.floor(px / width), dx: across(i), dy: down(i) }
    })
}
