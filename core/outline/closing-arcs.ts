import type { Raster } from '../picture/raster'
import { inAxis, placeAt, type AxisLine } from './axis-line'
import { normalsOf, resample, reversed } from './chain'
import { clearness, edgeBand } from './edge-band'
import { endEvidence } from './end-evidence'

/**
 * The ring with which a piece ends, as the half of an ellipse that closes its outline: in the axis' own frame, px, it
 * bulges outwards (away from the piece) and has its tip on the axis.
 */
interface ClosingArc {
  /** Along the axis, outwards positive. */
  tip: number
  /** Half axes across and along. */
  a: number
  b: number
  /** What it earns over the columns it spans, and on average. */
  score: number
  mean: number
}

/** One end of the outline: both halves [u v ...] begin on the axis there, and v grows out of the piece. */
interface OpenEnd {
  raster: Raster
  axis: AxisLine
  down: boolean
  blur: number
  halves: readonly Float64Array[]
  /** How far out the outline reaches, and how wide it is there. */
  end: number
  wide: number
  /** The piece is seen through. */
  clear: boolean
}

/** Ends narrower than this, px, are no rings. */
const LEAST_HALF_PX = 12
/** The tip is looked for so far outwards and inwards of where the outline ends, shares of the half-width, and at least px. */
const OUTWARDS = 0.16
const INWARDS = 0.12
const LEAST_WINDOW_PX = 14
/** Evidence reaches so far, of the half-width, that most of it is none: what is usual there is told by it. */
const LEAST_REACH = 0.3
/** Nothing is seen nearer to the picture's border, px. */
const BORDER_PX = 3
/** Cameras look down by no more than 35° at what is called a side view: b / a is the sine. */
const MOST_RISE = 0.57
const RISES = 48
/** Half-widths tried, as shares of the outline's near the end: chamfers and roundings take some off. */
const WIDTHS = [1.01, 0.99, 0.97, 0.94, 0.9, 0.86, 0.82, 0.77, 0.71]
/** An arc is followed so far across; beyond, it runs too steeply and rounding begins. */
const FOLLOWED = 0.93
/** Of arcs that are clear the outermost closes the piece: the others are its inside, its bottom's upper face, reflections. */
const CLEAR_SHARE = 0.35
const CLEAR_MEAN = 0.15
/** Peaks are higher than all arcs whose tips lie so many px farther in. */
const PEAK_PX = 4
/** A line that goes on beyond the piece, from this half-width on, as clearly as so much of the arc is the backdrop's. */
const BESIDE = 1.08
const GOES_ON = 0.5
/** Of a clear piece the outline's own way must not be clearer than so much more than the arc. */
const AS_CLEAR_AS_FOUND = 0.7
/** An opaque piece shows where it ends: there an arc must be so much clearer than the way found, and this clear throughout. */
const CLEARER = 1.08
const CLEARLY = 0.3
/** Sides are kept from so far beyond the arc's end, px. */
const GAP_PX = 3

/**
 * Outlines whose ends follow the rings that close them, where clear ones do. Both sides vote for one arc, so that the
 * bright and dark patches of a glass' foot, its inner bottom and the near side of its rim don't draw the outline to them. An
 * opaque piece mostly shows its ends; there an arc takes the place of a way that wanders, in the shadow under a foot say.
 * @param sides [x y ...] of the left and the right side, each from the lower crossing of the axis to the upper one
 * @param options `blur` of the picture's edges and `step`, the distance of the points, px; `clear`: the piece is seen through
 */
export function withClosingArcs(
  raster: Raster,
  sides: readonly [Float64Array, Float64Array],
  axis: AxisLine,
  { blur, step, clear }: { blur: number; step: number; clear: boolean },
): [Float64Array, Float64Array] {
  let halves = sides.map((side, k) => inAxis(side, axis, k === 0))
  let closes = false
  for (const down of [true, false]) {
    const facing = halves.map((half) => fromEnd(half, down))
    const end = Math.max(...facing.map(outermost))
    const wide = Math.min(...facing.map((half) => widthNear(half, end)))
    if (!(wide >= LEAST_HALF_PX)) continue
    const arc = closingArc({ raster, axis, down, blur, halves: facing, end, wide, clear })
    if (!arc) continue
    closes = true
    halves = facing.map((half) => fromEnd(closedBy(half, arc), down))
  }
  if (!closes && !clear) return [...sides]
  return halves.map((half, k) => {
    const out = new Float64Array(half.length)
    for (let i = 0; i < half.length; i += 2) {
      const { x, y } = placeAt(axis, k === 0 ? -half[i]! : half[i]!, half[i + 1]!)
      out.set([x, y], i)
    }
    return resample(out, step)
  }) as [Float64Array, Float64Array]
}

/** The half [u v ...] as seen from one end: it begins there, and v grows out of the piece. Its own inverse. */
function fromEnd(half: Float64Array, down: boolean): Float64Array {
  return down ? half.map((c, i) => (i % 2 ? -c : c)) : reversed(half)
}

function closingArc(open: OpenEnd): ClosingArc | null {
  const { raster, axis, down, blur, halves, end, wide, clear } = open
  const out = Math.max(LEAST_WINDOW_PX, OUTWARDS * wide)
  const into = Math.max(LEAST_WINDOW_PX, INWARDS * wide)
  const innermost = sidesEnd(open)
  // No arc may end farther in than the sides do.
  const inwards = Math.min(into + MOST_RISE * wide, end - innermost)
  const reach = Math.max(out, inwards, LEAST_REACH * wide)
  const { earned, columns, columnOf, uOf } = endEvidence(raster, {
    axis,
    down,
    blur,
    end,
    wide,
    reach,
    clear,
  })
  const shapes = WIDTHS.map((share) => {
    const a = share * wide
    return { a, fall: Float64Array.from({ length: columnOf(FOLLOWED * a) }, (_, c) => fallOf(uOf(c) / a)) }
  })
  const arcs: ClosingArc[] = []
  const besides: number[] = []
  for (let tip = end - into; tip <= end + out; tip += 1) {
    const { x, y } = placeAt(axis, 0, down ? -tip : tip)
    if (Math.min(x, y, raster.width - x, raster.height - y) < BORDER_PX) continue
    let best: ClosingArc = { tip, a: wide, b: 0, score: 0, mean: 0 }
    for (const { a, fall } of shapes) {
      for (let b = 0; b <= MOST_RISE * a && tip - b >= innermost; b += (MOST_RISE * a) / RISES) {
        let score = 0
        for (let c = 0; c < fall.length; c++) score += earned(tip - b * fall[c]!, c)
        if (best.mean === 0 || score > best.score) best = { tip, a, b, score, mean: score / fall.length }
      }
    }
    arcs.push(best)
    let sum = 0
    const from = columnOf(BESIDE * wide)
    for (let c = from; c < columns; c++)
      sum += Math.max(...[-1.5, 0, 1.5].map((d) => earned(tip + d, c))) / (columns - from)
    besides.push(sum)
  }
  const clearest = Math.max(...arcs.map((arc) => arc.score))
  const usual = besides.slice().sort((p, q) => p - q)[besides.length >> 1]!
  const arc = arcs.findLast(
    ({ score, mean }, i) =>
      score >= CLEAR_SHARE * clearest &&
      mean >= CLEAR_MEAN &&
      arcs.slice(Math.max(0, i - PEAK_PX), i).every((other) => other.score <= score) &&
      besides[i]! - usual < GOES_ON * mean,
  )
  if (!arc) return null
  let found = 0
  for (let c = 0; c < columnOf(FOLLOWED * arc.a); c++) {
    const level = arc.tip - arc.b * fallOf(uOf(c) / arc.a)
    const ways = halves.map((half) => crossingAt(half, uOf(c)))
    // Where the way found runs inside of a clear piece's arc it follows an inner edge, however clear.
    found += Math.max(...ways.map((v) => (clear && v < level - GAP_PX ? 0 : earned(v, c))))
  }
  if (clear) return arc.score >= AS_CLEAR_AS_FOUND * found ? arc : null
  return arc.mean >= CLEARLY && arc.score >= CLEARER * found ? arc : null
}

/** How far an ellipse of unit height falls from its tip to a share of its half-width. */
function fallOf(share: number): number {
  return 1 - Math.sqrt(1 - share * share)
}

function outermost(half: Float64Array): number {
  let most = -Infinity
  for (let i = 1; i < half.length; i += 2) most = Math.max(most, half[i]!)
  return most
}

/** An arc may cut off clear edges of the sides over this share of the half-width: a piece ends where its sides do. */
const MOST_CUT = 0.04
/** The sides are what lies beyond this share of the half-width; an edge is clear from this worth on. */
const SIDE_SHARE = 0.8
const CLEAR_EDGE = 1
const SIDE_REACH_PX = 12
/** A side's own edge lies within so many places of it. */
const SIDE_PLACES = 3

/** How far in an arc may end: farther in it would cut off too much of both sides' clear edges. */
function sidesEnd({ raster, axis, down, blur, halves, end, wide }: OpenEnd): number {
  const sides = halves.map((half, k) => {
    const points: number[] = []
    const levels: number[] = []
    for (let i = 0; i < half.length && end - half[i + 1]! < wide; i += 2) {
      if (half[i]! < SIDE_SHARE * wide) continue
      const { x, y } = placeAt(axis, k === 0 ? -half[i]! : half[i]!, down ? -half[i + 1]! : half[i + 1]!)
      points.push(x, y)
      levels.push(half[i + 1]!)
    }
    if (levels.length < 3) return []
    const chain = Float64Array.from(points)
    const band = edgeBand(raster, chain, normalsOf(chain, 1, 2), { reach: SIDE_REACH_PX, blur, step: 0.5 })
    const clear = clearness(band)
    const middle = (band.places - 1) / 2
    return levels.map((v, i) => {
      const from = i * band.places + middle
      const isClear = Math.max(...clear.subarray(from - SIDE_PLACES, from + SIDE_PLACES + 1)) >= CLEAR_EDGE
      // Each point stands for its share of the way along the axis.
      return { v, rise: isClear ? Math.abs((levels[i + 1] ?? v) - (levels[i - 1] ?? v)) / 2 : 0 }
    })
  })
  const ends = sides.map((side) => {
    let beyond = 0
    const last = side.sort((p, q) => q.v - p.v).find(({ rise }) => (beyond += rise) > MOST_CUT * wide)
    return last ? last.v - GAP_PX : -Infinity
  })
  return Math.min(...ends)
}

/** A side runs upright where it rises so many times faster than it widens, over this long, px. */
const UPRIGHT = 1.5
const UPRIGHT_PX = 8

/** How far aside the outline has come where it first runs upright, near the end. */
function widthNear(half: Float64Array, end: number): number {
  let from = 0
  for (let i = 0; i < half.length; i += 2) if (half[i + 1]! > half[from + 1]!) from = i
  let wide = 0
  for (let i = from; i < half.length; i += 2) {
    const [u, v] = [half[i]!, half[i + 1]!]
    // A broad end closes over more rows than a narrow one.
    if (end - v > Math.max(LEAST_WINDOW_PX, MOST_RISE * u)) break
    wide = Math.max(wide, u)
    let k = i
    while (k + 2 < half.length && Math.hypot(half[k]! - u, half[k + 1]! - v) < UPRIGHT_PX) k += 2
    if (v - half[k + 1]! > UPRIGHT * Math.abs(half[k]! - u) && u > LEAST_HALF_PX) break
  }
  return wide
}

/** Where the half first reaches u, along the axis. */
function crossingAt(half: Float64Array, u: number): number {
  for (let i = 0; i + 2 < half.length; i += 2) {
    if (half[i + 2]! < u) continue
    const [u0, u1] = [half[i]!, half[i + 2]!]
    const t = u1 > u0 ? Math.min(1, Math.max(0, (u - u0) / (u1 - u0))) : 1
    return half[i + 1]! + t * (half[i + 3]! - half[i + 1]!)
  }
  return -Infinity
}

const ARC_STEP = 0.01

/** The half with its beginning replaced by the arc, as far as it is followed. */
function closedBy(half: Float64Array, { tip, a, b }: ClosingArc): Float64Array {
  const out: number[] = []
  for (let t = 0; t <= FOLLOWED; t += ARC_STEP) out.push(t * a, tip - b * fallOf(t))
  const [u, v] = [out.at(-2)!, out.at(-1)!]
  let from = 0
  while (from < half.length && !(half[from]! >= u && half[from + 1]! <= v - GAP_PX)) from += 2
  return from < half.length ? Float64Array.from([...out, ...half.subarray(from)]) : half
}
