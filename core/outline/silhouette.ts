import type { Plane } from '../picture/raster'
import type { Sharpness } from '../picture/sharpness'
import { samplePlane } from '../picture/sample'
import type { PicturePoint } from '../conventions'
import type { AxisLine } from './axis-line'
import { bestPath, FORBIDDEN } from './best-path'

/** The silhouette in the axis' own frame: half-width at each row, top row first. Reduced px throughout. */
export interface Silhouette {
  axis: AxisLine
  /** Position along the axis (upwards from `axis.at`) of row i: top - i. */
  top: number
  /** Half-width at each row, px; 0 where there is no piece. */
  half: Float32Array
  /** How well it runs along edges on both sides: the weaker side's sharpness, summed over the rows. */
  edges: number
}

/** What a sharp edge is worth against the evidence of a pixel, and a step sideways against both. */
const EDGE_WORTH = 9
/** … and as evidence that what lies within is piece, so that a clear piece reaches to its outermost edges. */
const OUTLINED = 4
/** An edge that only one side shows is likely a handle or a shadow. */
const ONE_SIDE = 0.25
const BOTH_SIDES = 1.5
/** What an edge across the axis counts where the outline passes it. */
const LEVEL_SHARE = 0.7
/** Half-widths below this, px, have no two sides. */
const LEAST_HALF = 3
/** A row must earn more than this to belong to the piece: a mortar joint on the axis is no neck. */
const ROW_COST = 7
/** … of a clear piece, which has nothing but edges to earn it. */
const CLEAR_ROW_COST = 3
const STEP_COST = 0.6
/** A step sideways along a sharp edge (a shoulder, a foot) costs less, but not nothing. */
const LEAST_STEP_SHARE = 0.15
const MOST_STEP_COST = 30

/** The picture cut into rows square to an axis, with the sharp edges at each half-width on both sides. */
export interface Strip {
  axis: AxisLine
  top: number
  rows: number
  /** Half-widths run from 0 to this, px. */
  radii: number
  /** Edges along the axis: sum of both sides and the weaker one, rows of radii + 1. */
  both: Float32Array
  weaker: Float32Array
  /** Edges across the axis, the weaker side's. */
  level: Float32Array
}

/** Cuts the picture into rows about an axis. */
export function stripAbout(sharp: Sharpness, axis: AxisLine): Strip {
  const { width, height } = sharp.x
  const { at, up } = axis
  const across = { x: -up.y, y: up.x }
  const corners = [0, width].flatMap((x) => [0, height].map((y) => ({ x: x - at.x, y: y - at.y })))
  const along = corners.map((p) => p.x * up.x + p.y * up.y)
  const aside = corners.map((p) => Math.abs(p.x * across.x + p.y * across.y))
  const top = Math.floor(Math.max(...along)) - 1
  const rows = Math.max(1, Math.floor(top - Math.min(...along)))
  const radii = Math.ceil(Math.max(...aside))
  const both = new Float32Array(rows * (radii + 1))
  const weaker = new Float32Array(rows * (radii + 1))
  const level = new Float32Array(rows * (radii + 1))
  for (let row = 0; row < rows; row++) {
    const v = top - row
    const from = row * (radii + 1)
    const middle = { x: at.x + v * up.x, y: at.y + v * up.y }
    const rowOf = (all: Float32Array) => all.subarray(from, from + radii + 1)
    cutRow(sharp, middle, across, { both: rowOf(both), weaker: rowOf(weaker), level: rowOf(level) })
  }
  return { axis, top, rows, radii, both, weaker, level }
}

/** The sharp edges along one row, on both sides of its middle. */
function cutRow(
  sharp: Sharpness,
  middle: PicturePoint,
  across: PicturePoint,
  { both, weaker, level }: Pick<Strip, 'both' | 'weaker' | 'level'>,
): void {
  const onX = Math.abs(across.x)
  const onY = Math.abs(across.y)
  for (let r = LEAST_HALF; r < both.length; r++) {
    let least = Infinity
    let leastFlat = Infinity
    for (let d = -r; d <= r; d += 2 * r) {
      const x = middle.x + d * across.x
      const y = middle.y + d * across.y
      const sx = strongestNear(sharp.x, x, y)
      const sy = strongestNear(sharp.y, x, y)
      const flat = Math.min(1, onY * sx + onX * sy)
      // Over a dome the outline runs nearly level, and yet through one place a row.
      const edge = Math.max(Math.min(1, onX * sx + onY * sy), LEVEL_SHARE * flat)
      both[r]! += edge
      least = Math.min(least, edge)
      leastFlat = Math.min(leastFlat, flat)
    }
    weaker[r] = least
    level[r] = leastFlat
  }
}

/** The strongest of the four px about a place: a line one px wide must not fade between two. */
function strongestNear({ width, height, data }: Plane, x: number, y: number): number {
  const x0 = Math.floor(x - 0.5)
  const y0 = Math.floor(y - 0.5)
  if (x0 < 0 || y0 < 0 || x0 + 1 >= width || y0 + 1 >= height) return 0
  const i = y0 * width + x0
  const upper = data[i]! > data[i + 1]! ? data[i]! : data[i + 1]!
  const lower = data[i + width]! > data[i + width + 1]! ? data[i + width]! : data[i + width + 1]!
  return upper > lower ? upper : lower
}

/**
 * What the mirror images of each place of a strip, rows of radii + 1, together say for the piece (positive) or the
 * backdrop. A place is piece when both say so; one alone counts for little, and for less against the other.
 */
export function mirrored({ axis: { at, up }, top, rows, radii }: Strip, evidence: Plane): Float32Array {
  const out = new Float32Array(rows * (radii + 1))
  for (let row = 0; row < rows; row++) {
    const ox = at.x + (top - row) * up.x
    const oy = at.y + (top - row) * up.y
    for (let r = 1; r <= radii; r++) {
      const d = r - 0.5
      const p = samplePlane(evidence, ox - d * up.y, oy + d * up.x, -1)
      const q = samplePlane(evidence, ox + d * up.y, oy - d * up.x, -1)
      out[row * (radii + 1) + r] = p * q > 0 ? p + q : p * q < 0 ? 0.3 * (p + q) - 0.4 : 0.6 * (p + q)
    }
  }
  return out
}

/** A strip without the edges that lie along half-widths of some rows, to within so many px. */
export function withoutEdgesAlong(
  strip: Strip,
  { from, to }: Run,
  halfAt: (row: number) => number,
  air: number,
): Strip {
  const [both, weaker, level] = [strip.both.slice(), strip.weaker.slice(), strip.level.slice()]
  const n = strip.radii + 1
  for (let row = from; row < to; row++) {
    const [least, most] = [-air, air + 1].map((d) => Math.max(0, Math.min(n, Math.round(halfAt(row)) + d)))
    for (const edges of [both, weaker, level]) edges.fill(0, row * n + least!, row * n + most!)
  }
  return { ...strip, both, weaker, level }
}

export interface SilhouetteOptions {
  /** What looks like the backdrop counts against the piece only this much: 1, or less for a clear piece. */
  seeThrough?: number
  /** What the evidence of a pixel counts beside the edges. Default 0.4. */
  weight?: number
  /** Half-widths that the silhouette stays near to. */
  near?: Float32Array | null
  /** What a step sideways costs where no edge leads it. Default 0.6. */
  stepCost?: number
  /** Rows that belong to the piece, whatever they earn. */
  between?: readonly Run[]
}

const USUAL_WEIGHT = 0.4

/** A silhouette that stays near another may be so much narrower or wider, px, and end so many rows earlier. */
const NARROWER = 12
const WIDER = 3
const END_ROOM = 8

/** Forbids the half-widths of a row that lie too far from another silhouette. */
function stayNear(near: Float32Array, row: number, gain: Float32Array): void {
  const around = near.subarray(Math.max(0, row - 2), row + 3)
  const isPiece = near[row]! > 0
  const [least, most] = [Math.min(...around) - NARROWER, Math.max(...around) + WIDER]
  for (let r = 1; r < gain.length; r++) if (!isPiece || r < least || r > most) gain[r] = FORBIDDEN
  if (near[row]! > END_ROOM && !isEnd(near, row)) gain[0] = FORBIDDEN
}

/** True for rows near the ends of the piece, which may turn out to be none of it. */
function isEnd(near: Float32Array, row: number): boolean {
  return !(near[row - END_ROOM]! > 0) || !(near[row + END_ROOM]! > 0)
}

/**
 * The best symmetric silhouette about an axis: for every row the half-width that leaves the least evidence for the
 * piece outside and for the backdrop inside, runs along edges on both sides, and changes little from row to row. One
 * exact dynamic program over rows and half-widths; both sides vote, so that a shadow or a handle on one side is
 * outvoted by the other.
 * @param evidence as `mirrored` gives it for the strip
 */
export function findSilhouette(
  strip: Strip,
  evidence: Float32Array,
  options: SilhouetteOptions = {},
): Silhouette {
  return silhouetteOf(strip, tallestOf(widthsAlong(strip, evidence, options)))
}

/** The half-width of the piece at each row, 0 where there is none; what is found need not hang together. */
export function widthsAlong(
  { rows, radii, level, ...strip }: Strip,
  evidence: Float32Array,
  {
    seeThrough = 1,
    weight = USUAL_WEIGHT,
    near = null,
    stepCost = STEP_COST,
    between = [],
  }: SilhouetteOptions = {},
): Float32Array {
  const n = radii + 1
  const gain = new Float32Array(rows * n)
  const worth = { seeThrough, weight, rowCost: seeThrough < 1 ? CLEAR_ROW_COST : ROW_COST }
  for (let row = 0; row < rows; row++) {
    earnInRow({ radii, ...strip }, evidence, row * n, worth, gain)
    if (near) stayNear(near, row, gain.subarray(row * n, (row + 1) * n))
    if (between.some(({ from, to }) => row >= from && row < to)) gain[row * n] = FORBIDDEN
  }
  const path = bestPath(gain, rows, n, {
    step: (row, r) =>
      stepCost *
      (LEAST_STEP_SHARE +
        (1 - LEAST_STEP_SHARE) * (1 - Math.max(level[row * n + r]!, level[(row - 1) * n + r]!))),
    most: MOST_STEP_COST,
  })
  return Float32Array.from(path)
}

/** The silhouette with these half-widths. */
export function silhouetteOf({ axis, top, radii, weaker }: Strip, half: Float32Array): Silhouette {
  let edges = 0
  half.forEach((r, row) => {
    if (r > 0) edges += weaker[row * (radii + 1) + Math.round(r)]!
  })
  return { axis, top, half, edges }
}

/** What each half-width of the row that begins at a place earns. */
function earnInRow(
  { radii, both, weaker }: Pick<Strip, 'radii' | 'both' | 'weaker'>,
  evidence: Float32Array,
  from: number,
  { seeThrough, weight, rowCost }: { seeThrough: number; weight: number; rowCost: number },
  gain: Float32Array,
): void {
  let inside = 0
  for (let i = from + 1; i <= from + radii; i++) {
    const sum = evidence[i]!
    // What shows sharp edges on both sides isn't the backdrop, even if one sees the backdrop between them.
    inside += (sum > 0 ? sum : seeThrough * sum) + OUTLINED * weaker[i]!
    gain[i] = weight * inside - rowCost + EDGE_WORTH * (ONE_SIDE * both[i]! + BOTH_SIDES * weaker[i]!)
  }
}

/** Rows from one to before another. */
export interface Run {
  from: number
  to: number
}

/** The connected pieces, from the top. */
export function runsOf(half: Float32Array): Run[] {
  const runs: Run[] = []
  let from = -1
  for (let i = 0; i <= half.length; i++) {
    const isPiece = i < half.length && half[i]! >= 1
    if (isPiece && from < 0) from = i
    if (isPiece || from < 0) continue
    runs.push({ from, to: i })
    from = -1
  }
  return runs
}

/** Only the tallest connected piece is kept. */
function tallestOf(half: Float32Array): Float32Array {
  const none = { from: 0, to: 0 }
  return onlyRows(
    half,
    runsOf(half).reduce((p, q) => (q.to - q.from > p.to - p.from ? q : p), none),
  )
}

/** The half-widths of these rows; elsewhere there is no piece. */
export function onlyRows(half: Float32Array, { from, to }: Run): Float32Array {
  return half.map((r, row) => (row >= from && row < to ? r : 0))
}

/** Leads rows straight over, in place, from one half-width (of the row above them) to another (of the row below). */
export function leadStraight(half: Float32Array, { from, to }: Run, above: number, below: number): void {
  for (let row = from; row < to; row++)
    half[row] = above + ((below - above) * (row - from + 1)) / (to - from + 1)
}

/** First and last row of the piece. */
export function rowsOf({ half }: Pick<Silhouette, 'half'>): [number, number] {
  return [half.findIndex((r) => r > 0), half.findLastIndex((r) => r > 0)]
}

/** Edges are looked for so far from the silhouette on either side, px. */
const ROW_REACH = 5
/** Weaker edges aren't believed. */
const LEAST_EDGE = 0.08

/** Middle between the sharpest edges left and right near the silhouette: one a row that shows both. */
export interface RowMiddle {
  /** Along the axis, and off it to the right, px. */
  v: number
  offset: number
  /** Sharpness of the weaker edge. */
  edge: number
}

export function rowMiddles(sharp: Sharpness, { axis, top, half }: Silhouette): RowMiddle[] {
  const { at, up } = axis
  const across = { x: -up.y, y: up.x }
  const plane = Math.abs(across.x) > 0.5 ? sharp.x : sharp.y
  const out: RowMiddle[] = []
  half.forEach((r, row) => {
    if (r < LEAST_HALF + ROW_REACH) return
    const v = top - row
    const edge = (side: 1 | -1) => {
      let sum = 0
      let moment = 0
      let best = 0
      for (let d = -ROW_REACH; d <= ROW_REACH; d++) {
        const u = side * (r + d)
        const s = samplePlane(plane, at.x + v * up.x + u * across.x, at.y + v * up.y + u * across.y, 0)
        const w = s * s
        sum += w
        moment += w * d
        best = Math.max(best, s)
      }
      return { best, offset: sum > 0 ? moment / sum : 0 }
    }
    const [left, right] = [edge(-1), edge(1)]
    const weaker = Math.min(left.best, right.best)
    if (weaker >= LEAST_EDGE) out.push({ v, offset: (right.offset - left.offset) / 2, edge: weaker })
  })
  return out
}

/** Mean of the evidence for the piece within a silhouette, -1 to 1, from every `stride`-th px each way. */
export function likeness({ axis: { at, up }, top, half }: Silhouette, evidence: Plane, stride = 1): number {
  let sum = 0
  let count = 0
  for (let row = 0; row < half.length; row += stride)
    for (let d = 2 - half[row]!; d <= half[row]! - 2; d += stride) {
      const [x, y] = [at.x + (top - row) * up.x - d * up.y, at.y + (top - row) * up.y + d * up.x]
      sum += samplePlane(evidence, x, y, -1)
      count++
    }
  return count > 0 ? sum / count : 1
}

/** Pixels well outside a silhouette. */
export function outsideOf({ axis, top, half }: Silhouette, width: number): (i: number) => boolean {
  const { at, up } = axis
  const air = 3
  return (i) => {
    const x = (i % width) + 0.5 - at.x
    const y = Math.floor(i / width) + 0.5 - at.y
    const row = Math.round(top - (x * up.x + y * up.y))
    const r = Math.abs(-x * up.y + y * up.x)
    let most = 0
    for (let k = Math.max(0, row - air); k <= Math.min(half.length - 1, row + air); k++)
      most = Math.max(most, half[k]!)
    return r > (most > 0 ? most + air : 0)
  }
}

/** Px that a silhouette covers. */
export function areaOf({ half }: Silhouette): number {
  return half.reduce((sum, h) => sum + 2 * h, 0)
}

/** Places across a silhouette that are asked whether they lie within another one, in half-widths. */
const ASKED = [-0.95, -0.5, 0, 0.5, 0.95]

/** Share of a silhouette that lies within another one, about whatever axis. */
export function shareWithin(part: Silhouette, whole: Silhouette): number {
  const { at, up } = whole.axis
  let asked = 0
  let held = 0
  part.half.forEach((h, row) => {
    if (h === 0) return
    const v = part.top - row
    for (const share of ASKED) {
      const u = share * h
      const x = part.axis.at.x + v * part.axis.up.x - u * part.axis.up.y - at.x
      const y = part.axis.at.y + v * part.axis.up.y + u * part.axis.up.x - at.y
      const there = whole.half[Math.round(whole.top - x * up.x - y * up.y)] ?? 0
      asked++
      if (Math.abs(y * up.x - x * up.y) <= there) held++
    }
  })
  return asked > 0 ? held / asked : 0
}
