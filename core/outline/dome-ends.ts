import type { Raster } from '../picture/raster'
import { inAxis, placeAt, type AxisLine } from './axis-line'
import { solvePositive } from '../least-squares'
import { upperMedian } from '../upper-median'
import { resample } from './chain'
import { shownAlong } from './edge-band'
import { OUTLINE_ENDS, openEnds, partFrom, seenPoints, type OutlineEnd } from './open-ends'
import type { OutlineSide } from './refine'

/** The edges that lead to an open end are asked over so much of the half-width there, along the axis. */
const LOOK = 0.8
const LEAST_POINTS = 12
/** The tip of a dome lies at most so far beyond them, of the half-width there; a cone's lies farther. */
const FARTHEST = 0.6
/** A dome is one whose edges agree with it so well, of the half-width; those far off it are none of it. */
const MOST_OFF = 0.012
const LEAST_STRAY = 0.01
const ROUNDS = 4
const ON_DOME = 0.06
/** The line that closes the way found leans by at most so much, of the half-width. */
const LINE = 0.06
/** The half-width at the end is the widest within so many px of it. */
const END_PX = 4
const ARC_POINTS = 24

/**
 * The sides closed with a dome where no edge closes them but both lean inwards as a dome's do: the top of a white egg before a white
 * wall is lost, and its sides tell where it is. The dome is a conic about the axis: the square of the half-width is a
 * polynomial of second degree along it.
 * A dark egg in its own shadow shows its foot faintly: there a dome takes the place of a way that shows less of an edge.
 * @param step distance of the points, px
 * @returns chains [x y ...] to be fitted again; null where there is nothing to close so
 */
export function withDomes(
  raster: Raster,
  sides: readonly [OutlineSide, OutlineSide],
  axis: AxisLine,
  step: number,
): [Float64Array, Float64Array] | null {
  let chains = sides.map(({ points }) => points)
  let closed = false
  const open = openEnds(sides)
  for (const end of OUTLINE_ENDS) {
    const sign = end === 'top' ? 1 : -1
    const isLost = open.includes(end) || sides.every((side) => isCutStraight(side, end))
    const lost = isLost ? domeOver(sides.flatMap((side, k) => seenFromEnd(side, axis, k === 0, sign))) : null
    const dome = lost ?? domeInShadow(raster, sides, axis, end)
    if (!dome) continue
    const led = chains.map((points, k) => closedBy(points, dome, { axis, left: k === 0, sign }))
    if (!led.every((points) => endsWithin(raster, points, end))) continue
    closed = true
    chains = led
  }
  return closed ? (chains.map((chain) => resample(chain, step)) as [Float64Array, Float64Array]) : null
}

/** Nothing can be seen of a dome that leads out of the picture. */
function endsWithin({ width, height }: Raster, points: Float64Array, end: OutlineEnd): boolean {
  const [x, y] = end === 'foot' ? [points[0]!, points[1]!] : [points.at(-2)!, points.at(-1)!]
  return x >= 0 && y >= 0 && x < width && y < height
}

/** The way over a small cap: so many points at least, seen by no more than this share, until so many on end are seen; */
const CAP_POINTS = 8
const CAP_SEEN = 0.3
const SEEN_AGAIN = 5
/** there it meets the side in a corner of at least this much. */
const CAP_CORNER = (18 * Math.PI) / 180

/** True when a side's end is a line without an edge that meets its seen part in a corner: a cap was cut off, however small. */
function isCutStraight({ points, sd }: OutlineSide, end: OutlineEnd): boolean {
  const n = sd.length
  const at = (k: number) => (end === 'foot' ? k : n - 1 - k)
  const isSeen = (k: number) => Number.isFinite(sd[at(k)]!)
  let count = 0
  let seen = 0
  const goesOn = (k: number) =>
    Array.from({ length: SEEN_AGAIN }, (_, j) => k + j).every((j) => j < n && isSeen(j))
  for (; count < n && !goesOn(count); count++) if (isSeen(count)) seen++
  if (count < CAP_POINTS || count + SEEN_AGAIN >= n || seen > CAP_SEEN * count) return false
  const direction = (from: number, to: number) => {
    const [i, j] = [at(from), at(to)]
    return Math.atan2(points[2 * j + 1]! - points[2 * i + 1]!, points[2 * j]! - points[2 * i]!)
  }
  const turn = direction(count, count + SEEN_AGAIN) - direction(count - 1 - SEEN_AGAIN, count - 1)
  return Math.abs(Math.atan2(Math.sin(turn), Math.cos(turn))) >= CAP_CORNER
}

/** A side is seen for good where of so many points on end almost all are. */
const FOR_GOOD = 30
const ALMOST_ALL = 0.9
/** The way from an end to where a side is seen for good is doubtful when this share of it isn't. */
const DOUBTFUL = 0.5
/** A dome shows this much of an edge, clear being 1, and by so much more than the way it replaces. */
const DOME_SHOWS = 0.4
const DOME_BETTER = 0.15

/** A line beyond a gap is none of the piece when the dome before it shows this much of an edge, and lies so far inside of it, px. */
const DOME_SHOWS_BEFORE = 0.5
const BEFORE_PX = 2

/**
 * The dome to which both sides lean from where they are seen for good: if it shows more of an edge than the doubtful way beyond, or
 * if the way leaps over a gap to a line (the border of the piece's shadow) before which the dome shows its own edge.
 */
function domeInShadow(
  raster: Raster,
  sides: readonly [OutlineSide, OutlineSide],
  axis: AxisLine,
  end: OutlineEnd,
): Dome | null {
  const sign = end === 'top' ? 1 : -1
  const part = (side: OutlineSide, from: number, to: number) => partFrom(side, end, from, to)
  const shown = (chains: readonly Float64Array[]) => shownAlong(raster, chains, blurOf(sides))
  const domeBeyond = (counts: readonly number[]) => {
    if (counts.some((count) => count < CAP_POINTS)) return null
    const good = sides.map((side, k) => part(side, counts[k]!, side.sd.length))
    const dome = domeOver(good.flatMap((side, k) => seenFromEnd(side, axis, k === 0, sign)))
    const arcs = dome && [true, false].map((left) => Float64Array.from(arcOf(dome, { axis, left, sign })))
    return arcs && { dome, byDome: shown(arcs) }
  }
  for (const pointsTo of [doubtfulPoints, pointsToLastGap]) {
    const doubtful = sides.map((side) => pointsTo(side, end))
    const inDoubt = domeBeyond(doubtful)
    if (!inDoubt) continue
    const byWay = shown(sides.map((side, k) => part(side, 0, doubtful[k]!).points))
    const { dome, byDome } = inDoubt
    if (byDome >= DOME_SHOWS && byDome >= byWay + DOME_BETTER) return dome
  }
  const beyondGap = domeBeyond(sides.map((side) => pointsToGap(side, end)))
  if (!beyondGap) return null
  const { dome, byDome } = beyondGap
  const line = Math.max(
    ...sides.flatMap((side, k) => seenFromEnd(side, axis, k === 0, sign).map(([, v]) => v)),
  )
  return byDome >= DOME_SHOWS_BEFORE && line - (dome.from + dome.wide * dome.tip) >= BEFORE_PX ? dome : null
}

/** A gap begins within this share of a side from its end. */
const GAP_WITHIN = 0.2

/** Number of points from an end over the last gap near it. */
function pointsToGap(side: OutlineSide, end: OutlineEnd): number {
  const seen = seenPoints(side, end)
  return seen.slice(0, Math.ceil(GAP_WITHIN * seen.length)).lastIndexOf(false) + 1
}

const isForGood = (seen: readonly boolean[], from: number) =>
  seen.slice(from, from + FOR_GOOD).filter((is) => is).length >= ALMOST_ALL * FOR_GOOD

/** The last gap before a side is seen for good is looked for within this share of it from its end. */
const LAST_GAP_WITHIN = 0.3

/** Number of points from an end over the last gap after which its side is seen for good, however much of the way shows an edge. */
function pointsToLastGap(side: OutlineSide, end: OutlineEnd): number {
  const seen = seenPoints(side, end)
  let count = Math.floor(LAST_GAP_WITHIN * seen.length)
  while (count > 0 && (seen[count - 1] || !isForGood(seen, count))) count--
  return count
}

const blurOf = (sides: readonly OutlineSide[]) => sides.map(({ blur }) => blur).find(Number.isFinite) ?? 1

/** Number of points from an end to where its side is seen for good; none where the way there shows its edge. */
function doubtfulPoints(side: OutlineSide, end: OutlineEnd): number {
  const seen = seenPoints(side, end)
  const n = seen.length
  let count = 0
  while (count + FOR_GOOD <= n && (!seen[count] || !isForGood(seen, count))) count++
  const shown = seen.slice(0, count).filter((is) => is).length
  return count + FOR_GOOD <= n && shown <= DOUBTFUL * count ? count : 0
}

/** A place of a side as seen from an end: half-width, and along the axis with the end upwards. */
type Place = readonly [u: number, v: number]

/** In half-widths of where the edges end, at `from` px along the axis. */
interface Dome {
  conic: Conic
  from: number
  wide: number
  tip: number
}

/** The places of a side that show an edge. */
export function seenFromEnd(
  { points, sd }: OutlineSide,
  axis: AxisLine,
  left: boolean,
  sign: 1 | -1,
): Place[] {
  const places = inAxis(points, axis, left)
  return Array.from(sd).flatMap((s, i) =>
    Number.isFinite(s) ? [[places[2 * i]!, sign * places[2 * i + 1]!] as const] : [],
  )
}

function domeOver(seen: readonly Place[]): Dome | null {
  const from = seen.reduce((most, [, v]) => Math.max(most, v), -Infinity)
  const wide = seen.reduce((most, [u, v]) => (from - v < END_PX ? Math.max(most, u) : most), 0)
  // Along the axis in half-widths from where the edges end, so that the equations are well conditioned.
  // What happens to show an edge along the line that closes the way found is none of the dome.
  const onLine = ([u, v]: Place) => from - v < LINE * wide && u < 0.9 * wide
  let near = seen.flatMap((p) =>
    from - p[1] < LOOK * wide && !onLine(p) ? [[p[0] / wide, (p[1] - from) / wide] as const] : [],
  )
  let conic: Conic | null = null
  for (let round = 0; round < ROUNDS; round++) {
    if (near.length < LEAST_POINTS) return null
    conic = conicThrough(near)
    if (!conic) return null
    const off = near.map(([u, t]) => Math.abs(halfAt(conic!, t) - u))
    const usual = upperMedian(Float32Array.from(off))
    if (round === ROUNDS - 1 && usual > MOST_OFF) return null
    near = near.filter((_, i) => off[i]! <= Math.max(4 * usual, LEAST_STRAY))
  }
  const tip = conic && firstRoot(conic)
  return tip !== null && tip <= FARTHEST ? { conic: conic!, from, wide, tip } : null
}

/** u² = a + b t + c t² */
type Conic = readonly [a: number, b: number, c: number]

const halfAt = ([a, b, c]: Conic, t: number) => Math.sqrt(Math.max(0, a + b * t + c * t * t))

function conicThrough(places: readonly Place[]): Conic | null {
  const normal = new Float64Array(9)
  const right = new Float64Array(3)
  for (const [u, t] of places) {
    const row = [1, t, t * t]
    // An error of u counts in u² twice as much as u is large.
    const w = 1 / Math.max(1, u) ** 2
    for (let i = 0; i < 3; i++) {
      right[i]! += w * row[i]! * u * u
      for (let j = 0; j < 3; j++) normal[3 * i + j]! += w * row[i]! * row[j]!
    }
  }
  const solved = solvePositive(normal, right, 3)
  return solved && [solved[0]!, solved[1]!, solved[2]!]
}

/** The least positive t with a + b t + c t² = 0, for a > 0. */
function firstRoot([a, b, c]: Conic): number | null {
  const square = b * b - 4 * a * c
  if (!(a > 0) || square < 0) return null
  const q = -0.5 * (b + Math.sign(b || 1) * Math.sqrt(square))
  const roots = [q / c, a / q].filter((t) => t > 0 && Number.isFinite(t))
  return roots.length > 0 ? Math.min(...roots) : null
}

interface DomeView {
  axis: AxisLine
  left: boolean
  sign: 1 | -1
}

/** One side of a dome [x y ...], from where the edges end to its tip. */
function arcOf({ conic, from, wide, tip }: Dome, { axis, left, sign }: DomeView): number[] {
  const arc: number[] = []
  for (let k = 0; k <= ARC_POINTS; k++) {
    // Close together near the tip, where the dome is flat.
    const t = tip * (1 - (1 - k / ARC_POINTS) ** 2)
    const u = wide * halfAt(conic, t)
    const { x, y } = placeAt(axis, left ? -u : u, sign * (from + wide * t))
    arc.push(x, y)
  }
  return arc
}

/** A chain whose places beyond the edges are replaced by the dome's. */
function closedBy(points: Float64Array, dome: Dome, { axis, left, sign }: DomeView): Float64Array {
  const { conic, from, wide } = dome
  const places = inAxis(points, axis, left)
  const arc = arcOf(dome, { axis, left, sign })
  // Of the way found, what lies along the dome is kept, and not the line that closed it.
  const isKept = (u: number, t: number) =>
    t < 0 && (t < -LOOK / 2 || Math.abs(u - halfAt(conic, t)) < ON_DOME)
  const kept: number[] = []
  for (let i = 0; i < points.length; i += 2)
    if (isKept(places[i]! / wide, (sign * places[i + 1]! - from) / wide))
      kept.push(points[i]!, points[i + 1]!)
  if (sign > 0) return Float64Array.from([...kept, ...arc])
  const turned: number[] = []
  for (let i = arc.length - 2; i >= 0; i -= 2) turned.push(arc[i]!, arc[i + 1]!)
  return Float64Array.from([...turned, ...kept])
}
