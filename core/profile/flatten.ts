import { arcExtremes } from './arc'
import { endOf, pointOn, startOf, turnBetween, type Segment } from './segments'

/** The half-profile as a chain of points, with what the solid's shading needs. */
export interface FlatProfile {
  /** [r0 z0 r1 z1 ...], mm, in the order of the segments. */
  points: Float64Array
  /** 1 where the chain has a corner (and at both ends), 0 where it runs smoothly. One a point. */
  corner: Uint8Array
  /** Index of the segment before which (or in which) each point stands: points of segment k lie in start[k]..start[k+1]. */
  segmentStart: Uint32Array
}

export interface FlattenOptions {
  /** Largest distance between chord and curve, mm. Default: 1/5000 of the profile's extent. */
  toleranceMm?: number
}

/** Directions closer than this, radians (0.5°), count as one tangent: below what shading shows, above rounding by far. */
const SMOOTH_JOINT = (0.5 * Math.PI) / 180

/** A single cubic never gets more chords than this; at the default tolerance some 20 are usual. */
const MOST_CHORDS = 4096

/**
 * Chords along the exact curve, ends of segments exactly. The number of chords of a cubic is Wang's bound on the chord error,
 * n = sqrt(d(d-1)/8 · max|second difference| / tolerance) with d = 3 (G. Wang, 1984), which never falls short.
 */
export function flatten(segments: readonly Segment[], options: FlattenOptions = {}): FlatProfile {
  if (segments.length === 0) {
    return { points: new Float64Array(0), corner: new Uint8Array(0), segmentStart: new Uint32Array(1) }
  }
  const tolerance = options.toleranceMm ?? extent(segments) / 5000
  const counts = segments.map((s) => (s.kind === 'line' ? 1 : chordCount(s, tolerance)))
  const total = counts.reduce((a, b) => a + b, 1)
  const points = new Float64Array(2 * total)
  const corner = new Uint8Array(total)
  const segmentStart = new Uint32Array(segments.length + 1)
  let at = 0
  segments.forEach((segment, k) => {
    segmentStart[k] = at
    corner[at] = k === 0 || Math.abs(turnBetween(segments[k - 1]!, segment)) >= SMOOTH_JOINT ? 1 : 0
    for (let i = 0; i < counts[k]!; i++) {
      const [r, z] = pointOn(segment, i / counts[k]!)
      points[2 * at] = r
      points[2 * at + 1] = z
      at++
    }
  })
  const [lastR, lastZ] = endOf(segments[segments.length - 1]!)
  points[2 * at] = lastR
  points[2 * at + 1] = lastZ
  corner[at] = 1
  segmentStart[segments.length] = at
  return { points, corner, segmentStart }
}

/** Points within whose box a segment lies: its ends with its control points, or with its farthest places. */
export function boxPoints(segment: Segment): [number, number][] {
  if (segment.kind !== 'arc') {
    const c = segment.cubic
    return [0, 2, 4, 6].map((i) => [c[i]!, c[i + 1]!])
  }
  const far = [...arcExtremes(segment.arc, 0), ...arcExtremes(segment.arc, 1)]
  return [startOf(segment), ...far.map((t) => pointOn(segment, t)), endOf(segment)]
}

/** Larger of width and height of the curve's box, mm. */
export function extent(segments: readonly Segment[]): number {
  let r0 = Infinity
  let r1 = -Infinity
  let z0 = Infinity
  let z1 = -Infinity
  for (const segment of segments) {
    const box = boxOf(segment)
    r0 = Math.min(r0, box[0])
    z0 = Math.min(z0, box[1])
    r1 = Math.max(r1, box[2])
    z1 = Math.max(z1, box[3])
  }
  return Math.max(r1 - r0, z1 - z0)
}

type Box = readonly [leastR: number, leastZ: number, mostR: number, mostZ: number]

/** Segments never change in place, so each is boxed once. */
const BOXES = new WeakMap<Segment, Box>()

function boxOf(segment: Segment): Box {
  const known = BOXES.get(segment)
  if (known) return known
  const points = boxPoints(segment)
  const [r, z] = [points.map((p) => p[0]), points.map((p) => p[1])]
  const box: Box = [Math.min(...r), Math.min(...z), Math.max(...r), Math.max(...z)]
  BOXES.set(segment, box)
  return box
}

function chordCount(segment: Segment, tolerance: number): number {
  // An arc's chord of angle α stands off by radius · (1 - cos α/2).
  if (segment.kind === 'arc') {
    const { radius, sweep } = segment.arc
    const most = 2 * Math.acos(Math.max(0, 1 - tolerance / radius))
    return Math.min(MOST_CHORDS, Math.max(1, Math.ceil(Math.abs(sweep) / most)))
  }
  const c = segment.cubic
  const a = Math.hypot(c[0] - 2 * c[2] + c[4], c[1] - 2 * c[3] + c[5])
  const b = Math.hypot(c[2] - 2 * c[4] + c[6], c[3] - 2 * c[5] + c[7])
  const n = Math.ceil(Math.sqrt((0.75 * Math.max(a, b)) / tolerance))
  return Math.min(MOST_CHORDS, Math.max(1, Number.isFinite(n) ? n : MOST_CHORDS))
}
