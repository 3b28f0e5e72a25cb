import { pixelsOf, type Raster } from './raster'
import { PAIR } from './reduce'

/** The kernel reaches over so many of its widths. */
const REACH = 3
/** Weights are whole numbers that sum up to this, so that a byte's sum fits into two. */
const WHOLE = 256
/** Half of that for both bytes of a pair. */
const ROUND = 0x800080

/** Weights of a Gaussian from its middle outwards, whole numbers; both sides and the middle sum up to `WHOLE`. */
function weightsOf(sigma: number): number[] {
  const raw = Array.from({ length: Math.ceil(REACH * sigma) + 1 }, (_, d) =>
    Math.exp(-0.5 * (d / sigma) ** 2),
  )
  const sum = raw.reduce((s, w, d) => s + (d > 0 ? 2 * w : w), 0)
  const outer = raw.slice(1).map((w) => Math.round((WHOLE * w) / sum))
  return [WHOLE - 2 * outer.reduce((s, w) => s + w, 0), ...outer.filter((w) => w > 0)]
}

/**
 * A picture smoothed by a Gaussian, as it is encoded: quick, and good enough to look for things in noise. Beyond its border it goes
 * on as its last px.
 * @param sigma standard deviation, px
 */
export function smoothed({ width, height, data }: Raster, sigma: number): Raster {
  const weights = weightsOf(sigma)
  const pixels = pixelsOf(data)
  const across = new Int32Array(width * height)
  const out = new Int32Array(width * height)
  const reach = weights.length - 1
  const row = new Int32Array(width + 2 * reach)
  for (let y = 0; y < height; y++) {
    const line = pixels.subarray(y * width, (y + 1) * width)
    row.fill(line[0]!, 0, reach).fill(line[width - 1]!, width + reach)
    row.set(line, reach)
    const places = weights.map((_, d) => [reach - d, reach + d] as const)
    blend(row, places, weights, across.subarray(y * width, (y + 1) * width))
  }
  for (let y = 0; y < height; y++) {
    const places = weights.map((_, d) => [Math.max(0, y - d) * width, Math.min(height - 1, y + d) * width] as const) // prettier-ignore
    blend(across, places, weights, out.subarray(y * width, (y + 1) * width))
  }
  return { width, height, data: new Uint8Array(out.buffer) }
}

/** Blends px that begin at so many pairs of places, with a weight for each pair (the first is one place twice). */
function blend(
  from: Int32Array,
  places: readonly (readonly [number, number])[],
  weights: readonly number[],
  to: Int32Array,
): void {
  const count = to.length
  const even = new Int32Array(count).fill(ROUND)
  const odd = new Int32Array(count).fill(ROUND)
  places.forEach(([before, after], d) => {
    const weight = weights[d]!
    // The middle is met twice.
    const second = d > 0 ? PAIR : 0
    for (let i = 0; i < count; i++) {
      const [p, q] = [from[before + i]!, from[after + i]!]
      even[i]! += Math.imul(weight, (p & PAIR) + (q & second))
      odd[i]! += Math.imul(weight, ((p >>> 8) & PAIR) + ((q >>> 8) & second))
    }
  })
  for (let i = 0; i < count; i++) to[i] = ((even[i]! >>> 8) & PAIR) | (((odd[i]! >>> 8) & PAIR) << 8)
}
