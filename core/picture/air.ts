import { pixelsOf, type Raster } from './raster'

/** What is laid about a picture are its own outermost px, to and fro, so many each way: one alone would lead its noise on as lines. */
const DEEPEST = 3
/** In small pictures, whose piece may be nearer than that, one in so many px along. */
const DEEP_PER = 400

/** How deep within the picture what is laid so far outside of it lies: 0 1 2 1 0 1 2 … */
function depthOf(outside: number, deep: number): number {
  const period = Math.max(1, 2 * deep - 2)
  const k = (outside - 1) % period
  return Math.min(k, period - k, deep - 1)
}

/** Where along a line of so many px, to which so many are added at either end, each px of the longer line comes from. */
const sourcesOf = (length: number, air: number, deep: number) =>
  Int32Array.from({ length: length + 2 * air }, (_, i) => {
    const at = i - air
    if (at < 0) return Math.min(length - 1, depthOf(-at, deep))
    return at < length ? at : Math.max(0, length - 1 - depthOf(at - length + 1, deep))
  })

/**
 * A copy of a picture with so many px more on every side, in which its border goes on: its backdrop where that reaches the border, and what the
 * border cuts off, too.
 */
export function withAir({ width, height, data }: Raster, air: number): Raster {
  const [w, h] = [width + 2 * air, height + 2 * air]
  const from = pixelsOf(data)
  const to = new Int32Array(w * h)
  const deep = Math.max(1, Math.min(DEEPEST, Math.floor(Math.max(width, height) / DEEP_PER)))
  const columns = sourcesOf(width, air, deep)
  const rows = sourcesOf(height, air, deep)
  for (let y = 0; y < h; y++) {
    const row = rows[y]! * width
    for (let x = 0; x < w; x++) to[y * w + x] = from[row + columns[x]!]!
  }
  return { width: w, height: h, data: new Uint8Array(to.buffer) }
}

/** A copy of a cut-out with so many px more on every side, in which nothing is. */
export function withClearAir({ width, height, data }: Raster, air: number): Raster {
  const [w, h] = [width + 2 * air, height + 2 * air]
  const out = new Uint8Array(4 * w * h)
  for (let y = 0; y < height; y++)
    out.set(data.subarray(4 * y * width, 4 * (y + 1) * width), 4 * ((y + air) * w + air))
  return { width: w, height: h, data: out }
}
