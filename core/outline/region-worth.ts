import type { Raster } from '../picture/raster'
import { toOklab } from '../picture/reduce'
import { addLight } from '../picture/sample'
import type { EdgeBand } from './edge-band'
import { speaksForPiece, type Backdrop } from './backdrop'
import type { ColourTable } from './colour-evidence'

/** What it costs to leave piece outside, and to take backdrop inside. */
const OUTSIDE = 6
const INSIDE = 2
/** Looked at from so many blurs beyond the edge, over so many px: farther off another part of the piece may stand. */
const GAP_BLURS = 1.5
const LOOK_PX = 4
/** A piece that looks unlike the backdrop over this share of what lies inside tells where backdrop was taken in, and fully so from there plus this. */
const DISTINCT = 0.6
const FULLY = 0.3
/** From this likeness on a place in the inner quarter of a band looks unlike the backdrop. */
const UNLIKE = 0.5
/** What lies within an edge surely looks like the backdrop up to this likeness. */
const LIKE = -0.5

/** A chain [x y ...], its normals and the steps along them. */
export interface BandedChain {
  points: Float64Array
  normals: Float64Array
  band: EdgeBand
}

/**
 * What an edge at each place of a band, or of two mirrored ones, is worth by what lies on either side of it before a plain
 * backdrop, or by what colours say before a textured one: nothing beyond the outline may look unlike the backdrop and its shadows on both sides alike, and what lies within may
 * not look like it, if the piece doesn't. A line drawn on the piece is as sharp as its edge; this tells them apart.
 * @returns 0 or less, for rows of places as in the longer band
 */
export function regionWorth(
  raster: Raster,
  sides: readonly BandedChain[],
  backdrop: Backdrop | ColourTable,
  blur: number,
): Float32Array {
  return worthByLikeness(sides[0]!.band, likenesses(raster, sides, backdrop), blur)
}

/** How much what lies from each place of a band on speaks for the piece, -1 to 1: rows of places for each chain. */
export function likenesses(
  raster: Raster,
  sides: readonly BandedChain[],
  backdrop: Backdrop | ColourTable,
): Float32Array[] {
  return sides.map((side) => likenessAlong(raster, side, backdrop, lookAt(side.band.step)))
}

/** Over how many places is looked. */
const lookAt = (step: number) => Math.round(LOOK_PX / step)

/** The places of a band from which on is looked beyond an edge at a place, and within it. */
function besideEdges({ places, step }: Pick<EdgeBand, 'places' | 'step'>, blur: number) {
  const look = lookAt(step)
  const gap = Math.ceil((GAP_BLURS * blur + 0.5) / step)
  return {
    beyond: (k: number) => Math.min(places - look, k + gap),
    within: (k: number) => Math.max(0, k - gap - look + 1),
  }
}

/** What `regionWorth` tells, by likenesses that are known already. @param each as `likenesses` gives them, for one chain or two mirrored ones */
export function worthByLikeness(
  band: Pick<EdgeBand, 'places' | 'step'>,
  each: readonly Float32Array[],
  blur: number,
): Float32Array {
  const { places } = band
  const { beyond: outside, within: inside } = besideEdges(band, blur)
  const [one, other = one] = each as [Float32Array, Float32Array?]
  const count = Math.max(one.length, other.length) / places
  const out = new Float32Array(count * places)
  const [p, q] = [one, other].map((side) => INSIDE * distinctness(side, places)) as [number, number]
  for (let i = 0; i < count; i++)
    for (let k = 0; k < places; k++) {
      const outer = i * places + outside(k)
      // Handles and shadows stand on one side only.
      const beyond = Math.max(0, Math.min(one[outer] ?? 1, other[outer] ?? 1))
      const inner = i * places + inside(k)
      const within = p * Math.min(0, one[inner] ?? 0) + q * Math.min(0, other[inner] ?? 0)
      out[i * places + k] = within / 2 - OUTSIDE * beyond
    }
  return out
}

/** 1 for the places just within which lies what surely looks like the backdrop: a line there is the backdrop's own. */
export function backdropWithin(
  band: Pick<EdgeBand, 'places' | 'step'>,
  likeness: Float32Array,
  blur: number,
): Uint8Array {
  const { within } = besideEdges(band, blur)
  return Uint8Array.from(likeness, (_, i) => {
    const k = i % band.places
    return likeness[i - k + within(k)]! < LIKE ? 1 : 0
  })
}

/** Where only colour tells the piece from its shadow it is looked at so near to the edge, px. */
const NEAR_LOOK_PX = 1.5
/** What it costs there to take the shadow inside. */
const SHADOW_INSIDE = 12

/**
 * Takes from the worth of a band's rows where the piece is known to part from its shadow by its colour alone: what lies just
 * within may not look like shadow there.
 */
export function leaveShadow(
  worth: Float32Array,
  raster: Raster,
  side: BandedChain,
  { backdrop, blur, parted }: { backdrop: Backdrop; blur: number; parted: (row: number) => boolean },
): void {
  const { count, places, step } = side.band
  const rows = Array.from({ length: count }, (_, i) => i).filter(parted)
  if (rows.length === 0) return
  const look = Math.round(NEAR_LOOK_PX / step)
  const gap = Math.ceil(blur / step)
  const likeness = likenessAlong(raster, side, backdrop, look)
  for (const i of rows)
    for (let k = 0; k < places; k++) {
      const inner = likeness[i * places + Math.max(0, k - gap - look + 1)]!
      worth[i * places + k]! -= SHADOW_INSIDE * (1 - Math.max(0, inner))
    }
}

/** How much unlike the backdrop the piece looks a little inside of its edge, 0 to 1. */
function distinctness(likeness: Float32Array, places: number): number {
  let sum = 0
  let count = 0
  for (let i = 0; i < likeness.length; i += places)
    for (let k = 0; k < places >> 2; k++) {
      sum += likeness[i + k]! > UNLIKE ? 1 : 0
      count++
    }
  return Math.max(0, Math.min(1, (sum / count - DISTINCT) / FULLY))
}

/** Rows averaged along the edge, px: with the look across, about as many px as the backdrop was read with. */
const ROWS = [-2.6, -1.3, 0, 1.3, 2.6]

/** How much the colour from each place of a band on, averaged over a look, speaks for the piece; single px are too noisy. */
export function likenessAlong(
  raster: Raster,
  { points, normals, band }: BandedChain,
  backdrop: Backdrop | ColourTable,
  look: number,
): Float32Array {
  const { count, places, step } = band
  const out = new Float32Array(count * places)
  const light = new Float32Array(3 * places)
  const half = (places - 1) / 2
  const [l, a, b] = [new Float32Array(1), new Float32Array(1), new Float32Array(1)]
  const per = 1 / (ROWS.length * look)
  for (let i = 0; i < count; i++) {
    const [dx, dy] = [step * normals[2 * i]!, step * normals[2 * i + 1]!]
    const [x, y] = [points[2 * i]! - half * dx, points[2 * i + 1]! - half * dy]
    light.fill(0)
    for (const t of ROWS)
      addLight(raster, { x: x - (t * dy) / step, y: y + (t * dx) / step, dx, dy, count: places }, light)
    let [red, green, blue] = [0, 0, 0]
    for (let k = places - 1; k >= 0; k--) {
      red += light[k]!
      green += light[places + k]!
      blue += light[2 * places + k]!
      if (k + look > places) continue
      if (k + look < places) {
        red -= light[k + look]!
        green -= light[places + k + look]!
        blue -= light[2 * places + k + look]!
      }
      toOklab(red * per, green * per, blue * per, 0, l, a, b)
      const middle = k + look / 2
      out[i * places + k] =
        typeof backdrop === 'function'
          ? backdrop(l[0]!, a[0]!, b[0]!)
          : speaksForPiece(backdrop, x + middle * dx, y + middle * dy, l[0]!, a[0]!, b[0]!)
    }
  }
  return out
}
