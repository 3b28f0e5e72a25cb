import { upperMedian } from '../upper-median'
import { strongerOf, type Plane, type Raster } from './raster'

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
  const size = { width: Math.floor(raster.width / factor), height: Math.floor(raster.height / factor) }
  const light = lightOf(raster, bin)
  const look = { ...size, scale: bin / factor }
  const narrow = stepsOf(light, { ...look, apart: 1 })
  const wide = stepsOf(smoothed(light), { ...look, apart: 2 })
  const looks = looksOf(narrow, wide, factor)
  // Files keep hues half as finely as light.
  const hueBin = Math.max(bin, Math.min(2 * bin, factor))
  const hues = huesOf(raster, hueBin).map((hue) =>
    stepsOf(hue, { ...size, scale: hueBin / factor, apart: 1 }),
  )
  const pooledOf = (px: number) => POOLED_MORE * Math.max(1, factor / px) ** 2
  const strongest = (direction: 'x' | 'y') => {
    const inLight = looks
      .map(({ steps, apart }) => againstNoise(steps[direction], pooledOf(bin * apart)))
      .reduce(strongerOf)
    const [warm, green] = hues.map((hue) => againstNoise(hue[direction], pooledOf(hueBin)).data)
    const nearby = strongestBeside(inLight, direction === 'x' ? 1 : size.width)
    const data = inLight.data.map((v, i) => {
      const inHue = Math.max(warm![i]!, green![i]!)
      return nearby[i]! === 1 ? v : Math.max(v, inHue)
    })
    return { ...size, data }
  }
  return { x: strongest('x'), y: strongest('y') }
}

/**
 * What is looked at: the narrow steps, or, of a picture that is soft all over, the wide ones. In a small one, whose cells are its
 * px, those reach over what is to be told apart: there either may speak.
 */
function looksOf(narrow: Sharpness, wide: Sharpness, factor: number): { steps: Sharpness; apart: 1 | 2 }[] {
  const [near, far] = [{ steps: narrow, apart: 1 } as const, { steps: wide, apart: 2 } as const]
  if (!isSoft(narrow, wide)) return [near]
  return factor === 1 ? [near, far] : [far]
}

/** An edge that is as clear as can be in lightness says where it is, and hues within so many cells of it don't: theirs is less sharp. */
const BESIDE = 2

/** The strongest of each value and of those beside it, across the edge. */
function strongestBeside({ data }: Plane, step: number): Float32Array {
  const out = data.slice()
  for (let d = step; d <= BESIDE * step; d += step)
    for (let i = d; i < data.length; i++) {
      out[i] = Math.max(out[i]!, data[i - d]!)
      out[i - d] = Math.max(out[i - d]!, data[i]!)
    }
  return out
}

/** Most edges show in more than one of lightness and hues, so that the noise of each may count as that of so many more answers. */
const POOLED_MORE = 2
/** Cells that show a step most clearly, as a share of all, and so many times the usual response, tell how soft a picture is. */
const CLEAREST = 0.015
const CLEARLY = 6
/** A blur of more than 1.2 px leaves less than this of what the filter answers to a step at twice its width. */
const SOFT = 0.5

/** True where the picture's edges spread over more px than the filter looks at. @param narrow what it answers, and at twice its width */
function isSoft(narrow: Sharpness, wide: Sharpness): boolean {
  const strongest = strongerOf(wide.x, wide.y).data
  const sorted = strongest.slice().sort()
  const least = Math.max(
    sorted[Math.floor((1 - CLEAREST) * sorted.length)]!,
    CLEARLY * sorted[sorted.length >> 1]!,
  )
  const shares: number[] = []
  strongest.forEach((v, i) => {
    if (v >= least) shares.push(Math.max(narrow.x.data[i]!, narrow.y.data[i]!) / v)
  })
  return shares.length > 0 && upperMedian(Float32Array.from(shares)) < SOFT
}

/** What a difference of hues counts beside one of lightness. */
const HUE_SHARE = 0.6

/** Lightness (as encoded), averaged over bins. */
function lightOf({ width, height, data }: Raster, bin: number): Plane {
  const [w, h] = [Math.floor(width / bin), Math.floor(height / bin)]
  const out = new Float32Array(w * h)
  const per = 1 / (8 * bin * bin)
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      let sum = 0
      for (let j = 0; j < bin; j++) {
        let i = 4 * ((y * bin + j) * width + x * bin)
        for (let k = 0; k < bin; k++, i += 4) sum += 2 * data[i]! + 5 * data[i + 1]! + data[i + 2]!
      }
      out[y * w + x] = sum * per
    }
  return { width: w, height: h, data: out }
}

/** Red against blue, and green against both, averaged over bins. */
function huesOf({ width, height, data }: Raster, bin: number): [Plane, Plane] {
  const [w, h] = [Math.floor(width / bin), Math.floor(height / bin)]
  const warm = new Float32Array(w * h)
  const green = new Float32Array(w * h)
  const per = HUE_SHARE / (bin * bin)
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      let r = 0
      let g = 0
      let b = 0
      for (let j = 0; j < bin; j++) {
        let i = 4 * ((y * bin + j) * width + x * bin)
        for (let k = 0; k < bin; k++, i += 4) {
          r += data[i]!
          g += data[i + 1]!
          b += data[i + 2]!
        }
      }
      warm[y * w + x] = per * (r - b)
      green[y * w + x] = per * (g - (r + b) / 2)
    }
  return [
    { width: w, height: h, data: warm },
    { width: w, height: h, data: green },
  ]
}

/** A plane averaged with its neighbours, 1 : 2 : 1 each way; what has none on a side stays as it is. */
function smoothed({ width, height, data }: Plane): Plane {
  const across = data.slice()
  for (let y = 0; y < height; y++)
    for (let i = y * width + 1; i < (y + 1) * width - 1; i++)
      across[i] = data[i]! / 2 + (data[i - 1]! + data[i + 1]!) / 4
  const out = across.slice()
  for (let i = width; i < (height - 1) * width; i++)
    out[i] = across[i]! / 2 + (across[i - width]! + across[i + width]!) / 4
  return { width, height, data: out }
}

/** A step less its slope, over three places on either side (least squares; see `edgeBand`). */
const TAPS = [4 / 7, 1 / 7, -2 / 7] as const

/** How steps are looked for. */
interface Look {
  /** Cells of the reduced picture, and how many of them make one px. */
  width: number
  height: number
  scale: number
  /** Px between the places that the filter looks at. */
  apart: 1 | 2
}

/** The strongest answer of each cell, across x and across y. */
function stepsOf(fine: Plane, look: Look): Sharpness {
  const { width, height } = look
  const pool = (dx: 0 | 1, dy: 0 | 1): Plane => {
    const data = new Float32Array(width * height)
    poolSteps(fine, look, { dx, dy }, data)
    return { width, height, data }
  }
  return { x: pool(1, 0), y: pool(0, 1) }
}

function poolSteps(
  { width: fineWidth, height: fineHeight, data: channel }: Plane,
  { width, height, scale, apart }: Look,
  { dx, dy }: { dx: 0 | 1; dy: 0 | 1 },
  out: Float32Array,
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
