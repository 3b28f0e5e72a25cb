import type { PicturePoint } from '../conventions'
import type { Raster } from '../picture/raster'
import { acrossAxis, alongAxis } from './axis-line'
import { resample } from './chain'
import { clearShare, shown, straightSide, type SideView } from './end-view'

/**
 * The ring with which a piece ends, as the half of an ellipse that closes its outline: in the axis' own frame, px, it
 * bulges outwards (away from the piece) and has its tip on the axis.
 */
export interface Ellipse {
  /** Along the axis, outwards positive. */
  tip: number
  /** Half axes across and along. */
  a: number
  b: number
  /** How far it rises, out of the piece, per px from the axis: a ring's two halves may lean against each other. Default 0. */
  lean?: number
}

/** An arc is followed so far across; beyond, it runs too steeply and rounding begins. */
export const FOLLOWED = 0.93
/** Sides are kept from so far beyond the arc's end, px. */
export const GAP_PX = 3

/** Where an arc lies along the axis, so far aside of it. */
export function levelOf({ tip, a, b, lean = 0 }: Ellipse, u: number): number {
  return tip - b * fallOf(u / a) + lean * u
}

/** The left and the right half of a ring whose lean is that of the right one. */
export function halvesOf({ lean = 0, ...ring }: Ellipse): [Ellipse, Ellipse] {
  return [
    { ...ring, lean: -lean },
    { ...ring, lean },
  ]
}

/** Whether places lie within so many px (along the axis) of a ring that closes one end. */
export function onRing(
  ring: Ellipse,
  { axis, down }: Pick<SideView, 'axis' | 'down'>,
  px: number,
): (p: PicturePoint) => boolean {
  const halves = halvesOf(ring)
  return (p) => {
    const [u, along] = [acrossAxis(axis, p), alongAxis(axis, p)]
    const level = levelOf(halves[u < 0 ? 0 : 1], Math.abs(u))
    return Math.abs(u) < FOLLOWED * ring.a && Math.abs((down ? -along : along) - level) < px
  }
}

/** How far an ellipse of unit height falls from its tip to a share of its half-width. */
export function fallOf(share: number): number {
  return 1 - Math.sqrt(1 - share * share)
}

/** Places of an arc lie so far apart, of its half-width. */
export const ARC_STEP = 0.01

/** A way that leads straight on must show so much more edge than one that jumps. */
const LED_BETTER = 0.15
/** It may jump so far from the end, of the half-width. */
const LED_CORNERS = [0.12, 0.25, 0.5]

/** A way that shows clear edges over more than this share of what an arc would leave out stays as it is. */
const MOST_LEFT_OUT = 0.5
/** Where arcs leave out so little of the way, of their half-width, a chamfer or a rounding leads on. */
const SHORT_LEG = 0.25

export interface CloseOptions {
  view: SideView
  /** Distance of the points, px. */
  step: number
}

/**
 * The half with its beginning replaced by the arc; where the way jumps below the arc, with its side led straight on up to it if that
 * shows more of an edge. The same half where the arc would leave out a clear edge.
 */
export function closedHalf(
  raster: Raster,
  half: Float64Array,
  arc: Ellipse,
  { view, step }: CloseOptions,
): Float64Array {
  const way = closedBy(raster, half, arc, view)
  if (way === half) return half
  const led = LED_CORNERS.map((corner) => openClosedBy(half, arc, corner)).find(
    (led) => led !== half && gainOf(raster, led, way, { view, step }) > LED_BETTER,
  )
  return led ?? way
}

/** How much more of an edge one way shows than another, where they part. */
export function gainOf(
  raster: Raster,
  one: Float64Array,
  other: Float64Array,
  { view, step }: CloseOptions,
): number {
  const [byOne, byOther] = parting(one, other).map((part) => shown(raster, resample(part, step), view)) as [number, number] // prettier-ignore
  return byOne - byOther
}

/** The half with its beginning replaced by the arc, as far as it is followed; as it was where the arc would leave out a clear edge. */
function closedBy(raster: Raster, half: Float64Array, arc: Ellipse, view: SideView): Float64Array {
  const out: number[] = []
  for (let t = 0; t <= FOLLOWED; t += ARC_STEP) out.push(t * arc.a, levelOf(arc, t * arc.a))
  const [u, v] = [out.at(-2)!, out.at(-1)!]
  let from = 0
  while (from < half.length && !(half[from]! >= u && half[from + 1]! <= v - GAP_PX)) from += 2
  if (from >= half.length) return half
  let left = from
  while (left > 0 && half[left - 1]! <= v - GAP_PX) left -= 2
  const isLong = Math.hypot(half[from]! - u, half[from + 1]! - v) > SHORT_LEG * arc.a
  if (isLong && clearShare(raster, half.subarray(left, from), view) > MOST_LEFT_OUT) return half
  return Float64Array.from([...out, ...half.subarray(from)])
}

/**
 * The half with its beginning replaced by an arc that lies outside of it, and by the straight way that touches both: how a chamfer
 * or a rounding between its edge (which the half follows) and the ring it ends with is seen. As it was where no way touches both.
 */
export function closedOutside(half: Float64Array, arc: Ellipse): Float64Array {
  const least = arc.tip - arc.b - SHORT_LEG * arc.a
  const places: HalfPlace[] = []
  for (let i = 0; i < half.length && half[i + 1]! >= least; i += 2)
    if (half[i]! > FOLLOWED * arc.a) places.push({ u: half[i]!, v: half[i + 1]!, from: i })
  const widest = places.reduce((most, { u }) => Math.max(most, u), 0)
  for (let u = 0; u <= arc.a && u < widest; u += ARC_STEP * arc.a)
    places.push({ u, v: levelOf(arc, u), from: -1 })
  places.sort((p, q) => p.u - q.u || q.v - p.v)
  const hull: HalfPlace[] = []
  for (const place of places) {
    while (hull.length > 1 && !turnsInwards(hull.at(-2)!, hull.at(-1)!, place)) hull.pop()
    hull.push(place)
  }
  const end = hull.at(-1)?.from
  if (end === undefined || end < 0) return half
  return Float64Array.from([...hull.slice(0, -1).flatMap(({ u, v }) => [u, v]), ...half.subarray(end)])
}

interface HalfPlace {
  u: number
  v: number
  /** Where it begins in the half; -1 for a place of the arc. */
  from: number
}

/** Whether a way over three places, from the axis outwards, bends towards the piece. */
function turnsInwards(p: HalfPlace, q: HalfPlace, r: HalfPlace): boolean {
  return (q.u - p.u) * (r.v - q.v) - (q.v - p.v) * (r.u - q.u) < 0
}

/** The parts of two ways with one beginning and one end in which they differ. */
function parting(one: Float64Array, other: Float64Array): [Float64Array, Float64Array] {
  const most = Math.min(one.length, other.length)
  const isSame = (i: number, k: number) => one[i] === other[k] && one[i + 1] === other[k + 1]
  let from = 0
  while (from < most && isSame(from, from)) from += 2
  let back = 2
  while (back <= most - from && isSame(one.length - back, other.length - back)) back += 2
  // With the last place and the first one that they have in common.
  return [one, other].map((way) => way.subarray(Math.max(0, from - 2), way.length - back + 4)) as [
    Float64Array,
    Float64Array,
  ]
}

/**
 * The half of which nothing closed the beginning, led on straight from where its side can be believed up to the arc; as it
 * was where it has no such side.
 */
export function openClosedBy(half: Float64Array, arc: Ellipse, corner?: number): Float64Array {
  const side = straightSide(half, arc.a, corner)
  if (!side) return half
  const { from, sideAt } = side
  const out: number[] = []
  let v = arc.tip
  for (let t = 0; t <= 1; t += ARC_STEP) {
    v = levelOf(arc, t * arc.a)
    // The arc is narrower than the side, or as wide, or they cross.
    if (t * arc.a > sideAt(v)) break
    out.push(t * arc.a, v)
  }
  return Float64Array.from([...out, sideAt(v), v, ...half.subarray(from)])
}
