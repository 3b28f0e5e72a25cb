import type { Raster } from './raster'

/** Px with less alpha than this, of 255, are clear. */
const CLEAR = 8

/** How many of a picture's four corners are clear. */
export function clearCorners({ width, height, data }: Raster): number {
  const corners = [0, width - 1, (height - 1) * width, height * width - 1]
  return corners.filter((i) => data[4 * i + 3]! < CLEAR).length
}

/** How many px of a line along each border have this alpha at least, so deep within the picture; left, right, above, below. */
export function coveredAlong({ width, height, data }: Raster, depth: number, alpha: number): number[] {
  const count = (length: number, at: (k: number) => number) => {
    let covered = 0
    for (let k = 0; k < length; k++) if (data[4 * at(k) + 3]! >= alpha) covered++
    return covered
  }
  return [
    count(height, (y) => y * width + depth),
    count(height, (y) => y * width + width - 1 - depth),
    count(width, (x) => depth * width + x),
    count(width, (x) => (height - 1 - depth) * width + x),
  ]
}
