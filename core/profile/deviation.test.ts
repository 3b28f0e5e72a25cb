import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { curveDeviation } from './deviation'
import { flatten } from './flatten'
import { profileSegments } from './profile-segments'
import { node, samples } from './test-samples'

const barrel = [node(0, 0), node(20, 0, 'corner', { next: 'arc', bulge: 0.2 }), node(20, 60), node(0, 60)]
const chain = flatten(profileSegments(barrel), { toleranceMm: 1e-5 }).points

describe('deviation of an outline from a curve', () => {
  it('is the offset of a curve moved outwards or inwards, with its sign', () => {
    for (const off of [0.3, -0.3]) {
      // Points off the arc, square to it: along its radii.
      const [c, radius] = [-52, Math.hypot(72, 30)]
      const points = Array.from({ length: 50 }, (_, i): [number, number] => {
        const a = Math.asin(30 / radius) * (i / 25 - 0.98)
        return [c + (radius + off) * Math.cos(a), 30 + (radius + off) * Math.sin(a)]
      })
      const { points: all, most, rmsMm } = curveDeviation(chain, points)
      for (const p of all) expect(p.mm).toBeCloseTo(off, 3)
      expect(rmsMm).toBeCloseTo(0.3, 3)
      expect(Math.abs(most!.mm)).toBeCloseTo(0.3, 3)
    }
  })

  it('of noisy samples is their noise, wherever they begin (property)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 999 }), fc.integer({ min: 0, max: 300 }), (seed, from) => {
        const points = samples(barrel, 0.2, 0.02, seed).slice(from)
        const { rmsMm } = curveDeviation(chain, points)
        expect(rmsMm).toBeGreaterThan(0.012)
        expect(rmsMm).toBeLessThan(0.028)
      }),
      { numRuns: 60, examples: [[1, 118]] },
    )
  })

  it('says nothing of what isn’t compared, or where there is no curve', () => {
    const points = samples(barrel, 1)
    expect(curveDeviation(chain, points, () => false)).toEqual({ points: [], most: null, rmsMm: 0 })
    expect(curveDeviation(new Float64Array(2), points).most).toBeNull()
  })
})
