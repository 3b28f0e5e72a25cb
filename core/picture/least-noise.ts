import { noiseOf } from './noise'
import type { Raster } from './raster'

/** Pictures whose smooth parts show less noise than this, 8-bit codes, have lost it to compression or smoothing. */
const SILENT = 0.2
/** What edges leave around them, codes, in such pictures and in others. */
const OF_SILENT = 1
const OF_OTHERS = 0.4

const known = new WeakMap<Raster, number>()

/**
 * The least noise there is beside the edges of a picture, 8-bit codes. Files keep the smooth parts of a photo smoother than what lies beside
 * an edge, whose rounded waves reach to the end of its block of 8 px (JPEG, ITU-T T.81): the border of that block seems to be a line, and
 * nothing but this says that it is none.
 */
export function leastNoise(raster: Raster): number {
  const before = known.get(raster)
  if (before !== undefined) return before
  const least = noiseOf(raster) < SILENT ? OF_SILENT : OF_OTHERS
  known.set(raster, least)
  return least
}
