import { flatten, type FlattenOptions } from './flatten'
import { partOf, type Segment } from './segments'

/** A closed half-profile, parted at its lowest and its highest place. */
export interface ProfileSides {
  /** From the axis to where it stands: a foot recess, or the inside of a bell; empty where it stands flat. */
  under: Segment[]
  /** From where it stands to the top: what is seen from the side. */
  outer: Segment[]
  /** From the rim down to the axis: the inside of a vessel; empty where the top is flat or a dome. */
  inside: Segment[]
}

/** Parts a closed chain where it is lowest and highest. The level line it may stand on belongs to neither side; the one of a flat rim to the outer side. */
export function sidesOf(segments: readonly Segment[]): ProfileSides {
  const places = segments.flatMap((segment, index) => {
    const { points } = flatten([segment])
    const n = points.length / 2 - 1
    return Array.from({ length: n + 1 }, (_, k) => ({
      index,
      t: k / n,
      z: points[2 * k + 1]!,
      r: points[2 * k]!,
    }))
  })
  const slack = 1e-9 * Math.max(...places.map((p) => Math.abs(p.z)), 1)
  const lowest = Math.min(...places.map((p) => p.z))
  const highest = Math.max(...places.map((p) => p.z))
  // Less than a thousandth of the height is no hollow that anybody would draw.
  const rises = (depth: number) => depth > (highest - lowest) / 1000
  const lows = places.filter((p) => p.z <= lowest + slack)
  const foot = lows.reduce((a, b) => (b.r > a.r ? b : a))
  const tops = places.filter((p) => p.z >= highest - slack)
  const rim = tops.reduce((a, b) => (b.r < a.r ? b : a))
  return {
    under: rises(places[0]!.z - lowest)
      ? between(
          segments,
          { index: 0, t: 0 },
          lows.reduce((a, b) => (b.r < a.r ? b : a)),
        )
      : [],
    outer: between(segments, foot, rim),
    inside: rises(highest - places.at(-1)!.z)
      ? between(segments, rim, { index: segments.length - 1, t: 1 })
      : [],
  }
}

interface At {
  index: number
  t: number
}

function between(segments: readonly Segment[], from: At, to: At): Segment[] {
  return segments.slice(from.index, to.index + 1).flatMap((segment, k) => {
    const index = from.index + k
    const [t0, t1] = [index === from.index ? from.t : 0, index === to.index ? to.t : 1]
    return t1 > t0 ? [partOf(segment, t0, t1)] : []
  })
}

/** The outside of a closed chain, with its top closed level to the axis [r z ...]: what fills its silhouette. */
export function silhouetteOf(segments: readonly Segment[], options: FlattenOptions = {}): Float64Array {
  const { points } = flatten(sidesOf(segments).outer, options)
  const n = points.length
  if (n === 0) return points
  const foot = points[0] === 0 ? [] : [0, points[1]!]
  const top = points[n - 2] === 0 ? [] : [0, points[n - 1]!]
  return Float64Array.from([...foot, ...points, ...top])
}
