import fc from 'fast-check'
import { expect, it } from 'vitest'
import { upperMedian } from './upper-median'

it('is what sorting puts in the middle (property)', () => {
  fc.assert(
    fc.property(fc.float32Array({ minLength: 1, maxLength: 200, noNaN: true }), (values) => {
      const sorted = values.slice().sort()
      expect(upperMedian(values.slice()) + 0).toBe(sorted[sorted.length >> 1]! + 0)
    }),
  )
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 3 }), { minLength: 1, maxLength: 50 }), (few) => {
      const sorted = Float32Array.from(few).sort()
      expect(upperMedian(Float32Array.from(few))).toBe(sorted[sorted.length >> 1])
    }),
  )
})

it('of nothing is no number', () => {
  expect(upperMedian(new Float32Array())).toBeNaN()
})
