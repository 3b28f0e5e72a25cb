import { encoded, LINEAR, type Raster } from './raster'

/** Linear light is encoded by a table of so many steps; finer than a byte's steps where those are finest, near black. */
const STEPS = 4096

/** Weights of the four px about a place, a share of a px past the second (R. Keys 1981, a = -1/2): exact for parabolas. */
function weightsAt(t: number): [number, number, number, number] {
  return [
    t * (-0.5 + t * (1 - 0.5 * t)),
    1 + t * t * (-2.5 + 1.5 * t),
    t * (0.5 + t * (2 - 1.5 * t)),
    t * t * (-0.5 + 0.5 * t),
  ]
}

/** For each place of an enlarged line, the first of the four px it is made of and their weights. */
function placesOf(count: number, times: number): { first: number; weights: readonly number[] }[] {
  return Array.from({ length: count * times }, (_, i) => {
    const at = (i + 0.5) / times - 0.5
    const below = Math.floor(at)
    return { first: below - 1, weights: weightsAt(at - below) }
  })
}

/**
 * A copy of a picture at a whole number of times its size, by cubic interpolation of linear light, edges repeated. It shows nothing
 * new; but what looks at a few px about a place sees finer there. Opaque.
 */
export function enlarged({ width, height, data }: Raster, times: number): Raster {
  const [w, h] = [width * times, height * times]
  const across = placesOf(width, times)
  const along = placesOf(height, times)
  /** Rows as wide as the copy, three colours each. */
  const wide = new Float32Array(3 * w * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < w; x++) {
      const { first, weights } = across[x]!
      const to = 3 * (y * w + x)
      for (let k = 0; k < 4; k++) {
        const from = 4 * (y * width + Math.min(width - 1, Math.max(0, first + k)))
        for (let c = 0; c < 3; c++) wide[to + c]! += weights[k]! * LINEAR[data[from + c]!]!
      }
    }
  const bytes = Uint8Array.from({ length: STEPS + 1 }, (_, i) => Math.round(255 * encoded(i / STEPS)))
  const out = new Uint8Array(4 * w * h).fill(255)
  for (let y = 0; y < h; y++) {
    const { first, weights } = along[y]!
    const rows = [0, 1, 2, 3].map((k) => 3 * w * Math.min(height - 1, Math.max(0, first + k)))
    for (let x = 0; x < w; x++)
      for (let c = 0; c < 3; c++) {
        let light = 0
        for (let k = 0; k < 4; k++) light += weights[k]! * wide[rows[k]! + 3 * x + c]!
        out[4 * (y * w + x) + c] = bytes[Math.round(STEPS * Math.min(1, Math.max(0, light)))]!
      }
  }
  return { width: w, height: h, data: out }
}
