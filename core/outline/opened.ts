import type { Plane } from '../picture/raster'

/** A plane without what is higher than its surroundings and narrower than `2 reach + 1` px in either direction (grey opening by a square). */
export function opened(plane: Plane, reach: number): Plane {
  const least = filtered(plane.data, plane, reach, Math.min)
  return { ...plane, data: filtered(least, plane, reach, Math.max) }
}

/** The least value about each pixel, so many px each way. */
export const leastAbout = (plane: Plane, reach: number): Float32Array =>
  filtered(plane.data, plane, reach, Math.min)

/** The one that is picked of all values in the square about each pixel. */
function filtered(
  data: Float32Array,
  { width, height }: Plane,
  reach: number,
  pick: typeof Math.min,
): Float32Array {
  const along = (from: Float32Array, length: number, stride: number, next: number) => {
    const out = new Float32Array(from.length)
    for (let first = 0, line = 0; line < from.length / length; line++, first += next)
      for (let k = 0; k < length; k++) {
        let picked = from[first + k * stride]!
        for (let j = Math.max(0, k - reach); j <= Math.min(length - 1, k + reach); j++)
          picked = pick(picked, from[first + j * stride]!)
        out[first + k * stride] = picked
      }
    return out
  }
  return along(along(data, width, 1, width), height, width, 1)
}
