import type { Raster } from './raster'

/** Px with less alpha than this, of 255, are clear. */
const CLEAR = 8
/** Of each border so much is covered, and of the picture, where only its corners are clear. */
const BORDER = 0.7
const WHOLE = 0.95

/** A picture of which only rounded corners are clear, as screenshots have them, with the nearest px of each row there instead; any other as it is. */
export function withoutRoundCorners(picture: Raster): Raster {
  const { width, height, data } = picture
  const corners = [0, width - 1, (height - 1) * width, height * width - 1]
  if (!corners.every((i) => data[4 * i + 3]! < CLEAR) || !isCoveredBetween(picture)) return picture
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
function isCoveredBetween({ width, height, data }: Raster): boolean {
  const covered = (i: number) => (data[4 * i + 3] === 255 ? 1 : 0)
  let all = 0
  for (let i = 0; i < width * height; i++) all += covered(i)
  if (all < WHOLE * width * height) return false
  const [above, below, left, right] = [0, (height - 1) * width, 0, width - 1]
  const along = (from: number, step: number, count: number) => {
    let sum = 0
    for (let k = 0; k < count; k++) sum += covered(from + k * step)
    return sum / count
  }
  return [
    along(above, 1, width),
    along(below, 1, width),
    along(left, width, height),
    along(right, width, height),
  ].every((share) => share >= BORDER)
}
