import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Raster } from '../picture/raster'
import { LINEAR } from '../picture/raster'
import { pictureBlur } from './picture-blur'
import { normalCdf } from './edge-fit'
import { noise } from './test-pictures'

const [WIDTH, HEIGHT] = [320, 400]
/** Bytes of linear lights, in thousandths, by the nearest in the table. */
const BYTES = Array.from({ length: 1001 }, (_, k) => LINEAR.findIndex((v, i) => (v + (LINEAR[i + 1] ?? 1)) / 2 >= k / 1000)) // prettier-ignore

/** A dark ball on a light ground, whose edge is blurred by a Gaussian of so many px, with noise of so many codes. */
function ball(blur: number, grain = 0.5): Raster {
  const gauss = noise(3)
  const data = new Uint8Array(4 * WIDTH * HEIGHT).fill(255)
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const cover = normalCdf((100 - Math.hypot(x + 0.5 - 160, y + 0.5 - 200)) / blur)
      const byte = BYTES[Math.round(1000 * (0.6 - 0.5 * cover))]!
      for (let c = 0; c < 3; c++) data[4 * (y * WIDTH + x) + c] = Math.round(byte + grain * gauss())
    }
  return { width: WIDTH, height: HEIGHT, data }
}

describe('how far the edges of a picture spread', () => {
  it('is told to a seventh of it, up to 3 px (property, closed form: an edge blurred by a Gaussian)', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.8, max: 2.8, noNaN: true }), (blur) => {
        const told = pictureBlur(ball(blur))!
        expect(Math.abs(told / blur - 1)).toBeLessThan(1 / 7)
      }),
      { numRuns: 12 },
    )
  })

  it('is more than 2.5 px for whatever spreads farther', () => {
    for (const blur of [4, 6]) expect(pictureBlur(ball(blur))).toBeGreaterThan(2.5)
  })

  it('isn’t told where nothing stands out of the noise', () => {
    const flat = ball(1)
    flat.data.fill(120)
    expect(pictureBlur(flat)).toBeNull()
    const gauss = noise(9)
    flat.data.forEach((_, i) => (flat.data[i] = i % 4 === 3 ? 255 : Math.round(120 + 6 * gauss())))
    expect(pictureBlur(flat)).toBeNull()
  })

  it('is that of what is in focus, before whatever is blurred more', () => {
    const both = ball(1)
    const soft = ball(3)
    // The right half of the same ball, blurred more.
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 4 * 160; x < 4 * WIDTH; x++) both.data[4 * y * WIDTH + x] = soft.data[4 * y * WIDTH + x]!
    expect(pictureBlur(both)).toBeLessThan(1.3)
  })
})
