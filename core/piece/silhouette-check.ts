import type { PicturePoint } from '../conventions'
import type { View } from '../camera/view'
import { silhouetteMisses, silhouetteReport, type SilhouetteReport } from '../measure/silhouette'
import { flatten } from '../profile/flatten'
import { closedLevel, endOf, type Segment } from '../profile/segments'
import type { SolidProfile } from './derive'
import { sidesOf } from './outline'
import type { PieceOutline } from './schema'

/** Points of each side that are looked at: enough for a chart, and for figures to settle. */
const MOST_POINTS = 300
/** Chords stay this near to the exact curve, as a share of the height: a hundredth of what is measured. */
const CHORD_SHARE = 2e-5

/**
 * The solid's silhouette, seen by the photo's own camera, against the edges that were found in the photo; those that were
 * only bridged aren't counted. Null when there is no edge to compare with.
 */
export function checkSilhouette(
  outline: PieceOutline,
  view: View,
  { segments, hollow }: SolidProfile,
): SilhouetteReport | null {
  const { points: profile } = flatten(closedLevel(hollow?.outside ?? segments), {
    toleranceMm: toleranceOf(segments),
  })
  const { left, right } = sidesOf(outline)
  const misses = [left, right].map(({ points, sd }) => {
    const seen: PicturePoint[] = []
    for (let k = 0; k < sd.length; k++) if (Number.isFinite(sd[k]!)) seen.push({ x: points[2 * k]!, y: points[2 * k + 1]! }) // prettier-ignore
    const every = Math.max(1, Math.ceil(seen.length / MOST_POINTS))
    return silhouetteMisses(view, seen.filter((_, k) => k % every === 0), profile) // prettier-ignore
  })
  return silhouetteReport(misses[0]!, misses[1]!)
}

function toleranceOf(segments: readonly Segment[]): number {
  const heights = segments.map((s) => endOf(s)[1])
  return CHORD_SHARE * Math.max(1e-6, Math.max(...heights) - Math.min(...heights))
}
