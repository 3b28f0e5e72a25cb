import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bendAt, normalsOf, resample, reversed, smoothChain, withoutLoops } from './chain'

const chain = fc
  .array(
    fc.tuple(fc.double({ min: -50, max: 50, noNaN: true }), fc.double({ min: -50, max: 50, noNaN: true })),
    {
      minLength: 2,
      maxLength: 30,
    },
  )
  .filter((points) =>
    points.every((p, i) => i === 0 || Math.hypot(p[0] - points[i - 1]![0], p[1] - points[i - 1]![1]) > 0.5),
  )
  .map((points) => Float64Array.from(points.flat()))

const circle = (n: number, radius: number) =>
  Float64Array.from({ length: 2 * n }, (_, i) => {
    const at = (Math.PI * Math.floor(i / 2)) / (n - 1)
    return radius * (i % 2 ? Math.sin(at) : Math.cos(at))
  })

function lengthOf(points: ArrayLike<number>): number {
  let sum = 0
  for (let i = 0; i + 3 < points.length; i += 2)
    sum += Math.hypot(points[i + 2]! - points[i]!, points[i + 3]! - points[i + 1]!)
  return sum
}

/** Least distance of a place from a polyline. */
function away(line: ArrayLike<number>, x: number, y: number): number {
  let least = Infinity
  for (let i = 0; i + 3 < line.length; i += 2) {
    const [ax, ay] = [line[i]!, line[i + 1]!]
    const [dx, dy] = [line[i + 2]! - ax, line[i + 3]! - ay]
    const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy)))
    least = Math.min(least, Math.hypot(ax + t * dx - x, ay + t * dy - y))
  }
  return least
}

describe('chains of points', () => {
  it('laid out anew lie on the old line at even steps and keep its ends (property)', () => {
    fc.assert(
      fc.property(chain, fc.double({ min: 0.3, max: 5, noNaN: true }), (points, step) => {
        const even = resample(points, step)
        expect([even[0], even[1]]).toEqual([points[0], points[1]])
        expect([even.at(-2), even.at(-1)].map((v, k) => Math.abs(v! - points.at(-2 + k)!) <= step)).toEqual([
          true,
          true,
        ])
        for (let i = 0; i < even.length; i += 2)
          expect(away(points, even[i]!, even[i + 1]!)).toBeLessThan(1e-9)
        // Straight from one to the next is never farther than along the line.
        for (let i = 2; i < even.length; i += 2)
          expect(Math.hypot(even[i]! - even[i - 2]!, even[i + 1]! - even[i - 1]!)).toBeLessThan(
            1.6 * step + 1e-9,
          )
        expect(even.length / 2).toBeLessThanOrEqual(lengthOf(points) / step + 2)
      }),
    )
  })

  it('turned round twice are the same (property)', () => {
    fc.assert(
      fc.property(chain, (points) => {
        const back = reversed(points)
        expect([back[0], back[1]]).toEqual([points.at(-2), points.at(-1)])
        expect(reversed(back)).toEqual(points)
      }),
    )
  })

  it('smoothed, keep their ends and stay where they are straight', () => {
    const line = Float64Array.from({ length: 80 }, (_, i) => (i % 2 ? 3 : Math.floor(i / 2)))
    expect([...smoothChain(line, 3)].every((v, i) => Math.abs(v - line[i]!) < 1e-9)).toBe(true)
    const zigzag = line.map((v, i) => (i % 2 ? v + (i % 4 === 1 ? 1 : -1) : v))
    const smooth = smoothChain(zigzag, 3)
    expect([smooth[0], smooth[1]]).toEqual([zigzag[0], zigzag[1]])
    for (let i = 21; i < 60; i += 2) expect(Math.abs(smooth[i]! - 3)).toBeLessThan(0.02)
  })

  it('have normals square to them, on the side that was asked for', () => {
    const points = circle(181, 40)
    for (const turn of [1, -1] as const) {
      const normals = normalsOf(points, turn, 2)
      for (let i = 20; i < 161; i++) {
        const [x, y] = [points[2 * i]! / 40, points[2 * i + 1]! / 40]
        // The half circle runs clockwise on the picture (y down): to the right of the way is inwards.
        expect(normals[2 * i]! * x + normals[2 * i + 1]! * y).toBeCloseTo(-turn, 4)
      }
    }
  })

  it('lose small loops and nothing else', () => {
    const straight = Float64Array.from({ length: 60 }, (_, i) => (i % 2 ? 0 : i / 2))
    expect(withoutLoops(straight)).toEqual(straight)
    const looped = Float64Array.from([0, 0, 4, 0, 8, 0, 10, 2, 8, 4, 6, 2, 7, -2, 9, -3, 14, -3])
    const out = withoutLoops(looped)
    expect(out.length).toBeLessThan(looped.length)
    expect([out[0], out[1], out.at(-2), out.at(-1)]).toEqual([0, 0, 14, -3])
    expect(lengthOf(out)).toBeLessThan(lengthOf(looped) - 8)
    // It turns off where it crossed itself.
    expect(away(out, 6.5, 0)).toBeLessThan(1e-9)
    expect(away(out, 8, 4)).toBeGreaterThan(2)
  })
})

describe('the bend of a chain', () => {
  it('is half the curvature of a circle, outwards positive, and nothing where the chain ends before (property)', () => {
    fc.assert(
      fc.property(fc.double({ min: 30, max: 500, noNaN: true }), fc.constantFrom(1, -1), (radius, turn) => {
        const points = circle(300, radius)
        const normals = normalsOf(points, turn as 1 | -1, 1)
        // The way goes from the right over the lower half of the picture to the left: its right hand is inside.
        expect(Math.abs((2 * radius * bendAt(points, normals, 150, radius / 10)) / turn - 1)).toBeLessThan(
          0.01,
        )
        expect(bendAt(points, normals, 4, radius / 10)).toBe(0)
      }),
    )
  })
})
