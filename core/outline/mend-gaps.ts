import type { Raster } from '../picture/raster'
import { edgeAcross, linesAbout, nextSeen, smoothBetween, type Line } from './edge-lines'
import type { OutlineSide } from './refine'

/** Gaps longer than so many points are no corner that was cut. */
const LONGEST = 16
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
    const to = nextSeen(sd, i)
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
  const lines = linesAbout(side, from, to)
  if (!lines) return null
  const [start, end] = lines
  const places = waysBetween(start, end, step)
  if (!places) return null
  const outPoints: number[] = []
  const outSd: number[] = []
  let found = 0
  let asked = 0
  for (const place of places) {
    const edge = place.blind ? null : edgeAcross(raster, place, turn, blur)
    if (!place.blind) asked++
    if (edge) found++
    const { x, y } = edge ?? place
    outPoints.push(x, y)
    outSd.push(edge?.sd ?? Infinity)
  }
  const seen = found >= LEAST_FOUND && found >= FOUND_SHARE * asked
  const near = asked < LEAST_FOUND && Math.hypot(end.x - start.x, end.y - start.y) < NEAR_PX
  return seen || near ? { points: outPoints, sd: outSd } : null
}

/** Places from one line's end to the other's beginning: over the corner in which they meet, or straight on. */
function waysBetween(a: Line, b: Line, step: number): Place[] | null {
  const cross = a.dx * b.dy - a.dy * b.dx
  const angle = Math.atan2(Math.abs(cross), a.dx * b.dx + a.dy * b.dy)
  if (angle < CORNER) return smoothBetween(a, b, step).map((place) => ({ ...place, blind: false }))
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
