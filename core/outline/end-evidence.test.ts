import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Places } from './end-evidence'

const COLUMNS = 6
const LEVELS = 40
const table = (seed: number) =>
  Float32Array.from({ length: COLUMNS * LEVELS }, (_, i) => Math.sin(seed * (i + 1)))

describe('places about an end', () => {
  const one = new Places(table(3), COLUMNS, 100, 0.5, -7)

  it('an arc’s sum is that of the places that it meets, and of what lies beyond (property)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 90, max: 130, noNaN: true }),
        fc.double({ min: 0, max: 30, noNaN: true }),
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 1, maxLength: COLUMNS }),
        (tip, b, falls) => {
          const fall = Float64Array.from(falls)
          // Just between two places either may be met, by rounding.
          fc.pre(falls.every((f) => Math.abs((((tip - b * f - 100) / 0.5) % 1) - 0.5) > 1e-6))
          const sum = falls.reduce((s, f, c) => s + one.at(tip - b * f, c), 0)
          expect(one.along(tip, b, fall)).toBeCloseTo(sum, 6)
        },
      ),
    )
  })

  it('beyond the first and the last level there is what was said', () => {
    expect(one.at(99.7, 2)).toBe(-7)
    expect(one.at(99.8, 2)).toBe(Math.fround(Math.sin(3 * 3)))
    expect(one.at(119.8, 0)).toBe(-7)
    expect(one.at(-Infinity, 0)).toBe(-7)
  })

  it('two add up place by place', () => {
    const both = one.plus(new Places(table(5), COLUMNS, 100, 0.5, 2), 0.5)
    expect(both.at(104, 3)).toBeCloseTo(one.at(104, 3) + 0.5 * Math.sin(5 * (8 * COLUMNS + 4)), 5)
    expect(both.at(0, 3)).toBe(-6)
  })
})
