import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { ShownBuild } from '../../workers/protocol'
import { paintColours, paintScale } from './paint-scale'

const built = (values: number[] | null) => ({ solids: [{ values: values && Float32Array.from(values) }] }) as unknown as ShownBuild // prettier-ignore
const value = fc.float({ min: -50, max: 50, noNaN: true })

describe('the scale of what is painted on a solid', () => {
  it('runs from the least to the most, places without a figure left out', () => {
    expect(paintScale(built([2, NaN, -1, 4]), false)).toEqual({ least: -1, most: 4 })
  })

  it('of deviations is even about nought (property)', () => {
    fc.assert(
      fc.property(fc.array(value, { minLength: 1 }), (values) => {
        const { least, most } = paintScale(built(values), true)!
        expect(least).toBe(-most)
        for (const v of values) expect(Math.abs(Math.fround(v))).toBeLessThanOrEqual(Math.max(most, 0))
      }),
    )
  })

  it('is none where nothing is painted, or nothing has a figure', () => {
    expect(paintScale(null, true)).toBeNull()
    expect(paintScale(built(null), true)).toBeNull()
    expect(paintScale(built([NaN, NaN]), false)).toBeNull()
  })
})

describe('colours along it', () => {
  const colours = (values: number[], least: number, most: number) => {
    const all = paintColours(Float32Array.from(values), { least, most })
    return values.map((_, i) => Array.from(all.subarray(3 * i, 3 * i + 3)))
  }
  const light = ([r, g, b]: readonly number[]) => 0.2126 * r! + 0.7152 * g! + 0.0722 * b!

  it('are lightest in the middle and dark at both ends, which differ', () => {
    const [low, middle, high] = colours([-1, 0, 1], -1, 1) as [number[], number[], number[]]
    expect(light(middle)).toBeGreaterThan(3 * Math.max(light(low), light(high)))
    expect(Math.max(...low.map((v, i) => Math.abs(v - high[i]!)))).toBeGreaterThan(0.2)
  })

  it('stay at their ends beyond it, and change without a jump within (property)', () => {
    fc.assert(
      fc.property(fc.double({ min: -1.5, max: 1.5, noNaN: true }), (v) => {
        const [here, near, end] = colours([v, v + 1e-3, Math.sign(v) * 9], -1, 1) as [number[], number[], number[]] // prettier-ignore
        here.forEach((c, i) => expect(Math.abs(c - near[i]!)).toBeLessThan(3e-3))
        if (Math.abs(v) >= 1) expect(here).toEqual(end)
      }),
    )
  })

  it('one figure everywhere is one colour, and none is a grey of its own', () => {
    const [a, b, none] = colours([3, 3, NaN], 3, 3)
    expect(a).toEqual(b)
    expect(none).not.toEqual(a)
    expect(Math.max(...none!) - Math.min(...none!)).toBeLessThan(0.05)
  })
})
