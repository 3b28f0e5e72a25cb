import type { Raster } from '../picture/raster'
import { runsAlong } from './chain'
import { colourAbout } from './colour-about'
import type { ColourTable } from './colour-evidence'
import { lineBeside, nextBare, nextSeen, smoothBetween, type Line } from './edge-lines'
import { edgeNear } from './lone-edges'
import { turnOf, type OutlineSide } from './refine'

/** A hook leads farther out than this, px, and the area over which it leads in is no more than this share of that over which it leads out. */
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
/** A way past it leaves out more than so many px² for each px of its length; of those that leave out most so many are looked at, and so many tried by what colours say. */
const AREA_PER_PX = 0.5
const MOST_WAYS = 60
const MOST_TRIES = 6
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
  for (let i = nextBare(now.sd, 1); i < now.sd.length;) {
    const led = pastHook(raster, now, i, options)
    now = led?.side ?? now
    i = nextBare(now.sd, (led?.to ?? nextSeen(now.sd, i)) + 1)
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
  let tries = 0
  for (const past of waysPast(side, bare, options)) {
    const leftOut = leftOutBy(side, past, options)
    if (!leftOut) continue
    if (++tries > MOST_TRIES) break
    if (!isBackdrop(raster, past, leftOut, options)) continue
    const chain = Float64Array.from(past.way.flatMap(({ x, y }) => [x, y]))
    const edges = edgeNear(raster, chain, { ...options, reach: NEAR_PX, noise: NOISE_PX, clear: CLEAR, found: FOUND }) // prettier-ignore
    if (!edges) continue
    const { from, to } = past
    const put = (list: Float64Array, part: readonly number[], of: number) =>
      Float64Array.from([...list.subarray(0, of * from), ...part, ...list.subarray(of * to)])
    const led = { ...side, points: put(side.points, edges.points, 2), sd: put(side.sd, edges.sd, 1) }
    return { side: led, to: from + edges.sd.length }
  }
  return null
}

/** A smooth way past the points of a side from one to before another. */
interface WayPast {
  from: number
  to: number
  way: Line[]
}

/** Ways from before a run that shows no edge to behind it, or behind one of the next; those that leave out most of what lies farther out first. */
function* waysPast(side: OutlineSide, bare: number, { turn, step }: SideOptions): Generator<WayPast> {
  const { points } = side
  const longest = LONGEST_SHARE * Math.hypot(points.at(-2)! - points[0]!, points.at(-1)! - points[1]!)
  const found: { from: number; to: number; ends: readonly [Line, Line]; worth: number }[] = []
  const areaTo = areasAlong(points)
  const behind = endsBehind(side, bare, step)
  for (const [from, a] of startsBefore(side, bare, step))
    for (const [to, b] of behind) {
      const [wx, wy] = [b.x - a.x, b.y - a.y]
      const length = Math.hypot(wx, wy)
      if (length < LEAST_PX || length > longest || !runsAlong(points, wx, wy)) continue
      if (a.dx * wx + a.dy * wy < ON * length || b.dx * wx + b.dy * wy < ON * length) continue
      const byChain = areaTo[to - 1]! - areaTo[from]! + wedge(points, from, a) - wedge(points, to - 1, b)
      // What the cubic between both ends encloses with their chord, and the chord with the origin.
      const byWay = (length / 12) * (wx * (a.dy - b.dy) - wy * (a.dx - b.dx)) + (b.x * a.y - a.x * b.y) / 2
      const worth = -turn * (byChain + byWay) - AREA_PER_PX * length
      if (worth > 0) found.push({ from, to, ends: [a, b], worth })
    }
  found.sort((p, q) => q.worth - p.worth)
  for (const { from, to, ends } of found.slice(0, MOST_WAYS))
    yield { from, to, way: [ends[0], ...smoothBetween(...ends, step), ends[1]] }
}

/** The signed areas that a chain sweeps about the origin up to each of its points, px². */
function areasAlong(points: Float64Array): Float64Array {
  const out = new Float64Array(points.length / 2)
  for (let i = 1; i < out.length; i++)
    out[i] = out[i - 1]! + wedge(points, i, { x: points[2 * i - 2]!, y: points[2 * i - 1]! })
  return out
}

/** The area that the way from a place to a point of a chain sweeps about the origin, px². */
const wedge = (points: Float64Array, i: number, { x, y }: { x: number; y: number }) =>
  (x * points[2 * i + 1]! - points[2 * i]! * y) / 2

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
  for (let runs = 0; runs < MOST_RUNS && next < sd.length; runs++) {
    const end = nextSeen(sd, next)
    for (let to = end; to < Math.min(sd.length, end + BEYOND_PX / step); to += APART) ends.add(to)
    next = nextBare(sd, end)
  }
  return withLines([...ends], (to) => lineBeside(side, to, 1, END_POINTS))
}

function withLines(places: readonly number[], lineAt: (place: number) => Line | null): [number, Line][] {
  return places.flatMap((place) => {
    const line = lineAt(place)
    return line ? [[place, line] as [number, Line]] : []
  })
}

/** Places in the middle between a side and a way past it, where it leads far out; null where it doesn't, or leads in as well. */
function leftOutBy(
  { points }: OutlineSide,
  { from, to, way }: WayPast,
  { turn }: SideOptions,
): { x: number; y: number }[] | null {
  const [a, b] = [way[0]!, way.at(-1)!]
  const [wx, wy] = [b.x - a.x, b.y - a.y]
  const length = Math.hypot(wx, wy)
  const places: { x: number; y: number }[] = []
  let [outside, inside, before] = [0, 0, 0]
  for (let i = from; i < to; i++) {
    const [x, y] = [points[2 * i]!, points[2 * i + 1]!]
    const along = ((x - a.x) * wx + (y - a.y) * wy) / length
    const k = Math.round((along / length) * (way.length - 1))
    const near = way[Math.max(0, Math.min(way.length - 1, k))]!
    const out = turn * ((y - near.y) * near.dx - (x - near.x) * near.dy)
    if (out >= LEAST_OUT_PX) places.push({ x: (x + near.x) / 2, y: (y + near.y) / 2 })
    if (out > 0) outside += out * (along - before)
    else inside -= out * Math.abs(along - before)
    before = along
  }
  return places.length > 0 && inside <= MOST_IN * outside ? places : null
}

/** True when colours say that what is left out is backdrop, though what lies within the way past isn't. */
function isBackdrop(
  raster: Raster,
  { way }: WayPast,
  leftOut: readonly { x: number; y: number }[],
  { colours, turn }: SideOptions,
): boolean {
  const says = (x: number, y: number) => colours(...colourAbout(raster, x, y))
  const said = leftOut.map(({ x, y }) => says(x, y))
  const unlike = said.filter((v) => v <= LIKE_PIECE).length
  if (mean(said) > MOST_LEFT_OUT || unlike < MOSTLY_UNLIKE * said.length) return false
  const within = way.flatMap(({ x, y, dx, dy }) =>
    WITHIN_PX.map((d) => says(x + turn * d * dy, y - turn * d * dx)),
  )
  return mean(within) - mean(said) >= LESS_THAN_WITHIN
}

const mean = (list: readonly number[]) => list.reduce((sum, v) => sum + v / list.length, 0)
