import { arcDerivative, arcOf, arcPoint, type Arc } from './arc'
import { hobbyCubic, hobbyParts, type Cubic, type EndDirection, type HobbyPart } from './hobby'
import { onAxis, type ProfileNode } from './profile'

interface SegmentPlace {
  /** Index of the node it starts at, or of the corner that it rounds. */
  index: number
  /** Part of the curve between its nodes that roundings at the ends have left of it; absent: all of it. */
  span?: readonly [number, number]
  /** Set for what a fillet or a chamfer put in place of a corner. */
  edge?: true
}

export interface LineSegment extends SegmentPlace {
  kind: 'line'
  /** Control points [r0 z0 r1 z1 r2 z2 r3 z3], mm: a straight cubic. */
  cubic: Cubic
}
export interface CubicSegment extends SegmentPlace {
  kind: 'cubic'
  cubic: Cubic
}
export interface ArcSegment extends SegmentPlace {
  kind: 'arc'
  /** Both ends [r0 z0 r1 z1], exactly those of the nodes. */
  ends: readonly [number, number, number, number]
  arc: Arc
}

/** A piece of the exact half-profile between nodes `index` and `index + 1`. */
export type Segment = LineSegment | CubicSegment | ArcSegment

/**
 * The curve between the nodes themselves: lines, arcs and cubics as they are, and fair runs (curves without handles) as
 * Hobby splines. A smooth end of a fair run takes the direction of its neighbour; on the axis it is level, so that a
 * dome has no tip. Segments of no length are left out.
 */
export function sharpSegments(nodes: readonly ProfileNode[]): readonly Segment[] {
  const known = SHARP.get(nodes)
  if (known) return known
  const segments = segmentsBetween(nodes)
  SHARP.set(nodes, segments)
  return segments
}

/**
 * Lists of nodes, nodes and segments never change in place, so what was computed from one of them still stands: an edit of a
 * long profile costs what it touches, and the curve is computed once for all who ask for it.
 */
const SHARP = new WeakMap<readonly ProfileNode[], readonly Segment[]>()
const FIRM = new WeakMap<ProfileNode, { to: ProfileNode; segment: Segment }>()
const FAIR = new WeakMap<ProfileNode, { to: ProfileNode; part: HobbyPart; segment: CubicSegment }>()

function segmentsBetween(nodes: readonly ProfileNode[]): Segment[] {
  /** Indices of the nodes that a segment leaves or reaches. */
  const kept: number[] = []
  nodes.forEach((node, i) => {
    const next = nodes[i + 1]
    if (!next || next.r !== node.r || next.z !== node.z) kept.push(i)
  })
  const at = (i: number) => nodes[kept[i]!]!
  const firm = kept.map((index, i) => (i + 1 < kept.length ? firmSegment(at(i), at(i + 1), index) : null))
  const segments: Segment[] = []
  let i = 0
  while (i + 1 < kept.length) {
    const own = firm[i]
    if (own) {
      segments.push(own)
      i++
      continue
    }
    let j = i + 1
    while (j + 1 < kept.length && at(j).joint === 'smooth' && !firm[j]) j++
    const points: number[] = []
    for (let k = i; k <= j; k++) points.push(at(k).r, at(k).z)
    const start = endDirection(at(i), firm[i - 1], at(i + 1), 'start')
    const end = endDirection(at(j), firm[j], at(j - 1), 'end')
    hobbyParts(points, start, end).forEach((part, k) =>
      segments.push(fairSegment(at(i + k), at(i + k + 1), part, kept[i + k]!)),
    )
    i = j
  }
  return segments
}

/** An arc flatter than this stands off its chord by less than a ten-millionth of it: a line. */
const LEAST_BULGE = 1e-7

/** A segment that its two nodes alone determine; null for one of a fair run. */
function firmSegment(a: ProfileNode, b: ProfileNode, index: number): Segment | null {
  if (a.next === 'curve' && !a.handles) return null
  const known = FIRM.get(a)
  if (known && known.to === b && known.segment.index === index) return known.segment
  const segment = newSegment(a, b, index)
  FIRM.set(a, { to: b, segment })
  return segment
}

function newSegment(a: ProfileNode, b: ProfileNode, index: number): Segment {
  if (a.next === 'curve') {
    const [r1, z1, r2, z2] = a.handles!
    return { kind: 'cubic', index, cubic: [a.r, a.z, a.r + r1, a.z + z1, b.r + r2, b.z + z2, b.r, b.z] }
  }
  if (a.next === 'arc' && Math.abs(a.bulge ?? 0) > LEAST_BULGE)
    return { kind: 'arc', index, ends: [a.r, a.z, b.r, b.z], arc: arcOf([a.r, a.z], [b.r, b.z], a.bulge!) }
  return lineSegment([a.r, a.z], [b.r, b.z], index)
}

/** One of a fair run; what an edit far away has left as it was is the same segment. */
function fairSegment(a: ProfileNode, b: ProfileNode, part: HobbyPart, index: number): CubicSegment {
  const known = FAIR.get(a)
  const { leaves, reaches } = known?.part ?? { leaves: NaN, reaches: NaN }
  if (known && known.to === b && known.segment.index === index && leaves === part.leaves && reaches === part.reaches)
    return known.segment // prettier-ignore
  const segment: CubicSegment = { kind: 'cubic', index, cubic: hobbyCubic(a.r, a.z, b.r, b.z, part) }
  FAIR.set(a, { to: b, part, segment })
  return segment
}

export function lineSegment(
  [ar, az]: readonly [number, number],
  [br, bz]: readonly [number, number],
  index: number,
): LineSegment {
  const dr = (br - ar) / 3
  const dz = (bz - az) / 3
  return { kind: 'line', index, cubic: [ar, az, ar + dr, az + dz, br - dr, bz - dz, br, bz] }
}

/** Direction of a fair run at one of its ends, from the segment beyond or from the axis. */
function endDirection(
  node: ProfileNode,
  beyond: Segment | null | undefined,
  inner: ProfileNode,
  which: 'start' | 'end',
): EndDirection {
  if (node.joint !== 'smooth') return 'free'
  if (beyond) {
    const [dr, dz] = tangentAt(beyond, which === 'start' ? 1 : 0)
    return Math.atan2(dz, dr)
  }
  // Level at the pole: away from the axis at the start, towards it at the end.
  if (onAxis(node) && inner.r > 0) return which === 'start' ? 0 : Math.PI
  return 'free'
}

export function startOf(s: Segment): [number, number] {
  return s.kind === 'arc' ? [s.ends[0], s.ends[1]] : [s.cubic[0], s.cubic[1]]
}

export function endOf(s: Segment): [number, number] {
  return s.kind === 'arc' ? [s.ends[2], s.ends[3]] : [s.cubic[6], s.cubic[7]]
}

/** Point of a segment at parameter t in 0..1, as [r, z]; at 0 and 1 exactly its ends. */
export function pointOn(s: Segment, t: number): [number, number] {
  if (t === 0) return startOf(s)
  if (t === 1) return endOf(s)
  return s.kind === 'arc' ? arcPoint(s.arc, t) : pointAt(s.cubic, t)
}

/** Derivative of a segment at parameter t in 0..1, as [dr/dt, dz/dt]. */
export function derivativeOn(s: Segment, t: number): [number, number] {
  return s.kind === 'arc' ? arcDerivative(s.arc, t) : derivativeAt(s.cubic, t)
}

/** Handles shorter than this share of their cubic's extent have no direction of their own. */
const NO_HANDLE = 1e-9

/** Direction at an end of a segment (0 or 1), not of unit length; the next control point helps where a handle has no length. */
export function tangentAt(s: Segment, end: 0 | 1): [number, number] {
  if (s.kind === 'arc') return arcDerivative(s.arc, end)
  const c = s.cubic
  const size = Math.hypot(c[6] - c[0], c[7] - c[1])
  const order = end === 0 ? [2, 4, 6] : [4, 2, 0]
  const [r, z] = end === 0 ? [c[0], c[1]] : [c[6], c[7]]
  for (const k of order) {
    const d: [number, number] = [c[k]! - r, c[k + 1]! - z]
    if (Math.hypot(...d) > NO_HANDLE * size) return end === 0 ? d : [-d[0], -d[1]]
  }
  return [0, 0]
}

/** Angle by which the way turns from one segment to the next, radians, positive to the left. */
export function turnBetween(a: Segment, b: Segment): number {
  const [u, v] = [tangentAt(a, 1), tangentAt(b, 0)]
  return Math.atan2(u[0] * v[1] - u[1] * v[0], u[0] * v[0] + u[1] * v[1])
}

/** The part of a segment between two parameters. */
export function partOf(s: Segment, t0: number, t1: number): Segment {
  if (t0 === 0 && t1 === 1) return s
  const [s0, s1] = s.span ?? [0, 1]
  const span = [s0 + (s1 - s0) * t0, s0 + (s1 - s0) * t1] as const
  if (s.kind === 'arc') {
    const { from, sweep } = s.arc
    const ends = [...pointOn(s, t0), ...pointOn(s, t1)] as unknown as ArcSegment['ends']
    return { ...s, span, ends, arc: { ...s.arc, from: from + sweep * t0, sweep: sweep * (t1 - t0) } }
  }
  const [, right] = splitCubic(s.cubic, t0)
  const [cubic] = splitCubic(right, t1 === 1 ? 1 : (t1 - t0) / (1 - t0))
  return { ...s, span, cubic }
}

/** The same segment run the other way. */
export function backwardsSegment(s: Segment): Segment {
  if (s.kind === 'arc') {
    const { from, sweep } = s.arc
    const [a, b, c, d] = s.ends
    return { ...s, ends: [c, d, a, b], arc: { ...s.arc, from: from + sweep, sweep: -sweep } }
  }
  const c = s.cubic
  return { ...s, cubic: [c[6], c[7], c[4], c[5], c[2], c[3], c[0], c[1]] }
}

/** A whole curve run the other way. */
export function backwards(segments: readonly Segment[]): Segment[] {
  return segments.map(backwardsSegment).reverse()
}

/** A curve that ends off the axis, with a level line from there to the axis. */
export function closedLevel(segments: readonly Segment[]): Segment[] {
  const [r, z] = endOf(segments[segments.length - 1]!)
  return r === 0 ? [...segments] : [...segments, lineSegment([r, z], [0, z], segments.length)]
}

/** Parts of an arc that one cubic each may stand for, radians: an eighth of a circle errs by 4e-6 of the radius. */
const ARC_PART = Math.PI / 4

/** A segment as cubics, arcs by close ones: for drawing, where a near camera makes of arcs something else anyway. */
export function cubicsOf(s: Segment): Cubic[] {
  if (s.kind !== 'arc') return [s.cubic]
  const n = Math.ceil(Math.abs(s.arc.sweep) / ARC_PART)
  const reach = (4 / 3) * Math.tan(s.arc.sweep / n / 4) * s.arc.radius
  return Array.from({ length: n }, (_, k): Cubic => {
    const [a, b] = [pointOn(s, k / n), pointOn(s, (k + 1) / n)]
    const [u, v] = [k / n, (k + 1) / n].map((t) => s.arc.from + s.arc.sweep * t) as [number, number]
    return [
      ...a,
      a[0] - reach * Math.sin(u), a[1] + reach * Math.cos(u),
      b[0] + reach * Math.sin(v), b[1] - reach * Math.cos(v),
      ...b,
    ] // prettier-ignore
  })
}

/** The segment at another size, about the foot on the axis. */
export function scaledSegment(s: Segment, factor: number): Segment {
  const scaled = <T extends readonly number[]>(list: T) => list.map((v) => v * factor) as unknown as T
  if (s.kind !== 'arc') return { ...s, cubic: scaled(s.cubic) }
  const arc = { ...s.arc, centre: scaled(s.arc.centre), radius: s.arc.radius * factor }
  return { ...s, ends: scaled(s.ends), arc }
}

/** Both parts of a cubic (de Casteljau). */
export function splitCubic(c: Cubic, t: number): [Cubic, Cubic] {
  const mix = (a: number, b: number) => a + (b - a) * t
  const at = (k: 0 | 1): number[] => {
    const [p0, p1, p2, p3] = [c[k], c[2 + k]!, c[4 + k]!, c[6 + k]!] as [number, number, number, number]
    const [a, b, d] = [mix(p0, p1), mix(p1, p2), mix(p2, p3)]
    const [e, f] = [mix(a, b), mix(b, d)]
    return [p0, a, e, mix(e, f), f, d, p3]
  }
  const [r, z] = [at(0), at(1)]
  const cubic = (i: number) => [0, 1, 2, 3].flatMap((k) => [r[i + k]!, z[i + k]!]) as Cubic
  return [cubic(0), cubic(3)]
}

/** Point of a cubic at parameter t in 0..1, as [r, z]. */
export function pointAt(c: Cubic, t: number): [number, number] {
  const s = 1 - t
  const a = s * s * s
  const b = 3 * s * s * t
  const d = 3 * s * t * t
  const e = t * t * t
  return [a * c[0] + b * c[2] + d * c[4] + e * c[6], a * c[1] + b * c[3] + d * c[5] + e * c[7]]
}

/** Derivative of a cubic at parameter t in 0..1, as [dr/dt, dz/dt]. */
export function derivativeAt(c: Cubic, t: number): [number, number] {
  const s = 1 - t
  const a = 3 * s * s
  const b = 6 * s * t
  const d = 3 * t * t
  return [
    a * (c[2] - c[0]) + b * (c[4] - c[2]) + d * (c[6] - c[4]),
    a * (c[3] - c[1]) + b * (c[5] - c[3]) + d * (c[7] - c[5]),
  ]
}
