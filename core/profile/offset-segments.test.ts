import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { arcOf } from './arc'
import { offsetSegments, straightOn, type OffsetSide } from './offset-segments'
import { endOf, lineSegment, pointOn, startOf, tangentAt, type Segment } from './segments'
import { thicknessAt, thicknessSlope, mostThickness, type Thickness } from './thickness'

const even = (mm: number): Thickness => ({ mm, levels: [] })
const arc = (a: [number, number], b: [number, number], bulge: number): Segment => ({
  kind: 'arc',
  index: 0,
  ends: [...a, ...b],
  arc: arcOf(a, b, bulge),
})
const cubic = (...c: [number, number, number, number, number, number, number, number]): Segment => ({
  kind: 'cubic',
  index: 0,
  cubic: c,
})
const along = (segments: readonly Segment[], n = 40) =>
  segments.flatMap((s) => Array.from({ length: n + 1 }, (_, k) => pointOn(s, k / n)))
/** Least distance of a place from fine chords of segments. */
function distance([r, z]: readonly [number, number], segments: readonly Segment[]): number {
  const places = along(segments, 400)
  let least = Infinity
  for (let k = 0; k + 1 < places.length; k++) {
    const [[a, b], [c, d]] = [places[k]!, places[k + 1]!]
    const [u, v] = [c - a, d - b]
    const t = Math.max(0, Math.min(1, ((r - a) * u + (z - b) * v) / (u * u + v * v || 1)))
    least = Math.min(least, Math.hypot(a + t * u - r, b + t * v - z))
  }
  return least
}

describe('curves parallel to a chain', () => {
  it('of a line is the line beside it, to the left or to the right of the way', () => {
    for (const [side, r] of [
      [1, 7],
      [-1, 13],
    ] as const) {
      const [made] = offsetSegments([lineSegment([10, 0], [10, 50], 0)], even(3), side)
      expect(made!.kind).toBe('line')
      expect(startOf(made!)).toEqual([r, 0])
      expect(endOf(made!)).toEqual([r, 50])
    }
  })

  it('of an arc is the arc about the same centre, with its radius less or more', () => {
    const quarter = arc([20, 0], [0, 20], Math.tan(Math.PI / 8))
    for (const [side, radius] of [
      [1, 15],
      [-1, 25],
    ] as const) {
      const [made] = offsetSegments([quarter], even(5), side)
      if (made?.kind !== 'arc') throw new Error('no arc')
      expect(made.arc.radius).toBeCloseTo(radius, 12)
      expect(made.arc.centre[0]).toBeCloseTo(0, 12)
      expect(startOf(made)[0]).toBeCloseTo(radius, 12)
    }
  })

  it('turning away from that side is rounded about the corner, turning towards it is closed by a line', () => {
    const corner = [lineSegment([10, 0], [10, 20], 0), lineSegment([10, 20], [30, 20], 1)]
    const outwards = offsetSegments(corner, even(4), 1)
    expect(outwards.map((s) => s.kind)).toEqual(['line', 'arc', 'line'])
    along([outwards[1]!]).forEach(([r, z]) => expect(Math.hypot(r - 10, z - 20)).toBeCloseTo(4, 9))
    const inwards = offsetSegments(corner, even(4), -1)
    expect(inwards.map((s) => s.kind)).toEqual(['line', 'line', 'line'])
  })

  it('hangs together, and keeps its distance from a smooth curve that turns gently (property)', () => {
    const bend = fc.double({ min: -6, max: 6, noNaN: true })
    const side = fc.constantFrom(1 as OffsetSide, -1 as OffsetSide)
    fc.assert(
      fc.property(bend, bend, fc.double({ min: 0.5, max: 4, noNaN: true }), side, (a, b, mm, to) => {
        const curve = cubic(40, 0, 40 + a, 20, 40 + b, 40, 40, 60)
        const made = offsetSegments([curve], even(mm), to)
        made.forEach((s, k) => {
          if (k === 0) return
          const [p, q] = [endOf(made[k - 1]!), startOf(s)]
          expect(Math.hypot(p[0] - q[0], p[1] - q[1])).toBeLessThan(1e-9)
        })
        for (const p of along(made, 7)) expect(distance(p, [curve]) / mm).toBeCloseTo(1, 2)
      }),
      { numRuns: 40 },
    )
  })

  it('has the tangents of the curve that it is parallel to', () => {
    const curve = cubic(40, 0, 52, 20, 30, 40, 40, 60)
    const made = offsetSegments([curve], even(3), 1)
    const heading = (s: Segment, t: 0 | 1) => Math.atan2(...(tangentAt(s, t).slice(0, 2) as [number, number]))
    expect(heading(made[0]!, 0)).toBeCloseTo(heading(curve, 0), 6)
    expect(heading(made.at(-1)!, 1)).toBeCloseTo(heading(curve, 1), 6)
  })

  it('of a line beside which the thickness changes straight is one line a stretch, exact at the levels', () => {
    const tapering = { mm: 2, levels: [{ z: 10, mm: 2 }, { z: 40, mm: 5 }] } // prettier-ignore
    const made = offsetSegments([lineSegment([20, 0], [20, 50], 0)], tapering, 1)
    expect(made.every((s) => s.kind === 'line')).toBe(true)
    const corners = made.map(startOf).concat([endOf(made.at(-1)!)])
    expect(corners.map(([r, z]) => [r, z].map((v) => Math.round(1e9 * v) / 1e9))).toEqual([[18, 0], [18, 10], [15, 40], [15, 50]]) // prettier-ignore
  })

  it('about an arc the thickness that changes is met all along', () => {
    const tapering = { mm: 2, levels: [{ z: 0, mm: 2 }, { z: 30, mm: 5 }] } // prettier-ignore
    const bowl = arc([0, 0], [30, 30], Math.tan(Math.PI / 8))
    const made = offsetSegments([bowl], tapering, 1)
    // Where the place of the bowl lies that a place of its parallel was taken from: on the same ray from the centre, nearly.
    for (const [r, z] of along(made, 9)) {
      const a = Math.atan2(z - 30, r)
      const mm = 30 - Math.hypot(r, z - 30)
      expect(Math.abs(mm - thicknessAt(tapering, 30 + 30 * Math.sin(a)))).toBeLessThan(0.02)
    }
  })

  it('narrower than the wall an arc’s parallel is a line, which is cut away later', () => {
    const [made] = offsetSegments([arc([3, 0], [0, 3], Math.tan(Math.PI / 8))], even(5), 1)
    expect(made!.kind).toBe('line')
  })

  it('is led straight on beyond either end of a chain', () => {
    const chain = [lineSegment([0, 0], [10, 0], 0), lineSegment([10, 0], [10, 20], 1)]
    expect(startOf(straightOn(chain, 'start', 4))[0]).toBeCloseTo(-4, 12)
    expect(endOf(straightOn(chain, 'end', 4))).toEqual([10, 24])
  })
})

describe('thickness at levels', () => {
  const levels = [{ z: 10, mm: 2 }, { z: 20, mm: 4 }, { z: 50, mm: 1 }] // prettier-ignore

  it('is blended straight between them, and the nearest counts beyond', () => {
    const at = (z: number) => thicknessAt({ mm: 9, levels }, z)
    expect([0, 10, 15, 20, 35, 50, 80].map(at)).toEqual([2, 2, 3, 4, 2.5, 1, 1])
    expect(thicknessAt({ mm: 9, levels: [] }, 15)).toBe(9)
    expect(mostThickness({ mm: 9, levels })).toBe(4)
  })

  it('changes as its slope says (property)', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 60, noNaN: true }), (z) => {
        fc.pre(levels.every((l) => Math.abs(l.z - z) > 1e-3))
        const thickness = { mm: 9, levels }
        const step = 1e-4
        const slope = (thicknessAt(thickness, z + step) - thicknessAt(thickness, z - step)) / (2 * step)
        expect(thicknessSlope(thickness, z)).toBeCloseTo(slope, 6)
      }),
    )
  })
})
