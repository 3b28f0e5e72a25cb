import type { PicturePoint } from '../conventions'
import type { Raster } from '../picture/raster'
import { inAxis, placeAt, type AxisLine } from './axis-line'
import { resample } from './chain'
import { closedOutside, fallOf, FOLLOWED, halvesOf, levelOf, onRing, type Ellipse } from './close-half'
import { fromEnd, inPicture, type SideView } from './end-view'
import { sizeOfEnd } from './end-width'
import type { OutlineEnd } from './open-ends'
import type { OutlineSide } from './refine'
import { reachOfBoth } from './seen-by-both'
import { BESIDE, COLUMN_STEP, ringColumns, windowOf, type Column, type RingColumns } from './ring-columns'
import { type RingStep, ringSteps, ringThrough, STRETCHES, stretchesOf } from './ring-steps'

export interface FaintRingOptions {
  /** Blur of the picture's edges, px. */
  blur: number
  /** Distance of the points, px. */
  step: number
  /** The ends that are looked at. */
  ends: readonly OutlineEnd[]
}

export interface RingedSides {
  /** [x y ...] of both sides. */
  chains: [Float64Array, Float64Array]
  /** True for places of the rings. */
  rings: (p: PicturePoint) => boolean
}

/** Of smaller pieces, px along the axis, rings are a few px from the crease, where soft edges and compression leave traces. */
const LEAST_TALL_PX = 320
/** Places so near to a ring, px, lie on it. */
const ON_PX = 1.5

/**
 * A chamfer or a rounding about as light as what lies behind it ends in a ring that hardly shows, while the crease between it and the
 * side is clear, so that the outline follows the crease. What is too faint for any place of the ring is clear in the mean over
 * long stretches of it. Outlines whose ends are led over such rings; null where there are none.
 */
export function withFaintRings(
  raster: Raster,
  sides: readonly [OutlineSide, OutlineSide],
  axis: AxisLine,
  { blur, step, ends }: FaintRingOptions,
): RingedSides | null {
  const { low, high } = reachOfBoth(sides, axis)
  if (high - low < LEAST_TALL_PX) return null
  let halves = sides.map(({ points }, k) => inAxis(points, axis, k === 0))
  const areOn: RingedSides['rings'][] = []
  for (const end of ends) {
    const down = end === 'foot'
    const facing = halves.map((half) => fromEnd(half, down))
    const ring = faintRing(raster, facing, { axis, blur, down })
    if (!ring) continue
    const ringHalves = halvesOf(ring)
    const ringed = facing.map((half, k) => closedOutside(half, ringHalves[k]!))
    if (ringed.some((half, k) => half === facing[k])) continue
    halves = ringed.map((half) => fromEnd(half, down))
    areOn.push(onRing(ring, { axis, down }, ON_PX))
  }
  if (areOn.length === 0) return null
  const chains = halves.map((half, k) => resample(inPicture(half, axis, k === 0), step))
  return { chains: chains as RingedSides['chains'], rings: (p) => areOn.some((isOn) => isOn(p)) }
}

/** Narrower ends, px, don't have the px that a mean needs. */
const LEAST_WIDE_PX = 30
/** An end that falls by more than this share of its half-width before it is so wide is a dome. */
const DOME = 0.35
/** Rings are looked for so far beyond the way found, of the half-width, and at least so far, px. */
const REACH = 0.13
const LEAST_REACH_PX = 12
/** Rings so high, of the half-width, are tried, and so far apart. */
const MOST_RISE = 0.4
const RISE_STEP = 0.02
/** Columns reach so much farther, px and blurs. */
const MARGIN_PX = 8
const MARGIN_BLURS = 8

type EndView = Omit<SideView, 'left'>

/** The ring beyond the way found with which an end closes; its lean is that of the right half. */
function faintRing(raster: Raster, halves: readonly Float64Array[], view: EndView): Required<Ellipse> | null {
  const { blur } = view
  const { end, wide } = sizeOfEnd(raster, halves, view)
  if (!(wide >= LEAST_WIDE_PX)) return null
  const margin = MARGIN_PX + MARGIN_BLURS * blur
  const outwards = Math.min(Math.max(LEAST_REACH_PX, REACH * wide) + margin, roomBeyond(raster, end, view))
  const reach = outwards - margin
  if (reach < 1) return null
  const columns = ringColumns(raster, halves, {
    ...view,
    wide,
    end,
    inwards: MOST_RISE * wide + margin,
    outwards,
  })
  if (isDome(columns)) return null
  const peaks = peaksOf(likelyRings(columns, reach))
  let best: { ring: Required<Ellipse>; gain: number } | null = null
  for (const { ring, worth } of peaks) {
    if (worth < LEAST_WORTH) continue
    const settled = settledRing(columns, ring, worth)
    if (settled && settled.gain > (best?.gain ?? 0)) best = settled
  }
  return best?.ring ?? null
}

function isDome({ sides, wide }: RingColumns): boolean {
  return sides.some((side) => {
    const ways = side.map(({ way }) => way)
    return Math.max(...ways) - Math.min(...ways.slice(0, Math.floor(FOLLOWED * ways.length))) > DOME * wide
  })
}

/** How far the picture reaches beyond an end, along the axis, px. */
function roomBeyond({ width, height }: Raster, end: number, { axis, down }: EndView): number {
  const { x, y } = placeAt(axis, 0, down ? -end : end)
  const [dx, dy] = [down ? -axis.up.x : axis.up.x, down ? -axis.up.y : axis.up.y]
  const along = (at: number, step: number, size: number) => (step > 0 ? size - at : at) / Math.abs(step)
  return Math.min(along(x, dx, width), along(y, dy, height))
}

/** What a ring shows over its stretches. */
interface LikelyRing {
  ring: Required<Ellipse>
  worth: number
}

/** Half-widths tried, as shares of the end's: a chamfer or a rounding takes some off. */
const WIDTHS = [1, 0.97, 0.93, 0.87, 0.8]

/** The likeliest ring with its tip at each px beyond the end. */
function likelyRings(columns: RingColumns, reach: number): LikelyRing[] {
  const { wide, end, uOf } = columns
  const shapes = WIDTHS.map((share): Shape => {
    const stretches = stretchesOf(share * wide, columns)
    const falls = Float64Array.from({ length: stretches.at(-1)![1] }, (_, c) =>
      fallOf(uOf(c) / (share * wide)),
    )
    return { a: share * wide, stretches, falls }
  })
  const rings: LikelyRing[] = []
  for (let tip = end; tip < end + reach; tip++) {
    let best: LikelyRing = { ring: { tip, a: wide, b: 0, lean: 0 }, worth: -1 }
    for (const shape of shapes)
      for (let b = 0; b <= MOST_RISE * wide; b += RISE_STEP * wide) {
        const worth = worthOf(columns, shape, tip, b)
        if (worth > best.worth) best = { ring: { tip, a: shape.a, b, lean: 0 }, worth }
      }
    rings.push(best)
  }
  return rings
}

interface Shape {
  a: number
  stretches: readonly (readonly [number, number])[]
  /** How far an ellipse of unit height has fallen in each column. */
  falls: Float64Array
}

/** A ring may run along the way found, so near to it, px; else so many blurs beyond what the filter sees of that. */
const ON_WAY_PX = 1.5
const CLEAR_BLURS = 1.7
/** It runs beyond over this share of its columns at least, and a stretch counts that shows so much of its own. */
const BEYOND = 0.5
const MOST_OF_STRETCH = 0.5
/** One glaring stretch isn't worth more than this, … */
const MOST_WORTH = 1.6
/** … but for a little, which tells where it is clearest. */
const CLEARER = 0.1
const MOST_CLEARER = 6

/** How clear a ring is, on average over its stretches. */
function worthOf(columns: RingColumns, { stretches, falls }: Shape, tip: number, b: number): number {
  const { sides, blur, indexOf } = columns
  const clear = windowOf(blur) + CLEAR_BLURS * blur
  let sum = 0
  let beyond = 0
  for (const side of sides)
    for (const [from, to] of stretches) {
      let count = 0
      let [red, green, blue] = [0, 0, 0]
      for (let c = from; c < to; c++) {
        const { way, answers } = side[c]!
        const v = tip - b * falls[c]!
        const gap = v - way
        const k = Math.round(indexOf(v))
        if ((Math.abs(gap) > ON_WAY_PX && gap < clear) || k < 0 || 3 * k >= answers.length) continue
        count++
        if (gap >= clear) beyond++
        red += answers[3 * k]!
        green += answers[3 * k + 1]!
        blue += answers[3 * k + 2]!
      }
      if (count < MOST_OF_STRETCH * (to - from)) continue
      const worth = Math.log(1 + (red * red + green * green + blue * blue) / (12 * count))
      sum += Math.min(MOST_WORTH, worth) + CLEARER * Math.min(MOST_CLEARER, worth)
    }
  return beyond < BEYOND * 2 * falls.length ? 0 : sum / (2 * STRETCHES)
}

/** A peak is higher than all rings so near to it, px, and so many are looked at. */
const PEAK_PX = 3
const MOST_PEAKS = 3

function peaksOf(rings: readonly LikelyRing[]): LikelyRing[] {
  return rings
    .filter(({ worth }, i) =>
      rings.slice(Math.max(0, i - PEAK_PX), i + PEAK_PX + 1).every((other) => other.worth <= worth),
    )
    .sort((p, q) => q.worth - p.worth)
    .slice(0, MOST_PEAKS)
}

/** A ring is believed that is worth so much, … */
const LEAST_WORTH = 1.47
/** … of whose stretches (of 12) so many lie on it, to within so many px, … */
const LEAST_ON_RING = 9
const ON_RING_PX = 0.8
/** … explain so much on average, by their worth and their share of the step of the way found, … */
const LEAST_EVIDENCE = 22
/** … which is no less than this, as what lies beside every edge is, and hardly more than all of it: a crease is clearer than its ring. */
const LEAST_SHARE = 0.1
const MOST_SHARE = 1.1
/** A ring whose steps are told so much better by soft ones is the border of a shade under the piece. */
const SHARPER = 0.75
/** So many times. */
const SETTLINGS = 3

/** A ring laid onto the steps that its stretches show; null where they don't lie on one. */
function settledRing(
  columns: RingColumns,
  likely: Required<Ellipse>,
  worth: number,
): { ring: Required<Ellipse>; gain: number } | null {
  let ring = likely
  let steps = ringSteps(columns, ring)
  for (let k = 0; k < SETTLINGS; k++) {
    if (steps.length < LEAST_ON_RING) return null
    const change = ringThrough(steps)
    if (!change) return null
    ring = {
      ...ring,
      tip: ring.tip + change.tip,
      b: Math.max(0, ring.b + change.b),
      lean: ring.lean + change.lean,
    }
    steps = ringSteps(columns, ring)
  }
  const on = steps.filter(({ off }) => Math.abs(off) <= ON_RING_PX)
  const share = on.map((step) => step.share).sort((p, q) => p - q)[on.length >> 1] ?? 0
  const mean = (of: (step: RingStep) => number) =>
    on.reduce((sum, step) => sum + of(step), 0) / (2 * STRETCHES)
  const gain = mean((step) => step.gain)
  const isBelieved =
    on.length >= LEAST_ON_RING &&
    share >= LEAST_SHARE &&
    share <= MOST_SHARE &&
    gain * share * worth >= LEAST_EVIDENCE &&
    gain >= SHARPER * mean((step) => step.softGain) &&
    risesAsWay(columns, ring) &&
    !goesOn(columns, ring)
  return isBelieved ? { ring, gain } : null
}

/** A ring rises at least by this share of what the crease before it does, for its width, but for so many px. */
const AS_CREASE = 0.4
const RISE_PX = 3

/** Whether a ring is seen from as far above as the crease before it: a straight line beyond a curved one is none of the piece's. */
function risesAsWay({ sides, wide, uOf }: RingColumns, { a, b }: Ellipse): boolean {
  let [falls, shapes] = [0, 0]
  for (const side of sides)
    for (let c = 0; c < FOLLOWED * side.length; c++) {
      const shape = wide * fallOf(uOf(c) / wide)
      falls += shape * (side[0]!.way - side[c]!.way)
      shapes += shape * shape
    }
  return b >= AS_CREASE * (falls / shapes) * a - RISE_PX
}

/** What goes on beside the piece on both sides, so clear beside the ring, is a line: a ruler's edge, a joint of boards. */
const GOES_ON = 0.6
/** It is looked for at the levels of the ring, led on as it leans, and so many px beyond. */
const BESIDE_PX = 2

function goesOn(columns: RingColumns, ring: Required<Ellipse>): boolean {
  const beside = columns.beside()
  const halves = halvesOf(ring)
  return columns.sides.every((side, k) => {
    const own = stretchesOf(ring.a, columns)
      .map(([from, to]) =>
        clearAcross(columns, side.slice(from, to), (i) => levelOf(halves[k]!, columns.uOf(from + i))),
      )
      .sort((p, q) => p - q)[STRETCHES >> 1]!
    const { lean = 0 } = halves[k]!
    const ledOn = (i: number) => lean * columns.uOf(BESIDE[0] + i)
    for (let v = ring.tip - ring.b - BESIDE_PX; v <= ring.tip + BESIDE_PX; v += COLUMN_STEP)
      if (clearAcross(columns, beside[k]!, (i) => v + ledOn(i)) >= GOES_ON * own) return true
    return false
  })
}

/** The step in the mean over columns, at a level in each, as a share of one column's noise. */
function clearAcross(
  { indexOf }: RingColumns,
  columns: readonly Column[],
  levelAt: (i: number) => number,
): number {
  const sums = [0, 0, 0]
  columns.forEach(({ answers }, i) => {
    const at = 3 * Math.round(indexOf(levelAt(i)))
    for (let colour = 0; colour < 3; colour++) sums[colour]! += answers[at + colour] ?? 0
  })
  return Math.hypot(...sums) / columns.length
}
