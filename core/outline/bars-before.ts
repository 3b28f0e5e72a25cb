import type { Plane, Raster } from '../picture/raster'
import type { Sharpness } from '../picture/sharpness'
import { acrossAxis, alongAxis, placeAt } from './axis-line'
import { clearestStrip, SOFT_PX, endOfStrip, type Strip, type Way } from './bar-strip'
import type { Beside } from './beside'
import type { Candidate } from './candidate'
import { scaledAxis } from './guides'
import { rowsOf, type Silhouette } from './silhouette'
import { straightEdges, type StraightEdge } from './straight-edges'

/** What was found reaches an edge of the bar to within this, px, or beyond it by no more than that: a bar that lies is seen foreshortened. */
const NEAR_PX = 3
const MOST_DEEP_PX = 24
/** The piece is as wide as in the middle one of rows so far from the edge, px. */
const ABOVE_PX = [8, 40] as const
/** A bar reaches beyond the piece by so much of its half-width on one side. */
const WIDER = 1.08
/** A place on an edge shows one this sharp within so many px, over this share of the way before the piece, … */
const LEAST_EDGE = 0.2
const ON_PX = 1.5
const SHOWN = 0.6
/** … which is asked within this share of its half-width. */
const BEFORE = 0.8
/** Ways beside the piece along which the bar is asked are so many px long at least. */
const LEAST_WAY_PX = 8
/** It reaches so far beyond what is seen of it, px, and so many columns of marks at least lie on it, to within that. */
const ENDS_PX = 2
const LEAST_MARKS = 2

/** A straight bar across the picture, px of the picture itself. */
export interface BarBefore extends Strip, Pick<Beside, 'inwards' | 'low' | 'high'> {}

/**
 * A straight bar, mostly a ruler, that lies on the floor before the piece, so close to its foot that it was taken for a part of it: a long
 * edge across runs on before the piece and beside it, along a strip unlike the floor on either side, and marks stand on that. Null where
 * there is none.
 * @param factor px of the picture for one of the reduced one, in which the edges and the candidate are told
 * @param marksOf how far to the right of an edge marks stand at even distances, px of the picture
 */
export function barBefore(
  raster: Raster,
  factor: number,
  sharp: Sharpness,
  { axis, silhouette }: Candidate,
  marksOf: (edge: StraightEdge) => readonly number[],
): BarBefore | null {
  if (!silhouette) return null
  const upright = Math.abs(axis.up.y) > Math.abs(axis.up.x)
  const plane = upright ? sharp.y : sharp.x
  for (const edge of straightEdges(plane, !upright)) {
    const before = beforeFoot(edge, { ...silhouette, axis })
    if (!before) continue
    const { inwards, wide, crossing } = before
    const { line, low, high } = edge
    if (Math.max(crossing - low, high - crossing) < WIDER * wide) continue
    if (shownAlong(plane, edge, crossing - BEFORE * wide, crossing + BEFORE * wide) < SHOWN) continue
    const beside: Way[] = [[low, crossing - WIDER * wide], [crossing + WIDER * wide, high]] // prettier-ignore
    const ways = beside.filter(([from, to]) => to - from >= LEAST_WAY_PX)
    const full = ways.map(([from, to]): Way => [factor * from, factor * to])
    const strip = clearestStrip(raster, scaledAxis(line, factor), inwards, full, factor)
    if (!strip) continue
    const slack = ENDS_PX * factor
    const isOnStrip = (u: number) => inwards * u >= strip.ends - slack && inwards * u <= strip.starts + slack
    // Shadows and joints have two sides as well, and plates are parts of the piece.
    if (marksOf(edge).filter(isOnStrip).length < LEAST_MARKS) continue
    // An edge may be told over a part of its way only.
    const endOf = (towards: 1 | -1) =>
      endOfStrip(raster, strip, inwards, [factor * (crossing + towards * WIDER * wide), towards], factor)
    return { ...strip, inwards, low: endOf(-1) - slack, high: endOf(1) + slack }
  }
  return null
}

/** Where an edge across runs close to a silhouette's foot, or through it near its end. */
interface EdgeBefore extends Pick<Beside, 'inwards'> {
  /** The piece's half-width above it, and where its axis crosses it, along the edge. */
  wide: number
  crossing: number
}

function beforeFoot({ line }: StraightEdge, { axis, top, half }: Silhouette): EdgeBefore | null {
  const [first, last] = rowsOf({ half })
  const footAt = top - last
  const inwards = acrossAxis(line, placeAt(axis, 0, (footAt + top - first) / 2)) > 0 ? 1 : -1
  // How far the foot lies beyond the edge.
  const deep = -inwards * acrossAxis(line, placeAt(axis, 0, footAt))
  if (deep < -NEAR_PX || deep > MOST_DEEP_PX) return null
  const row = Math.round(last - deep)
  const [near, far] = ABOVE_PX.map((px) => Math.max(first, row - px)) as [number, number]
  const rows = half.slice(far, near).sort()
  const wide = rows[rows.length >> 1] ?? 0
  return wide > 0 ? { inwards, wide, crossing: alongAxis(line, placeAt(axis, 0, footAt + deep)) } : null
}

/** The same in a picture so many times as large. */
export const scaledBar = (
  { line, ends, starts, low, high, ...bar }: BarBefore,
  times: number,
): BarBefore => ({
  ...bar,
  line: scaledAxis(line, times),
  ends: times * ends,
  starts: times * starts,
  low: times * low,
  high: times * high,
})

/** All from the inner side of a bar on, reduced px. */
export function besideOfBar({ line, inwards, starts, low, high }: BarBefore, factor: number): Beside {
  const { at, up } = scaledAxis(
    { at: placeAt(line, inwards * (starts + SOFT_PX), 0), up: line.up },
    1 / factor,
  )
  return { line: { at, up }, inwards, low: low / factor, high: high / factor }
}

/** Share of the way along an edge that shows one. */
function shownAlong(
  { width, height, data }: Plane,
  { line }: StraightEdge,
  from: number,
  to: number,
): number {
  let shown = 0
  let count = 0
  for (let v = from; v < to; v++) {
    count++
    const most = [-1, -0.5, 0, 0.5, 1].map((k) => {
      const { x, y } = placeAt(line, k * ON_PX, v)
      const [i, j] = [Math.floor(x), Math.floor(y)]
      return i >= 0 && j >= 0 && i < width && j < height ? data[j * width + i]! : 0
    })
    if (Math.max(...most) >= LEAST_EDGE) shown++
  }
  return shown / Math.max(1, count)
}
