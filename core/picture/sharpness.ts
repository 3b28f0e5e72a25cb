import { upperMedian } from '../upper-median'
import type { Plane, Raster } from './raster'

/** How sharp an edge each cell of a reduced picture holds, 0..1: steps across x, and steps across y. */
export interface Sharpness {
  x: Plane
  y: Plane
}

/** The picture is averaged to about this many px for one reduced px before it is searched for steps. */
const FINE = 3
/** Cells of a block that share one noise. */
const BLOCK = 12
/** A step counts from this many times the usual response of its neighbourhood on, and fully from there plus this. */
const FROM = 1.8
const FULL = 6
/** No neighbourhood is quieter than this, quarters of 8-bit steps. */
const LEAST_NOISE = 2

/**
 * Steps in lightness and in red against blue, by a filter that a steady slope doesn't answer: the soft edge of a shadow is
 * a slope at this fineness, the edge of a thing is a step. Against the usual response nearby, so that brick and cloth
 * must show more than plain paper.
 */
export function sharpness(raster: Raster, factor: number): Sharpness {
  const bin = Math.max(1, Math.round(factor / FINE))
  const fineWidth = Math.floor(raster.width / bin)
  const fineHeight = Math.floor(raster.height / bin)
  const channels = fineChannels(raster, bin, fineWidth, fineHeight)
  const width = Math.floor(raster.width / factor)
  const height = Math.floor(raster.height / factor)
  const pool = (dx: 0 | 1, dy: 0 | 1): Plane => {
    const out = new Float32Array(width * height)
    for (const channel of channels)
      poolSteps(channel, fineWidth, fineHeight, { dx, dy, out, width, height, scale: bin / factor })
    return againstNoise({ width, height, data: out }, channels.length * (factor / bin) ** 2)
  }
  return { x: pool(1, 0), y: pool(0, 1) }
}

/** Lightness (as encoded) and red minus blue, averaged over bins. */
function fineChannels({ width, data }: Raster, bin: number, w: number, h: number): Float32Array[] {
  const light = new Float32Array(w * h)
  const hue = new Float32Array(w * h)
  const per = 1 / (bin * bin)
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      let red = 0
      let green = 0
      let blue = 0
      for (let j = 0; j < bin; j++) {
        let i = 4 * ((y * bin + j) * width + x * bin)
        for (let k = 0; k < bin; k++, i += 4) {
          red += data[i]!
          green += data[i + 1]!
          blue += data[i + 2]!
        }
      }
      light[y * w + x] = ((2 * red + 5 * green + blue) * per) / 8
      hue[y * w + x] = 0.6 * per * (red - blue)
    }
  }
  return [light, hue]
}

/** A step less its slope, over three places on either side (least squares; see `edgeBand`). */
const TAPS = [4 / 7, 1 / 7, -2 / 7] as const

interface Pooling {
  dx: 0 | 1
  dy: 0 | 1
  /** Strongest response of each cell so far. */
  out: Float32Array
  width: number
  height: number
  /** Cells for one px. */
  scale: number
}

function poolSteps(
  channel: Float32Array,
  fineWidth: number,
  fineHeight: number,
  { dx, dy, out, width, height, scale }: Pooling,
): void {
  const step = dx + dy * fineWidth
  // Averaged along the edge, which halves the noise.
  const side = dy + dx * fineWidth
  const [a, b, c] = TAPS
  const steps = new Float32Array(channel.length)
  const from = 3 * step
  for (let i = from; i < channel.length - from; i++)
    steps[i] =
      a * (channel[i + step]! - channel[i - step]!) +
      b * (channel[i + 2 * step]! - channel[i - 2 * step]!) +
      c * (channel[i + 3 * step]! - channel[i - 3 * step]!)
  const columns = Int32Array.from({ length: fineWidth }, (_, x) => Math.floor((x + 0.5) * scale))
  let end = fineWidth - 3
  while (end > 0 && columns[end - 1]! >= width) end--
  for (let y = 3; y < fineHeight - 3; y++) {
    const row = Math.floor((y + 0.5) * scale)
    if (row >= height) break
    for (let x = 3; x < end; x++) {
      const i = y * fineWidth + x
      const response = Math.abs(2 * steps[i]! + steps[i - side]! + steps[i + side]!)
      const at = row * width + columns[x]!
      if (response > out[at]!) out[at] = response
    }
  }
}

/** @param pooled how many responses each value is the strongest of */
function againstNoise({ width, height, data }: Plane, pooled: number): Plane {
  // The usual strongest of few lies lower than that of many; both are taken to that of eighteen.
  const usual = (n: number) => 0.67 + 0.5 * Math.log(n)
  const raised = usual(18) / usual(pooled)
  const columns = Math.max(1, Math.ceil(width / BLOCK))
  const rows = Math.max(1, Math.ceil(height / BLOCK))
  const noise = new Float32Array(columns * rows)
  const values = new Float32Array((2 * BLOCK) ** 2)
  for (let by = 0; by < rows; by++)
    for (let bx = 0; bx < columns; bx++) {
      let count = 0
      // Half a block more on every side; every other px will do.
      for (let y = Math.max(0, (by - 0.5) * BLOCK); y < Math.min(height, (by + 1.5) * BLOCK); y += 2)
        for (let x = Math.max(0, (bx - 0.5) * BLOCK); x < Math.min(width, (bx + 1.5) * BLOCK); x += 2)
          values[count++] = data[y * width + x]!
      const usually = upperMedian(values.subarray(0, count))
      noise[by * columns + bx] = Math.max(LEAST_NOISE, raised * usually)
    }
  const out = new Float32Array(data.length)
  for (let y = 0, i = 0; y < height; y++) {
    const blocks = noise.subarray(Math.floor(y / BLOCK) * columns)
    for (let x = 0; x < width; x++, i++) {
      const n = blocks[Math.floor(x / BLOCK)]!
      out[i] = Math.max(0, Math.min(1, (data[i]! / n - FROM) / FULL))
    }
  }
  return { width, height, data: out }
}
