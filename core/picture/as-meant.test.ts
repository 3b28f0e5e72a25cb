import { describe, expect, it } from 'vitest'
import { findOutline } from '../outline/find-outline'
import { misses, paint, skittle } from '../outline/test-pictures'
import { asMeant } from './as-meant'
import type { Raster } from './raster'

const { distance } = skittle(200, 660, 60, 0.02)
const WIDTH = 400
const HEIGHT = 740

/** A photo with its corners rounded off, as screenshots have them: what is beyond is clear, and black. */
function withRoundCorners({ width, height, data }: Raster, r: number): Raster {
  const out = new Uint8Array(data)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [u, v] = [
        Math.abs(x + 0.5 - width / 2) - width / 2 + r,
        Math.abs(y + 0.5 - height / 2) - height / 2 + r,
      ]
      const cover = Math.max(0, Math.min(1, 0.5 + r - Math.hypot(Math.max(0, u), Math.max(0, v))))
      const i = 4 * (y * width + x)
      if (cover < 1) out.set([0, 0, 0, Math.round(255 * cover)], i)
    }
  return { width, height, data: out }
}

describe('a picture as it was meant', () => {
  it('has corners where they were rounded off, and is read as if they were there', () => {
    const rounded = withRoundCorners(paint(WIDTH, HEIGHT, distance), 30)
    const { raster, isCheckered } = asMeant(rounded)
    expect(isCheckered).toBe(false)
    for (let i = 3; i < raster.data.length; i += 4) expect(raster.data[i]).toBe(255)
    const { left, right } = findOutline(raster)
    const off = misses([left, right], distance)
    expect(off.length).toBeGreaterThan(500)
    expect(off[off.length >> 1]).toBeLessThan(0.1)
  })

  it('is itself where there is nothing to mend: a photo, and cut-outs, trimmed ones, too', () => {
    const pictures = [
      paint(WIDTH, HEIGHT, distance),
      paint(WIDTH, HEIGHT, distance, { alpha: true }),
      paint(180, 560, (x, y) => distance(x + 110, y + 80), { alpha: true }),
    ]
    for (const picture of pictures) expect(asMeant(picture).raster).toBe(picture)
  })
})
