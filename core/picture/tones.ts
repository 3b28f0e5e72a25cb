import type { Raster } from './raster'

/** A plane of bytes, row by row. */
export interface Tones {
  width: number
  height: number
  data: Uint8Array
}

/** Lightness as the eye weighs it (ITU-R BT.601), of bytes. */
export function lightnessOf({ width, height, data }: Raster): Tones {
  const tones = new Uint8Array(width * height)
  for (let i = 0; i < tones.length; i++)
    tones[i] = (77 * data[4 * i]! + 150 * data[4 * i + 1]! + 29 * data[4 * i + 2]!) >> 8
  return { width, height, data: tones }
}

/** By how much red outweighs blue: coloured lines may be as light as what they are drawn over. */
export function warmthOf({ width, height, data }: Raster): Tones {
  const tones = new Uint8Array(width * height)
  for (let i = 0; i < tones.length; i++) tones[i] = 128 + ((data[4 * i]! - data[4 * i + 2]!) >> 1)
  return { width, height, data: tones }
}
