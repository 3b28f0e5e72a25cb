import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { noise } from '../outline/test-pictures'
import { candidatePlaces, filledChain, noiseOf, polylinePoints } from './fit-places'
import {
  distancesFrom,
  fitCircle,
  fitCubic,
  fitLine,
  largestOf,
  nearestOn,
  thinned,
  type Chain,
} from './fit-primitives'
import type { Cubic } from './hobby'
import { pointAt } from './segments'

const chainOf = (points: readonly (readonly [number, number])[]): Chain => ({
  r: Float64Array.from(points, (p) => p[0]),
  z: Float64Array.from(points, (p) => p[1]),
})
const all = ({ r }: Chain) => Int32Array.from(r, (_, i) => i)
const rms = (values: Float64Array) => Math.sqrt(values.reduce((s, v) => s + v * v, 0) / values.length)
const mm = fc.noBias(fc.integer({ min: -1000, max: 1000 })).map((v) => v / 10)

describe('a line', () => {
  it('through noisy points is as near as their noise, whichever way it leans (property)', () => {
    fc.assert(
      fc.property(fc.double({ min: -3.1, max: 3.1, noNaN: true }), mm, mm, (angle, r0, z0) => {
        const gauss = noise(17)
        const [c, s] = [Math.cos(angle), Math.sin(angle)]
        const chain = chainOf(Array.from({ length: 200 }, (_, k) => {
          const off = 0.02 * gauss()
          return [r0 + c * k - s * off, z0 + s * k + c * off] as const
        })) // prettier-ignore
        const line = fitLine(chain, all(chain))!
        if (line.kind !== 'line') throw new Error('no line')
        expect(Math.abs(line.along[0] * s - line.along[1] * c)).toBeLessThan(2e-4)
        expect(rms(distancesFrom(line, chain, all(chain)))).toBeLessThan(0.03)
      }),
    )
  })

  it('of points to the right of its way lies at positive distances', () => {
    const up = fitLine(chainOf([[0, 0], [0, 10]]), Int32Array.of(0, 1))! // prettier-ignore
    if (up.kind !== 'line') throw new Error('no line')
    const [d] = distancesFrom({ ...up, along: [0, 1] }, chainOf([[3, 5]]), Int32Array.of(0))
    expect(d).toBeCloseTo(3, 12)
    expect(fitLine(chainOf([[2, 2], [2, 2]]), Int32Array.of(0, 1))).toBeNull() // prettier-ignore
  })
})

describe('a circle', () => {
  it('comes back exactly from exact points of any of its arcs (property)', () => {
    const arc = fc.record({
      radius: fc.double({ min: 1, max: 200, noNaN: true }),
      from: fc.double({ min: -3, max: 3, noNaN: true }),
      sweep: fc.double({ min: 0.3, max: 6, noNaN: true }),
    })
    fc.assert(
      fc.property(arc, mm, mm, ({ radius, from, sweep }, r0, z0) => {
        const chain = chainOf(Array.from({ length: 60 }, (_, k) => {
          const a = from + (sweep * k) / 59
          return [r0 + radius * Math.cos(a), z0 + radius * Math.sin(a)] as const
        })) // prettier-ignore
        const circle = fitCircle(chain, all(chain))!
        if (circle.kind !== 'arc') throw new Error('no arc')
        expect(Math.abs(circle.radius / radius - 1)).toBeLessThan(1e-5)
        expect(Math.hypot(circle.centre[0] - r0, circle.centre[1] - z0)).toBeLessThan(1e-5 * radius)
      }),
    )
  })

  it('of short noisy arcs isn’t drawn to small radii: over many, the mean is the true one within 2 %', () => {
    const gauss = noise(5)
    let sum = 0
    for (let run = 0; run < 200; run++) {
      const chain = chainOf(Array.from({ length: 60 }, (_, k) => {
        const [a, radius] = [(0.6 * k) / 59, 50 + 0.05 * gauss()]
        return [radius * Math.cos(a), radius * Math.sin(a)] as const
      })) // prettier-ignore
      const circle = fitCircle(chain, all(chain))!
      if (circle.kind === 'arc') sum += circle.radius / 200
    }
    expect(Math.abs(sum / 50 - 1)).toBeLessThan(0.02)
  })

  it('there is none through a straight run, or through three points', () => {
    const straight = chainOf(Array.from({ length: 20 }, (_, k) => [3 + k, 7 - 2 * k] as const))
    expect(fitCircle(straight, all(straight))).toBeNull()
    expect(fitCircle(straight, Int32Array.of(0, 1, 2))).toBeNull()
  })
})

describe('a cubic', () => {
  const gentle = fc.tuple(fc.double({ min: -12, max: 12, noNaN: true }), fc.double({ min: -12, max: 12, noNaN: true })) // prettier-ignore

  it('goes through the points of a gentle one to a fraction of a per mille of its length (property)', () => {
    fc.assert(
      fc.property(gentle, ([a, b]) => {
        const cubic: Cubic = [40, 0, 40 + a, 20, 40 + b, 40, 40, 60]
        const chain = chainOf(Array.from({ length: 100 }, (_, k) => pointAt(cubic, k / 99)))
        const fitted = fitCubic(chain, all(chain))!
        expect(Math.max(...distancesFrom(fitted, chain, all(chain)).map(Math.abs))).toBeLessThan(0.012)
      }),
    )
  })

  it('is met by its nearest place square to it (property)', () => {
    fc.assert(
      fc.property(gentle, fc.double({ min: 0.1, max: 0.9, noNaN: true }), fc.double({ min: -2, max: 2, noNaN: true }), ([a, b], t, off) => {
        const cubic: Cubic = [40, 0, 40 + a, 20, 40 + b, 40, 40, 60]
        const [p, q] = [pointAt(cubic, t - 1e-6), pointAt(cubic, t + 1e-6)]
        const length = Math.hypot(q[0] - p[0], q[1] - p[1])
        const at = pointAt(cubic, t)
        const beside = [at[0] + (off * (q[1] - p[1])) / length, at[1] - (off * (q[0] - p[0])) / length] as const
        expect(nearestOn(cubic, ...beside, Math.min(1, t + 0.05))).toBeCloseTo(t, 2)
      }),
    ) // prettier-ignore
  })
})

describe('what is off', () => {
  it('is the largest mean of neighbours: one stray point says less than a run', () => {
    const stray = Float64Array.from({ length: 40 }, (_, i) => (i === 10 ? 1 : 0))
    const run = Float64Array.from({ length: 40 }, (_, i) => (i >= 20 && i < 28 ? -0.4 : 0))
    expect(largestOf(stray, 8).most).toBeCloseTo(1 / 8, 12)
    const { most, where } = largestOf(run, 8)
    expect(most).toBeCloseTo(0.4, 12)
    expect(where).toBeGreaterThanOrEqual(20)
    expect(where).toBeLessThan(28)
  })

  it('thinned indices are even, and first and last stay (property)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 50 }), fc.integer({ min: 0, max: 500 }), fc.integer({ min: 2, max: 90 }), (from, more, most) => {
        const at = thinned(from, from + more, most)
        expect(at.length).toBe(Math.min(most, more + 1))
        expect(at[0]).toBe(from)
        expect(at.at(-1)).toBe(more === 0 ? from : from + more)
        const steps = Array.from(at.subarray(1), (v, k) => v - at[k]!)
        if (steps.length > 0) expect(Math.max(...steps) - Math.min(...steps)).toBeLessThanOrEqual(1)
      }),
    ) // prettier-ignore
  })
})

describe('places where a chain may be parted', () => {
  const walk = fc.array(fc.tuple(fc.integer({ min: -9, max: 9 }), fc.integer({ min: 1, max: 9 })), { minLength: 4, maxLength: 40 }) // prettier-ignore
  const walked = (steps: readonly (readonly [number, number])[]) => {
    let [r, z] = [50, 0]
    return steps.map(([dr, dz]) => [(r += dr), (z += dz)] as const)
  }

  it('make a polyline within the tolerance of all points (Douglas and Peucker 1973; property)', () => {
    fc.assert(
      fc.property(walk, fc.double({ min: 0.2, max: 8, noNaN: true }), (steps, within) => {
        const chain = chainOf(walked(steps))
        const kept = [0, ...polylinePoints(chain, within)]
        expect(kept.at(-1)).toBe(chain.r.length - 1)
        kept.slice(1).forEach((b, k) => {
          const a = kept[k]!
          expect(b).toBeGreaterThan(a)
          const [dr, dz] = [chain.r[b]! - chain.r[a]!, chain.z[b]! - chain.z[a]!]
          for (let i = a; i <= b; i++)
            expect(Math.abs((chain.r[i]! - chain.r[a]!) * dz - (chain.z[i]! - chain.z[a]!) * dr) / Math.hypot(dr, dz)).toBeLessThan(within + 1e-9) // prettier-ignore
        })
      }),
    )
  })

  it('rise from the first point to the last, no farther apart than a sixtieth, and no more than are worth their time', () => {
    const wavy = filledChain(
      Array.from({ length: 800 }, (_, k) => [40 + 6 * Math.sin(k / 9), k / 4] as const),
    )
    const places = candidatePlaces(wavy, 0.01, 0)
    expect(places[0]).toBe(0)
    expect(places.at(-1)).toBe(wavy.r.length - 1)
    expect(places.length).toBeLessThanOrEqual(90)
    places.slice(1).forEach((p, k) => {
      expect(p).toBeGreaterThan(places[k]!)
      expect(p - places[k]!).toBeLessThanOrEqual(Math.ceil(wavy.r.length / 60))
    })
  })

  it('long gaps are filled, places that repeat count once', () => {
    const { r, z } = filledChain([[10, 0], [10, 0], [10, 100], [20, 100]]) // prettier-ignore
    const steps = Array.from(r.subarray(1), (v, k) => Math.hypot(v - r[k]!, z[k + 1]! - z[k]!))
    expect(Math.min(...steps)).toBeGreaterThan(0)
    expect(Math.max(...steps)).toBeLessThan(110 / 400 + 1e-9)
    expect(steps.reduce((p, q) => p + q, 0)).toBeCloseTo(110, 9)
  })

  it('their noise is told from third differences, whatever the curve does', () => {
    const gauss = noise(3)
    const chain = chainOf(Array.from({ length: 1500 }, (_, k) => [40 + 9 * Math.sin(k / 90) + 0.03 * gauss(), k / 8] as const)) // prettier-ignore
    expect(noiseOf(chain) / 0.03).toBeGreaterThan(0.85)
    expect(noiseOf(chain) / 0.03).toBeLessThan(1.15)
    const smooth = chainOf(Array.from({ length: 1500 }, (_, k) => [40 + 9 * Math.sin(k / 90), k / 8] as const)) // prettier-ignore
    expect(noiseOf(smooth)).toBeLessThan(1e-4)
  })
})
