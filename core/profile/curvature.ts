import { derivativeOn, pointOn, type Segment } from './segments'

/** Signed curvature of a segment at parameter t in 0..1, 1/mm; positive where the way turns to the left. */
export function curvatureOn(s: Segment, t: number): number {
  if (s.kind === 'line') return 0
  if (s.kind === 'arc') return Math.sign(s.arc.sweep) / s.arc.radius
  const c = s.cubic
  const [dr, dz] = derivativeOn(s, t)
  const second = (k: 0 | 1) =>
    6 * ((1 - t) * (c[4 + k]! - 2 * c[2 + k]! + c[k]!) + t * (c[6 + k]! - 2 * c[4 + k]! + c[2 + k]!))
  const speed = Math.hypot(dr, dz)
  return speed > 0 ? (dr * second(1) - dz * second(0)) / speed ** 3 : 0
}

/** A tooth of the curvature comb. */
export interface CurvatureTooth {
  /** Place on the curve, [r, z] mm. */
  at: [number, number]
  /** Unit normal to the left of the way. */
  normal: [number, number]
  /** 1/mm, positive to the left. */
  curvature: number
}

/**
 * The curvature along a curve, segment by segment: a fair curve has a comb without waves, and a joint of one curvature no
 * step in it.
 * @param perSegment teeth of each segment, its ends among them
 */
export function curvatureComb(segments: readonly Segment[], perSegment = 25): CurvatureTooth[][] {
  return segments.map((s) =>
    Array.from({ length: perSegment }, (_, k): CurvatureTooth => {
      const t = k / (perSegment - 1)
      const [dr, dz] = derivativeOn(s, t)
      const size = Math.hypot(dr, dz) || 1
      return { at: pointOn(s, t), normal: [-dz / size, dr / size], curvature: curvatureOn(s, t) }
    }),
  )
}
