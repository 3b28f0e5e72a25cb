import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { AxisLine } from './axis-line'
import { fallOf } from './close-half'
import { ringColumns } from './ring-columns'
import { ringSteps, ringThrough, type RingStep } from './ring-steps'
import { paint } from './test-pictures'

/** Steps of both halves of a ring that is off by so much. */
const stepsOf = ({ tip, b, lean }: { tip: number; b: number; lean: number }): RingStep[] =>
  [-1, 1].flatMap((side) =>
    [0.08, 0.23, 0.39, 0.54, 0.7, 0.85].map((share): RingStep => {
      const fall = 1 - Math.sqrt(1 - share * share)
      const u = side * 200 * share
      return { off: tip - b * fall + lean * u, fall, u, gain: 100, softGain: 50, share: 0.3 }
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

describe('the steps that a ring shows', () => {
  const axis: AxisLine = { at: { x: 120.5, y: 150 }, up: { x: 0, y: -1 } }
  const RING = { tip: 90, a: 80, b: 10, lean: 0 }
  const blur = 0.7
  /** The upper end of a flat piece that is a little darker than what is above its ring, which is so soft (standard deviation, px). */
  const stepsAt = (softness: number) => {
    const raster = paint(240, 200, () => 1e3, {
      outside: (x, y) => {
        const u = Math.min(Math.abs(x - axis.at.x), RING.a)
        const out = axis.at.y - y - (RING.tip - RING.b * fallOf(u / RING.a))
        return [0.5, 0.48, 0.44].map((v) => v * (0.88 + 0.12 / (1 + Math.exp((-1.702 * out) / softness))))
      },
      grain: 1,
    })
    // The way found runs 20 px farther in.
    const way = Float64Array.from({ length: 2 * 90 }, (_, i) => (i % 2 ? 70 : i / 2))
    const columns = ringColumns(raster, [way, way], {
      axis,
      blur,
      down: false,
      wide: RING.a,
      end: 70,
      inwards: 30,
      outwards: 45,
    })
    return ringSteps(columns, RING)
  }
  const sum = (steps: readonly RingStep[], of: (step: RingStep) => number) =>
    steps.reduce((total, step) => total + of(step), 0)

  it('lie on it, and are told by sharp ones', () => {
    const steps = stepsAt(blur)
    expect(steps).toHaveLength(12)
    for (const { off } of steps) expect(Math.abs(off)).toBeLessThan(0.8)
    expect(sum(steps, (s) => s.gain)).toBeGreaterThan(sum(steps, (s) => s.softGain))
  })

  it('are told by soft ones where it is the border of a shade', () => {
    const steps = stepsAt(4 * blur)
    expect(sum(steps, (s) => s.gain)).toBeLessThan(0.75 * sum(steps, (s) => s.softGain))
  })
})
