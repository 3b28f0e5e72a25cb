import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { hobbyChain, hobbyCubic, hobbyParts, type Cubic } from './hobby'

const at = (c: Cubic, t: number): [number, number] => {
  const s = 1 - t
  const mix = (k: 0 | 1) =>
    s ** 3 * c[k]! + 3 * s * s * t * c[2 + k]! + 3 * s * t * t * c[4 + k]! + t ** 3 * c[6 + k]!
  return [mix(0), mix(1)]
}
const directionOut = (c: Cubic) => Math.atan2(c[3] - c[1], c[2] - c[0])
const directionIn = (c: Cubic) => Math.atan2(c[7] - c[5], c[6] - c[4])
const turn = (a: number, b: number) => Math.abs(Math.atan2(Math.sin(a - b), Math.cos(a - b)))

const point = fc.tuple(fc.integer({ min: -90, max: 90 }), fc.integer({ min: -90, max: 90 }))
/** Chains whose neighbours are some way apart. */
const chain = fc
  .array(point, { minLength: 3, maxLength: 9 })
  .filter((list) =>
    list.every((p, i) => i === 0 || Math.hypot(p[0] - list[i - 1]![0], p[1] - list[i - 1]![1]) > 2),
  ) // prettier-ignore
  .map((list) => list.flat())

describe('Hobby’s splines', () => {
  it('a quarter circle between level and upright has handles of 4/3 (√2 - 1) radii, the usual figure', () => {
    // The handle whose cubic meets the circle in its middle, e.g. M. Goldapp, Computer Aided Geometric Design 8 (1991) 227-238.
    const usual = (4 / 3) * (Math.SQRT2 - 1)
    const [quarter] = hobbyChain([1, 0, 0, 1], Math.PI / 2, Math.PI)
    expect(quarter![3]).toBeCloseTo(usual, 12)
    expect(quarter![4]).toBeCloseTo(usual, 12)
    expect(Math.hypot(...at(quarter!, 0.5))).toBeCloseTo(1, 12)
  })

  it('of two points alone, free at both ends, is the line between them', () => {
    const [line] = hobbyChain([2, 1, 11, 13], 'free', 'free')
    line!.forEach((v, k) => expect(v).toBeCloseTo([2, 1, 5, 5, 8, 9, 11, 13][k]!, 12))
  })

  it('leaves and reaches parts at the angles given, against the chord', () => {
    const cubic = hobbyCubic(0, 0, 30, 40, { leaves: 0.5, reaches: 0.2 })
    const chord = Math.atan2(40, 30)
    expect(directionOut(cubic)).toBeCloseTo(chord + 0.5, 12)
    expect(directionIn(cubic)).toBeCloseTo(chord - 0.2, 12)
  })

  it('passes through every point with one tangent on both sides of it (property)', () => {
    fc.assert(
      fc.property(chain, (points) => {
        const cubics = hobbyChain(points, 'free', 'free')
        expect(cubics).toHaveLength(points.length / 2 - 1)
        cubics.forEach((c, k) => {
          expect(c.slice(0, 2)).toEqual(points.slice(2 * k, 2 * k + 2))
          expect(c.slice(6)).toEqual(points.slice(2 * k + 2, 2 * k + 4))
          if (k > 0) expect(turn(directionOut(c), directionIn(cubics[k - 1]!))).toBeLessThan(1e-6)
        })
      }),
    )
  })

  it('keeps the directions asked for at its ends (property)', () => {
    const angle = fc.double({ min: -3, max: 3, noNaN: true })
    fc.assert(
      fc.property(chain, angle, angle, (points, start, end) => {
        const cubics = hobbyChain(points, start, end)
        expect(turn(directionOut(cubics[0]!), start)).toBeLessThan(1e-6)
        expect(turn(directionIn(cubics.at(-1)!), end)).toBeLessThan(1e-6)
      }),
    )
  })

  it('meets Hobby’s condition at inner points: mock curvatures agree (property)', () => {
    // To first order a part that leaves its chord at θ and reaches it at φ curves by (4θ - 2φ) / d at its beginning and by
    // (4φ - 2θ) / d at its end: with θ = φ as an arc does, 2θ / d.
    fc.assert(
      fc.property(chain, (points) => {
        const parts = hobbyParts(points, 'free', 'free')
        const d = parts.map((_, k) => Math.hypot(points[2 * k + 2]! - points[2 * k]!, points[2 * k + 3]! - points[2 * k + 1]!)) // prettier-ignore
        for (let k = 1; k < parts.length; k++) {
          const before = (4 * parts[k - 1]!.reaches - 2 * parts[k - 1]!.leaves) / d[k - 1]!
          const after = (4 * parts[k]!.leaves - 2 * parts[k]!.reaches) / d[k]!
          expect(after).toBeCloseTo(before, 6)
        }
      }),
    )
  })

  it('turns, moves and scales with its points (property)', () => {
    const by = fc.record({
      angle: fc.double({ min: -3, max: 3, noNaN: true }),
      scale: fc.double({ min: 0.1, max: 10, noNaN: true }),
      dx: fc.integer({ min: -50, max: 50 }),
    })
    fc.assert(
      fc.property(chain, by, (points, { angle, scale, dx }) => {
        const [c, s] = [scale * Math.cos(angle), scale * Math.sin(angle)]
        const moved = (list: readonly number[]) =>
          list.map((v, i) => (i % 2 === 0 ? c * v - s * list[i + 1]! + dx : s * list[i - 1]! + c * v))
        const [one, other] = [moved(hobbyChain(points, 'free', 'free').flat()), hobbyChain(moved(points), 'free', 'free').flat()] // prettier-ignore
        // Turned chords may fall on either side of half a turn where the way runs back on itself: those are left out.
        fc.pre(!turnsBack(points))
        one.forEach((v, i) => expect(Math.abs(v - other[i]!)).toBeLessThan(1e-6 * (1 + 300 * scale)))
      }),
    )
  })
})

/** True where the way turns round by nearly half a turn at a point. */
function turnsBack(points: readonly number[]): boolean {
  for (let i = 2; i + 3 < points.length; i += 2) {
    const [a, b] = [points[i]! - points[i - 2]!, points[i + 1]! - points[i - 1]!]
    const [c, d] = [points[i + 2]! - points[i]!, points[i + 3]! - points[i + 1]!]
    if (Math.abs(Math.atan2(a * d - b * c, a * c + b * d)) > 3.1) return true
  }
  return false
}
