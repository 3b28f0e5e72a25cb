import type { PicturePoint } from '../conventions'
import type { Raster } from '../picture/raster'
import { BORDER_SHARE } from './evidence'

/** Px are covered from this alpha on, and clear below the other, of 255. */
const COVERED = 128
const CLEAR = 8
/** What a border cuts off is as wide there, to this share, as so far within: px, and share of the longer side. What is trimmed to its bounds narrows, but where it ends flat. */
const AS_WIDE = 0.8
const WITHIN_PX = 3
const WITHIN_SHARE = 0.005
/** Less of a border than this isn't looked at. */
const LEAST_RUN = 0.06

/** How many px of a line along each border are covered, so deep within the picture; left, right, above, below. */
function coveredAlong({ width, height, data }: Raster, depth: number): number[] {
  const count = (length: number, at: (k: number) => number) => {
    let covered = 0
    for (let k = 0; k < length; k++) if (data[4 * at(k) + 3]! >= COVERED) covered++
    return covered
  }
  return [
    count(height, (y) => y * width + depth),
    count(height, (y) => y * width + width - 1 - depth),
    count(width, (x) => depth * width + x),
    count(width, (x) => (height - 1 - depth) * width + x),
  ]
}

/** Whether a picture is a cut-out that comes near its borders, as one that is trimmed to its bounds does. */
export function isTrimmedCutOut(raster: Raster): boolean {
  const { width, height, data } = raster
  const corners = [0, width - 1, (height - 1) * width, height * width - 1]
  if (!corners.some((i) => data[4 * i + 3]! < CLEAR)) return false
  const border = Math.ceil(BORDER_SHARE * Math.min(width, height))
  for (let depth = 0; depth < border; depth++) if (coveredAlong(raster, depth).some((n) => n > 0)) return true
  return false
}

/** Which borders may cut a cut-out off, left, right, above, below: it is as wide there as a little farther in. */
function bordersThatMayCut(raster: Raster): boolean[] {
  const within = WITHIN_PX + Math.round(WITHIN_SHARE * Math.max(raster.width, raster.height))
  const further = coveredAlong(raster, within)
  const lengths = [raster.height, raster.height, raster.width, raster.width]
  return coveredAlong(raster, 0).map((n, k) => n > LEAST_RUN * lengths[k]! && n >= AS_WIDE * further[k]!)
}

/** Whether a border may cut a cut-out off. */
export const mayBeCutOff = (raster: Raster) =>
  isTrimmedCutOut(raster) && bordersThatMayCut(raster).some(Boolean)

/** Whether a border cuts a cut-out off on one side of its axis only: a straight side has its like on the other. @param up the axis' rough direction */
export function isCutAtOneSide(raster: Raster, { x, y }: PicturePoint): boolean {
  const [left, right, above, below] = bordersThatMayCut(raster)
  return Math.abs(y) >= Math.abs(x) ? left !== right : above !== below
}
