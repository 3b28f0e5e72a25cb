import { extent, flatten } from '../profile/flatten'
import { nearestChord } from '../profile/nearest-chord'
import type { Segment } from '../profile/segments'

/** A figure of each place of a solid's surface, mm; NaN where there is none. */
export type ValueAt = (r: number, z: number) => number

const FINE = 1 / 20_000

/** How thick the wall is: from a place of either side to the other side. */
export function thicknessOf(outside: readonly Segment[], inside: readonly Segment[]): ValueAt {
  const toleranceMm = FINE * extent(outside)
  const [outer, inner] = [outside, inside].map((list) => flatten(list, { toleranceMm }).points) as [Float64Array, Float64Array] // prettier-ignore
  return (r, z) => Math.max(nearestChord(outer, r, z).distance, nearestChord(inner, r, z).distance)
}

/** The outline seen in the photo, as [r z ...], and whether each of its points was seen. */
export interface SeenOutline {
  points: Float64Array
  seen: (index: number) => boolean
}

/**
 * How far the outside lies from the outline in the photo: positive where the solid is fatter. None where the photo doesn't show
 * it, and for what isn't the outside.
 */
export function deviationOf(outside: readonly Segment[], { points, seen }: SeenOutline): ValueAt {
  const tolerance = FINE * extent(outside)
  const outer = flatten(outside, { toleranceMm: tolerance }).points
  // Places of the mesh lie on the outside but for its chords.
  const on = 20 * tolerance
  return (r, z) => {
    if (nearestChord(outer, r, z).distance > on) return NaN
    const near = nearestChord(points, r, z)
    if (!seen(near.chord) || !seen(near.chord + 1)) return NaN
    return r >= near.at[0] ? near.distance : -near.distance
  }
}

/** Places nearer to each other than this, mm, share one figure. */
const SAME_MM = 1e-3

/** The figures of all vertices [x y z ...]. */
export function paintValues(positions: Float32Array, valueAt: ValueAt): Float32Array {
  const values = new Float32Array(positions.length / 3)
  const known = new Map<string, number>()
  for (let v = 0; v < values.length; v++) {
    const r = Math.hypot(positions[3 * v]!, positions[3 * v + 1]!)
    const z = positions[3 * v + 2]!
    const key = `${Math.round(r / SAME_MM)} ${Math.round(z / SAME_MM)}`
    let value = known.get(key)
    if (value === undefined) known.set(key, (value = valueAt(r, z)))
    values[v] = value
  }
  return values
}
