import { LINEAR, pixelsOf, type Plane, type Raster } from './raster'

/** A reduced picture in a space where distances are about as large as they look. */
export interface LabPicture {
  /** Full-resolution px for one px here. */
  factor: number
  width: number
  height: number
  /** Lightness 0..1 and two colour axes (OKLab, B. Ottosson 2020, from memory). */
  l: Float32Array
  a: Float32Array
  b: Float32Array
  /** Mean alpha, 0..1; null for a picture without transparent pixels. */
  alpha: Plane | null
}

/**
 * Reduces a picture by a whole factor, averaging light, and takes it to OKLab.
 * @param factor full-resolution px for one reduced px, a whole number from 1
 */
export function reduceToLab(raster: Raster, factor: number): LabPicture {
  const width = Math.floor(raster.width / factor)
  const height = Math.floor(raster.height / factor)
  const n = width * height
  const l = new Float32Array(n)
  const a = new Float32Array(n)
  const b = new Float32Array(n)
  const alpha = new Float32Array(n)
  let transparent = false
  const { data } = raster
  // Of large blocks every other pixel is enough: the reduced picture only guides the search for edges.
  const step = factor >= 4 ? 2 : 1
  const per = 1 / Math.ceil(factor / step) ** 2
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let r = 0
      let g = 0
      let bl = 0
      let al = 0
      for (let j = 0; j < factor; j += step) {
        let i = 4 * ((y * factor + j) * raster.width + x * factor)
        for (let k = 0; k < factor; k += step, i += 4 * step) {
          r += LINEAR[data[i]!]!
          g += LINEAR[data[i + 1]!]!
          bl += LINEAR[data[i + 2]!]!
          al += data[i + 3]!
        }
      }
      const at = y * width + x
      alpha[at] = (al * per) / 255
      if (alpha[at]! < 0.999) transparent = true
      toOklab(r * per, g * per, bl * per, at, l, a, b)
    }
  }
  return { factor, width, height, l, a, b, alpha: transparent ? { width, height, data: alpha } : null }
}

/** Two of a pixel's four bytes, with room above each. */
export const PAIR = 0xff00ff
/** Half of the divisor in both. */
const ROUND = 0x20002

/** Several look through a smaller copy of the same picture. */
const HALVES = new WeakMap<Raster, Raster>()

/**
 * A copy of a picture at half its size; an odd last row or column is left out. Bytes are averaged as they are encoded, which is
 * quick and good enough to look for things; where an edge lies to a fraction of a pixel is asked of the picture itself.
 */
export function halved(picture: Raster): Raster {
  const known = HALVES.get(picture)
  if (known) return known
  const half = halfOf(picture)
  HALVES.set(picture, half)
  return half
}

/** A copy of a picture no longer than so many px, halved as often as that takes, and how many px of the picture lie along one of its. */
export function halvedTo(picture: Raster, longest: number): { copy: Raster; times: number } {
  let copy = picture
  let times = 1
  for (; Math.max(copy.width, copy.height) > longest; times *= 2) copy = halved(copy)
  return { copy, times }
}

function halfOf({ width, height, data }: Raster): Raster {
  const [w, h] = [width >> 1, height >> 1]
  const out = new Int32Array(w * h)
  const pixels = pixelsOf(data)
  for (let y = 0, to = 0; y < h; y++) {
    let upper = 2 * y * width
    let lower = upper + width
    for (let x = 0; x < w; x++, upper += 2, lower += 2) {
      const [p, q] = [pixels[upper]!, pixels[upper + 1]!]
      const [r, s] = [pixels[lower]!, pixels[lower + 1]!]
      const one = (p & PAIR) + (q & PAIR) + (r & PAIR) + (s & PAIR) + ROUND
      const two = ((p >>> 8) & PAIR) + ((q >>> 8) & PAIR) + ((r >>> 8) & PAIR) + ((s >>> 8) & PAIR) + ROUND
      out[to++] = ((one >>> 2) & PAIR) | (((two >>> 2) & PAIR) << 8)
    }
  }
  return { width: w, height: h, data: new Uint8Array(out.buffer) }
}

/** Takes linear-light sRGB, 0..1, to OKLab, written at one place of three channels. */
export function toOklab(
  r: number,
  g: number,
  bl: number,
  at: number,
  L: Float32Array,
  A: Float32Array,
  B: Float32Array,
): void {
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * bl)
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * bl)
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * bl)
  L[at] = 0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s
  A[at] = 1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s
  B[at] = 0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s
}
