import type { Raster } from '../picture/raster'
import { fitEdge } from './edge-fit'
import type { OutlineSide } from './refine'

/** Gaps longer than so many points are no corner that was cut. */
const LONGEST = 16
/** On either side so many points that were seen, among so many, lead on into the gap. */
const SUPPORT = 8
const AMONG = 14
const LEAST_SUPPORT = 4
/** Lines that meet at less than this run on into each other. */
const CORNER = (20 * Math.PI) / 180
/** A corner lies at most so far, px, beyond the points that lead to it. */
const FARTHEST_PX = 16
/** Nearer to a corner than this, px, both its edges are in the look of a fit. */
const BLIND_PX = 2.5
/** The edge must be found at this share of the places, and at so many at least. */
const FOUND_SHARE = 0.6
const LEAST_FOUND = 2
/** … but for gaps so narrow, px, that all of it is too near to the corner. */
const NEAR_PX = 8
/** Farther from the line than this, px, something else was found. */
const MOST_FIT_PX = 1

interface Line {
  x: number
  y: number
  dx: number
  dy: number
}

interface Place extends Line {
  /** Too near to the corner for a fit. */
  blind: boolean
}

/**
 * Smoothing cuts the corners of a sharp-edged piece, and what was cut shows no edge. There the edges beside the gap are drawn on
 * to where they meet, or run on into each other, and are taken if the picture shows them there.
 * @param turn as `normalsOf`
 * @param step distance of the points, px
 */
export function mendGaps(
  raster: Raster,
  side: OutlineSide,
  turn: 1 | -1,
  blur: number,
  step: number,
): OutlineSide {
  const { points, sd } = side
  const n = sd.length
  const outPoints: number[] = []
  const outSd: number[] = []
  for (let i = 0; i < n;) {
    if (Number.isFinite(sd[i]!)) {
      outPoints.push(points[2 * i]!, points[2 * i + 1]!)
      outSd.push(sd[i++]!)
      continue
    }
    let to = i
    while (to < n && !Number.isFinite(sd[to]!)) to++
    const mended = to - i <= LONGEST ? mendedGap(raster, side, i, to, turn, blur, step) : null
    if (mended) {
      outPoints.push(...mended.points)
      outSd.push(...mended.sd)
    } else
      for (let k = i; k < to; k++) {
        outPoints.push(points[2 * k]!, points[2 * k + 1]!)
        outSd.push(Infinity)
      }
    i = to
  }
  return { ...side, points: Float64Array.from(outPoints), sd: Float64Array.from(outSd) }
}

function mendedGap(
  raster: Raster,
  side: OutlineSide,
  from: number,
  to: number,
  turn: 1 | -1,
  blur: number,
  step: number,
): { points: number[]; sd: number[] } | null {
  const before = supportOf(side, from - 1, -1)
  const after = supportOf(side, to, 1)
  if (before.length < LEAST_SUPPORT || after.length < LEAST_SUPPORT) return null
  const a = lineThrough(before.reverse())
  const b = lineThrough(after)
  // Both start where they enter the gap.
  const start = along(a, before.at(-1)!)
  const end = along(b, after[0]!)
  const places = waysBetween(start, end, step)
  if (!places) return null
  const outPoints: number[] = []
  const outSd: number[] = []
  let found = 0
  let asked = 0
  for (const { x, y, dx, dy, blind } of places) {
    const [nx, ny] = [-turn * dy, turn * dx]
    const fit = blind ? null : fitEdge(raster, x, y, nx, ny, blur)
    const good = fit && Math.abs(fit.offset) <= MOST_FIT_PX
    if (!blind) asked++
    if (good) found++
    outPoints.push(x + (good ? fit.offset : 0) * nx, y + (good ? fit.offset : 0) * ny)
    outSd.push(good ? fit.sd : Infinity)
  }
  const seen = found >= LEAST_FOUND && found >= FOUND_SHARE * asked
  const near = asked < LEAST_FOUND && Math.hypot(end.x - start.x, end.y - start.y) < NEAR_PX
  return seen || near ? { points: outPoints, sd: outSd } : null
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

/** Places from one line's end to the other's beginning: over the corner in which they meet, or straight on. */
function waysBetween(a: Line, b: Line, step: number): Place[] | null {
  const cross = a.dx * b.dy - a.dy * b.dx
  const angle = Math.atan2(Math.abs(cross), a.dx * b.dx + a.dy * b.dy)
  if (angle < CORNER) return straightBetween(a, b, step)
  const [wx, wy] = [b.x - a.x, b.y - a.y]
  const t = (wx * b.dy - wy * b.dx) / cross
  const u = (wx * a.dy - wy * a.dx) / cross
  // The corner lies ahead of the one and behind the other.
  if (!(t > 0 && t < FARTHEST_PX && u < 0 && -u < FARTHEST_PX)) return null
  const out: Place[] = []
  for (let s = step; s < t; s += step)
    out.push({ x: a.x + s * a.dx, y: a.y + s * a.dy, dx: a.dx, dy: a.dy, blind: t - s < BLIND_PX })
  out.push({ x: a.x + t * a.dx, y: a.y + t * a.dy, dx: a.dx, dy: a.dy, blind: true })
  for (let s = -u - step; s > 0; s -= step)
    out.push({ x: b.x - s * b.dx, y: b.y - s * b.dy, dx: b.dx, dy: b.dy, blind: -u - s < BLIND_PX })
  return out
}

function straightBetween(a: Line, b: Line, step: number): Place[] {
  const [wx, wy] = [b.x - a.x, b.y - a.y]
  const length = Math.hypot(wx, wy)
  const [dx, dy] = [wx / length, wy / length]
  const out: Place[] = []
  for (let s = step; s < length - step / 2; s += step) {
    // A cubic with both lines' directions.
    const t = s / length
    const [p, q] = [t * (1 - t) ** 2, -(t ** 2) * (1 - t)]
    const [ax, ay] = [length * a.dx - wx, length * a.dy - wy]
    const [bx, by] = [length * b.dx - wx, length * b.dy - wy]
    out.push({ x: a.x + t * wx + p * ax + q * bx, y: a.y + t * wy + p * ay + q * by, dx, dy, blind: false })
  }
  return out
}
