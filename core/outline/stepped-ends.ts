import type { Raster } from '../picture/raster'
import { inAxis, type AxisLine } from './axis-line'
import { ARC_STEP, FOLLOWED, fallOf, gainOf, GAP_PX, levelOf, openClosedBy, type Ellipse } from './close-half'
import { fromEnd, outermost, straightSide, type SideView } from './end-view'
import { LEAST_HALF_PX, LEAST_WINDOW_PX, MOST_RISE } from './end-width'
import { closingSeen, type OutlineEnd } from './open-ends'
import type { OutlineSide } from './refine'

/** A way that turns back towards the axis by more than this, px, has passed the end's corner. */
const BACK_PX = 6
/** Fewer places than this tell nothing. */
const LEAST_PLACES = 10
/** Places lie on a ring that are no farther from it than this, px; of a way that follows one no fewer than this share do. */
const ON_RING_PX = 2.5
const MOSTLY = 0.7
/** Rings tried: half-widths, as shares of the end's, and heights up to the most that is seen of one. */
const WIDTHS = [1.1, 1.03, 0.97, 0.9]
const RISES = 40

/** An end whose way follows no ring, but jumps from line to line. */
export interface SteppedEnd {
  /** Its half-width, px. */
  wide: number
  /** Share of its points that show an edge. */
  seen: number
}

/**
 * What is known of an end which a way closes that follows no ring, but jumps: along the checks of a cloth, say, from one to the next; or
 * along steps of the piece itself.
 * @returns null where the way follows a ring, or is too short to tell
 */
export function steppedEnd(
  sides: readonly OutlineSide[],
  axis: AxisLine,
  end: OutlineEnd,
): SteppedEnd | null {
  const flat = sides.map(({ points }, k) =>
    closingPart(fromEnd(inAxis(points, axis, k === 0), end === 'foot')),
  )
  const wide = Math.min(...flat.map((places) => places.reduce((most, [u]) => Math.max(most, u), 0)))
  const places = flat.flat().filter(([u]) => u < FOLLOWED * wide)
  if (wide < LEAST_HALF_PX || places.length < LEAST_PLACES) return null
  if (mostOnRing(places, wide) >= MOSTLY) return null
  const { seen, all } = closingSeen(sides, end)
  return { wide, seen: seen / Math.max(1, all) }
}

type Place = readonly [u: number, v: number]

/** The places of a half, as seen from an end, from the axis to the corner. */
function closingPart(half: Float64Array): Place[] {
  const end = outermost(half)
  const places: Place[] = []
  let most = 0
  for (let i = 0; i < half.length; i += 2) {
    const [u, v] = [half[i]!, half[i + 1]!]
    if (end - v > Math.max(LEAST_WINDOW_PX, MOST_RISE * u) || u < most - BACK_PX) break
    most = Math.max(most, u)
    places.push([u, v])
  }
  return places
}

/** The largest share of places that lie on one ring. */
function mostOnRing(places: readonly Place[], wide: number): number {
  let most = 0
  for (const share of WIDTHS)
    for (let k = 0; k <= RISES; k++) {
      const b = (k / RISES) * MOST_RISE * wide
      // Where the tip lies of a ring on which a place is: those of one ring lie near to each other.
      const tips = Float64Array.from(
        places,
        ([u, v]) => v + b * fallOf(Math.min(1, u / (share * wide))),
      ).sort()
      let from = 0
      tips.forEach((tip, i) => {
        while (tip - tips[from]! > 2 * ON_RING_PX) from++
        most = Math.max(most, i + 1 - from)
      })
    }
  return most / places.length
}

/** Corners that lines of the floor tore off may lie so far from the end, of the ring's half-width. */
const CORNERS = [0.12, 0.25, 0.5, 0.8]
/** A side that no line tore off goes on from so little before the place where it is. */
const BEFORE = 0.02
/** A ring in the shade of what stands on it shows less of an edge than the floor's lines, but not so much less. */
const LESS_SHOWN = 0.35

/**
 * Both halves of an end that jumps along lines of the floor, with their sides led on up to a ring, straight or round a corner; null where
 * that shows much less of an edge.
 * @param step distance of the points, px
 */
export function closedStepped(
  raster: Raster,
  halves: readonly Float64Array[],
  ring: Ellipse,
  { step, ...about }: Omit<SideView, 'left'> & { step: number },
): Float64Array[] | null {
  const led = halves.map((half, k) => {
    const view = { ...about, left: k === 0 }
    const ways = cornersOf(half, ring).flatMap((corner) => [
      ledStraight(half, ring, corner),
      ledRound(half, ring, corner),
    ])
    return ways
      .filter((way) => way !== half)
      .map((way) => ({ way, gain: gainOf(raster, way, half, { view, step }) }))
      .reduce((p, q) => (q.gain > p.gain ? q : p), { way: half, gain: -LESS_SHOWN })
  })
  return led.some(({ way }, k) => way === halves[k]) ? null : led.map(({ way }) => way)
}

/**
 * Where a side may have been torn off by lines of the floor, distances from the end in half-widths of the ring: nothing that reaches
 * beyond the ring is the piece's, since all its rings are seen as like ellipses, of which the foot's is the outermost; nor is what flares on
 * the way there.
 */
function cornersOf(half: Float64Array, ring: Ellipse): number[] {
  const { a } = ring
  const end = outermost(half)
  let safe = end
  let from = 0
  for (let i = 0; i < half.length; i += 2) {
    if (!isBeyond(half, i, ring) || half[i + 1]! > safe) continue
    safe = half[i + 1]!
    from = i
  }
  const most = CORNERS.at(-1)! * a
  while (from + 2 < half.length && half[from + 2]! <= half[from]! && end - half[from + 3]! < most) from += 2
  const least = safe < end ? (end - Math.min(safe, half[from + 1]!)) / a : 0
  return [least + BEFORE, ...CORNERS.filter((corner) => corner > least)]
}

/** Whether a place beside a ring reaches beyond it. */
const isBeyond = (half: Float64Array, i: number, { tip, a, b }: Ellipse) =>
  half[i]! > FOLLOWED * a && half[i + 1]! + (b * half[i]!) / a > tip + GAP_PX

/** A side meets a ring that is no narrower than this share of it. */
const MEETS = 0.94

/** The half with its side led straight on up to a ring; as it was where it passes that by. */
function ledStraight(half: Float64Array, ring: Ellipse, corner: number): Float64Array {
  const side = straightSide(half, ring.a, corner)
  return side && MEETS * side.sideAt(ring.tip - ring.b) <= ring.a ? openClosedBy(half, ring, corner) : half
}

/** A ring is left for a rounded corner so far aside, of its half-width, which rises by so much of how far it reaches aside at least; and so many places tell that. */
const LEFT_AT = 0.8
const ROUND_RISE = 0.3
const ROUND_PLACES = 20

/** The half with its side led on round a corner that touches it and the ring (a parabola); as it was where there is none. */
function ledRound(half: Float64Array, ring: Ellipse, corner: number): Float64Array {
  const side = straightSide(half, ring.a, corner)
  if (!side) return half
  const [su, sv] = [half[side.from]!, half[side.from + 1]!]
  const lean = side.sideAt(sv + 1) - su
  const [ru, rv] = [LEFT_AT * ring.a, levelOf(ring, LEFT_AT * ring.a)]
  const slope = ((-ring.b / ring.a) * LEFT_AT) / Math.sqrt(1 - LEFT_AT ** 2)
  // Where the ring's tangent and the side meet.
  const v = (rv + slope * (su - lean * sv - ru)) / (1 - slope * lean)
  const u = su + lean * (v - sv)
  if (!(u > ru && v - sv >= ROUND_RISE * (u - ru))) return half
  const out: number[] = []
  for (let t = 0; t < LEFT_AT; t += ARC_STEP) out.push(t * ring.a, levelOf(ring, t * ring.a))
  for (let k = 0; k <= ROUND_PLACES; k++) {
    const t = k / ROUND_PLACES
    const [p, q, r] = [(1 - t) ** 2, 2 * t * (1 - t), t ** 2]
    out.push(p * ru + q * u + r * su, p * rv + q * v + r * sv)
  }
  return Float64Array.from([...out, ...half.subarray(side.from + 2)])
}
