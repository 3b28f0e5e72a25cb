import type { PicturePoint } from '../conventions'
import type { Raster } from '../picture/raster'
import { upperMedian } from '../upper-median'
import { inAxis, placeAt, type AxisLine } from './axis-line'
import type { Backdrop } from './backdrop'
import { resample } from './chain'
import {
  closedHalf,
  closedOutside,
  FOLLOWED,
  fallOf,
  GAP_PX,
  levelOf,
  onRing,
  openClosedBy,
  type Ellipse,
} from './close-half'
import type { OutlineEnd } from './open-ends'
import { clearAlong, crossingAt, fromEnd, inPicture, straightSide } from './end-view'
import { LEAST_HALF_PX, LEAST_WINDOW_PX, MOST_RISE, sizeOfEnd, type EndSize } from './end-width'
import { reachOfSteps } from './soft-steps'
import { closedStepped, type SteppedEnd } from './stepped-ends'
import { endEvidence, type EndEvidence, type Places } from './end-evidence'

interface ClosingArc extends Ellipse {
  /** What it earns over the columns it spans, and on average. */
  score: number
  mean: number
  /** It lies beyond the way found, which follows an edge of the piece. */
  beyond?: boolean
  /** It was found by what parts piece from shadow rather than by sharp edges. */
  parts?: boolean
}

export interface ClosedSides {
  sides: [Float64Array, Float64Array]
  /** True near an end where only its colour tells the piece from its shadow. */
  parts: (p: PicturePoint) => boolean
}

export interface ClosingOptions {
  /** Blur of the picture's edges, px. */
  blur: number
  /** Distance of the points, px. */
  step: number
  /** The piece is seen through. */
  clear: boolean
  /** What a plain backdrop looks like behind an opaque piece. */
  backdrop: Backdrop | null
  /** It stands on its mirror image in a glossy floor: rings beyond its foot are none of it. */
  isMirrored?: boolean
  /** The only ends that are looked at, because no edge was found there: they may lie farther out. Else both are. */
  open?: readonly OutlineEnd[] | null
  /** A foot that is looked at besides, because what was found there may jump along lines of the floor. */
  stepped?: SteppedEnd | null
}

/** One end of the outline: both halves [u v ...] begin on the axis there, and v grows out of the piece. */
interface OpenEnd extends EndSize {
  raster: Raster
  axis: AxisLine
  down: boolean
  blur: number
  halves: readonly Float64Array[]
  /** How far out from there the arc's tip may lie, px. */
  outwards: number
  /** The piece is seen through. */
  clear: boolean
  /** What a plain backdrop looks like behind an opaque piece. */
  backdrop: Backdrop | null
  /** What was found there follows no ring. */
  steps: SteppedEnd | null
  /** Whether the sides lead on to so far out; where they aren't asked they may. */
  leads: ((level: number) => boolean) | null
}

/** An end closed by an arc. */
interface ClosedEnd {
  arc: ClosingArc
  halves: Float64Array[]
}

/** The tip is looked for so far outwards and inwards of where the outline ends, shares of the half-width, and at least px. */
const OUTWARDS = 0.16
const INWARDS = 0.12
const OUTWARDS_OPEN = 0.35
/** Evidence reaches so far, of the half-width, that most of it is none: what is usual there is told by it. */
const LEAST_REACH = 0.3
/** Nothing is seen nearer to the picture's border, px. */
const BORDER_PX = 3
/** Heights tried, up to the most. */
const RISES = 48
/** Half-widths tried, as shares of the outline's near the end: chamfers and roundings take some off. */
const WIDTHS = [1.01, 0.99, 0.97, 0.94, 0.9, 0.86, 0.82, 0.77, 0.71]
/** Of arcs that are clear the outermost closes the piece: the others are its inside, its bottom's upper face, reflections. */
const CLEAR_SHARE = 0.35
const CLEAR_MEAN = 0.15
/** In grain arcs are found everywhere; a ring is clearer than most beyond the outline by this. */
const ABOVE_GRAIN = 2.0
/** Peaks are higher than all arcs whose tips lie so many px farther in. */
const PEAK_PX = 4
/** A line that goes on beyond the piece, from this half-width on, as clearly as so much of the arc is the backdrop's. */
const BESIDE = 1.08
const GOES_ON = 0.5
/** Steps of which so much shows an edge are the piece's own, unless a line goes on beyond it so near to where they end, px. */
const STEPS_SEEN = 0.5
const LINE_PX = 3
/** Of a clear piece the outline's own way must not be clearer than so much more than the arc. */
const AS_CLEAR_AS_FOUND = 0.7
/** An opaque piece shows where it ends: there an arc must be so much clearer than the way found, and this clear throughout. */
const CLEARER = 1.08
const CLEARLY = 0.3
/** Arcs with their tips so near to where the way found ends say whether it is a ring: one is about as clear. */
const NEAR_PX = 5
const REGULAR = 0.8
/** Where it isn't, an arc that parts piece from backdrop counts so much beside clear edges, and must part them by so much more. */
const PARTS = 1
const PARTED = 0.7
const PARTS_MORE = 0.3
/** An end is looked at again where it turns out so many times wider, and what is found then must be about as wide as the end. */
const WIDER = 1.04
const FULLY = 0.94
/** Narrower ones may be laid into a dome. */
const RING = 0.8

/**
 * Outlines whose ends follow the rings that close them, where clear ones do. Both sides vote for one arc, so that the
 * bright and dark patches of a glass' foot, its inner bottom and the near side of its rim don't draw the outline to them. An
 * opaque piece mostly shows its ends; there an arc takes the place of a way that wanders, in the shadow under a foot say.
 * @param sides [x y ...] of the left and the right side, each from the lower crossing of the axis to the upper one
 */
export function withClosingArcs(
  raster: Raster,
  sides: readonly [Float64Array, Float64Array],
  axis: AxisLine,
  { blur, step, clear, backdrop, isMirrored = false, open = null, stepped = null }: ClosingOptions,
): ClosedSides {
  let halves = sides.map((side, k) => inAxis(side, axis, k === 0))
  let closes = false
  const partings: ((p: PicturePoint) => boolean)[] = []
  for (const down of [true, false]) {
    const steps = down ? stepped : null
    if (open && !open.includes(down ? 'foot' : 'top') && !steps) continue
    const sizeOf = (facing: readonly Float64Array[]) => sizeOfEnd(raster, facing, { axis, blur, down })
    const close = (facing: readonly Float64Array[], size: EndSize): ClosedEnd | null => {
      if (!(size.wide >= LEAST_HALF_PX)) return null
      const outwards =
        isMirrored && down
          ? NEAR_PX
          : Math.max(LEAST_WINDOW_PX, (open ? OUTWARDS_OPEN : OUTWARDS) * size.wide)
      const about = { raster, axis, down, blur, halves: facing, ...size, outwards, clear, backdrop, steps }
      const arc = closingArc({ ...about, leads: open ? leadsOn(about) : null })
      if (!arc) return null
      if (steps) {
        const led = closedStepped(raster, facing, arc, { axis, blur, down, step })
        return led && { arc, halves: led }
      }
      const closedBy = (half: Float64Array, k: number) => {
        if (open) return openClosedBy(half, arc)
        if (clear || arc.beyond) return closedOutside(half, arc)
        return closedHalf(raster, half, arc, { view: { axis, blur, down, left: k === 0 }, step })
      }
      return { arc, halves: facing.map(closedBy) }
    }
    const facing = halves.map((half) => fromEnd(half, down))
    const own = sizeOf(facing)
    const size = steps ? { ...own, wide: steps.wide, jumps: true } : own
    const first = close(facing, size)
    if (!first) continue
    // Edges within a clear foot or rim make its end look narrower than it turns out to be: then its ring is looked for once more.
    const turnedOut = clear && !open ? sizeOf(first.halves) : size
    const second = turnedOut.wide > WIDER * size.wide ? close(first.halves, turnedOut) : null
    const closed = second && second.arc.a >= FULLY * turnedOut.wide ? second : first
    const { arc } = closed
    closes = true
    if (arc.parts) partings.push(onRing(arc, { axis, down }, GAP_PX))
    halves = closed.halves.map((half) => fromEnd(half, down))
  }
  const parts = (p: PicturePoint) => partings.some((isOn) => isOn(p))
  if (!closes && !clear) return { sides: [...sides], parts }
  const closed = halves.map((half, k) => resample(inPicture(half, axis, k === 0), step))
  return { sides: closed as [Float64Array, Float64Array], parts }
}

function closingArc(open: OpenEnd): ClosingArc | null {
  const { raster, axis, down, blur, halves, end, wide, outwards, clear, backdrop, leads, steps } = open
  const into = Math.max(LEAST_WINDOW_PX, INWARDS * wide)
  const side = clearSides(open)
  const reach = Math.max(outwards, into + MOST_RISE * wide, LEAST_REACH * wide)
  const evidence = endEvidence(raster, { axis, down, blur, end, wide, reach, clear })
  const { earned, columns, columnOf, uOf } = evidence
  const tips = tipsOf(open, into)
  const shapes = shapesOf(open, columnOf, uOf)
  const mayClose = (arc: Ellipse) =>
    spares(side, arc, clear, MOST_CUT * wide) && (leads?.(levelOf(arc, arc.a)) ?? true)
  const arcs = tips.map((tip) => bestArc({ tip, a: wide, b: 0 }, shapes, earned, mayClose))
  const besides = arcs.map(({ tip }) => {
    let sum = 0
    const from = columnOf(BESIDE * wide)
    for (let c = from; c < columns; c++)
      sum += Math.max(...[-1.5, 0, 1.5].map((d) => earned.at(tip + d, c))) / (columns - from)
    return sum
  })
  const usual = besides.slice().sort((p, q) => p - q)[besides.length >> 1]!
  const isLine = ({ tip }: Ellipse, i: number) =>
    Math.abs(tip - end) <= LINE_PX && besides[i]! - usual >= GOES_ON
  if (steps && steps.seen >= STEPS_SEEN && !arcs.some(isLine)) return null
  const clearest = Math.max(...arcs.map((arc) => arc.score))
  const beyond = arcs.filter(({ tip }) => tip > end + NEAR_PX).map(({ score }) => score)
  const grain = beyond.length > 0 ? Math.max(0, upperMedian(Float32Array.from(beyond))) : 0
  const clearArcs = arcs.filter(
    ({ score, mean }, i) =>
      score >= Math.max(CLEAR_SHARE * clearest, ABOVE_GRAIN * grain) &&
      mean >= CLEAR_MEAN &&
      arcs.slice(Math.max(0, i - PEAK_PX), i).every((other) => other.score <= score) &&
      besides[i]! - usual < GOES_ON * mean,
  )
  // Where nothing was found there is no inside of the piece to be mistaken for its end, but grain about it.
  const inOrder = leads ? clearArcs.toSorted((p, q) => q.score - p.score) : clearArcs.toReversed()
  const rings = inOrder.filter((arc) => !isAir(arc, open, evidence))
  const arc = withinShade(rings, open, evidence) ?? rings[0]
  /** What the way found earns where an arc would take its place. */
  const foundBy = (arc: ClosingArc) => {
    let found = 0
    for (let c = 0; c < columnOf(FOLLOWED * arc.a); c++) {
      const level = levelOf(arc, uOf(c))
      const ways = halves.map((half) => crossingAt(half, uOf(c)))
      // Where the way found runs inside of a clear piece's arc it follows an inner edge, however clear.
      found += Math.max(...ways.map((v) => (clear && v < level - GAP_PX ? 0 : earned.at(v, c))))
    }
    return found
  }
  if (clear) return arc && arc.score >= AS_CLEAR_AS_FOUND * foundBy(arc) ? arc : null
  // A way that jumps from line to line is no end, though it takes the best of each.
  const clearer = open.jumps ? REGULAR : CLEARER
  if (arc && arc.mean >= CLEARLY) {
    // A crease is clearer than the end beyond it, too, but what lies between them is none of the backdrop's.
    const leavesShade = arc !== rings[0] && isAlongShade(open, arc, evidence)
    if (leavesShade || arc.score >= clearer * foundBy(arc)) return isCrease(arc, open, evidence) ? null : arc
    // A chamfer's or a rounding's own edge is clearer than the ring in its shade below it, with which the piece ends.
    if (!leads && arc.tip > end + NEAR_PX) return { ...arc, beyond: true }
  }
  const near = arcs.filter(({ tip }) => Math.abs(tip - end) <= NEAR_PX)
  if (!backdrop || near.some((a) => a.score >= REGULAR * foundBy(a))) return null
  // The way found is no ring: it may wander along the border of a shadow.
  const widest = shapes.filter(({ a }) => a >= RING * wide)
  const partsAt = evidence.parts(backdrop)
  const worth = earned.plus(partsAt, PARTS)
  const parting = tips
    .map((tip) => bestArc({ tip, a: wide, b: 0 }, widest, worth, mayClose))
    .reduce((p, q) => (q.score > p.score ? q : p))
  const { byArc, byWay } = partings(parting, halves, partsAt, evidence)
  return isParting(byArc, byWay) ? { ...parting, parts: true } : null
}

/** How well an arc, and the way found, part piece from backdrop: means over the columns of the arc. */
function partings(
  arc: ClosingArc,
  halves: OpenEnd['halves'],
  parts: Places,
  { columnOf, uOf }: EndEvidence,
): { byArc: number; byWay: number } {
  let byArc = 0
  let byWay = 0
  const count = columnOf(FOLLOWED * arc.a)
  for (let c = 0; c < count; c++) {
    byArc += parts.at(levelOf(arc, uOf(c)), c) / count
    byWay += Math.max(...halves.map((half) => parts.at(crossingAt(half, uOf(c)), c))) / count
  }
  return { byArc, byWay }
}

const isParting = (one: number, other: number) => one >= PARTED && one > other + PARTS_MORE

/** What looks this much like the backdrop is no piece, not even one as light as the backdrop, -1 to 1. */
const AIR = -0.25

/** Whether an arc beyond the way found has nothing but a plain backdrop inside of it: a line in the backdrop, or one that compressing it left. */
function isAir(arc: ClosingArc, { end, backdrop }: OpenEnd, evidence: EndEvidence): boolean {
  if (!backdrop || arc.tip <= end + NEAR_PX) return false
  const inside = evidence.inside(backdrop)
  const count = evidence.columnOf(FOLLOWED * arc.a)
  let sum = 0
  for (let c = 0; c < count; c++) sum += inside.at(levelOf(arc, evidence.uOf(c)), c)
  return sum < AIR * count
}

/**
 * The first ring that is an edge of the piece, if the first of all is a shadow's border: that ends softly. What lies so near to it that
 * both are seen as one isn't told from it, nor is a ring that is much narrower than the end.
 */
function withinShade(
  [first, ...others]: readonly ClosingArc[],
  { wide, blur }: OpenEnd,
  evidence: EndEvidence,
): ClosingArc | undefined {
  if (!first || !isSoft(first, evidence)) return first
  return others.find(
    (arc) =>
      arc.a >= RING * wide && Math.abs(arc.tip - first.tip) > reachOfSteps(blur) && !isSoft(arc, evidence),
  )
}

/** Whether the way found is soft over the columns of an arc. */
function isAlongShade({ halves }: OpenEnd, { a }: Ellipse, { columnOf, uOf, areSoft }: EndEvidence): boolean {
  const columns = Array.from({ length: columnOf(FOLLOWED * a) }, (_, c) => uOf(c))
  return halves.every((half) => {
    const levels = columns.map((u) => crossingAt(half, u))
    return levels.every(Number.isFinite) && areSoft(levels)
  })
}

function isSoft(arc: ClosingArc, { columnOf, uOf, areSoft }: EndEvidence): boolean {
  const count = columnOf(FOLLOWED * arc.a)
  return areSoft(Float64Array.from({ length: count }, (_, c) => levelOf(arc, uOf(c))))
}

/** Whether an arc farther in than the way found lies on the piece, since the way parts it from a plain backdrop, and the arc doesn't. */
function isCrease(arc: ClosingArc, { end, halves, backdrop }: OpenEnd, evidence: EndEvidence): boolean {
  if (!backdrop || arc.tip > end) return false
  const { byArc, byWay } = partings(arc, halves, evidence.parts(backdrop), evidence)
  return isParting(byWay, byArc)
}

/** Where the tip of an arc may lie, px along the axis. */
function tipsOf({ raster, axis, down, end, outwards }: OpenEnd, into: number): number[] {
  const tips: number[] = []
  for (let tip = end - into; tip <= end + outwards; tip += 1) {
    const { x, y } = placeAt(axis, 0, down ? -tip : tip)
    if (Math.min(x, y, raster.width - x, raster.height - y) >= BORDER_PX) tips.push(tip)
  }
  return tips
}

/** A half-width that is tried, and how far an ellipse of unit height has fallen in its columns. */
interface Shape {
  a: number
  fall: Float64Array
}

/** The widest comes first. */
function shapesOf({ wide }: OpenEnd, columnOf: EndEvidence['columnOf'], uOf: EndEvidence['uOf']): Shape[] {
  return WIDTHS.map((share) => {
    const a = share * wide
    return { a, fall: Float64Array.from({ length: columnOf(FOLLOWED * a) }, (_, c) => fallOf(uOf(c) / a)) }
  })
}

/** The arc with its tip at that of a level one which is worth most over its columns, of those that may close the piece. */
function bestArc(
  level: Ellipse,
  shapes: readonly Shape[],
  worth: Places,
  mayClose: (arc: Ellipse) => boolean,
): ClosingArc {
  const { tip } = level
  let best: ClosingArc = { ...level, score: 0, mean: 0 }
  for (const { a, fall } of shapes)
    for (let b = 0; b <= MOST_RISE * a; b += (MOST_RISE * a) / RISES) {
      const score = worth.along(tip, b, fall)
      if (best.mean !== 0 && score <= best.score) continue
      if (mayClose({ tip, a, b })) best = { tip, a, b, score, mean: score / fall.length }
    }
  return best
}

/** An arc may cut off clear edges of the sides over this share of the half-width: a piece ends where its sides do. */
const MOST_CUT = 0.04
/** The sides are what lies beyond this share of the half-width. */
const SIDE_SHARE = 0.8

/** A clear edge of a side: where it lies, and for how much of the way along the axis it stands, px. */
interface ClearEdge {
  u: number
  v: number
  rise: number
}

/**
 * True where no more than `most` px (along the axis) of the clear edges of the side that loses less lie beyond an arc. A wide arc's own
 * edges count as the side's where they run steeply; of a clear piece, whose grain and reflections give many arcs, none is let off.
 */
function spares(
  sides: readonly (readonly ClearEdge[])[],
  arc: Ellipse,
  clear: boolean,
  most: number,
): boolean {
  const ends = levelOf(arc, arc.a) + GAP_PX
  return sides.some((edges) => {
    let cut = 0
    for (const { u, v, rise } of edges) {
      // Nothing of an arc lies lower than its ends.
      if (v <= ends || (!clear && u < arc.a && v <= levelOf(arc, u) + GAP_PX)) continue
      cut += rise
      if (cut > most) return false
    }
    return true
  })
}

function clearSides({ raster, axis, down, blur, halves, end, wide }: OpenEnd): ClearEdge[][] {
  return halves.map((half, k) => {
    const edges: ClearEdge[] = []
    for (let i = 0; i < half.length && end - half[i + 1]! < wide; i += 2)
      if (half[i]! >= SIDE_SHARE * wide) edges.push({ u: half[i]!, v: half[i + 1]!, rise: 0 })
    if (edges.length < 3) return []
    const side = Float64Array.from(edges.flatMap(({ u, v }) => [u, v]))
    const clear = clearAlong(raster, side, { axis, blur, down, left: k === 0 })
    return edges.flatMap((edge, i) => {
      if (!clear[i]) return []
      // Each point stands for its share of the way along the axis.
      const [before, after] = [edges[i - 1] ?? edge, edges[i + 1] ?? edge]
      return [{ ...edge, rise: Math.abs(after.v - before.v) / 2 }]
    })
  })
}

/** A side leads on as far as it shows clear edges along this share of the way. */
const LEADS = 0.5
const LEAD_STEP = 2

/** Whether the sides, led on straight, show edges up to so far beyond an end: where they don't, no ring closes the piece. */
function leadsOn({
  raster,
  axis,
  down,
  blur,
  halves,
  end,
  wide,
  outwards,
}: Omit<OpenEnd, 'leads'>): (level: number) => boolean {
  const levels: number[] = []
  for (let v = end; v < end + outwards; v += LEAD_STEP) levels.push(v)
  const shares = halves.map((half, k) => {
    const side = straightSide(half, wide)
    if (!side || levels.length < 3) return []
    const way = Float64Array.from(levels.flatMap((v) => [side.sideAt(v), v]))
    let seen = 0
    return clearAlong(raster, way, { axis, blur, down, left: k === 0 }).map(
      (is, i) => (is ? ++seen : seen) / (i + 1),
    )
  })
  return (level) => {
    const i = Math.floor((level - end) / LEAD_STEP)
    return (
      i * LEAD_STEP <= GAP_PX || shares.some((share) => (share[Math.min(i, share.length - 1)] ?? 0) >= LEADS)
    )
  }
}
