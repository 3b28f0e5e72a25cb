import { boxPoints, flatten } from '../profile/flatten'
import type { Segment } from '../profile/segments'
import { moments } from './moments'

/** A body of one density on the axis. */
export interface Body {
  massG: number
  /** Height of its centre of gravity, mm. */
  centreMm: number
}

/** Mass and centre of gravity of what a closed curve encloses. @param density g/cm³ */
export function bodyOf(segments: readonly Segment[], density: number): Body {
  const { volumeMm3, momentMm4 } = moments(segments)
  return { massG: (density * volumeMm3) / 1000, centreMm: momentMm4 / volumeMm3 }
}

/** Both bodies together. */
export function together(a: Body, b: Body): Body {
  const massG = a.massG + b.massG
  return { massG, centreMm: massG > 0 ? (a.massG * a.centreMm + b.massG * b.centreMm) / massG : a.centreMm }
}

export interface Standing {
  /** Radius of the ring (or disc) it stands on, mm. */
  footMm: number
  /** How far it may be tilted before it falls, radians; 0 where it stands on a point. */
  tippingAngle: number
}

/** Places within this share of the height above the lowest one touch the table too. */
const TOUCHES = 1e-4

/**
 * Whether a body stands upright: tilted until its centre of gravity lies above the edge of its foot, it falls; to the side
 * where that edge is nearest.
 * @param asideMm distance of its centre of gravity from the axis; of a part of a turn on its middle plane, towards it
 * @param sweep of a part of a turn, radians
 */
export function standing(
  segments: readonly Segment[],
  centreMm: number,
  asideMm = 0,
  sweep = 2 * Math.PI,
): Standing {
  const heights = segments.flatMap((s) => boxPoints(s).map(([, z]) => z))
  const [low, high] = [Math.min(...heights), Math.max(...heights)]
  const { points } = flatten(segments, { toleranceMm: (high - low) * TOUCHES })
  let [footMm, innerMm] = [0, Infinity]
  for (let i = 0; i < points.length; i += 2)
    if (points[i + 1]! - low <= TOUCHES * (high - low)) {
      footMm = Math.max(footMm, points[i]!)
      innerMm = Math.min(innerMm, points[i]!)
    }
  const inwards = sweep < 2 * Math.PI ? edgeBehind(asideMm, sweep / 2, footMm, innerMm) : Infinity
  const reach = Math.max(0, Math.min(footMm - asideMm, inwards))
  return { footMm, tippingAngle: Math.atan2(reach, centreMm - low) }
}

/**
 * How far the nearest edge behind it is from a place on the middle plane of a foot that is a part of a ring: its ends lie on two
 * radii, and what it stands on is all that lies between its points.
 */
function edgeBehind(aside: number, half: number, outer: number, inner: number): number {
  if (half >= Math.PI / 2) return aside - outer * Math.cos(half)
  return Math.min(aside * Math.sin(half), aside - inner * Math.cos(half))
}
