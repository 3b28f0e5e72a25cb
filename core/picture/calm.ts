import { noiseOf } from './noise'
import { isOpaque, type Raster } from './raster'
import { smoothed } from './smooth'

/** Pictures noisier than this, 8-bit codes, hide weak edges: a phone's at dusk, not one by daylight. */
const LOUD = 1.2
/** Width of the smoothing, px, for a noise of one code; it grows with the noise's square root, up to the most. */
const WIDTH = 0.57
const WIDEST = 1.5

/**
 * A noisy picture smoothed so far that edges stand out of what noise is left; another as it is. A cut-out is seen by its coverage,
 * which has no noise.
 */
export function calmed(raster: Raster): Raster {
  if (!isOpaque(raster)) return raster
  const noise = noiseOf(raster)
  return noise < LOUD ? raster : smoothed(raster, Math.min(WIDEST, WIDTH * Math.sqrt(noise)))
}
