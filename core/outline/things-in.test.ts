import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dilated, eroded, frameOf, thingsIn } from './things-in'

const [width, height] = [23, 17]
const size = { width, height }
const masks = fc
  .array(fc.boolean(), { minLength: width * height, maxLength: width * height })
  .map((bits) => Uint8Array.from(bits, (bit) => (bit ? 1 : 0)))
/** The values of all pixels within a square about one. */
const about = (mask: Uint8Array, i: number, reach: number) => {
  const out: number[] = []
  const [x, y] = [i % width, Math.floor(i / width)]
  for (let v = Math.max(0, y - reach); v <= Math.min(height - 1, y + reach); v++)
    for (let u = Math.max(0, x - reach); u <= Math.min(width - 1, x + reach); u++)
      out.push(mask[v * width + u]!)
  return out
}

describe('masks', () => {
  it('are eroded and dilated by squares, which is what each pixel’s neighbours say (property)', () => {
    fc.assert(
      fc.property(masks, fc.integer({ min: 1, max: 4 }), (mask, reach) => {
        const every = Uint8Array.from(mask, (_, i) => Math.min(...about(mask, i, reach)))
        const some = Uint8Array.from(mask, (_, i) => Math.max(...about(mask, i, reach)))
        expect(eroded(mask, size, reach)).toEqual(every)
        expect(dilated(mask, size, reach)).toEqual(some)
      }),
    )
  })

  it('fall into things that don’t touch, which hold every pixel once, within their bounds (property)', () => {
    fc.assert(
      fc.property(masks, fc.constantFrom({ x: 0, y: -1 }, { x: 1, y: 0.1 }), (mask, up) => {
        const frame = frameOf({ ...size, data: new Float32Array(0) }, up)
        const things = thingsIn(mask, frame, 1)
        const owner = new Int32Array(mask.length).fill(-1)
        things.forEach(({ pixels, u, v }, n) => {
          for (const i of pixels) {
            expect(owner[i]).toBe(-1)
            owner[i] = n
            expect(frame.acrossOf(i)).toBeGreaterThanOrEqual(u[0])
            expect(frame.acrossOf(i)).toBeLessThanOrEqual(u[1])
            expect(frame.rowOf(i)).toBeGreaterThanOrEqual(v[0])
            expect(frame.rowOf(i)).toBeLessThanOrEqual(v[1])
            expect(frame.at(frame.rowOf(i), frame.acrossOf(i))).toBe(i)
          }
        })
        mask.forEach((value, i) => {
          expect(owner[i]! >= 0).toBe(value === 1)
          if (i % width < width - 1 && value && mask[i + 1]) expect(owner[i + 1]).toBe(owner[i])
          if (i + width < mask.length && value && mask[i + width]) expect(owner[i + width]).toBe(owner[i])
        })
      }),
    )
  })
})
