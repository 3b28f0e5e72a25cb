import { CoreError } from '../errors'
import { bulgeOfRadius } from './arc'
import { moveWithLocks, requireLocks } from './locks'
import { indexOfNode } from './edit'
import type { HalfProfile } from './profile'
import { pointOn, sharpSegments, type Segment } from './segments'
import { plainMm } from '../units/format-length'

/** What of a segment can be typed: length (mm) and angle (radians, 0 level outwards, a quarter turn upright) of a line, radius (mm) of an arc. */
export type SegmentMeasure = 'length' | 'angle' | 'radius'

export interface SegmentFigures {
  lengthMm: number
  /** Of the chord, radians. */
  angle: number
  radiusMm: number | null
}

const LENGTH_SAMPLES = 64

/** Figures of the segment after a node, before its ends are rounded; null where there is none. */
export function segmentFigures({ nodes }: HalfProfile, index: number): SegmentFigures | null {
  const [a, b] = [nodes[index], nodes[index + 1]]
  const segment = sharpSegments(nodes).find((s) => s.index === index)
  if (!a || !b || !segment) return null
  return {
    lengthMm: segmentLength(segment),
    angle: Math.atan2(b.z - a.z, b.r - a.r),
    radiusMm: segment.kind === 'arc' ? segment.arc.radius : null,
  }
}

/** Length of a segment along it, mm: of cubics by chords, to a thousandth. */
export function segmentLength(segment: Segment): number {
  if (segment.kind === 'arc') return Math.abs(segment.arc.sweep) * segment.arc.radius
  let sum = 0
  let [r, z] = pointOn(segment, 0)
  for (let k = 1; k <= (segment.kind === 'line' ? 1 : LENGTH_SAMPLES); k++) {
    const [p, q] = pointOn(segment, segment.kind === 'line' ? 1 : k / LENGTH_SAMPLES)
    sum += Math.hypot(p - r, q - z)
    ;[r, z] = [p, q]
  }
  return sum
}

/**
 * Gives the segment after a node a typed measure. Length and angle move its second node, and what is tied to it; the radius
 * bends the arc between its ends.
 * @throws CoreError `radius-too-small`, `locks-contradict` when a lock keeps the second node from going there
 */
export function typeSegment(
  profile: HalfProfile,
  id: string,
  measure: SegmentMeasure,
  value: number,
): HalfProfile {
  const index = indexOfNode(profile, id)
  const [a, b] = [profile.nodes[index], profile.nodes[index + 1]]
  if (!a || !b) return profile
  if (measure === 'radius') {
    const bulge = bulgeOfRadius([a.r, a.z], [b.r, b.z], value, a.bulge ?? 1)
    if (bulge === null) {
      const half = Math.hypot(b.r - a.r, b.z - a.z) / 2
      throw new CoreError({
        code: 'radius-too-small',
        message: `An arc between these nodes has a radius of at least ${plainMm(half)} mm, half their distance.`,
        where: 'radius',
        expected: `at least ${half}`,
        received: String(value),
      })
    }
    const nodes = profile.nodes.map((n, i) => (i === index ? { ...n, bulge } : n))
    return { ...profile, nodes }
  }
  const angle = measure === 'angle' ? value : Math.atan2(b.z - a.z, b.r - a.r)
  const length = measure === 'length' ? value : Math.hypot(b.r - a.r, b.z - a.z)
  // Exactly level and upright where that was typed.
  const exact = (v: number) => (Math.abs(v) < 1e-12 ? 0 : v)
  const wish = {
    r: Math.max(0, a.r + length * exact(Math.cos(angle))),
    z: a.z + length * exact(Math.sin(angle)),
  }
  const moved = moveWithLocks(requireLocks(profile), new Map([[b.id, wish]]))
  const now = moved.nodes[index + 1]!
  const start = moved.nodes[index]!
  if (Math.hypot(now.r - start.r - (wish.r - a.r), now.z - start.z - (wish.z - a.z)) > 1e-9 * (1 + length))
    throw new CoreError({
      code: 'locks-contradict',
      message: `Node ${index + 2} can’t go there: it is held, or tied to the node before it. Free it first.`,
      where: b.id,
    })
  return moved
}
