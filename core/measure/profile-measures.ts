import { arcExtremes } from '../profile/arc'
import { GAUSS_T, GAUSS_W } from './quadrature'
import {
  pointOn,
  type ArcSegment,
  type CubicSegment,
  type LineSegment,
  type Segment,
} from '../profile/segments'
import type { FlatProfile } from '../profile/flatten'

export interface ProfileMeasures {
  /** From the lowest to the highest point of the curve, mm. */
  heightMm: number
  lowestMm: number
  highestMm: number
  /** Largest radius, mm, and the height at which it is reached (the lowest such). */
  maxRadiusMm: number
  maxRadiusAtMm: number
  /** Of the exact solid of revolution (no facets), mm³ and mm². */
  volumeMm3: number
  areaMm2: number
}

/**
 * A cubic's arc-length integrand isn't polynomial, nor is anything of an arc; this many equal parts bring them below 1e-9
 * relative on fair curves.
 */
const PARTS = 8
/** Eight points integrate an arc of this angle, radians, to rounding. */
const ARC_PART = Math.PI / 4

/**
 * Measures of the exact curve, not of its chords. The volume integrand π r² dz/dt of a cubic has degree 8 in t, so that
 * the quadrature is exact up to rounding. Orientation as in conventions: positive volume.
 */
export function profileMeasures(segments: readonly Segment[]): ProfileMeasures {
  let volume = 0
  let area = 0
  let lowest = Infinity
  let highest = -Infinity
  let maxRadius = 0
  let maxRadiusAt = 0
  for (const segment of segments) {
    const own = measuresOf(segment)
    volume += own.volume
    area += own.area
    lowest = Math.min(lowest, own.lowest)
    highest = Math.max(highest, own.highest)
    if (isWider(own.widest, own.widestAt, maxRadius, maxRadiusAt)) {
      maxRadius = Math.max(own.widest, maxRadius)
      maxRadiusAt = own.widestAt
    }
  }
  return {
    heightMm: segments.length ? highest - lowest : 0,
    lowestMm: segments.length ? lowest : 0,
    highestMm: segments.length ? highest : 0,
    maxRadiusMm: maxRadius,
    maxRadiusAtMm: maxRadiusAt,
    volumeMm3: volume,
    areaMm2: area,
  }
}

interface SegmentMeasures extends Integral {
  lowest: number
  highest: number
  widest: number
  widestAt: number
}

/** Equal within rounding counts as equal, so that a cylinder reports its lower edge. */
function isWider(r: number, z: number, than: number, at: number): boolean {
  return r > than * (1 + 1e-12) || (r >= than * (1 - 1e-12) && z < at)
}

/** Segments never change in place, so each is measured once. */
const MEASURED = new WeakMap<Segment, SegmentMeasures>()

function measuresOf(segment: Segment): SegmentMeasures {
  const known = MEASURED.get(segment)
  if (known) return known
  const heights = extremes(segment, 1).map((t) => pointOn(segment, t)[1])
  const { volume, area } = segment.kind === 'arc' ? integrateArc(segment) : integrateCubic(segment)
  const [widest, widestAt] = extremes(segment, 0)
    .map((t) => pointOn(segment, t))
    .reduce((a, b) => (isWider(b[0], b[1], a[0], a[1]) ? b : a))
  const measures = { volume, area, lowest: Math.min(...heights), highest: Math.max(...heights), widest, widestAt } // prettier-ignore
  MEASURED.set(segment, measures)
  return measures
}

interface Integral {
  volume: number
  area: number
}

/** π r² dz and 2π r ds over a line or a cubic. Written without arrays: this runs thousands of times a drag. */
function integrateCubic(segment: LineSegment | CubicSegment): Integral {
  const c = segment.cubic
  const parts = partsOf(segment)
  let [volume, area] = [0, 0]
  for (let k = 0; k < parts; k++)
    for (let i = 0; i < GAUSS_T.length; i++) {
      const t = (k + GAUSS_T[i]!) / parts
      const w = GAUSS_W[i]! / parts
      const s = 1 - t
      const [e, f, g, h] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t]
      const r = e * c[0] + f * c[2] + g * c[4] + h * c[6]
      const [u, v, x] = [3 * s * s, 6 * s * t, 3 * t * t]
      const dr = u * (c[2] - c[0]) + v * (c[4] - c[2]) + x * (c[6] - c[4])
      const dz = u * (c[3] - c[1]) + v * (c[5] - c[3]) + x * (c[7] - c[5])
      volume += w * Math.PI * r * r * dz
      area += w * 2 * Math.PI * r * Math.sqrt(dr * dr + dz * dz)
    }
  return { volume, area }
}

function integrateArc({ arc }: ArcSegment): Integral {
  const parts = Math.ceil(Math.abs(arc.sweep) / ARC_PART)
  let [volume, area] = [0, 0]
  for (let k = 0; k < parts; k++)
    for (let i = 0; i < GAUSS_T.length; i++) {
      const angle = arc.from + (arc.sweep * (k + GAUSS_T[i]!)) / parts
      const w = (GAUSS_W[i]! * arc.sweep) / parts
      const r = arc.centre[0] + arc.radius * Math.cos(angle)
      volume += w * Math.PI * r * r * arc.radius * Math.cos(angle)
      area += Math.abs(w) * 2 * Math.PI * r * arc.radius
    }
  return { volume, area }
}

/** In how many parts a line or cubic is integrated, so that each is bent little. */
function partsOf({ kind, cubic: c }: LineSegment | CubicSegment): number {
  if (kind === 'line') return 1
  let polygon = 0
  for (let i = 0; i < 6; i += 2) polygon += Math.hypot(c[i + 2]! - c[i]!, c[i + 3]! - c[i + 1]!)
  const bent = polygon / Math.hypot(c[6] - c[0], c[7] - c[1]) - 1
  return bent < 0.002 ? 2 : bent < 0.03 ? 4 : PARTS
}

/** Parameters 0, 1 and the zeros between of the derivative of one coordinate (0 = r, 1 = z). */
function extremes(segment: Segment, coordinate: 0 | 1): number[] {
  if (segment.kind === 'arc') return [0, ...arcExtremes(segment.arc, coordinate), 1]
  return cubicExtremes(segment.cubic, coordinate)
}

function cubicExtremes(c: CubicSegment['cubic'], coordinate: 0 | 1): number[] {
  const [p0, p1, p2, p3] = [c[coordinate], c[2 + coordinate]!, c[4 + coordinate]!, c[6 + coordinate]!]
  const a = p3 - 3 * p2 + 3 * p1 - p0
  const b = 2 * (p2 - 2 * p1 + p0)
  const d = p1 - p0
  const roots: number[] = []
  const disc = b * b - 4 * a * d
  if (disc >= 0) {
    // Stable form of the quadratic formula; a zero divisor gives a root outside 0..1 (infinite), dropped below.
    const q = -0.5 * (b + (b < 0 ? -1 : 1) * Math.sqrt(disc))
    roots.push(q / a, d / q)
  }
  return [0, ...roots.filter((t) => t > 0 && t < 1), 1]
}

/** Largest radius of the flattened profile at a height, mm, or null where there is nothing. */
export function radiusAt(flat: FlatProfile, z: number): number | null {
  const { points } = flat
  let best: number | null = null
  for (let i = 0; i + 3 < points.length; i += 2) {
    const z0 = points[i + 1]!
    const z1 = points[i + 3]!
    if ((z < z0 && z < z1) || (z > z0 && z > z1)) continue
    const t = z1 === z0 ? (points[i]! > points[i + 2]! ? 0 : 1) : (z - z0) / (z1 - z0)
    const r = points[i]! + t * (points[i + 2]! - points[i]!)
    if (best === null || r > best) best = r
  }
  return best
}
