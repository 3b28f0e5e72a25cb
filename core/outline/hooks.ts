import type { Raster } from '../picture/raster'
import { runsAlong } from './chain'
import { colourAbout } from './colour-about'
import type { ColourTable } from './colour-evidence'
import { lineBeside, smoothBetween, type Line } from './edge-lines'
import { edgeNear } from './lone-edges'
import { turnOf, type OutlineSide } from './refine'

/** A hook leads farther out than this, px, and takes in no more of the piece than this share of what it takes in of the backdrop. */
const LEAST_OUT_PX = 4
const MOST_IN = 0.2
/** It is no longer than this share of the side, nor shorter than this, px; no more runs that show no edge lie in it. */
const LONGEST_SHARE = 0.25
const LEAST_PX = 10
const MOST_RUNS = 12
/** Its ends are looked for so far beyond those, px, every so many points. */
const BEYOND_PX = 100
const APART = 3
/** So many points tell how the side leads on at its ends, and that is from one to the other, or nearly. */
const END_POINTS = 12
const ON = Math.cos((25 * Math.PI) / 180)
/** A longer way past it leaves out so many px² more for each px, and so many are tried. */
const AREA_PER_PX = 0.5
const MOST_TRIES = 40
/** The side's own edge lies so near to the way past, px, is clear here and there, since the lines across it count as noise, and found at so many places. */
const NEAR_PX = 4
const NOISE_PX = 12
const CLEAR = 0.1
const FOUND = 0.5
/** What is left out says less than this for the piece in the mean, and so much less than what lies so far within the edge, px; hardly any of it speaks for the piece. */
const MOST_LEFT_OUT = -0.3
const LESS_THAN_WITHIN = 0.3
const WITHIN_PX = [3, 6, 9]
const LIKE_PIECE = 0.2
const MOSTLY_UNLIKE = 0.8

export interface HookOptions {
  blur: number
  /** Distance of the points, px. */
  step: number
  /** What colours say of the piece. */
  colours: ColourTable
}

/** Of one side. */
interface SideOptions extends HookOptions {
  /** As `normalsOf`. */
  turn: 1 | -1
}

/** Points of a side from one to before another. */
interface Stretch {
  from: number
  to: number
}

/**
 * Sides without hooks: lines of a checked or ruled floor that run away beside a piece are as clear as its edge, and lead a way along them
 * and back along the next one that crosses them. They go where the side's own edge leads on past them, and what colours say of what
 * they enclose is that it is backdrop.
 */
export function withoutHooks(
  raster: Raster,
  sides: [OutlineSide, OutlineSide],
  options: HookOptions,
): [OutlineSide, OutlineSide] {
  const [left, right] = sides.map((side, k) => unhooked(raster, side, { ...options, turn: turnOf(k) }))
  return left === sides[0] && right === sides[1] ? sides : [left!, right!]
}

function unhooked(raster: Raster, side: OutlineSide, options: SideOptions): OutlineSide {
  let now = side
  for (let i = 1; i < now.sd.length; i++) {
    if (Number.isFinite(now.sd[i]!)) continue
    const led = pastHook(raster, now, i, options)
    now = led?.side ?? now
    i = led?.to ?? endOfBare(now.sd, i)
  }
  return now
}

/** The side led past the hook about a run that shows no edge, and where it is itself again; null where there is none. */
function pastHook(
  raster: Raster,
  side: OutlineSide,
  bare: number,
  options: SideOptions,
): { side: OutlineSide; to: number } | null {
  for (const past of waysPast(side, bare, options).slice(0, MOST_TRIES)) {
    if (!isBackdrop(raster, side, past, options)) continue
    const chain = Float64Array.from(past.way.flatMap(({ x, y }) => [x, y]))
    const edges = edgeNear(raster, chain, { ...options, reach: NEAR_PX, noise: NOISE_PX, clear: CLEAR, found: FOUND }) // prettier-ignore
    if (!edges) continue
    const { from, to } = past.stretch
    const put = (list: Float64Array, part: readonly number[], of: number) =>
      Float64Array.from([...list.subarray(0, of * from), ...part, ...list.subarray(of * to)])
    const led = { ...side, points: put(side.points, edges.points, 2), sd: put(side.sd, edges.sd, 1) }
    return { side: led, to: from + edges.sd.length }
  }
  return null
}

function endOfBare(sd: Float64Array, from: number): number {
  const end = sd.findIndex((v, k) => k >= from && Number.isFinite(v))
  return end < 0 ? sd.length : end
}

interface WayPast {
  stretch: Stretch
  way: Line[]
}

/** Smooth ways from before a run that shows no edge to behind it, or behind one of the next, which leave out what lies farther out; those that leave out most first. */
function waysPast(side: OutlineSide, bare: number, { turn, step }: SideOptions): WayPast[] {
  const { points } = side
  const longest = LONGEST_SHARE * Math.hypot(points.at(-2)! - points[0]!, points.at(-1)! - points[1]!)
  const found: (WayPast & { worth: number })[] = []
  const ends = endsBehind(side, bare, step)
  for (const [from, a] of startsBefore(side, bare, step))
    for (const [to, b] of ends) {
      const [wx, wy] = [b.x - a.x, b.y - a.y]
      const length = Math.hypot(wx, wy)
      const leadsOn = [a, b].every(({ dx, dy }) => dx * wx + dy * wy >= ON * length)
      if (length < LEAST_PX || length > longest || !leadsOn || !runsAlong(points, wx, wy)) continue
      const way = [a, ...smoothBetween(a, b, step), b]
      const worth = areaPast(points.subarray(2 * from, 2 * to), way, turn) - AREA_PER_PX * length
      if (worth > 0) found.push({ stretch: { from, to }, way, worth })
    }
  return found.sort((p, q) => q.worth - p.worth)
}

/** Where a way past may start, and how the side leads on there. */
function startsBefore(side: OutlineSide, bare: number, step: number): [number, Line][] {
  const starts = Array.from({ length: BEYOND_PX / step / APART }, (_, k) => bare - k * APART)
  return withLines(starts, (from) => (from > 1 ? lineBeside(side, from - 1, -1, END_POINTS) : null))
}

/** Where it may end: behind the run, or one of the next. */
function endsBehind(side: OutlineSide, bare: number, step: number): [number, Line][] {
  const { sd } = side
  const ends = new Set<number>()
  let next = bare
  for (let runs = 0; runs < MOST_RUNS && next >= 0; runs++) {
    const end = endOfBare(sd, next)
    for (let to = end; to < Math.min(sd.length, end + BEYOND_PX / step); to += APART) ends.add(to)
    next = sd.findIndex((v, k) => k >= end && !Number.isFinite(v))
  }
  return withLines([...ends], (to) => lineBeside(side, to, 1, END_POINTS))
}

function withLines(places: readonly number[], lineAt: (place: number) => Line | null): [number, Line][] {
  return places.flatMap((place) => {
    const line = lineAt(place)
    return line ? [[place, line] as [number, Line]] : []
  })
}

/** How much lies between a chain and the way past it, px²; 0 where it doesn't lead far out, or leads in as well. */
function areaPast(chain: Float64Array, way: readonly Line[], turn: 1 | -1): number {
  const [a, b] = [way[0]!, way.at(-1)!]
  const [wx, wy] = [b.x - a.x, b.y - a.y]
  const length = Math.hypot(wx, wy)
  let [most, outside, inside, before] = [0, 0, 0, 0]
  for (let i = 0; i < chain.length; i += 2) {
    const [x, y] = [chain[i]!, chain[i + 1]!]
    const along = ((x - a.x) * wx + (y - a.y) * wy) / length
    const k = Math.round((along / length) * (way.length - 1))
    const near = way[Math.max(0, Math.min(way.length - 1, k))]!
    const out = turn * ((y - near.y) * near.dx - (x - near.x) * near.dy)
    const on = along - before
    before = along
    most = Math.max(most, out)
    if (out > 0) outside += out * on
    else inside -= out * Math.abs(on)
  }
  return most >= LEAST_OUT_PX && inside <= MOST_IN * outside ? outside : 0
}

/** True when colours say that what lies between a stretch and the way past it is backdrop. */
function isBackdrop(
  raster: Raster,
  { points }: OutlineSide,
  { stretch: { from, to }, way }: WayPast,
  { colours, turn }: SideOptions,
): boolean {
  const says = (x: number, y: number) => colours(...colourAbout(raster, x, y))
  const leftOut: number[] = []
  for (let i = from; i < to; i++) {
    const [x, y] = [points[2 * i]!, points[2 * i + 1]!]
    const away = (p: Line) => Math.hypot(p.x - x, p.y - y)
    const near = way.reduce((p, q) => (away(q) < away(p) ? q : p))
    if (away(near) >= LEAST_OUT_PX) leftOut.push(says((x + near.x) / 2, (y + near.y) / 2))
  }
  const unlike = leftOut.filter((v) => v <= LIKE_PIECE).length
  if (mean(leftOut) > MOST_LEFT_OUT || unlike < MOSTLY_UNLIKE * leftOut.length) return false
  const within = way.flatMap(({ x, y, dx, dy }) =>
    WITHIN_PX.map((d) => says(x + turn * d * dy, y - turn * d * dx)),
  )
  return mean(within) - mean(leftOut) >= LESS_THAN_WITHIN
}

const mean = (list: readonly number[]) => list.reduce((sum, v) => sum + v / list.length, 0)
