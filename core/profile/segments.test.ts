import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { arcOf } from './arc'
import {
  backwards,
  backwardsSegment,
  closedLevel,
  cubicsOf,
  derivativeOn,
  endOf,
  lineSegment,
  partOf,
  pointAt,
  pointOn,
  scaledSegment,
  startOf,
  tangentAt,
  turnBetween,
  type Segment,
} from './segments'

const mm = fc.noBias(fc.integer({ min: -1e6, max: 1e6 })).map((v) => v / 1e4)
const point = fc.tuple(mm, mm)
const line = fc.tuple(point, point).map(([a, b]): Segment => lineSegment(a, b, 3))
const cubic = fc.tuple(point, point, point, point).map((p): Segment => ({ kind: 'cubic', index: 3, cubic: p.flat() as never })) // prettier-ignore
const arc = fc
  .tuple(point, point, fc.double({ min: 0.05, max: 3, noNaN: true }), fc.boolean())
  .filter(([a, b]) => Math.hypot(a[0] - b[0], a[1] - b[1]) > 1)
  .map(([a, b, bulge, left]): Segment => ({ kind: 'arc', index: 3, ends: [...a, ...b], arc: arcOf(a, b, left ? bulge : -bulge) })) // prettier-ignore
const segment = fc.oneof(line, cubic, arc)
const share = fc.double({ min: 0, max: 1, noNaN: true })
const apart = (p: readonly number[], q: readonly number[]) => Math.hypot(p[0]! - q[0]!, p[1]! - q[1]!)
/** What rounding leaves of places some hundred mm off, and of arcs of some metres' radius. */
const NEAR = 1e-6

describe('a segment', () => {
  it('starts and ends exactly at its ends, and its derivative is that of its points (property)', () => {
    fc.assert(
      fc.property(segment, fc.double({ min: 0.01, max: 0.99, noNaN: true }), (s, t) => {
        expect(pointOn(s, 0)).toEqual(startOf(s))
        expect(pointOn(s, 1)).toEqual(endOf(s))
        const step = 1e-5
        const [p, q] = [pointOn(s, t - step), pointOn(s, t + step)]
        const [dr, dz] = derivativeOn(s, t)
        expect(apart([(q[0] - p[0]) / (2 * step), (q[1] - p[1]) / (2 * step)], [dr, dz])).toBeLessThan(1e-3 + 1e-5 * Math.hypot(dr, dz)) // prettier-ignore
      }),
    )
  })

  it('has parts that lie on it, from where they begin to where they end (property)', () => {
    fc.assert(
      fc.property(segment, share, share, share, (s, p, q, t) => {
        const [t0, t1] = [Math.min(p, q), Math.max(p, q)]
        fc.pre(t1 - t0 > 1e-3)
        const part = partOf(s, t0, t1)
        expect(apart(pointOn(part, t), pointOn(s, t0 + (t1 - t0) * t))).toBeLessThan(NEAR)
        // All of it has no span.
        expect((part.span ?? [0, 1])[0]).toBeCloseTo(t0, 12)
        // A part of a part is a part.
        const [lower] = [partOf(part, 0, 0.5)]
        expect(apart(endOf(lower), pointOn(s, (t0 + t1) / 2))).toBeLessThan(NEAR)
        expect(lower.span![1]).toBeCloseTo((t0 + t1) / 2, 12)
      }),
    )
  })

  it('run the other way is the same places, and twice the same segment (property)', () => {
    fc.assert(
      fc.property(segment, share, (s, t) => {
        const back = backwardsSegment(s)
        expect(apart(pointOn(back, t), pointOn(s, 1 - t))).toBeLessThan(NEAR)
        expect(apart(pointOn(backwardsSegment(back), t), pointOn(s, t))).toBeLessThan(NEAR)
      }),
    )
    const chain = [lineSegment([0, 0], [5, 0], 0), lineSegment([5, 0], [5, 9], 1)]
    expect(backwards(chain).map(startOf)).toEqual([[5, 9], [5, 0]]) // prettier-ignore
  })

  it('at another size is the same curve about the foot on the axis (property)', () => {
    fc.assert(
      fc.property(segment, share, fc.double({ min: 0.1, max: 10, noNaN: true }), (s, t, k) => {
        const [r, z] = pointOn(s, t)
        expect(apart(pointOn(scaledSegment(s, k), t), [k * r, k * z])).toBeLessThan(k * NEAR)
      }),
    )
  })
})

describe('arcs as cubics', () => {
  it('stay on their circle to 4e-6 of the radius, with its tangents (property)', () => {
    fc.assert(
      fc.property(arc, share, (s, t) => {
        if (s.kind !== 'arc') throw new Error('no arc')
        const cubics = cubicsOf(s)
        // An eighth of a circle each, or less.
        expect(cubics.length).toBe(Math.ceil(Math.abs(s.arc.sweep) / (Math.PI / 4)))
        for (const c of cubics)
          expect(Math.abs(apart(pointAt(c, t), s.arc.centre) / s.arc.radius - 1)).toBeLessThan(4.5e-6)
        const ends: [readonly number[], readonly number[]] = [cubics[0]!.slice(0, 2), cubics.at(-1)!.slice(6)]
        expect(apart(ends[0], startOf(s))).toBeLessThan(NEAR)
        expect(apart(ends[1], endOf(s))).toBeLessThan(NEAR)
      }),
    )
  })

  it('other segments are one cubic, their own', () => {
    const s = lineSegment([1, 2], [3, 4], 0)
    expect(cubicsOf(s)).toEqual([s.cubic])
  })
})

describe('directions at ends', () => {
  it('come from the next control point where a handle has no length', () => {
    const blunt: Segment = { kind: 'cubic', index: 0, cubic: [0, 0, 0, 0, 4, 3, 8, 0] }
    expect(tangentAt(blunt, 0)).toEqual([4, 3])
    const none: Segment = { kind: 'cubic', index: 0, cubic: [0, 0, 0, 0, 8, 6, 8, 6] }
    expect(tangentAt(none, 0)).toEqual([8, 6])
    expect(tangentAt(none, 1)).toEqual([8, 6])
  })

  it('turn by the angle between them, to the left positive', () => {
    const [up, left, on] = [lineSegment([5, 0], [5, 9], 0), lineSegment([5, 9], [0, 9], 1), lineSegment([5, 9], [5, 12], 1)] // prettier-ignore
    expect(turnBetween(up, left)).toBeCloseTo(Math.PI / 2, 12)
    expect(turnBetween(up, on)).toBeCloseTo(0, 12)
    expect(turnBetween(lineSegment([0, 9], [5, 9], 0), lineSegment([5, 9], [5, 0], 1))).toBeCloseTo(-Math.PI / 2, 12) // prettier-ignore
  })

  it('a curve that ends off the axis is closed level to it, one on the axis is as it was', () => {
    const open = [lineSegment([5, 0], [4, 9], 0)]
    expect(endOf(closedLevel(open).at(-1)!)).toEqual([0, 9])
    const closed = [lineSegment([5, 0], [0, 9], 0)]
    expect(closedLevel(closed)).toEqual(closed)
  })
})
