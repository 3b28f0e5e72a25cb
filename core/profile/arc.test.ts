import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  arcDerivative,
  arcExtremes,
  arcOf,
  arcPoint,
  bulgeArriving,
  bulgeLeaving,
  bulgeOfRadius,
  bulgeThrough,
  wrapAngle,
} from './arc'

const mm = fc.double({ min: -200, max: 200, noNaN: true })
const point = fc.tuple(mm, mm)
const ends = fc.tuple(point, point).filter(([a, b]) => Math.hypot(b[0] - a[0], b[1] - a[1]) > 0.5)
/** From nearly flat to seven eighths of a circle, either way. */
const bulge = fc.tuple(fc.double({ min: 0.01, max: 5, noNaN: true }), fc.constantFrom(1, -1)).map(([b, s]) => b * s) // prettier-ignore

describe('an arc kept as its bulge', () => {
  it('a bulge of 1 is half a circle over its chord, to the left of the way for a positive one', () => {
    // A polyline's bulge as DXF's reference has it (group code 42): 0 straight, 1 half a circle, negative clockwise.
    const left = arcOf([0, 0], [10, 0], 1)
    expect(left.radius).toBeCloseTo(5, 12)
    expect(left.sweep).toBeCloseTo(Math.PI, 12)
    // Counter-clockwise from (0, 0) to (10, 0) runs below the chord.
    expect(arcPoint(left, 0.5)[1]).toBeCloseTo(-5, 12)
    expect(arcPoint(arcOf([0, 0], [10, 0], -1), 0.5)[1]).toBeCloseTo(5, 12)
  })

  it('a quarter circle has the bulge tan(90°/4), and its height over the chord is bulge times half the chord', () => {
    const quarter = Math.tan(Math.PI / 8)
    const { centre, radius } = arcOf([7, 0], [0, 7], quarter)
    expect(centre[0]).toBeCloseTo(0, 12)
    expect(centre[1]).toBeCloseTo(0, 12)
    expect(radius).toBeCloseTo(7, 12)
    // Sagitta of a quarter circle: R (1 - cos 45°).
    expect((quarter * Math.hypot(7, 7)) / 2).toBeCloseTo(7 * (1 - Math.SQRT1_2), 12)
  })

  it('starts and ends where it should, and is nowhere off its circle (property)', () => {
    fc.assert(
      fc.property(ends, bulge, fc.double({ min: 0, max: 1, noNaN: true }), ([a, b], by, t) => {
        const arc = arcOf(a, b, by)
        const near = 1e-9 * (1 + arc.radius + 300)
        const [p, q, m] = [0, 1, t].map((at) => arcPoint(arc, at)) as [number, number][]
        expect(Math.hypot(p![0] - a[0], p![1] - a[1])).toBeLessThan(near)
        expect(Math.hypot(q![0] - b[0], q![1] - b[1])).toBeLessThan(near)
        expect(Math.abs(Math.hypot(m![0] - arc.centre[0], m![1] - arc.centre[1]) - arc.radius)).toBeLessThan(near) // prettier-ignore
      }),
    )
  })

  it('is found again through any of its points, and from the direction of either end (property)', () => {
    fc.assert(
      fc.property(ends, bulge, fc.double({ min: 0.1, max: 0.9, noNaN: true }), ([a, b], by, t) => {
        const arc = arcOf(a, b, by)
        const directionAt = (at: number) => {
          const [dr, dz] = arcDerivative(arc, at)
          return Math.atan2(dz, dr)
        }
        expect(bulgeThrough(a, arcPoint(arc, t), b) / by).toBeCloseTo(1, 6)
        expect(bulgeLeaving(a, b, directionAt(0)) / by).toBeCloseTo(1, 6)
        expect(bulgeArriving(a, b, directionAt(1)) / by).toBeCloseTo(1, 6)
        expect(bulgeOfRadius(a, b, arc.radius * (1 + 1e-12), by)! / by).toBeCloseTo(1, 3)
      }),
    )
  })

  it('has its derivative along the way: as long as the arc (property)', () => {
    fc.assert(
      fc.property(ends, bulge, ([a, b], by) => {
        const arc = arcOf(a, b, by)
        const [dr, dz] = arcDerivative(arc, 0.37)
        const [p, q] = [arcPoint(arc, 0.37 - 1e-5), arcPoint(arc, 0.37 + 1e-5)]
        const length = arc.radius * Math.abs(arc.sweep)
        expect(Math.hypot(dr, dz)).toBeCloseTo(length, 6)
        expect(Math.hypot((q[0] - p[0]) / 2e-5 - dr, (q[1] - p[1]) / 2e-5 - dz)).toBeLessThan(1e-4 * (1 + length)) // prettier-ignore
      }),
    )
  })

  it('knows where it is farthest out (property): no point of it lies farther', () => {
    fc.assert(
      fc.property(ends, bulge, fc.constantFrom(0 as const, 1 as const), ([a, b], by, along) => {
        const arc = arcOf(a, b, by)
        const at = [0, 1, ...arcExtremes(arc, along)].map((t) => arcPoint(arc, t)[along])
        const all = Array.from({ length: 181 }, (_, k) => arcPoint(arc, k / 180)[along])
        const near = 1e-9 * (1 + arc.radius + 300)
        expect(Math.max(...all)).toBeLessThanOrEqual(Math.max(...at) + near)
        expect(Math.min(...all)).toBeGreaterThanOrEqual(Math.min(...at) - near)
      }),
    )
  })

  it('of a radius that can’t reach there is none; three points on a line bulge to neither side', () => {
    expect(bulgeOfRadius([0, 0], [10, 0], 4.9, 1)).toBeNull()
    expect(bulgeOfRadius([0, 0], [0, 0], 4, 1)).toBeNull()
    expect(bulgeOfRadius([0, 0], [10, 0], 5, -0.3)).toBeCloseTo(-1, 12)
    expect(bulgeThrough([0, 0], [3, 4], [6, 8])).toBeCloseTo(0, 12)
  })

  it('angles come back as the same direction within half a turn (property)', () => {
    fc.assert(
      fc.property(fc.double({ min: -50, max: 50, noNaN: true }), (angle) => {
        const wrapped = wrapAngle(angle)
        expect(Math.abs(wrapped)).toBeLessThanOrEqual(Math.PI + 1e-9)
        expect(Math.cos(wrapped)).toBeCloseTo(Math.cos(angle), 9)
        expect(Math.sin(wrapped)).toBeCloseTo(Math.sin(angle), 9)
      }),
    )
  })
})
