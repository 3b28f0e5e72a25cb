import type { PicturePoint } from '../conventions'
import type { Raster } from '../picture/raster'
import { inAxis, placeAt, type AxisLine } from './axis-line'
import { withClosingArcs, type ClosingOptions } from './closing-arcs'
import { shownAlong } from './edge-band'
import { OUTLINE_ENDS, partFrom, seenPoints, type OutlineEnd } from './open-ends'
import type { OutlineSide } from './refine'

/** A side may be cut where a gap of at least so many points ends, within this share of it from its end. */
const GAP = 3
const WITHIN = 0.3
/** Levels so near to each other, px, are one; no more than so many are tried, those of the longest gaps first. */
const APART_PX = 6
const MOST_CUTS = 4
/** What is cut off has so many points at least, and no more than this share of them show an edge. */
const LEAST_POINTS = 8
const MOST_SEEN = 0.5
/** It shows no more of an edge than this, clear being 1; what closes the sides instead shows this much, and by so much more. */
const MOST_SHOWN = 0.45
const SHOWS = 0.5
const BETTER = 0.25

type Chains = [Float64Array, Float64Array]
/** How many points are cut off each side. */
type Cut = readonly [number, number]

/**
 * The sides closed by the ring that shows where beyond it the way has gaps and shows much less of an edge: a wall's blotches above a
 * rim, or a floor's grain below a foot, led it on.
 * @returns chains [x y ...] to be fitted again; null where there is no such end
 */
export function withoutBareEnds(
  raster: Raster,
  sides: readonly [OutlineSide, OutlineSide],
  axis: AxisLine,
  options: Omit<ClosingOptions, 'open'>,
): Chains | null {
  let closed: Chains | null = null
  const shows = (parts: readonly Float64Array[]) => shownAlong(raster, parts, options.blur)
  for (const end of OUTLINE_ENDS) {
    let best = BETTER
    const found: readonly Float64Array[] = closed ?? sides.map(({ points }) => points)
    for (const cut of cutsAt(sides, axis, end)) {
      const byWay = shows(sides.map((side, k) => partFrom(side, end, 0, cut[k]!).points))
      // Looking for a ring costs much more.
      if (byWay > MOST_SHOWN) continue
      const kept = sides.map((side, k) => placeFrom(side, end, cut[k]!))
      const left = found.map((chain, k) => cutOff(chain, kept[k]!, axis, end)) as Chains
      const { sides: rings } = withClosingArcs(raster, left, axis, { ...options, open: [end] })
      if (rings[0] === left[0]) continue
      const byRing = shows(rings.map((ring, k) => endOf(ring, kept[k]!, end)))
      if (byRing < SHOWS || byRing < byWay + best) continue
      best = byRing - byWay
      closed = rings
    }
  }
  return closed
}

/** Where both sides may be cut at one level, because a gap of one of them ends there. */
function cutsAt(sides: readonly [OutlineSide, OutlineSide], axis: AxisLine, end: OutlineEnd): Cut[] {
  const seen = sides.map((side) => seenPoints(side, end))
  const levels = sides.map(({ points }, k) => outwards(inAxis(points, axis, k === 0), end))
  const taken: number[] = []
  const cuts: Cut[] = []
  const gaps = [0, 1].flatMap((k) => gapsNear(seen[k]!).map((gap) => ({ ...gap, k })))
  for (const { k, to } of gaps.toSorted((p, q) => q.long - p.long)) {
    const level = levels[k]![to]!
    const other = firstAsFarOut(levels[1 - k]!, level)
    const cut: Cut = k === 0 ? [to, other] : [other, to]
    const bare = seen.flatMap((list, j) => list.slice(0, cut[j]))
    const isBare = bare.filter((is) => is).length <= MOST_SEEN * bare.length
    const isNear = taken.some((v) => Math.abs(v - level) <= APART_PX)
    if (!isBare || isNear || Math.min(...cut) < LEAST_POINTS) continue
    taken.push(level)
    cuts.push(cut)
  }
  return cuts.slice(0, MOST_CUTS)
}

/** How far out points lie along the axis, counted from an end on. */
function outwards(places: Float64Array, end: OutlineEnd): Float64Array {
  const along = places.filter((_, i) => i % 2)
  return end === 'foot' ? along.map((v) => -v) : along.reverse()
}

/** Gaps near an end: to how many points from it they reach, and how long they are. */
function gapsNear(seen: readonly boolean[]): { to: number; long: number }[] {
  const gaps: { to: number; long: number }[] = []
  let long = 0
  for (let i = 0; i < WITHIN * seen.length; i++) {
    if (seen[i] && long >= GAP) gaps.push({ to: i, long })
    long = seen[i] ? 0 : long + 1
  }
  return gaps
}

/** Number of points beyond the first one, coming from the piece, that lies so far out. */
function firstAsFarOut(levels: Float64Array, level: number): number {
  let i = Math.floor(WITHIN * levels.length)
  while (i > 0 && levels[i]! < level) i--
  return i
}

/** Where the point lies that so many others part from an end. */
function placeFrom({ points, sd }: OutlineSide, end: OutlineEnd, count: number): PicturePoint {
  const i = end === 'foot' ? count : sd.length - 1 - count
  return { x: points[2 * i]!, y: points[2 * i + 1]! }
}

/** A chain that goes straight to the axis from a place of it, instead of on to its end. */
function cutOff(chain: Float64Array, kept: PicturePoint, axis: AxisLine, end: OutlineEnd): Float64Array {
  const i = nearestTo(chain, kept)
  const [, along = 0] = inAxis(chain.subarray(i, i + 2), axis)
  const { x, y } = placeAt(axis, 0, along)
  return Float64Array.from(
    end === 'foot' ? [x, y, ...chain.subarray(i)] : [...chain.subarray(0, i + 2), x, y],
  )
}

/** The part of a chain from one of its ends to where it comes nearest to a place. */
function endOf(chain: Float64Array, to: PicturePoint, end: OutlineEnd): Float64Array {
  const i = nearestTo(chain, to)
  return end === 'foot' ? chain.slice(0, i + 2) : chain.slice(i)
}

/** Where the point of a chain that is nearest to a place begins in it. */
function nearestTo(chain: Float64Array, { x, y }: PicturePoint): number {
  let nearest = 0
  let least = Infinity
  for (let i = 0; i < chain.length; i += 2) {
    const away = Math.hypot(chain[i]! - x, chain[i + 1]! - y)
    if (away < least) [least, nearest] = [away, i]
  }
  return nearest
}
