import { clearCorners, coveredAlong } from './coverage'
import type { Raster } from './raster'

/** Of each border so much is covered, and of the picture, where only its corners are clear. */
const BORDER = 0.7
const WHOLE = 0.95

/** A picture of which only rounded corners are clear, as screenshots have them, with the nearest px of each row there instead; any other as it is. */
export function withoutRoundCorners(picture: Raster): Raster {
  const { width, height, data } = picture
  if (clearCorners(picture) < 4 || !isCoveredBetween(picture)) return picture
  const filled = new Uint8Array(data)
  for (let y = 0; y < height; y++) {
    const [first, last] = coveredIn(picture, y)
    for (let x = 0; x < width; x++) {
      if (x >= first && x <= last) continue
      const from = 4 * (y * width + (x < first ? first : last))
      filled.copyWithin(4 * (y * width + x), from, from + 4)
    }
  }
  return { width, height, data: filled }
}

/** The first and the last px of a row through which nothing shows. */
function coveredIn({ width, data }: Raster, y: number): [number, number] {
  let [first, last] = [0, width - 1]
  while (first < last && data[4 * (y * width + first) + 3]! < 255) first++
  while (last > first && data[4 * (y * width + last) + 3]! < 255) last--
  return [first, last]
}

/** Whether nearly nothing shows through the picture but at its corners. */
function isCoveredBetween(picture: Raster): boolean {
  const { width, height, data } = picture
  let covered = 0
  for (let i = 3; i < data.length; i += 4) if (data[i] === 255) covered++
  if (covered < WHOLE * width * height) return false
  const lengths = [height, height, width, width]
  return coveredAlong(picture, 0, 255).every((count, k) => count >= BORDER * lengths[k]!)
}
