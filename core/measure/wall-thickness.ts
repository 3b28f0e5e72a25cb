import { extent, flatten } from '../profile/flatten'
import { nearestChord } from '../profile/nearest-chord'
import type { Segment } from '../profile/segments'

/** Chords stay this near to the curves, as a share of the extent: a few thousandths of a usual wall's thickness. */
const FINE = 1 / 100_000

/** Thickness of the wall at a place of its inside. */
export interface WallPlace {
  r: number
  z: number
  mm: number
}

/** Places looked at along the inside, beside its corners. */
const PLACES = 160

/**
 * The wall along its inside, from the rim to the axis: the distance of each place from the outside, by chords.
 */
export function wallAlong(outside: readonly Segment[], inside: readonly Segment[]): WallPlace[] {
  const toleranceMm = FINE * extent(outside)
  const own = flatten(inside, { toleranceMm }).points
  const chords = flatten(outside, { toleranceMm }).points
  const even = evenly(own, PLACES)
  return even.map(([r, z]) => ({ r, z, mm: nearestChord(chords, r, z).distance }))
}

/** The place where the wall is thinnest. */
export function thinnest(places: readonly WallPlace[]): WallPlace | null {
  return places.reduce<WallPlace | null>((least, p) => (!least || p.mm < least.mm ? p : least), null)
}

/** Points at equal distances along a chain, and its corners. */
function evenly(points: Float64Array, count: number): [number, number][] {
  let length = 0
  for (let i = 2; i < points.length; i += 2)
    length += Math.hypot(points[i]! - points[i - 2]!, points[i + 1]! - points[i - 1]!)
  const step = length / count
  const out: [number, number][] = [[points[0]!, points[1]!]]
  for (let i = 2; i < points.length; i += 2) {
    const [a, b] = [points[i - 2]!, points[i - 1]!]
    const [dr, dz] = [points[i]! - a, points[i + 1]! - b]
    const parts = Math.max(1, Math.ceil(Math.hypot(dr, dz) / step))
    for (let k = 1; k <= parts; k++) out.push([a + (dr * k) / parts, b + (dz * k) / parts])
  }
  return out
}
