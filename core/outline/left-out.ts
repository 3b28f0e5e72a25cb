import type { Plane } from '../picture/raster'
import { areaOf, outsideOf, type Silhouette } from './silhouette'

/** Less than this share of a silhouette's area speaks for nothing: grain. */
const GRAIN = 0.2

/** How much speaks for a piece outside of a silhouette, as a share of what does within; 0 where that is hardly anything. */
export function leftOutBy(silhouette: Silhouette, { width, data }: Plane): number {
  const isOutside = outsideOf(silhouette, width)
  let within = 0
  let elsewhere = 0
  data.forEach((v, i) => {
    if (v <= 0) return
    if (isOutside(i)) elsewhere += v
    else within += v
  })
  return elsewhere < GRAIN * areaOf(silhouette) ? 0 : elsewhere / Math.max(1, within)
}
