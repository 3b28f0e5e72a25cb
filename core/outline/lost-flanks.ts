import type { Raster } from '../picture/raster'
import { inAxis, placeAt, type AxisLine } from './axis-line'
import { bestPath } from './best-path'
import { resample } from './chain'
import { clearness, edgeBand, sharedWorth, within, type EdgeBand } from './edge-band'
import { inPicture } from './end-view'
import { sharpestNear } from './jumps'
import { openEnds } from './open-ends'
import type { OutlineSide } from './refine'
import { reachOfBoth } from './seen-by-both'

type Both<T> = readonly [left: T, right: T]

/** Levels along the axis lie so far apart, px. */
const LEVEL_PX = 2
/** Stretches shorter than this, px and of the height, are left to the bridge over them. */
const LEAST_PX = 12
const LEAST_SHARE = 0.015
/** Nearer to an end than so many levels nothing leads on to it unless so much of what closes that shows an edge. */
const NEAR_END = 10
const CLOSED = 0.6

/**
 * The sides with flanks that they pass by: stretches over which one of them at least shows no edge, or between leaps that show none, while
 * both show one, mirror images of each other, farther out; or farther in, where neither shows any. Before a backdrop of its own colours a
 * lid, a neck or a stem is led over so, or along what is painted on it.
 * @param step distance of the points, px
 * @returns chains [x y ...] to be fitted again; null where there is no such flank
 */
export function withLostFlanks(
  raster: Raster,
  sides: Both<OutlineSide>,
  axis: AxisLine,
  { blur, step }: { blur: number; step: number },
): [Float64Array, Float64Array] | null {
  const { low, high } = reachOfBoth(sides, axis)
  const halves = sides.map(({ points }, k) => inAxis(points, axis, k === 0)) as [Float64Array, Float64Array]
  const ways = halves.map((half, k) => wayOf(half, sides[k]!.sd, low, high)) as [Way, Way]
  const wider = widerOf(ways)
  const least = Math.max(LEAST_PX, LEAST_SHARE * (high - low)) / LEVEL_PX
  const open = openEnds(sides, CLOSED)
  const isLoose = ({ from, to }: Stretch) =>
    (open.includes('foot') && from < NEAR_END) || (open.includes('top') && to > wider.length - NEAR_END)
  const between = { from: closingLevels(wider), to: wider.length - closingLevels(wider.toReversed()) }
  const flanks = [...lostStretches(ways, least), ...notches(ways, wider, least)]
    .map(({ from, to }) => ({ from: Math.max(from, between.from), to: Math.min(to, between.to) }))
    .filter((stretch) => stretch.to - stretch.from >= least && !isLoose(stretch))
    .flatMap((stretch) => flankOf(raster, { axis, ways, wider, low, blur }, stretch) ?? [])
  if (flanks.length === 0) return null
  const chains = halves.map((half, k) => {
    const led = flanks.reduce(ledAlong, { half: Array.from(half), sd: Array.from(sides[k]!.sd) })
    return resample(inPicture(Float64Array.from(led.half), axis, k === 0), step)
  })
  return chains as [Float64Array, Float64Array]
}

/** One side, level by level. */
interface Way {
  /** Half-width, px. */
  half: Float64Array
  /** A point there shows an edge, or some of them don't. */
  seen: boolean[]
  bare: boolean[]
}

function wayOf(points: Float64Array, sd: Float64Array, low: number, high: number): Way {
  const count = Math.max(1, Math.ceil((high - low) / LEVEL_PX))
  const half = new Float64Array(count).fill(NaN)
  const seen = Array.from({ length: count }, () => false)
  const bare = seen.slice()
  for (let i = 0; i < sd.length; i++) {
    const level = Math.min(count - 1, Math.floor((points[2 * i + 1]! - low) / LEVEL_PX))
    if (!(half[level]! >= points[2 * i]!)) half[level] = points[2 * i]!
    if (Number.isFinite(sd[i]!)) seen[level] = true
    else bare[level] = true
  }
  // Points may lie farther apart than levels.
  for (let k = 1; k < count; k++) {
    if (!Number.isNaN(half[k]!)) continue
    half[k] = half[k - 1]!
    seen[k] = seen[k - 1]!
    bare[k] = bare[k - 1]!
  }
  return { half, seen, bare }
}

/** Half-width of the side that is wider, level by level. */
const widerOf = ([left, right]: Both<Way>) => left.half.map((u, k) => Math.max(u || 0, right.half[k] || 0))

/** Whether a way closes the piece is told over so many levels. */
const CLOSING_LEVELS = 3

/** Over how many levels from an end on a way closes the piece: it runs more across it than along it, as a flank doesn't. */
function closingLevels(wider: Float64Array): number {
  let level = 0
  while (wider[level + CLOSING_LEVELS]! - wider[level]! > CLOSING_LEVELS * LEVEL_PX) level++
  return level
}

/** From the first level of a stretch to the one after its last. */
interface Stretch {
  from: number
  to: number
}

/** So many levels that both sides show don't part a stretch. */
const MOST_SEEN = 3

/** Stretches of levels at which a side shows no edge. */
function lostStretches([left, right]: Both<Way>, least: number): Stretch[] {
  const out: Stretch[] = []
  const isLost = left.seen.map((is, k) => !is || !right.seen[k])
  for (let from = 0; from < isLost.length; from++) {
    if (!isLost[from]) continue
    let to = from + 1
    for (let k = to; k < isLost.length && k - to <= MOST_SEEN; k++) if (isLost[k]) to = k + 1
    if (to - from >= least) out.push({ from, to })
    from = to
  }
  return out
}

/** A notch begins and ends with leaps of so much at least, px a level, and is no longer than this share of the height. */
const LEAP_PX = 5
const LONGEST = 0.25

/** Notches into which a way leaps, and out of which it leaps again, without an edge where it does. */
function notches(ways: Both<Way>, wider: Float64Array, least: number): Stretch[] {
  const count = wider.length
  const out: Stretch[] = []
  let from: number | null = null
  for (let to = 1; to < count; to++) {
    const change = wider[to]! - wider[to - 1]!
    const isBare = ways.some(({ bare }) => bare.slice(to - 1, to + 2).includes(true))
    if (Math.abs(change) < LEAP_PX || !isBare) continue
    const isNotch = change > 0 && from !== null && to - from >= least && to - from < LONGEST * count
    if (isNotch) out.push({ from: from!, to })
    from = change < 0 ? to : null
  }
  return out
}

/** Neither side shows a stretch of whose levels so many are lost to both. */
const BOTH_LOST = 0.7
/** Then the flank is looked for up to so much farther out, of the widest half-width, and farther in, of the stretch's own; else … */
const OUTWARDS = 0.35
const INWARDS = 0.35
/** … it lies so much farther out, px, than the way found, and no farther than what it leads on from, or hardly, so many levels beside it. */
const SAME_PX = 3
const OWN_PX = 4
const BESIDE = 2

/** Where a stretch's flank may lie: between two half-widths, px, and so far out of the way found at each level, if that counts. */
interface Room {
  least: number
  most: number
  own: Float64Array
  /** The way found is seen by one side, so that only what lies beyond it can be the flank. */
  isSeen: boolean
}

function roomOf({ ways, wider }: Found, { from, to }: Stretch): Room | null {
  const own = wider.slice(from, to)
  const lost = own.filter((_, k) => ways.every(({ seen }) => !seen[from + k])).length
  const isSeen = lost < BOTH_LOST * own.length
  const usual = own.toSorted((p, q) => p - q)[own.length >> 1]!
  const widest = wider.reduce((p, q) => Math.max(p, q), 0)
  const beside = Math.max(wider[from - BESIDE] ?? 0, wider[to + BESIDE - 1] ?? 0)
  const least = isSeen ? Math.min(...own) + SAME_PX : (1 - INWARDS) * usual
  const most = isSeen ? beside + OWN_PX : usual + OUTWARDS * widest
  return most - least < SAME_PX ? null : { least, most, own, isSeen }
}

/** Distance of the places across, px, and by how many of them both sides may be off. */
const ACROSS_PX = 0.5
const SLACK = 5
/** One glaring edge isn't worth more than this. */
const MOST_WORTH = 1.8
/** A path that leans costs little, one that jumps as much as two levels earn. */
const COST = { step: () => 0.15, most: 3 }
/** A flank is shown at a level by what is at least so clear on either side, and on both together; clear is 1. */
const LEAST_EACH = 0.4
const LEAST_BOTH = 1.4
/** It is shown at so many of its levels, from the first to the last ones of which so many are, and these are most of the stretch. */
const SHOWN = 0.7
const AT_END = 6
const MOST_OF = 0.5

/** A flank of both sides: half-widths and places along the axis, px, and between which of these it takes the way's place. */
interface Flank {
  low: number
  high: number
  places: [number, number][]
}

interface Found {
  axis: AxisLine
  ways: Both<Way>
  wider: Float64Array
  /** Where the first level begins, px along the axis. */
  low: number
  blur: number
}

function flankOf(raster: Raster, found: Found, stretch: Stretch): Flank | null {
  const { from, to } = stretch
  const room = roomOf(found, stretch)
  if (!room) return null
  const { least, most, own, isSeen } = room
  const look = acrossBoth(raster, found, stretch, room)
  const { first: before, places, isShown } = look
  const uOf = (k: number) => (least + most) / 2 + (k - (places - 1) / 2) * ACROSS_PX
  const worth = look.worth.subarray((from - before) * places, (to - before) * places)
  const isBeyond = (i: number, k: number) => !isSeen || uOf(k) >= own[i]! + SAME_PX
  const path = bestPath(within(worth, { count: own.length, places }, isBeyond), own.length, places, COST)
  const shown = Array.from(path, (k, i) => isShown(from + i, k))
  const ends = shownPart(shown)
  if (!ends) return null
  const rows = Array.from({ length: ends.to - ends.from }, (_, i) => ends.from + i)
  if (rows.every((i) => Math.abs(uOf(path[i]!) - own[i]!) <= SAME_PX)) return null
  const line = (i: number) => ({ u: uOf(path[i]!), isShownAt: (level: number) => isShown(level, path[i]!) })
  const beyond = { room, beyond: from - before, ways: found.ways }
  if (runsOn(line(ends.from), from + ends.from - 1, -1, beyond)) return null
  if (runsOn(line(ends.to - 1), from + ends.to, 1, beyond)) return null
  const levelAt = (level: number) => found.low + level * LEVEL_PX
  return {
    low: levelAt(from + ends.from),
    high: levelAt(from + ends.to),
    places: rows.map((i) => [uOf(path[i]!), levelAt(from + i + 0.5)]),
  }
}

/** The first and the last of rows between which a flank is shown, if that is most of them. */
function shownPart(shown: readonly boolean[]): Stretch | null {
  const shareOf = (part: readonly boolean[]) => part.filter((is) => is).length / part.length
  const from = shown.findIndex((is, i) => is && shareOf(shown.slice(i, i + AT_END)) >= SHOWN)
  const last = shown.findLastIndex((is, i) => is && shareOf(shown.slice(Math.max(0, i + 1 - AT_END), i + 1)) >= SHOWN) // prettier-ignore
  if (from < 0 || last < from || last + 1 - from < MOST_OF * shown.length) return null
  return shareOf(shown.slice(from, last + 1)) >= SHOWN ? { from, to: last + 1 } : null
}

/** What a line of the backdrop is told by: it runs on beyond a stretch, over this share of that, at least and at most px. */
const BEYOND_SHARE = 0.5
const BEYOND_PX = [10, 40] as const

/** Steps across the axis at the levels of a stretch and beyond it, on both sides at once. */
function acrossBoth(
  raster: Raster,
  { axis, low, blur }: Found,
  { from, to }: Stretch,
  { least, most }: Room,
): {
  /** The first level that was looked at. */
  first: number
  places: number
  worth: Float32Array
  isShown: (level: number, place: number) => boolean
} {
  const far = Math.max(BEYOND_PX[0], BEYOND_SHARE * (to - from) * LEVEL_PX)
  const beyond = Math.round(Math.min(BEYOND_PX[1], far) / LEVEL_PX)
  const first = from - beyond
  const levels = Array.from({ length: to - from + 2 * beyond }, (_, k) => low + (first + k + 0.5) * LEVEL_PX)
  const bands = [-1, 1].map((side) => {
    const points = new Float64Array(2 * levels.length)
    const normals = Float64Array.from(points, (_, i) => side * (i % 2 ? axis.up.x : -axis.up.y))
    levels.forEach((v, k) => {
      const { x, y } = placeAt(axis, (side * (least + most)) / 2, v)
      points.set([x, y], 2 * k)
    })
    return edgeBand(raster, points, normals, {
      reach: (most - least) / 2,
      blur,
      step: ACROSS_PX,
      alone: true,
    })
  }) as [EdgeBand, EdgeBand]
  const clear = bands.map((band) => clearness(band).map((v) => Math.min(MOST_WORTH, v))) as [Float32Array, Float32Array] // prettier-ignore
  const { places } = bands[0]
  const clearestNear = (each: Float32Array, level: number, place: number) => {
    const at = (level - first) * places
    return sharpestNear(each.subarray(at, at + places), place, SLACK)
  }
  return {
    first,
    places,
    worth: sharedWorth(bands, clear, SLACK),
    isShown: (level, place) => {
      const [left, right] = clear.map((each) => clearestNear(each, level, place)) as [number, number]
      return Math.min(left, right) >= LEAST_EACH && left + right >= LEAST_BOTH
    },
  }
}

/** What is shown at so many of the levels asked beyond a stretch, if they are so many, runs on there. */
const RUNS_ON = 0.6
const LEAST_ASKED = 4

/** Whether a line runs on beyond one end of a flank, where it isn't what was found: one of the backdrop, or of what is painted on the piece. */
function runsOn(
  { u, isShownAt }: { u: number; isShownAt: (level: number) => boolean },
  start: number,
  step: 1 | -1,
  { room, beyond, ways }: { room: Room; beyond: number; ways: Both<Way> },
): boolean {
  let [asked, on] = [0, 0]
  for (let k = 0; k < beyond; k++) {
    const level = start + step * k
    const found = ways.flatMap(({ half }) => half[level] ?? [])
    // A flank that lies beyond the way found leads on into the piece.
    if (found.some((own) => Math.abs(own - u) <= OWN_PX || (room.isSeen && u < own))) continue
    asked++
    if (isShownAt(level)) on++
  }
  return asked >= LEAST_ASKED && on >= RUNS_ON * asked
}

/** What is nearer to the axis than this share of a flank closes the piece. */
const CLOSES = 0.5

/** A half whose points at the levels of a flank give way to it where they show no edge or lie within it, with what lies between them. */
function ledAlong(
  { half, sd }: { half: number[]; sd: number[] },
  { low, high, places }: Flank,
): { half: number[]; sd: number[] } {
  const givesWay = sd.map((each, i) => {
    const [u, v] = [half[2 * i]!, half[2 * i + 1]!]
    if (v < low || v > high) return false
    const flank = places[Math.min(places.length - 1, Math.floor((v - low) / LEVEL_PX))]![0]
    return u > CLOSES * flank && (!Number.isFinite(each) || u < flank - SAME_PX)
  })
  const first = givesWay.indexOf(true)
  if (first < 0) return { half, sd }
  const count = givesWay.lastIndexOf(true) + 1 - first
  return {
    half: half.toSpliced(2 * first, 2 * count, ...places.flat()),
    sd: sd.toSpliced(first, count, ...places.map(() => 0)),
  }
}
