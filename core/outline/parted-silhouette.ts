import type { Plane } from '../picture/raster'
import {
  findSilhouette,
  leadStraight,
  likeness,
  onlyRows,
  rowsOf,
  runsOf,
  silhouetteOf,
  widthsAlong,
  type Run,
  type Silhouette,
  type Strip,
} from './silhouette'

/** A second part of the piece shows so much of the edges of the first, row for row as clear as this share; */
const LEAST_EDGES = 0.1
const AS_CLEAR = 0.5
/** it looks so much like piece, or a little where it goes on about as wide as the first ends; */
const LIKE_PIECE = 0.3
const LEAST_LIKE_PIECE = -0.15
const AS_WIDE = 0.2
/** … or shows so much of the edges of the first, row for row as clear as this share; */
const MUCH_EDGE = 0.25
const ABOUT_AS_CLEAR = 0.8
/** what lies between them is no taller than this share of both, or one side goes on along an edge; */
const MOST_GAP = 0.3
const SHOWN = 0.7
/** and doesn't look more like backdrop than this. */
const NOT_LIKE_PIECE = -0.3
/** Half-width of a neck, px. */
const LEAST_NECK = 4

export interface WholeSilhouette {
  silhouette: Silhouette
  /** Rows that were taken for piece because they join two parts of it. */
  between: readonly Run[]
}

/**
 * The best symmetric silhouette, as `findSilhouette` gives it, and what it was parted from: about one axis there is one piece,
 * so that what looks like piece above or below it, with clear edges on both sides, hangs together with it. Rows between them,
 * where piece and backdrop look alike, earn nothing by themselves.
 * @param sums `plane` as `mirrored` gives it for the strip
 */
export function wholeSilhouette(strip: Strip, sums: Float32Array, plane: Plane): WholeSilhouette {
  const half = widthsAlong(strip, sums)
  const [tallest, ...others] = runsOf(half).sort((p, q) => q.to - q.from - (p.to - p.from))
  if (!tallest) return { silhouette: silhouetteOf(strip, half), between: [] }
  let whole: WholeSilhouette = { silhouette: partOf(strip, half, tallest), between: [] }
  for (;;) {
    const more = joinedWithOne(strip, { whole, half, others }, sums, plane)
    if (!more) return whole
    whole = more
  }
}

/** A silhouette joined with that other run of half-widths which gives it the most edges; null where none may be joined. */
function joinedWithOne(
  strip: Strip,
  { whole, half, others }: { whole: WholeSilhouette; half: Float32Array; others: readonly Run[] },
  sums: Float32Array,
  plane: Plane,
): WholeSilhouette | null {
  const { silhouette: main } = whole
  const [first, last] = rowsOf(main)
  const own = { from: first, to: last + 1 }
  const all = half.slice()
  all.set(main.half.subarray(own.from, own.to), own.from)
  let best: WholeSilhouette | null = null
  for (const run of others) {
    if (run.from < own.to && run.to > own.from) continue
    const goesOn = isAsWide(all, own, run)
    if (!isPart(strip, all, run, { tallest: own, main, plane, goesOn })) continue
    const between = gapBetween(own, run)
    // Where both end about as wide the way between them is about straight, whatever lines the backdrop shows there.
    const near = goesOn ? ledAcross(all, between, [own, run]) : null
    const gaps = [...whole.between, between]
    const joined = findSilhouette(strip, sums, { between: gaps, near })
    const rows = own.to - own.from + run.to - run.from
    if (!mayJoin(strip, joined, between, rows, plane)) continue
    if (joined.edges > (best?.silhouette ?? main).edges) best = { silhouette: joined, between: gaps }
  }
  return best
}

/** What begins so many rows beyond an end of the piece, or fewer, hangs together with it: */
const NEXT_ROWS = 10
/** rows that look like piece, and along which one side shows this much of an edge. */
const MUCH_LIKE_PIECE = 0.5
const ONE_SIDED = 0.6
const LEAST_RUN = 8
/** A way lies along another within so many px over this share of the rows. */
const ALONG_PX = 4
const MOSTLY_ALONG = 0.75

/**
 * A silhouette with what follows right after one of its ends, or what it was led into, if that looks like piece and shows an edge on
 * one side at least: the stub beyond a flange that looks like the backdrop, the cap beyond a neck.
 * @param sums `plane` as `mirrored` gives it for the strip
 */
export function withPartsBeyond(
  strip: Strip,
  silhouette: Silhouette,
  sums: Float32Array,
  plane: Plane,
): Silhouette {
  const free = widthsAlong(strip, sums)
  const half = silhouette.half.slice()
  for (const run of runsOf(free)) {
    const [first, last] = rowsOf({ half })
    const own = { from: first, to: last + 1 }
    const isApart = run.from >= own.to || run.to <= own.from
    const between = gapBetween(own, run)
    const follows = isApart ? between.to - between.from <= NEXT_ROWS : isAlongside(half, free, own, run)
    if (!follows || run.to - run.from < LEAST_RUN) continue
    if (oneSided(strip, free, run) < ONE_SIDED) continue
    if (likeness(partOf(strip, free, run), plane) < MUCH_LIKE_PIECE) continue
    half.set(free.subarray(run.from, run.to), run.from)
    if (isApart) leadStraight(half, between, half[between.from - 1]!, half[between.to]!)
  }
  return { ...silhouette, half }
}

/** Whether a run goes on beyond a silhouette that, where both are, mostly lies along it: it was led into that run, and only so far. */
function isAlongside(half: Float32Array, free: Float32Array, own: Run, run: Run): boolean {
  const shared = { from: Math.max(own.from, run.from), to: Math.min(own.to, run.to) }
  const rows = shared.to - shared.from
  if (rows < LEAST_RUN || rows === run.to - run.from || rows === own.to - own.from) return false
  let along = 0
  for (let row = shared.from; row < shared.to; row++)
    if (Math.abs(half[row]! - free[row]!) <= ALONG_PX) along++
  return along >= MOSTLY_ALONG * rows
}

/** How clear an edge the clearer side shows along a run, row for row. */
export function oneSided({ both, weaker, radii }: Strip, half: Float32Array, { from, to }: Run): number {
  let sum = 0
  for (let row = from; row < to; row++) {
    const i = row * (radii + 1) + half[row]!
    sum += (both[i]! - weaker[i]!) / (to - from)
  }
  return sum
}

const gapBetween = (one: Run, other: Run): Run =>
  other.to <= one.from ? { from: other.to, to: one.from } : { from: one.to, to: other.from }

const partOf = (strip: Strip, half: Float32Array, run: Run) => silhouetteOf(strip, onlyRows(half, run))

/** Whether two runs end about as wide where they face each other. */
function isAsWide(half: Float32Array, one: Run, other: Run): boolean {
  const [here, there] = other.to <= one.from ? [one.from, other.to - 1] : [one.to - 1, other.from]
  return Math.abs(half[here]! - half[there]!) < AS_WIDE * half[here]!
}

/** Two runs and the straight way over the rows between them. */
function ledAcross(half: Float32Array, between: Run, runs: readonly Run[]): Float32Array {
  const led = onlyRows(half, {
    from: Math.min(...runs.map(({ from }) => from)),
    to: Math.max(...runs.map(({ to }) => to)),
  })
  leadStraight(led, between, half[between.from - 1]!, half[between.to]!)
  return led
}

/** True when a run may be a part of the piece of which another is one. */
function isPart(
  strip: Strip,
  half: Float32Array,
  run: Run,
  { tallest, main, plane, goesOn }: { tallest: Run; main: Silhouette; plane: Plane; goesOn: boolean },
): boolean {
  const part = partOf(strip, half, run)
  const share = part.edges / main.edges
  const asClear = (share * (tallest.to - tallest.from)) / (run.to - run.from)
  const edged = share > MUCH_EDGE && asClear > ABOUT_AS_CLEAR
  return (
    share > LEAST_EDGES &&
    asClear > AS_CLEAR &&
    likeness(part, plane) > (goesOn || edged ? LEAST_LIKE_PIECE : LIKE_PIECE)
  )
}

/** True when nothing speaks against it that the rows between two parts are piece. */
function mayJoin(
  { radii, both }: Strip,
  joined: Silhouette,
  { from, to }: Run,
  rows: number,
  plane: Plane,
): boolean {
  let shown = 0
  for (let row = from; row < to; row++) shown += both[row * (radii + 1) + joined.half[row]!]! / (to - from)
  if (to - from > MOST_GAP * rows && shown < SHOWN) return false
  // However thin a way is found there, it is looked at as a neck.
  const neck = joined.half.map((r, row) => (row >= from && row < to ? Math.max(r, LEAST_NECK) : 0))
  return likeness({ ...joined, half: neck }, plane) >= NOT_LIKE_PIECE
}
