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
 * Steps in lightness and in two hues, by a filter that a steady slope doesn't answer: the soft edge of a shadow is
 * a slope at this fineness, the edge of a thing is a step. Against the usual response nearby, each by its own, so that brick and cloth
 * must show more than plain paper, and light more than hues, which waver less.
 */
export function sharpness(raster: Raster, factor: number): Sharpness {
  const bin = Math.max(1, Math.round(factor / FINE))
  const fine = fineChannels(raster, bin)
  const [width, height] = [Math.floor(raster.width / factor), Math.floor(raster.height / factor)]
  const apart = isSoft(fine, factor / bin) ? 2 : 1
  const channels = apart === 1 ? fine : { ...fine, planes: fine.planes.map((plane) => smoothed(plane, fine)) }
  const pool = (dx: 0 | 1, dy: 0 | 1): Plane => {
    const each = channels.planes.map((plane) => {
      const out = new Float32Array(width * height)
      poolSteps(plane, channels, { dx, dy, out, width, height, scale: bin / factor, apart })
      return againstNoise({ width, height, data: out }, 2 * Math.max(1, factor / bin / apart) ** 2).data
    })
    const [light, ...hues] = each as [Float32Array, ...Float32Array[]]
    const data = light.map((v, i) => hues.reduce((most, hue) => Math.max(most, hue[i]!), v))
    return { width, height, data }
  }
  return { x: pool(1, 0), y: pool(0, 1) }
}

/** Cells that show a step most clearly, as a share of all, and so many times the usual response, tell how soft a picture is. */
const CLEAREST = 0.015
const CLEARLY = 6
/** A blur of more than 1.2 px leaves less than this of what the filter answers to a step at twice its width. */
const SOFT = 0.5

/** True where the picture's edges spread over more px than the filter looks at: then it answers them at twice its width. */
function isSoft(fine: FineChannels, cell: number): boolean {
  const scale = 1 / Math.max(2, cell)
  const [width, height] = [Math.floor(fine.width * scale), Math.floor(fine.height * scale)]
  const light = fine.planes[0]!
  const strongest = (plane: Float32Array, apart: 1 | 2) => {
    const out = new Float32Array(width * height)
    for (const dx of [0, 1] as const)
      poolSteps(plane, fine, { dx, dy: dx === 0 ? 1 : 0, out, width, height, scale, apart })
    return out
  }
  const wide = strongest(smoothed(light, fine), 2)
  const narrow = strongest(light, 1)
  const sorted = wide.slice().sort()
  const least = Math.max(
    sorted[Math.floor((1 - CLEAREST) * sorted.length)]!,
    CLEARLY * sorted[sorted.length >> 1]!,
  )
  const shares = Float32Array.from(wide.keys())
    .filter((i) => wide[i]! >= least)
    .map((i) => narrow[i]! / wide[i]!)
  return shares.length > 0 && upperMedian(shares) < SOFT
}

/** What a difference of hues counts beside one of lightness. */
const HUE_SHARE = 0.6

/** Lightness (as encoded), red against blue and green against both, averaged over bins. */
interface FineChannels {
  width: number
  height: number
  planes: Float32Array[]
}

function fineChannels({ width, height, data }: Raster, bin: number): FineChannels {
  const [w, h] = [Math.floor(width / bin), Math.floor(height / bin)]
  const light = new Float32Array(w * h)
  const warm = new Float32Array(w * h)
  const green = new Float32Array(w * h)
  const per = 1 / (bin * bin)
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      let [r, g, b] = [0, 0, 0]
      for (let j = 0; j < bin; j++) {
        let i = 4 * ((y * bin + j) * width + x * bin)
        for (let k = 0; k < bin; k++, i += 4) {
          r += data[i]!
          g += data[i + 1]!
          b += data[i + 2]!
        }
      }
      light[y * w + x] = ((2 * r + 5 * g + b) * per) / 8
      warm[y * w + x] = HUE_SHARE * per * (r - b)
      green[y * w + x] = HUE_SHARE * per * (g - (r + b) / 2)
    }
  }
  return { width: w, height: h, planes: [light, warm, green] }
}

/** A plane averaged with its neighbours, 1 : 2 : 1 each way; what has none on a side stays as it is. */
function smoothed(plane: Float32Array, { width, height }: FineChannels): Float32Array {
  const across = plane.slice()
  for (let y = 0; y < height; y++)
    for (let i = y * width + 1; i < (y + 1) * width - 1; i++)
      across[i] = plane[i]! / 2 + (plane[i - 1]! + plane[i + 1]!) / 4
  const out = across.slice()
  for (let i = width; i < (height - 1) * width; i++)
    out[i] = across[i]! / 2 + (across[i - width]! + across[i + width]!) / 4
  return out
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
  /** Px between the places that the filter looks at. */
  apart: 1 | 2
}

function poolSteps(
  channel: Float32Array,
  { width: fineWidth, height: fineHeight }: FineChannels,
  { dx, dy, out, width, height, scale, apart }: Pooling,
): void {
  const step = apart * (dx + dy * fineWidth)
  // Averaged along the edge, which halves the noise.
  const side = apart * (dy + dx * fineWidth)
  const margin = 3 * apart
  const [a, b, c] = TAPS
  const steps = new Float32Array(channel.length)
  const from = 3 * step
  for (let i = from; i < channel.length - from; i++)
    steps[i] =
      a * (channel[i + step]! - channel[i - step]!) +
      b * (channel[i + 2 * step]! - channel[i - 2 * step]!) +
      c * (channel[i + 3 * step]! - channel[i - 3 * step]!)
  const columns = Int32Array.from({ length: fineWidth }, (_, x) => Math.floor((x + 0.5) * scale))
  let end = fineWidth - margin
  while (end > 0 && columns[end - 1]! >= width) end--
  for (let y = margin; y < fineHeight - margin; y++) {
    const row = Math.floor((y + 0.5) * scale)
    if (row >= height) break
    for (let x = margin; x < end; x++) {
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
