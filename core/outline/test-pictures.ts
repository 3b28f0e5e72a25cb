import type { Raster } from '../picture/raster'
import type { OutlineSide } from './refine'

/** Pictures for tests, painted from signed distances. */
export function noise(seed: number) {
  let s = seed
  const random = () => (s = (s * 16807) % 2147483647) / 2147483647
  return () => Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random())
}
const encode = (linear: number) =>
  255 * (linear <= 0.0031308 ? 12.92 * linear : 1.055 * linear ** (1 / 2.4) - 0.055)

const brown: (x: number, y: number) => number[] = () => [0.12, 0.07, 0.04]

/**
 * A picture whose pixels are `cover` (0..1) of one colour over another, mixed in linear light as a lens does, with
 * some noise. Coverage is a smooth step of the signed distance, as a Gaussian blur (0.7 px, if nothing else is said) makes it.
 */
export function paint(
  width: number,
  height: number,
  distance: (x: number, y: number) => number,
  {
    inside = brown,
    outside = (_x: number, y: number) => [0.5 + y / 9000, 0.48, 0.44],
    alpha = false,
    grain = 1,
    blur = 0.7,
  } = {},
): Raster {
  const data = new Uint8Array(4 * width * height)
  const gauss = noise(5)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const d = distance(x + 0.5, y + 0.5)
      const cover = 1 / (1 + Math.exp((1.702 * d) / blur))
      const back = outside(x, y)
      const front = inside(x, y)
      const i = 4 * (y * width + x)
      for (let k = 0; k < 3; k++) {
        const v = encode(cover * front[k]! + (1 - cover) * back[k]!) + grain * gauss()
        data[i + k] = Math.max(0, Math.min(255, Math.round(v)))
      }
      data[i + 3] = alpha ? Math.round(255 * cover) : 255
    }
  return { width, height, data }
}

/** Distances of the seen points of sides from the true outline, px, smallest first. */
export function misses(sides: readonly OutlineSide[], distance: (x: number, y: number) => number): number[] {
  const off = sides.flatMap(({ points, sd }) =>
    [...sd].flatMap((s, i) =>
      Number.isFinite(s) ? [Math.abs(distance(points[2 * i]!, points[2 * i + 1]!))] : [],
    ),
  )
  return off.sort((a, b) => a - b)
}

/** A skittle about a leaning axis: signed distance to its side, approximately, in px. */
export function skittle(cx: number, foot: number, top: number, lean: number) {
  const half = (t: number) => 70 + 45 * Math.sin(Math.PI * (0.15 + 0.95 * t)) - 40 * t
  const slope = (t: number) =>
    (45 * Math.PI * 0.95 * Math.cos(Math.PI * (0.15 + 0.95 * t)) - 40) / (foot - top)
  return {
    half,
    distance: (x: number, y: number) => {
      const v = (foot - y) * Math.cos(lean) + (x - cx) * Math.sin(lean)
      const u = (x - cx) * Math.cos(lean) - (foot - y) * Math.sin(lean)
      const t = v / (foot - top)
      const side = (Math.abs(u) - half(Math.max(0, Math.min(1, t)))) / Math.hypot(1, slope(t))
      return Math.max(side, -v, v - (foot - top))
    },
  }
}
