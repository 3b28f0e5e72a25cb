import type { Raster } from './raster'

/** Edge of the blocks that are asked, px, and how far apart they lie, at least. */
const BLOCK = 12
const BLOCKS_ALONG = 60
/** What is smooth takes up this share of a picture at least; the rest has texture besides noise. */
const SMOOTH_SHARE = 0.25

/**
 * Noise of a picture, in 8-bit codes of its lightness: a standard deviation, of pixels taken as independent, to a tenth. Each block is asked
 * with a mask that answers neither levels nor slopes; those that answer least are smooth and show nothing else.
 * J. Immerkær, Fast noise variance estimation, Computer Vision and Image Understanding 64 (1996), 300-302.
 */
export function noiseOf(raster: Raster): number {
  const { width, height } = raster
  const apart = Math.max(BLOCK, Math.floor(Math.max(width, height) / BLOCKS_ALONG))
  const answers: number[] = []
  for (let top = 0; top + BLOCK + 2 <= height; top += apart)
    for (let left = 0; left + BLOCK + 2 <= width; left += apart) answers.push(answerOf(raster, left, top))
  answers.sort((p, q) => p - q)
  return answers[Math.floor(SMOOTH_SHARE * answers.length)] ?? 0
}

/** Root mean square of the mask's answers over a block, in units of the noise. */
function answerOf({ width, data }: Raster, left: number, top: number): number {
  const n = BLOCK + 2
  const light = new Float64Array(n * n)
  for (let y = 0; y < n; y++)
    for (let x = 0; x < n; x++) {
      const i = 4 * ((top + y) * width + left + x)
      light[y * n + x] = 0.2126 * data[i]! + 0.7152 * data[i + 1]! + 0.0722 * data[i + 2]!
    }
  const at = (i: number, dx: number, dy: number) => light[i + dx + n * dy]!
  let squares = 0
  for (let y = 1; y <= BLOCK; y++)
    for (let x = 1; x <= BLOCK; x++) {
      const i = y * n + x
      const beside = at(i, -1, 0) + at(i, 1, 0) + at(i, 0, -1) + at(i, 0, 1)
      const aslant = at(i, -1, -1) + at(i, 1, -1) + at(i, -1, 1) + at(i, 1, 1)
      squares += (4 * light[i]! - 2 * beside + aslant) ** 2
    }
  // Squares of the mask's weights sum up to 36.
  return Math.sqrt(squares) / (6 * BLOCK)
}
