import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { hasEvenMarks } from './even-marks'
import { noise } from './test-pictures'

/** A column of a ruler: dark marks two px thick, every fifth one darker, on a light ground. */
const ruler = (apart: number, length = 800) =>
  Float32Array.from({ length }, (_, i) => {
    const mark = Math.floor(i / apart)
    return i - mark * apart < 2 ? (mark % 5 === 0 ? 60 : 110) : 210
  })
const noisy = (values: Float32Array, codes: number) => {
  const gauss = noise(3)
  return values.map((v) => v + codes * gauss())
}

describe('marks at even distances', () => {
  it('are seen from 4 px apart to 30, with the noise of a photo, wherever the column begins', () => {
    fc.assert(
      fc.property(fc.integer({ min: 4, max: 30 }), fc.integer({ min: 0, max: 200 }), (apart, from) => {
        expect(hasEvenMarks(noisy(ruler(apart, 1000).subarray(from), 3))).toBe(true)
      }),
    )
  })

  it('are seen where they come a little closer along a ruler that leans away', () => {
    let at = 0
    const values = new Float32Array(800).fill(210)
    for (let mark = 0; at < 797; mark++, at += 8.5 - 0.01 * mark) values.fill(90, Math.round(at), Math.round(at) + 2) // prettier-ignore
    expect(hasEvenMarks(values)).toBe(true)
  })

  it('are none in noise, at a step, in a slow swell, nor in a few rings', () => {
    const even = new Float32Array(800).fill(150)
    expect(hasEvenMarks(noisy(even, 8))).toBe(false)
    expect(hasEvenMarks(even.map((v, i) => (i > 300 ? v + 80 : v)))).toBe(false)
    expect(hasEvenMarks(even.map((v, i) => v + 60 * Math.sin(i / 12)))).toBe(false)
    const rings = even.map((v, i) => (i > 300 && i < 400 && i % 20 < 3 ? 60 : v))
    expect(hasEvenMarks(noisy(rings, 2))).toBe(false)
    // Eight courses of bricks with their joints.
    expect(hasEvenMarks(even.map((v, i) => (i % 100 < 8 ? v + 60 : v)))).toBe(false)
  })

  it('are none where hardly anything is to be seen', () => {
    expect(hasEvenMarks(new Float32Array(0))).toBe(false)
    expect(hasEvenMarks(ruler(8, 40))).toBe(false)
    expect(hasEvenMarks(ruler(8).map((v) => 150 + v / 100))).toBe(false)
  })
})
