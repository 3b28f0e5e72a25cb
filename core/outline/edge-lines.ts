import type { Raster } from '../picture/raster'
import { fitEdge } from './edge-fit'
import type { OutlineSide } from './refine'

/** A place and the direction that an edge runs in there. */
export interface Line {
  x: number
  y: number
  dx: number
  dy: number
}

/** The first point of a side, from one on, that shows an edge, or none; their number where there is no such one. */
export const nextSeen = (sd: Float64Array, from: number): number =>
  nextOf(sd, from, (v) => Number.isFinite(v))
export const nextBare = (sd: Float64Array, from: number): number =>
  nextOf(sd, from, (v) => !Number.isFinite(v))

function nextOf(sd: Float64Array, from: number, is: (v: number) => boolean): number {
  let i = from
  while (i < sd.length && !is(sd[i]!)) i++
  return i
}

/** On either side so many points that were seen, among so many, lead on into a gap. */
const SUPPORT = 8
const AMONG = 14
const LEAST_SUPPORT = 4

/**
 * The edges on either side of the points from `from` to before `to`, as lines that start where they enter the gap.
 * @returns null where too few points were seen beside it
 */
export function linesAbout(side: OutlineSide, from: number, to: number): [Line, Line] | null {
  const before = supportOf(side, from - 1, -1)
  const after = supportOf(side, to, 1)
  if (before.length < LEAST_SUPPORT || after.length < LEAST_SUPPORT) return null
  const a = lineThrough(before.reverse())
  const b = lineThrough(after)
  return [along(a, before.at(-1)!), along(b, after[0]!)]
}

/** Points lie on a line that are no farther from it than this, px; so many of them were seen. */
const STRAIGHT_PX = 0.7
const MOSTLY_SEEN = 0.75

/**
 * The line that so many points of a side lie on from one on, where that one is.
 * @param way 1 for those after it, -1 for those before it
 * @returns along the side's order; null where they lie on none, or too few were seen
 */
export function lineBeside({ points, sd }: OutlineSide, at: number, way: 1 | -1, count: number): Line | null {
  const seen = Array.from({ length: count }, (_, k) => at + way * k)
    .filter((i) => Number.isFinite(sd[i] ?? Infinity))
    .map((i): [number, number] => [points[2 * i]!, points[2 * i + 1]!])
  if (seen.length < MOSTLY_SEEN * count) return null
  const line = lineThrough(way > 0 ? seen : seen.toReversed())
  const isOn = ([x, y]: [number, number]) =>
    Math.abs((x - line.x) * line.dy - (y - line.y) * line.dx) <= STRAIGHT_PX
  return seen.every(isOn) ? along(line, seen[0]!) : null
}

/** Farther from a line than this, px, a fit has found something else. */
const MOST_FIT_PX = 1

/**
 * The edge that a fit finds across a place, and its standard error; null where there is none near it.
 * @param turn as `normalsOf`
 */
export function edgeAcross(
  raster: Raster,
  { x, y, dx, dy }: Line,
  turn: 1 | -1,
  blur: number,
): { x: number; y: number; sd: number } | null {
  const [nx, ny] = [-turn * dy, turn * dx]
  const fit = fitEdge(raster, x, y, nx, ny, blur)
  if (!fit || Math.abs(fit.offset) > MOST_FIT_PX) return null
  return { x: x + fit.offset * nx, y: y + fit.offset * ny, sd: fit.sd }
}

/** Points [x y ...] of a side, with their standard errors, px; Infinity where they show no edge. */
export interface EdgePoints {
  points: number[]
  sd: number[]
}

/** The edges across places, or the places where there are none. */
export function edgesAlong(
  raster: Raster,
  places: readonly Line[],
  { turn, blur }: { turn: 1 | -1; blur: number },
): EdgePoints {
  const edges = places.map((place) => edgeAcross(raster, place, turn, blur))
  return {
    points: places.flatMap((place, i) => [edges[i]?.x ?? place.x, edges[i]?.y ?? place.y]),
    sd: edges.map((edge) => edge?.sd ?? Infinity),
  }
}

/** The nearest points that were seen, going one way. */
function supportOf({ points, sd }: OutlineSide, from: number, way: 1 | -1): [number, number][] {
  const out: [number, number][] = []
  for (let k = 0; k < AMONG && out.length < SUPPORT; k++) {
    const i = from + way * k
    if (i < 0 || i >= sd.length) break
    if (Number.isFinite(sd[i]!)) out.push([points[2 * i]!, points[2 * i + 1]!])
  }
  return out
}

/** The line through points by total least squares, along their order. */
function lineThrough(points: readonly [number, number][]): Line {
  const n = points.length
  let [x, y] = [0, 0]
  for (const p of points) {
    x += p[0] / n
    y += p[1] / n
  }
  let [xx, xy, yy] = [0, 0, 0]
  for (const p of points) {
    xx += (p[0] - x) ** 2
    xy += (p[0] - x) * (p[1] - y)
    yy += (p[1] - y) ** 2
  }
  const angle = Math.atan2(2 * xy, xx - yy) / 2
  const [dx, dy] = [Math.cos(angle), Math.sin(angle)]
  const first = points[0]!
  const last = points[n - 1]!
  const sign = (last[0] - first[0]) * dx + (last[1] - first[1]) * dy < 0 ? -1 : 1
  return { x, y, dx: sign * dx, dy: sign * dy }
}

/** The line from where it passes a point. */
function along({ x, y, dx, dy }: Line, [px, py]: readonly [number, number]): Line {
  const t = (px - x) * dx + (py - y) * dy
  return { x: x + t * dx, y: y + t * dy, dx, dy }
}

/** Places on the way from one line to another: a cubic with both their directions. */
export function smoothBetween(a: Line, b: Line, step: number): Line[] {
  const [wx, wy] = [b.x - a.x, b.y - a.y]
  const length = Math.hypot(wx, wy)
  const [dx, dy] = [wx / length, wy / length]
  const out: Line[] = []
  for (let s = step; s < length - step / 2; s += step) {
    const t = s / length
    const [p, q] = [t * (1 - t) ** 2, -(t ** 2) * (1 - t)]
    const [ax, ay] = [length * a.dx - wx, length * a.dy - wy]
    const [bx, by] = [length * b.dx - wx, length * b.dy - wy]
    out.push({ x: a.x + t * wx + p * ax + q * bx, y: a.y + t * wy + p * ay + q * by, dx, dy })
  }
  return out
}
