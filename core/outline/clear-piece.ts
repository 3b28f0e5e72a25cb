import type { LabPicture } from '../picture/reduce'
import { upperMedian } from '../upper-median'
import { placeAt } from './axis-line'
import { backdropAt, type Backdrop } from './backdrop'
import type { Evidence } from './evidence'
import { likeness, type Silhouette } from './silhouette'

/** Pieces that look less like a piece than this throughout, before a plain backdrop, are hardly told from it. */
const FAINT_LIKENESS = 0.4

/** Shares of the half-width, on either side, at which shading is looked at: nearer to the edges a clear piece's walls are dark. */
const COLUMNS = [-0.525, -0.375, -0.225, -0.075, 0.075, 0.225, 0.375, 0.525]
/** Rows narrower than this, px, have no room for them. */
const LEAST_HALF = 6
/** From light to dark across, OKLab lightness: so much, and a piece is shaded as an opaque one is. */
const SHADED = 0.048

/** Whether a plain backdrop shows through what lies within a silhouette. */
export function isClear(picture: LabPicture, silhouette: Silhouette, evidence: Evidence): boolean {
  if (!isFaint(silhouette, evidence)) return false
  return !evidence.backdrop || shadingAcross(picture, silhouette, evidence.backdrop) < SHADED
}

/** Whether a plain backdrop hardly tells what lies within a silhouette from itself: it shows through, or is as light. */
export const isFaint = (silhouette: Silhouette, { kind, loose }: Evidence) =>
  kind === 'plain' && likeness(silhouette, loose) < FAINT_LIKENESS

/**
 * By how much the light within a silhouette differs across, compared with the backdrop behind it, but for the brightest column: a
 * clear piece has highlights, too. What is seen through is about as much darker everywhere; an opaque piece that is as light as
 * the backdrop in the mean is lighter towards the light and darker away from it.
 */
function shadingAcross({ width, height, l }: LabPicture, silhouette: Silhouette, backdrop: Backdrop): number {
  const { axis, top, half } = silhouette
  const columns = COLUMNS.map((share) => {
    const lighter: number[] = []
    half.forEach((r, row) => {
      if (r < LEAST_HALF) return
      const place = placeAt(axis, share * r, top - row)
      const [x, y] = [Math.floor(place.x), Math.floor(place.y)]
      if (x >= 0 && y >= 0 && x < width && y < height)
        lighter.push(l[y * width + x]! - backdropAt(backdrop, x, y)[0])
    })
    return upperMedian(Float32Array.from(lighter))
  }).filter(Number.isFinite)
  const [, second = 0, ...others] = columns.sort((p, q) => q - p)
  return second - (others.at(-1) ?? second)
}
