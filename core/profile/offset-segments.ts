import { parametersAtHeight } from './at-height'
import type { Cubic } from './hobby'
import {
  derivativeOn,
  endOf,
  lineSegment,
  partOf,
  pointOn,
  startOf,
  tangentAt,
  turnBetween,
  type ArcSegment,
  type Segment,
} from './segments'
import { thicknessAt, thicknessSlope, type Thickness } from './thickness'

/** Which side of the way the parallel curve runs on: 1 left, inwards of an outside that runs up; -1 right, outwards. */
export type OffsetSide = 1 | -1

/** Parallel cubics stay this near to the true parallel curve, as a share of the distance. */
const OFFSET_ERROR = 2e-4
/** A cubic is halved this often at most; beyond, it turns so tightly that its parallel is cut away there anyway. */
const MOST_HALVINGS = 7
/** Directions closer than this, radians, leave no gap to close. */
const NO_TURN = 1e-9

type Pair = readonly [number, number]

/**
 * Curves parallel to a chain of segments: lines and arcs exactly where the thickness is constant (lines also where it changes
 * straight with the height), cubics otherwise; where the chain turns away from that side, an arc about the corner joins
 * them. What crosses itself or comes nearer than the thickness elsewhere is still in it.
 */
export function offsetSegments(
  segments: readonly Segment[],
  thickness: Thickness,
  side: OffsetSide,
): Segment[] {
  const cut = segments.flatMap((s) => cutAtLevels(s, thickness))
  const out: Segment[] = []
  cut.forEach((segment, k) => {
    const before = cut[k - 1]
    if (before) out.push(...joint(before, segment, thickness, side))
    out.push(...parallel(segment, thickness, side))
  })
  return out
}

/** What closes the gap between the parallels of two segments at a corner. */
function joint(a: Segment, b: Segment, thickness: Thickness, side: OffsetSide): Segment[] {
  const turn = turnBetween(a, b)
  const corner = startOf(b)
  const mm = thicknessAt(thickness, corner[1])
  if (Math.abs(turn) < NO_TURN || mm === 0) return []
  const [p, q] = [offsetPoint(a, 1, thickness, side), offsetPoint(b, 0, thickness, side)]
  // Turning towards that side the parallels cross each other; a straight line keeps the chain whole until that is cut off.
  if (turn * side > 0) return [lineSegment(p, q, b.index)]
  const from = Math.atan2(p[1] - corner[1], p[0] - corner[0])
  const arc: ArcSegment = {
    kind: 'arc',
    index: b.index,
    ends: [...p, ...q],
    arc: { centre: corner, radius: mm, from, sweep: turn },
  }
  return [arc]
}

/** Parts of a segment between the levels at which the thickness begins to change otherwise. */
function cutAtLevels(segment: Segment, { levels }: Thickness): Segment[] {
  const places = levels
    .flatMap(({ z }) => parametersAtHeight(segment, z))
    .filter((t) => t > 1e-9 && t < 1 - 1e-9)
    .sort((a, b) => a - b)
  const ends = [0, ...places, 1]
  return ends.slice(1).map((t, k) => partOf(segment, ends[k]!, t))
}

/** The place beside a segment at parameter t. */
function offsetPoint(s: Segment, t: number, thickness: Thickness, side: OffsetSide): [number, number] {
  const [r, z] = pointOn(s, t)
  const [dr, dz] = t === 0 ? tangentAt(s, 0) : t === 1 ? tangentAt(s, 1) : derivativeOn(s, t)
  // The unit direction first: beside an upright line every place is at exactly the same r.
  const size = Math.hypot(dr, dz) || 1
  const mm = side * thicknessAt(thickness, z)
  return [r - mm * (dz / size), z + mm * (dr / size)]
}

function parallel(s: Segment, thickness: Thickness, side: OffsetSide): Segment[] {
  const [p, q] = [offsetPoint(s, 0, thickness, side), offsetPoint(s, 1, thickness, side)]
  if (s.kind === 'line') return [lineSegment(p, q, s.index)]
  if (s.kind === 'arc' && changes(s, thickness) === 0) {
    const mm = thicknessAt(thickness, startOf(s)[1])
    // The way of an arc that turns to the left has its centre on the left.
    const radius = s.arc.radius - side * Math.sign(s.arc.sweep) * mm
    if (radius > 0) return [{ ...s, ends: [...p, ...q], arc: { ...s.arc, radius } }]
    // Narrower than the wall: its parallel runs backwards and is cut away.
    return [lineSegment(p, q, s.index)]
  }
  return parallelCubics(s, thickness, side, 0, 1, MOST_HALVINGS)
}

/** By how much the thickness changes along a segment. */
function changes(s: Segment, thickness: Thickness): number {
  if (thickness.levels.length === 0) return 0
  const values = Array.from({ length: 9 }, (_, k) => thicknessAt(thickness, pointOn(s, k / 8)[1]))
  return Math.max(...values) - Math.min(...values)
}

/** Hermite cubics along the parallel of a part of a segment, halved until they are near enough. */
function parallelCubics(
  s: Segment,
  thickness: Thickness,
  side: OffsetSide,
  t0: number,
  t1: number,
  halvings: number,
): Segment[] {
  const p = offsetPoint(s, t0, thickness, side)
  const q = offsetPoint(s, t1, thickness, side)
  const u = offsetDerivative(s, t0, thickness, side)
  const v = offsetDerivative(s, t1, thickness, side)
  const h = (t1 - t0) / 3
  const cubic: Cubic = [...p, p[0] + h * u[0], p[1] + h * u[1], q[0] - h * v[0], q[1] - h * v[1], ...q]
  const made: Segment = { kind: 'cubic', cubic, index: s.index }
  const mm = thicknessAt(thickness, pointOn(s, (t0 + t1) / 2)[1])
  const off = Math.max(...[0.25, 0.5, 0.75].map((k) => aside(made, k, offsetPoint(s, t0 + (t1 - t0) * k, thickness, side)))) // prettier-ignore
  if (off <= OFFSET_ERROR * mm || halvings === 0) return [made]
  const middle = (t0 + t1) / 2
  return [
    ...parallelCubics(s, thickness, side, t0, middle, halvings - 1),
    ...parallelCubics(s, thickness, side, middle, t1, halvings - 1),
  ]
}

/** How far beside a cubic, at one of its parameters, a place lies. */
function aside(s: Segment, t: number, [r, z]: Pair): number {
  const [p, q] = pointOn(s, t)
  const [dr, dz] = derivativeOn(s, t)
  const size = Math.hypot(dr, dz)
  return size > 0 ? Math.abs((r - p) * dz - (z - q) * dr) / size : Math.hypot(r - p, z - q)
}

/** Derivative of the parallel by the parameter of its segment. */
function offsetDerivative(s: Segment, t: number, thickness: Thickness, side: OffsetSide): Pair {
  const [dr, dz] = derivativeOn(s, t)
  const speed = Math.hypot(dr, dz)
  if (speed === 0) return [0, 0]
  const z = pointOn(s, t)[1]
  const mm = thicknessAt(thickness, z)
  const turning = (angleAt(s, t + STEP) - angleAt(s, t - STEP)) / (2 * STEP)
  const wrapped = turning - ((2 * Math.PI) / (2 * STEP)) * Math.round((turning * 2 * STEP) / (2 * Math.PI))
  const along = 1 - (side * mm * wrapped) / speed
  const grows = side * thicknessSlope(thickness, z) * dz
  return [along * dr - (grows * dz) / speed, along * dz + (grows * dr) / speed]
}

/** Step of the difference quotient of a direction: its error, step² times a third derivative, is far below OFFSET_ERROR. */
const STEP = 1e-4

function angleAt(s: Segment, t: number): number {
  const [dr, dz] = derivativeOn(s, t)
  return Math.atan2(dz, dr)
}

/** Straight on beyond an end of a chain, by a length. */
export function straightOn(chain: readonly Segment[], end: 'start' | 'end', length: number): Segment {
  const s = end === 'start' ? chain[0]! : chain[chain.length - 1]!
  const [r, z] = end === 'start' ? startOf(s) : endOf(s)
  const [dr, dz] = tangentAt(s, end === 'start' ? 0 : 1)
  const k = ((end === 'start' ? -1 : 1) * length) / (Math.hypot(dr, dz) || 1)
  const far = [r + k * dr, z + k * dz] as const
  return end === 'start' ? lineSegment(far, [r, z], s.index) : lineSegment([r, z], far, s.index)
}
