import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ringThrough, type RingStep } from './ring-steps'

/** Steps of both halves of a ring that is off by so much. */
const stepsOf = ({ tip, b, lean }: { tip: number; b: number; lean: number }): RingStep[] =>
  [-1, 1].flatMap((side) =>
    [0.08, 0.23, 0.39, 0.54, 0.7, 0.85].map((share): RingStep => {
      const fall = 1 - Math.sqrt(1 - share * share)
      const u = side * 200 * share
      return { off: tip - b * fall + lean * u, fall, u, gain: 100, share: 0.3 }
    }),
  )

const small = (most: number) => fc.double({ min: -most, max: most, noNaN: true })

describe('a ring laid through the steps of its stretches', () => {
  it('is moved, raised and leaned onto them', () => {
    fc.assert(
      fc.property(small(3), small(4), small(0.01), (tip, b, lean) => {
        const got = ringThrough(stepsOf({ tip, b, lean }))!
        expect(got.tip).toBeCloseTo(tip, 6)
        expect(got.b).toBeCloseTo(b, 5)
        expect(got.lean).toBeCloseTo(lean, 8)
      }),
    )
  })

  it('hardly heeds a stretch or two that show something else', () => {
    const steps = stepsOf({ tip: 1, b: 2, lean: 0.004 })
    steps[4]!.off += 3
    steps[9]!.off -= 2.5
    const got = ringThrough(steps)!
    expect(Math.abs(got.tip - 1)).toBeLessThan(0.3)
    expect(Math.abs(got.b - 2)).toBeLessThan(1)
    // What a stretch without any step says counts for nothing.
    const unsure = stepsOf({ tip: 1, b: 2, lean: 0 })
    Object.assign(unsure[7]!, { off: 3, gain: 0 })
    expect(ringThrough(unsure)!.tip).toBeCloseTo(1, 6)
  })

  it('isn’t told where no stretch shows a step', () => {
    expect(ringThrough(stepsOf({ tip: 1, b: 2, lean: 0 }).map((step) => ({ ...step, gain: 0 })))).toBeNull()
  })
})
