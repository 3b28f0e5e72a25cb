import type { Raster } from '../picture/raster'
import { speaksForPiece, type Backdrop } from './backdrop'
import { colourAbout } from './colour-about'
import { clearestAlong, GRAIN } from './edge-band'
import { edgesAlong, linesAbout, nextBare, nextSeen, smoothBetween, type Line } from './edge-lines'
import { loneEdge } from './lone-edges'
import type { OutlineSide } from './refine'

/** Points that were seen between bare ones don't part a run when they are no more than this. */
const MOST_SEEN = 4
/** Most of a run is bare, it is no shorter than this, px, and its ends lie no farther apart than this share of the side's. */
const BARE_SHARE = 0.5
const LEAST_RUN_PX = 10
const LONGEST_SHARE = 0.25
/** Runs with no more than so many seen points between them may be parts of one: a shadow's border shows here and there. */
const MOST_ISLAND = 14
const MOST_ISLANDS = 2
/** Over such points a bridge must show this much more of an edge than the way. */
const LEAST_GAIN = 0.2
/** Edges that turn by more than this from one end of a run to the other meet in a corner somewhere. */
const MOST_TURN = (50 * Math.PI) / 180
/** A way that stays so near to the bridge, px, is as good. */
const AS_GOOD_PX = 2.5
/** A way's edge is looked for so far from it, px. */
const LOOK_PX = 1.5
/** What lies between bridge and way speaks less than this for the piece where it is left out, and more where it is taken in. */
const MOST_LEFT_OUT = 0.35
const LEAST_TAKEN_IN = -0.2

export interface BareOptions {
  /** As `normalsOf`. */
  turn: 1 | -1
  blur: number
  /** Distance of the points, px. */
  step: number
  backdrop: Backdrop | null
}

/**
 * Where a shadow is as dark as the piece no edge is seen, and the way found there wanders about in the shadow. Unless this side shows a
 * clear edge of its own (`lone-edges.ts`), the edges on either side of such a stretch are led over into each other, where the picture
 * shows no less of an edge there and what lies between doesn't speak against it.
 */
export function bridgeBareRuns(raster: Raster, side: OutlineSide, options: BareOptions): OutlineSide {
  const { points, sd } = side
  const n = sd.length
  const tall = Math.hypot(points[2 * n - 2]! - points[0]!, points[2 * n - 1]! - points[1]!)
  const outPoints: number[] = []
  const outSd: number[] = []
  const keep = (from: number, to: number) => {
    for (let i = from; i < to; i++) {
      outPoints.push(points[2 * i]!, points[2 * i + 1]!)
      outSd.push(sd[i]!)
    }
  }
  for (let i = 0; i < n;) {
    if (Number.isFinite(sd[i]!)) {
      keep(i, i + 1)
      i++
      continue
    }
    const from = i
    const to = endOfRun(sd, from)
    const over = (end: number) => ({ from, to: end, longest: LONGEST_SHARE * tall, islands: end > to })
    const led = firstOf([...endsBeyond(sd, to), to], (end) => {
      const run = over(end)
      // An edge that leads past what was seen would have been found from there.
      const lone = run.islands ? null : loneEdge(raster, side, run, options)
      const bridge = lone ? null : bridgeOf(raster, side, run, options)
      const edges = bridge ? edgesAlong(raster, bridge, options) : lone
      return edges && { edges, end }
    })
    if (led) {
      outPoints.push(...led.edges.points)
      outSd.push(...led.edges.sd)
    } else keep(from, to)
    i = led?.end ?? to
  }
  return { ...side, points: Float64Array.from(outPoints), sd: Float64Array.from(outSd) }
}

/** The first answer that isn't null. */
function firstOf<T, R>(list: readonly T[], answer: (of: T) => R | null): R | null {
  for (const of of list) {
    const got = answer(of)
    if (got !== null) return got
  }
  return null
}

/** Index after the last bare point of the run that begins at one; the run itself when it is mostly bare. */
function endOfRun(sd: Float64Array, from: number): number {
  let last = from
  let bare = 1
  for (let i = from + 1; i < sd.length && i - last <= MOST_SEEN + 1; i++) {
    if (Number.isFinite(sd[i]!)) continue
    last = i
    bare++
  }
  if (bare >= BARE_SHARE * (last + 1 - from)) return last + 1
  return nextSeen(sd, from)
}

/** Ends of the next bare runs behind one, where few seen points lie between; the farthest first. */
function endsBeyond(sd: Float64Array, to: number): number[] {
  const ends: number[] = []
  let end = to
  while (ends.length < MOST_ISLANDS) {
    const next = nextBare(sd, end)
    if (next === sd.length || next - end > MOST_ISLAND) break
    end = endOfRun(sd, next)
    ends.unshift(end)
  }
  return ends
}

/** The bridge over a run (or several, with islands of seen points between them); null where there is none or it is no better than the way found. */
function bridgeOf(
  raster: Raster,
  side: OutlineSide,
  { from, to, longest, islands }: { from: number; to: number; longest: number; islands: boolean },
  { turn, blur, step, backdrop }: BareOptions,
): Line[] | null {
  const lines = linesAbout(side, from, to)
  if (!lines) return null
  const [a, b] = lines
  const chord = Math.hypot(b.x - a.x, b.y - a.y)
  if (chord < LEAST_RUN_PX || chord > longest || a.dx * b.dx + a.dy * b.dy < Math.cos(MOST_TURN)) return null
  const bridge = smoothBetween(a, b, step)
  if (bridge.length < 3) return null
  const way = side.points.slice(2 * from, 2 * to)
  const apart = between(way, bridge, turn)
  if (!apart.some(({ away }) => Math.abs(away) > AS_GOOD_PX)) return null
  const flat = Float64Array.from(bridge.flatMap(({ x, y }) => [x, y]))
  const shown = (chain: Float64Array) => evidenceAlong(raster, chain, turn, blur)
  const byBridge = shown(flat)
  // A way that meanders picks up what grain there is: what it shows counts for no more than the stretch it leads over.
  const byWay = shown(way) / Math.max(1, lengthOf(way) / lengthOf(flat) - 1)
  // Points that were seen are given up only for a clearer edge.
  if (byWay > (islands ? byBridge - LEAST_GAIN : Math.max(GRAIN, byBridge))) return null
  return backdrop && !isAllowed(raster, apart, backdrop) ? null : bridge
}

function lengthOf(chain: Float64Array): number {
  let sum = 0
  for (let i = 2; i < chain.length; i += 2)
    sum += Math.hypot(chain[i]! - chain[i - 2]!, chain[i + 1]! - chain[i - 1]!)
  return sum
}

/** Middle between each place of a way and the nearest of the bridge, and how far out of the bridge the way lies there, px. */
function between(
  way: Float64Array,
  bridge: readonly Line[],
  turn: 1 | -1,
): { x: number; y: number; away: number }[] {
  return Array.from({ length: way.length / 2 }, (_, i) => {
    const [x, y] = [way[2 * i]!, way[2 * i + 1]!]
    const near = bridge.reduce((p, q) =>
      (q.x - x) ** 2 + (q.y - y) ** 2 < (p.x - x) ** 2 + (p.y - y) ** 2 ? q : p,
    )
    const away = turn * ((y - near.y) * near.dx - (x - near.x) * near.dy)
    return { x: (x + near.x) / 2, y: (y + near.y) / 2, away }
  })
}

/** How clear an edge lies along a chain, on average. */
function evidenceAlong(raster: Raster, chain: Float64Array, turn: 1 | -1, blur: number): number {
  const clear = clearestAlong(raster, chain, { turn, blur, aside: LOOK_PX })
  return clear.reduce((sum, v) => sum + v, 0) / clear.length
}

/** True when what the bridge leaves out isn't clearly piece, and what it takes in isn't clearly backdrop. */
function isAllowed(
  raster: Raster,
  apart: readonly { x: number; y: number; away: number }[],
  backdrop: Backdrop,
): boolean {
  const mean = (list: typeof apart) =>
    list.reduce(
      (sum, { x, y }) => sum + speaksForPiece(backdrop, x, y, ...colourAbout(raster, x, y)) / list.length,
      0,
    )
  const out = apart.filter(({ away }) => away > AS_GOOD_PX)
  const inside = apart.filter(({ away }) => away < -AS_GOOD_PX)
  return (
    (out.length === 0 || mean(out) <= MOST_LEFT_OUT) &&
    (inside.length === 0 || mean(inside) >= LEAST_TAKEN_IN)
  )
}
