import type { PicturePoint } from '../conventions'
import { clearCorners, coveredAlong } from '../picture/coverage'
import type { Raster } from '../picture/raster'
import { BORDER_SHARE } from './border-margin'

/** Px are covered from this alpha on, of 255. */
const COVERED = 128
/** What a border cuts off is as wide there, to this share, as so far within: px, and share of the longer side. What is trimmed to its bounds narrows, but where it ends flat. */
const AS_WIDE = 0.8
const WITHIN_PX = 3
const WITHIN_SHARE = 0.005
/** Less of a border than this isn't looked at. */
const LEAST_RUN = 0.06

/** Whether a picture is a cut-out that comes near its borders, as one that is trimmed to its bounds does. */
export function isTrimmedCutOut(raster: Raster): boolean {
  const { width, height } = raster
  if (clearCorners(raster) === 0) return false
  const border = Math.ceil(BORDER_SHARE * Math.min(width, height))
  for (let depth = 0; depth < border; depth++)
    if (coveredAlong(raster, depth, COVERED).some((n) => n > 0)) return true
  return false
}

/** Which borders may cut a cut-out off, left, right, above, below: it is as wide there as a little farther in. */
function bordersThatMayCut(raster: Raster): boolean[] {
  const within = WITHIN_PX + Math.round(WITHIN_SHARE * Math.max(raster.width, raster.height))
  const further = coveredAlong(raster, within, COVERED)
  const lengths = [raster.height, raster.height, raster.width, raster.width]
  return coveredAlong(raster, 0, COVERED).map(
    (n, k) => n > LEAST_RUN * lengths[k]! && n >= AS_WIDE * further[k]!,
  )
}

/** Whether a border may cut a cut-out off. */
export const mayBeCutOff = (raster: Raster) =>
  isTrimmedCutOut(raster) && bordersThatMayCut(raster).some(Boolean)

/** Whether a border cuts a cut-out off on one side of its axis only: a straight side has its like on the other. @param up the axis' rough direction */
export function isCutAtOneSide(raster: Raster, { x, y }: PicturePoint): boolean {
  const [left, right, above, below] = bordersThatMayCut(raster)
  return Math.abs(y) >= Math.abs(x) ? left !== right : above !== below
}
