import type { PicturePoint } from '../conventions'
import type { Raster } from '../picture/raster'
import { inAxis, movedAxis, placeAt, type AxisLine } from './axis-line'
import { resample } from './chain'
import { inPicture } from './end-view'
import { mirroredFlank, placesAlong, STEP_PX, type Flank, type Place } from './flank-steps'
import type { OutlineSide } from './refine'

/** The flanks may be off by so much, as a share of the piece's length, and at least px. */
const REACH = 0.02
const LEAST_REACH_PX = 10
/** Both flanks agree within this, px. */
const AGREES_PX = 1.2
/** So many places of the flank at least must show its own edge within the stripe, and this share of a stretch. */
const LEAST_PLACES = 12
const LEAST_SHARE = 0.2
/** The flanks agree better by so much of all places, and over so much of them: else the upper one is wrong itself. */
const AGREES_MORE = 0.02
const MOSTLY = 0.5
/** The lower flank's lean against the mirrored one, px from its middle to its ends, is tried up to this, in such steps. */
const MOST_LEAN_PX = 4
const LEAN_STEP_PX = 0.5
/** Gaps between stretches in the shade no longer than this, points, are in it, too. */
const MOST_GAP = 6

/** Sides of which the lower one leaves its contact shadow. */
export interface OutOfShade {
  chains: [Float64Array, Float64Array]
  /** True for places of the piece's own edge there: points stay on it, or nearly so. */
  on: (p: PicturePoint) => boolean
}

/**
 * A piece that lies on its side touches the floor along its lower flank. The thin stripe of shadow there is darker than the piece
 * above and than the floor below, whose edge is the clearer one, so that the outline follows the shadow's border, a few px off. Where
 * the lower flank's own edge (lighter within, darker beyond) mirrors the upper flank much better than what was found does, it takes
 * its place. The two may be off by a shift and a lean, since the axis was drawn aside as well.
 * @param step distance of the points, px
 * @returns null where nothing lies in such a shade
 */
export function outOfContactShade(
  raster: Raster,
  sides: readonly [OutlineSide, OutlineSide],
  axis: AxisLine,
  { blur, step }: { blur: number; step: number },
): OutOfShade | null {
  if (Math.abs(axis.up.x) <= Math.abs(axis.up.y)) return null
  // Right of an axis that runs to the right is down.
  const lower = axis.up.x > 0 ? 1 : 0
  const left = lower === 0
  let about = axis
  const rounds: Round[] = []
  for (let k = 0; k <= ROUNDS; k++) {
    const round = roundAbout(raster, sides, about, { left, blur })
    const inStripe = round?.places.filter(({ edges }) => edges.length > 0) ?? []
    if (!round || inStripe.length < LEAST_PLACES) return null
    rounds.push(round)
    if (k < ROUNDS) about = leaning(about, round, left)
  }
  const { own, edge, places, inShade } = rounds.at(-1)!
  const asFound = Math.max(...rounds.map(({ asFound }) => asFound.agreeing))
  const least = Math.max(asFound + AGREES_MORE * places.length, MOSTLY * places.length)
  if (inShade.agreeing < least) return null
  const shaded = new Set(
    places.filter(({ found, edges }) => found > AGREES_PX && edges.some((e) => Math.abs(e) <= AGREES_PX)).map(({ index }) => index), // prettier-ignore
  )
  if (shaded.size < LEAST_PLACES) return null
  const led = ledOutOf(own, edge.points, shaded)
  if (!led) return null
  const chain = resample(inPicture(led.chain, about, left), step)
  const replaced = inPicture(led.replaced, about, left)
  const chains = sides.map(({ points }, k) => (k === lower ? chain : points))
  return { chains: chains as [Float64Array, Float64Array], on: near(replaced) }
}

/** The axis is bettered so many times. */
const ROUNDS = 3

interface Round {
  /** The lower side as it was found. */
  own: Float64Array
  edge: Flank
  places: Place[]
  asFound: Agreement
  inShade: Agreement
}

function roundAbout(
  raster: Raster,
  sides: readonly [OutlineSide, OutlineSide],
  axis: AxisLine,
  { left, blur }: { left: boolean; blur: number },
): Round | null {
  const own = inAxis(sides[left ? 0 : 1].points, axis, left)
  const edge = mirroredFlank(sides[left ? 1 : 0], axis, !left)
  const reach = Math.max(LEAST_REACH_PX, REACH * lengthOf(own))
  const places = placesAlong(raster, edge, own, { axis, left, reach, blur })
  if (places.length < LEAST_PLACES) return null
  const asFound = bestLine(places, own, reach, ({ found }) => [found])
  const inShade = bestLine(places, own, reach, ({ found, edges }) => [found, ...edges])
  return { own, edge, places, asFound, inShade }
}

const lengthOf = (chain: Float64Array) => Math.abs(chain.at(-1)! - chain[1]!)

/** The axis moved half as far as the flanks are off. */
function leaning(axis: AxisLine, { own, inShade: { shift, lean } }: Round, left: boolean): AxisLine {
  const half = lengthOf(own) / 2
  const sign = left ? -1 : 1
  const middle = placeAt(axis, 0, own[1]! + half)
  return movedAxis({ at: middle, up: axis.up }, (sign * shift) / 2, (sign * lean) / 2 / half)
}

interface Agreement {
  shift: number
  lean: number
  agreeing: number
}

/** The line on which most places have one of their candidates. */
function bestLine(
  places: readonly Place[],
  own: Float64Array,
  reach: number,
  candidates: (place: Place) => readonly number[],
): Agreement {
  const half = lengthOf(own) / 2
  const middle = own[1]! + half
  let best = { shift: 0, lean: 0, agreeing: -Infinity }
  const all = places.map((place) => ({ v: place.v, at: candidates(place) }))
  for (let lean = -MOST_LEAN_PX; lean <= MOST_LEAN_PX; lean += LEAN_STEP_PX) {
    const off = all.map(({ v, at }) => at.map((a) => a - (lean * (v - middle)) / half))
    for (let shift = -reach; shift <= reach; shift += STEP_PX) {
      let agreeing = 0
      for (const each of off) {
        let most = 0
        for (const a of each) most = Math.max(most, 1 - ((a - shift) / AGREES_PX) ** 2)
        agreeing += most
      }
      if (agreeing > best.agreeing) best = { shift, lean, agreeing }
    }
  }
  return best
}

/** The way found with its stretches outside of the flank's own edge replaced by that, where most of a stretch lies in the shade. */
function ledOutOf(
  way: Float64Array,
  edge: Float64Array,
  shaded: ReadonlySet<number>,
): { chain: Float64Array; replaced: Float64Array } | null {
  const n = way.length / 2
  const nearest = Array.from({ length: n }, (_, i) => nearestOn(edge, way[2 * i]!, way[2 * i + 1]!))
  const chain: number[] = []
  const replaced: number[] = []
  for (let i = 0; i < n;) {
    if (nearest[i]!.off <= AGREES_PX) {
      chain.push(way[2 * i]!, way[2 * i + 1]!)
      i++
      continue
    }
    let to = i + 1
    for (let k = to; k < n && k - to < MOST_GAP; k++) if (nearest[k]!.off > AGREES_PX) to = k + 1
    const [first, last] = [
      i === 0 ? 0 : nearest[i - 1]!.index + 1,
      to >= n ? edge.length / 2 : nearest[to]!.index,
    ]
    let count = 0
    for (let k = first; k < last; k++) if (shaded.has(k)) count++
    if (count >= LEAST_SHARE * (last - first) && last > first) {
      const part = edge.subarray(2 * first, 2 * last)
      chain.push(...part)
      replaced.push(...part)
    } else chain.push(...way.subarray(2 * i, 2 * to))
    i = to
  }
  return replaced.length > 0
    ? { chain: Float64Array.from(chain), replaced: Float64Array.from(replaced) }
    : null
}

/** The nearest point of a chain, and how far outside of the chain (right of the way, v upwards) a place lies there, px. */
function nearestOn(chain: Float64Array, u: number, v: number): { index: number; off: number } {
  let best = Infinity
  let index = 0
  for (let i = 0; i < chain.length; i += 2) {
    const d = (chain[i]! - u) ** 2 + (chain[i + 1]! - v) ** 2
    if (d < best) [best, index] = [d, i / 2]
  }
  const [a, b] = [Math.max(0, index - 1), Math.min(chain.length / 2 - 1, index + 1)]
  const [du, dv] = [chain[2 * b]! - chain[2 * a]!, chain[2 * b + 1]! - chain[2 * a + 1]!]
  const across = ((u - chain[2 * index]!) * dv - (v - chain[2 * index + 1]!) * du) / (Math.hypot(du, dv) || 1)
  return { index, off: across }
}

/** True for places within a px or two of points of a chain [x y ...]. */
function near(chain: Float64Array): (p: PicturePoint) => boolean {
  return ({ x, y }) => {
    for (let i = 0; i < chain.length; i += 2)
      if (Math.hypot(chain[i]! - x, chain[i + 1]! - y) <= 2 * AGREES_PX) return true
    return false
  }
}
