import { BACK, LEAST_JUMP, meanEdge, sharpestNear, TALLEST } from './jumps'
import { leadStraight, rowsOf, type Run, type Silhouette, type Strip } from './silhouette'

/** A notch along which both sides together show less than this shows no edge at all. */
const NO_EDGE = 0.15

/** A notch of so many rows that comes back to where it was left, px, and hardly shows an edge of both sides, … */
const NOTCH_ROWS = 8
const COMES_BACK = 3
const ONE_SIDED = 0.25
/** … is none when the straight way past it shows as much, within so many px. */
const PAST_PX = 2

/** Where a silhouette jumps inwards and comes out again. */
interface Notch {
  /** Its first row, and that in which it is as deep as it jumps to. */
  start: number
  row: number
  /** The first row of the way out. */
  end: number
  /** Half-widths before it, and where it lands, px. */
  before: number
  after: number
}

/** True when the straight way past a notch, back to where it was left, shows at least the edge that the notch shows. */
function isClearerPast(strip: Strip, half: Float32Array, { start, row, end, before, after }: Notch): boolean {
  if (end - row < NOTCH_ROWS || Math.abs(after - before) > COMES_BACK) return false
  const past = half.slice(0, end + 1)
  leadStraight(past, { from: start, to: end }, before, after)
  const notch = { from: row, to: end }
  if (meanEdge(strip, strip.weaker, half, notch) >= ONE_SIDED) return false
  let beside = 0
  for (let k = row; k < end; k++)
    beside += sharpestNear(strip.both, k * (strip.radii + 1) + Math.round(past[k]!), PAST_PX)
  return beside / (end - row) >= meanEdge(strip, strip.both, half, notch)
}

/**
 * Specks reach over no more rows than this. What they led inwards went in by so many px, since less is a groove's bottom that is
 * hardly seen, and comes back to about where it was left, but for this share, or for what a shoulder flares by each row, px.
 */
const SPECK_ROWS = 16
const SPECK_DEPTH = 8
const BACK_SHARE = 0.2
const FLARES = 1.5
/** The way into a notch shows a step where edges across it are this sharp on average, within so many rows. */
const STEP_INTO = 0.2
const STEP_ROWS = 2

/**
 * True when specks or grain that happen to lie evenly about the axis lead a way inwards for a few rows, since no edge shows that what
 * stands out farther ends there. Seen from above a notch's upper step is the clear one, the lower one a slant; of a lying piece
 * either may be.
 */
function isLedBySpecks(strip: Strip, half: Float32Array, { start, end, before, after }: Notch): boolean {
  const depth = before - Math.min(...half.subarray(start, end))
  const isGroove = end - start > SPECK_ROWS || depth < SPECK_DEPTH
  const back = Math.max(BACK_SHARE * before, FLARES * (end - start))
  if (isGroove || Math.abs(after - before) > back) return false
  let first = start
  while (first + 1 < end && half[first + 1]! < half[first]!) first++
  let last = end - 1
  while (last - 1 > first && half[last - 1]! < half[last]!) last--
  if (stepAlong(strip, half, { from: start, to: first + 1 }, before) >= STEP_INTO) return false
  const isUpright = Math.abs(strip.axis.up.y) > Math.abs(strip.axis.up.x)
  return isUpright || stepAlong(strip, half, { from: last + 1, to: end + 1 }, half[last]!) < STEP_INTO
}

/** Mean of the sharpest edges across the axis that a way crosses in rows that lead on from a half-width. */
function stepAlong({ level, radii }: Strip, half: Float32Array, { from, to }: Run, before: number): number {
  let sum = 0
  let count = 0
  for (let row = from, was = before; row < to; was = half[row]!, row++) {
    const [low, high] = [was, half[row]!].map(Math.round).sort((p, q) => p - q) as [number, number]
    for (let r = low + 1; r <= high; r++, count++) {
      let sharpest = 0
      for (let k = -STEP_ROWS; k <= STEP_ROWS; k++)
        sharpest = Math.max(sharpest, level[(row + k) * (radii + 1) + r] ?? 0)
      sum += sharpest
    }
  }
  return count > 0 ? sum / count : 0
}

/** Rows without growth that the way out of a notch may rest on. */
const LANDING_ROWS = 3

/**
 * The silhouette without notches along which neither side shows an edge: where an edge is lost in a shadow and the body looks like
 * the backdrop, the straight way on from the rows before to the rows after is the better guess.
 */
export function withoutBareNotches(strip: Strip, silhouette: Silhouette): Silhouette {
  const half = silhouette.half.slice()
  const [first, last] = rowsOf(silhouette)
  const bothAt = (row: number) => strip.both[row * (strip.radii + 1) + Math.round(half[row]!)] ?? 0
  for (let row = first + 2; row <= last; row++) {
    const before = half[row - 2]!
    if (before - half[row]! < LEAST_JUMP) continue
    const start = before - half[row - 1]! < LEAST_JUMP ? row : row - 1
    const inside = (k: number) => k <= last && k - start <= TALLEST * (last - first)
    let end = row
    let edges = 0
    while (inside(end) && half[end]! < before - BACK && half[end]! - half[end - 2]! < LEAST_JUMP)
      edges += bothAt(end++)
    const rows = end - row
    // Out of the notch to its very edge, over a landing or two.
    const climbs = () =>
      half.subarray(end + 1, end + 1 + LANDING_ROWS).some((r, k) => inside(end + 1 + k) && r > half[end]!)
    while (climbs()) end++
    if (!inside(end) || rows === 0) continue
    const after = Math.max(...half.subarray(row + rows, row + rows + LANDING_ROWS))
    const notch = { start, row, end: row + rows, before, after }
    if (edges > NO_EDGE * rows && !isClearerPast(strip, half, notch) && !isLedBySpecks(strip, half, notch))
      continue
    leadStraight(half, { from: start, to: end }, before, half[end]!)
    row = end
  }
  return { ...silhouette, half }
}

/** A ragged notch goes in and out by so much of what a plain one of its depth does, and shows so much edge at most. */
const RAGGED = 1.35
const FAINT = 0.4
const BACK_ROWS = 4

/** A piece is speckled where this share of what lies within these shares of its half-width shows an edge of so much, of two. */
const SPECKLED = 0.3
const WITHIN = [0.15, 0.85] as const
const SPECK_EDGE = 0.3
/** What specks led inwards shows no more of an edge than they do: so much on its weaker side. */
const LED_BY_SPECKS = 0.6

/**
 * The silhouette without ragged notches: where a flank looks like the backdrop, the way leads inwards from speckle to speckle until
 * the flank is seen again where it was left. Of a piece that is full of specks it needn't be ragged, if no edge is seen where it leads in.
 */
export function withoutRaggedNotches(strip: Strip, silhouette: Silhouette): Silhouette {
  const half = silhouette.half.slice()
  const [first, last] = rowsOf(silhouette)
  const tallest = TALLEST * (last - first)
  for (let row = first + 2; row <= last; row++) {
    const before = half[row - 2]!
    if (before - half[row]! < LEAST_JUMP) continue
    let end = row
    while (end <= last && end - row <= tallest && half[end]! < before - BACK) end++
    // Where the way leads farther out than it was it has found something else: a foot, or the shadow before it.
    const back = Math.max(...half.subarray(end, end + BACK_ROWS))
    if (end > last || end - row > tallest || back > before + LEAST_JUMP) continue
    let travelled = 0
    let deepest = 0
    for (let k = row - 1; k <= end; k++) travelled += Math.abs(half[k]! - half[k - 1]!)
    for (let k = row; k < end; k++) deepest = Math.max(deepest, before - half[k]!)
    const edge = meanEdge(strip, strip.weaker, half, { from: row, to: end })
    const isRagged = travelled >= RAGGED * 2 * deepest && edge <= FAINT
    const isAmongSpecks = () =>
      edge <= LED_BY_SPECKS &&
      stepAlong(strip, half, { from: row, to: row + 1 }, before) < STEP_INTO &&
      speckledShare(strip, silhouette) >= SPECKLED
    if (!isRagged && !isAmongSpecks()) continue
    leadStraight(half, { from: row - 1, to: end }, before, half[end]!)
    row = end
  }
  return { ...silhouette, half }
}

/** Share of what lies well within a silhouette that shows an edge. */
function speckledShare({ both, radii }: Strip, { half }: Silhouette): number {
  let [shown, all] = [0, 0]
  half.forEach((r, row) => {
    for (let k = Math.ceil(WITHIN[0] * r); k < WITHIN[1] * r; k++, all++)
      if (both[row * (radii + 1) + k]! > SPECK_EDGE) shown++
  })
  return all > 0 ? shown / all : 0
}
