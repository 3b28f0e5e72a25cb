import type { Plane } from '../picture/raster'

/** A plane without what is higher than its surroundings and narrower than `2 reach + 1` px in either direction (grey opening by a square). */
export function opened(plane: Plane, reach: number): Plane {
  const least = leastAbout(plane, reach)
  const most = leastAbout({ ...plane, data: least.map((v) => -v) }, reach).map((v) => -v)
  return { ...plane, data: most }
}

/** The least value about each pixel, so many px each way. */
export function leastAbout({ width, height, data }: Plane, reach: number): Float32Array {
  const along = (from: Float32Array, length: number, stride: number, next: number) => {
    const out = new Float32Array(from.length)
    for (let first = 0, line = 0; line < from.length / length; line++, first += next)
      for (let k = 0; k < length; k++) {
        let least = Infinity
        for (let j = Math.max(0, k - reach); j <= Math.min(length - 1, k + reach); j++)
          least = Math.min(least, from[first + j * stride]!)
        out[first + k * stride] = least
      }
    return out
  }
  return along(along(data, width, 1, width), height, width, 1)
}
