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
 * @param asideMm distance of its centre of gravity from the axis
 */
export function standing(segments: readonly Segment[], centreMm: number, asideMm = 0): Standing {
  const heights = segments.flatMap((s) => boxPoints(s).map(([, z]) => z))
  const [low, high] = [Math.min(...heights), Math.max(...heights)]
  const { points } = flatten(segments, { toleranceMm: (high - low) * TOUCHES })
  let footMm = 0
  for (let i = 0; i < points.length; i += 2)
    if (points[i + 1]! - low <= TOUCHES * (high - low)) footMm = Math.max(footMm, points[i]!)
  return { footMm, tippingAngle: Math.atan2(Math.max(0, footMm - asideMm), centreMm - low) }
}
