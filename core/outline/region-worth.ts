import type { Raster } from '../picture/raster'
import { toOklab } from '../picture/reduce'
import { addLight } from '../picture/sample'
import type { EdgeBand } from './edge-band'
import { speaksForPiece, type Backdrop } from './evidence'

/** What it costs to leave piece outside. */
const OUTSIDE = Number(process.env.RW_OUT ?? 2)
/** Looked at from so many blurs beyond the edge, over so many px. */
const GAP_BLURS = 1.5
const LOOK_PX = Number(process.env.RW_PX ?? 4)

export interface BandedChain {
  points: Float64Array
  normals: Float64Array
  band: EdgeBand
}

/**
 * What an edge at each place of two mirrored bands is worth by what lies on either side of it before a plain backdrop: nothing
 * beyond the outline may look unlike the backdrop and its shadows on both sides alike. A line drawn on the piece is as sharp as its
 * edge; this tells them apart.
 */
export function regionWorth(raster: Raster, sides: readonly BandedChain[], backdrop: Backdrop, blur: number): Float32Array {
  const { places, step } = sides[0]!.band
  const [one, other] = sides.map((side) => likenessAlong(raster, side, backdrop)) as [Float32Array, Float32Array?]
  const count = Math.max(one.length, other?.length ?? 0) / places
  const out = new Float32Array(count * places)
  const from = Math.ceil((GAP_BLURS * blur + 0.5) / step)
  const to = from + Math.round(LOOK_PX / step)
  for (let i = 0; i < count; i++)
    for (let k = 0; k < places; k++) {
      let sum = 0
      for (let j = k + from; j < k + to; j++) {
        const at = i * places + Math.min(j, places - 1)
        // Handles and shadows stand on one side only.
        sum += Math.max(0, Math.min(one[at] ?? 1, other?.[at] ?? 1))
      }
      out[i * places + k] = (-OUTSIDE * sum) / (to - from)
    }
  return out
}

/** How much each place of a band speaks for the piece. */
function likenessAlong(raster: Raster, { points, normals, band }: BandedChain, backdrop: Backdrop): Float32Array {
  const { count, places, step } = band
  const out = new Float32Array(count * places)
  const light = new Float32Array(3 * places)
  const half = (places - 1) / 2
  const [l, a, b] = [new Float32Array(1), new Float32Array(1), new Float32Array(1)]
  for (let i = 0; i < count; i++) {
    const [dx, dy] = [step * normals[2 * i]!, step * normals[2 * i + 1]!]
    const [x, y] = [points[2 * i]! - half * dx, points[2 * i + 1]! - half * dy]
    light.fill(0)
    addLight(raster, { x, y, dx, dy, count: places }, light)
    for (let k = 0; k < places; k++) {
      toOklab(light[k]!, light[places + k]!, light[2 * places + k]!, 0, l, a, b)
      out[i * places + k] = speaksForPiece(backdrop, x + k * dx, y + k * dy, l[0]!, a[0]!, b[0]!)
    }
  }
  return out
}
