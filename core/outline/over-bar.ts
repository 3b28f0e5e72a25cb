import type { Raster } from '../picture/raster'
import { placeAt } from './axis-line'
import { SOFT_PX } from './bar-strip'
import type { BarBefore } from './bars-before'

/** The floor on either side of a bar is compared over so many px, and so many half px along it; steps larger than so many codes are the piece's. */
const EDGE_PX = 4
const ALONG = 8
const MOST_STEP_CODES = 24

/** A copy of a picture in which the floor before a bar is led over it: what lies as far beyond its outer edge as each place within. */
export function withoutBar(
  { width, height, data }: Raster,
  { line, inwards, ends, starts, low, high }: BarBefore,
): Raster {
  const out = Uint8Array.from(data)
  const [from, to] = [ends - SOFT_PX, starts + SOFT_PX]
  const at = (u: number, v: number) => {
    const { x, y } = placeAt(line, inwards * u, v)
    const [i, j] = [Math.floor(x), Math.floor(y)]
    return i >= 0 && j >= 0 && i < width && j < height ? j * width + i : -1
  }
  const columns = Math.round(2 * (high - low)) + 1
  // By how much the floor behind the bar is lighter than that before it; where the piece stands behind it that isn't known.
  const steps = Array.from({ length: columns }, (_, k) => {
    const v = low + k / 2
    const [behind, before] = [1, -1].map((side) => meanCodes(data, Array.from({ length: EDGE_PX }, (_, j) => (side > 0 ? at(to + 1 + j, v) : at(2 * from - to - 1 + j, v))))) // prettier-ignore
    const step = behind!.map((c, j) => c - before![j]!)
    return step.every((c) => Math.abs(c) <= MOST_STEP_CODES) ? step : null
  })
  for (let k = 0; k < columns; k++) {
    const v = low + k / 2
    const near = steps.slice(Math.max(0, k - ALONG), k + ALONG + 1).filter((step) => step !== null)
    const step = steps[k]
      ? [0, 1, 2].map((c) => near.reduce((sum, each) => sum + each[c]!, 0) / near.length)
      : [0, 0, 0]
    for (let u = from; u <= to; u += 0.5) {
      const [i, floor] = [at(u, v), at(2 * from - u, v)]
      if (i < 0 || floor < 0) continue
      const share = (u - from) / (to - from)
      for (let c = 0; c < 3; c++)
        out[4 * i + c] = Math.max(0, Math.min(255, Math.round(data[4 * floor + c]! + share * step[c]!)))
    }
  }
  return { width, height, data: out }
}

function meanCodes(data: ArrayLike<number>, pixels: readonly number[]): [number, number, number] {
  const inside = pixels.filter((i) => i >= 0)
  return [0, 1, 2].map(
    (c) => inside.reduce((sum, i) => sum + data[4 * i + c]!, 0) / Math.max(1, inside.length),
  ) as [number, number, number]
}
