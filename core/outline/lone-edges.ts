import type { Raster } from '../picture/raster'
import { bestPath } from './best-path'
import { normalsOf, resample, runsAlong, smoothChain } from './chain'
import { CLEAR_EDGE, clearness, edgeBand, moveTo, within } from './edge-band'
import { edgesAlong, type EdgePoints, type Line } from './edge-lines'
import type { OutlineSide } from './refine'

/** Runs are no shorter than this, px. */
const LEAST_PX = 10
/** An edge is looked for so far on either side of the straight way over a run, of its length, but at least and at most px. */
const REACH = 0.35
const REACH_PX = [4, 24] as const
/** Distance of the places across, px. */
const ACROSS_PX = 0.5
/** It joins what was seen on either side to within this, px. */
const JOINS_PX = 3
/** One glaring edge isn't worth more than this; what a change of place costs. */
const MOST_WORTH = 2
const COST = { step: () => 0.3, most: 6 }
/** It is clear at so many of its places, and found by a fit at so many. */
const SHOWN = 0.8
/** It turns away from the straight way by no more than this many px for each px along it: what leaps changes over to another edge, of glass or paint. */
const MOST_LEAN = 2
/** The path is smoothed over so many points. */
const SMOOTHING = 1.2

/**
 * The clear edge that a side shows by itself over a run of points that show none: the two sides are looked for together, so that one
 * which follows a shadow or a handle leads the other one past its own edge. Runs that lie across the piece are left to the rings that
 * close it: a rim seen from above shows edges within, too.
 * @param run the points, and how far apart, px, what is seen on either side of them may be
 * @param turn as `normalsOf`
 * @param step distance of the points, px
 * @returns what takes the run's place; null where there is no such edge
 */
export function loneEdge(
  raster: Raster,
  { points }: OutlineSide,
  { from, to, longest }: { from: number; to: number; longest: number },
  { turn, blur, step }: { turn: 1 | -1; blur: number; step: number },
): EdgePoints | null {
  if (from < 1 || to >= points.length / 2) return null
  const [ax, ay, bx, by] = [
    points[2 * from - 2]!,
    points[2 * from - 1]!,
    points[2 * to]!,
    points[2 * to + 1]!,
  ]
  const length = Math.hypot(bx - ax, by - ay)
  if (length < LEAST_PX || length > longest || !runsAlong(points, bx - ax, by - ay)) return null
  const reach = Math.min(REACH_PX[1], Math.max(REACH_PX[0], REACH * length))
  const about = { turn, blur, step, reach, noise: reach, clear: SHOWN, found: SHOWN }
  return edgeNear(raster, resample([ax, ay, bx, by], step), about)
}

export interface NearOptions {
  /** As `normalsOf`. */
  turn: 1 | -1
  blur: number
  /** Distance of the points, px. */
  step: number
  /** How far from the way it may lie, and over how many px on either side noise is told, px. */
  reach: number
  noise: number
  /** At which shares of its places it is clear, and found by a fit, at least. */
  clear: number
  found: number
}

/** The edge near a way [x y ...] that it joins at both ends, at the places between those; null where there is none, or it leaps. */
export function edgeNear(
  raster: Raster,
  way: Float64Array,
  { turn, blur, step, reach, noise, clear, found }: NearOptions,
): EdgePoints | null {
  const normals = normalsOf(way, turn, 2)
  const band = edgeBand(raster, way, normals, { reach: noise, blur, step: ACROSS_PX, alone: true })
  const worth = clearness(band).map((v) => Math.min(MOST_WORTH, v))
  const [middle, last] = [(band.places - 1) / 2, band.count - 1]
  const mayPass = (i: number, k: number) =>
    Math.abs(k - middle) * ACROSS_PX <= (i > 0 && i < last ? reach : JOINS_PX)
  const path = bestPath(within(worth, band, mayPass), band.count, band.places, COST)
  const leaps = path.some((k, i) => i > 0 && Math.abs(k - path[i - 1]!) * ACROSS_PX > MOST_LEAN * step)
  const shown = path.filter((k, i) => worth[i * band.places + k]! >= CLEAR_EDGE).length
  if (leaps || shown < clear * band.count) return null
  const led = smoothChain(moveTo(path, way, normals, band), SMOOTHING)
  const across = normalsOf(led, turn, 2)
  const places = Array.from({ length: last - 1 }, (_, k): Line => {
    const i = 2 * (k + 1)
    return { x: led[i]!, y: led[i + 1]!, dx: turn * across[i + 1]!, dy: -turn * across[i]! }
  })
  const edges = edgesAlong(raster, places, { turn, blur })
  return edges.sd.filter(Number.isFinite).length >= found * edges.sd.length ? edges : null
}
