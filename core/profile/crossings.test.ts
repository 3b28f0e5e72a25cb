import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { arcOf } from './arc'
import { crossings } from './crossings'
import { lineSegment, pointOn, type Segment } from './segments'

const TOLERANCE = 0.01
const arc = (a: [number, number], b: [number, number], bulge: number, index: number): Segment => ({
  kind: 'arc',
  index,
  ends: [...a, ...b],
  arc: arcOf(a, b, bulge),
})
/** Evenly spread: most doubles lie about 0. */
const mm = fc.noBias(fc.integer({ min: -1e6, max: 1e6 })).map((v) => v / 1e4)
const point = fc.tuple(mm, mm)
const line = fc.tuple(point, point).filter(([a, b]) => Math.hypot(a[0] - b[0], a[1] - b[1]) > 1)

describe('crossings of segments', () => {
  it('two lines cross where Cramer’s rule says, or not at all (property)', () => {
    fc.assert(
      fc.property(line, line, ([a, b], [c, d]) => {
        const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], d[0] - c[0], d[1] - c[1]]
        const det = ux * vy - uy * vx
        // Nearly parallel ones cross at a place that rounding moves about.
        fc.pre(Math.abs(det) > 0.05 * Math.hypot(ux, uy) * Math.hypot(vx, vy))
        const s = ((c[0] - a[0]) * vy - (c[1] - a[1]) * vx) / det
        const t = ((c[0] - a[0]) * uy - (c[1] - a[1]) * ux) / det
        const margin = (k: number) => Math.min(Math.abs(k), Math.abs(1 - k))
        fc.pre(margin(s) > 1e-6 && margin(t) > 1e-6)
        const found = crossings([lineSegment(a, b, 0), lineSegment(c, d, 1)], TOLERANCE)
        const crosses = s > 0 && s < 1 && t > 0 && t < 1
        expect(found).toHaveLength(crosses ? 1 : 0)
        if (!crosses) return
        expect(found[0]!.ta).toBeCloseTo(s, 8)
        expect(found[0]!.tb).toBeCloseTo(t, 8)
      }),
    )
  })

  it('a line through a circle crosses it where Pythagoras says, twice', () => {
    const list = [
      arc([10, 0], [-10, 0], 1, 0),
      arc([-10, 0], [0, -10], 0.5, 1),
      lineSegment([-20, 6], [20, 6], 2),
    ]
    const places = crossings(list, TOLERANCE).map(({ b, tb }) => pointOn(list[b]!, tb))
    expect(places.map(([r]) => Math.round(1e6 * r) / 1e6).sort((p, q) => p - q)).toEqual([-8, 8])
  })

  it('a line that passes a circle by, by less than the chords stand off it, doesn’t cross it', () => {
    const half = arc([10, 0], [-10, 0], 1, 0)
    // Chords of 0.01 mm lie inside of the circle; this one lies outside of it by less.
    expect(crossings([half, lineSegment([-20, 10.002], [20, 10.002], 1)], TOLERANCE)).toEqual([])
    expect(crossings([half, lineSegment([-20, 9.998], [20, 9.998], 1)], TOLERANCE)).toHaveLength(2)
  })

  it('ends that meet along the list are none, but the same place met elsewhere is', () => {
    const a = lineSegment([0, 0], [10, 10], 0)
    const b = lineSegment([10, 10], [20, 0], 1)
    expect(crossings([a, b], TOLERANCE)).toEqual([])
    const c = lineSegment([10, 20], [10, 0], 2)
    expect(crossings([a, b, c], TOLERANCE)).not.toEqual([])
  })

  it('are the same whichever way the segments are listed (property)', () => {
    fc.assert(
      fc.property(fc.array(line, { minLength: 2, maxLength: 6 }), (lines) => {
        // Ends that touch another line lie on it or not by rounding alone.
        fc.pre(
          lines.every((one, i) =>
            lines.every((other, k) => i === k || one.every((p) => off(p, other) > 1e-3)),
          ),
        )
        const made = lines.map(([a, b], i) => lineSegment(a, b, i))
        const place = (list: readonly Segment[]) =>
          crossings(list, TOLERANCE)
            .map(({ a, ta }) => pointOn(list[a]!, ta).map((v) => Math.round(1e4 * v)))
            .sort((p, q) => p[0]! - q[0]! || p[1]! - q[1]!)
        const [one, other] = [place(made), place([...made].reverse())]
        expect(one).toHaveLength(other.length)
        one.forEach((p, i) => p.forEach((v, k) => expect(Math.abs(v - other[i]![k]!)).toBeLessThan(3)))
      }),
      { numRuns: 60 },
    )
  })
})

/** How far a place lies off the straight line through two others. */
function off(p: readonly [number, number], [a, b]: readonly [[number, number], [number, number]]): number {
  const [u, v] = [b[0] - a[0], b[1] - a[1]]
  return Math.abs((p[0] - a[0]) * v - (p[1] - a[1]) * u) / Math.hypot(u, v)
}
