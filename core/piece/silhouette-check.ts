import { CoreError } from '../errors'
import type { PicturePoint } from '../conventions'
import type { View } from '../camera/view'
import { silhouetteMisses, silhouetteReport, type SilhouetteReport } from '../measure/silhouette'
import { flatten } from '../profile/flatten'
import { closedLevel, endOf, type Segment } from '../profile/segments'
import type { SolidProfile } from './derive'
import { sidesOf } from './outline'
import { isOnAxis, turnedSegments } from './plan-assembly'
import type { Part, PieceOutline } from './schema'

/** Points of each side that are looked at: enough for a chart, and for figures to settle. */
const MOST_POINTS = 300
/** Chords stay this near to the exact curve, as a share of the height: a hundredth of what is measured. */
const CHORD_SHARE = 2e-5

/** True of a part that the silhouette counts with the body: turned about its axis, added to it or standing by itself. */
export function isInSilhouette(part: Part): boolean {
  const { shape, relation, shown } = part
  return (
    shown && isOnAxis(part) && shape.kind === 'turned' && (relation === 'added' || relation === 'separate')
  )
}

/**
 * The solid's silhouette, seen by the photo's own camera, against the edges that were found in the photo; those that were
 * only bridged aren't counted. Null when there is no edge to compare with.
 */
export function checkSilhouette(
  outline: PieceOutline,
  view: View,
  solid: SolidProfile,
  parts: readonly Part[] = [],
): SilhouetteReport | null {
  const { segments, hollow } = solid
  const chords = (list: readonly Segment[]) =>
    flatten(closedLevel(list), { toleranceMm: toleranceOf(segments) }).points
  const turned = parts.filter(isInSilhouette).flatMap((part) => turnedOrNone(part, solid))
  const profiles = [hollow?.outside ?? segments, ...turned].map(chords)
  const { left, right } = sidesOf(outline)
  const misses = [left, right].map(({ points, sd }) => {
    const seen: PicturePoint[] = []
    for (let k = 0; k < sd.length; k++) if (Number.isFinite(sd[k]!)) seen.push({ x: points[2 * k]!, y: points[2 * k + 1]! }) // prettier-ignore
    const every = Math.max(1, Math.ceil(seen.length / MOST_POINTS))
    return silhouetteMisses(view, seen.filter((_, k) => k % every === 0), profiles) // prettier-ignore
  })
  return silhouetteReport(misses[0]!, misses[1]!)
}

/** A part whose own half-profile bounds nothing yet has no silhouette. */
function turnedOrNone(part: Part, solid: SolidProfile): (readonly Segment[])[] {
  try {
    const segments = turnedSegments(part, solid)
    return segments ? [segments] : []
  } catch (error) {
    if (error instanceof CoreError) return []
    throw error
  }
}

function toleranceOf(segments: readonly Segment[]): number {
  const heights = segments.map((s) => endOf(s)[1])
  return CHORD_SHARE * Math.max(1e-6, Math.max(...heights) - Math.min(...heights))
}
