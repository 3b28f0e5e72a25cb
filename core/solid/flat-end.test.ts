import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { flatEnd } from './flat-end'

/** Half-profiles that widen and narrow from row to row, with points on straight runs, closed along the axis. */
const profile = fc
  .array(
    fc.tuple(
      fc.integer({ min: 5, max: 60 }),
      fc.integer({ min: 1, max: 12 }),
      fc.integer({ min: 0, max: 3 }),
    ),
    { minLength: 2, maxLength: 9 },
  ) // prettier-ignore
  .map((rows) => {
    const points: number[] = [0, 0]
    let z = 0
    let [r0, z0] = [0, 0]
    rows.forEach(([r, rise, between], i) => {
      if (i > 0) z += rise
      for (let k = 1; k <= between; k++) {
        const t = k / (between + 1)
        points.push(r0 + (r - r0) * t, z0 + (z - z0) * t)
      }
      points.push(r, z)
      ;[r0, z0] = [r, z]
    })
    points.push(0, z)
    return Float64Array.from(points)
  })

const corner = (points: Float64Array, i: number) => [points[2 * i]!, points[2 * i + 1]!] as const
function area(points: Float64Array, [a, b, c]: readonly number[]): number {
  const [p, q, s] = [a!, b!, c!].map((i) => corner(points, i)) as [readonly [number, number], readonly [number, number], readonly [number, number]] // prettier-ignore
  return ((q[0] - p[0]) * (s[1] - p[1]) - (q[1] - p[1]) * (s[0] - p[0])) / 2
}
const trianglesOf = (list: Uint32Array) =>
  Array.from({ length: list.length / 3 }, (_, k) => Array.from(list.subarray(3 * k, 3 * k + 3)))
/** Gauss's area of the polygon. */
function whole(points: Float64Array): number {
  let sum = 0
  const n = points.length / 2
  for (let i = 0; i < n; i++) {
    const [[a, b], [c, d]] = [corner(points, i), corner(points, (i + 1) % n)]
    sum += (a * d - c * b) / 2
  }
  return sum
}

describe('the flat end of a part-turned solid', () => {
  it('covers the area between half-profile and axis once, counter-clockwise, with every point as a corner (property)', () => {
    fc.assert(
      fc.property(profile, (points) => {
        const triangles = trianglesOf(flatEnd(points))
        const areas = triangles.map((t) => area(points, t))
        for (const a of areas) expect(a).toBeGreaterThan(-1e-9)
        expect(areas.reduce((p, q) => p + q, 0)).toBeCloseTo(whole(points), 6)
        expect(new Set(triangles.flat()).size).toBe(points.length / 2)
      }),
    )
  })

  it('has triangles that have points along two of their sides', () => {
    const points = Float64Array.of(0, 0, 5, 0, 70 / 3, 10 / 3, 125 / 3, 20 / 3, 60, 10, 5, 11, 6, 12, 0, 12)
    const triangles = trianglesOf(flatEnd(points))
    expect(triangles.map((t) => area(points, t)).reduce((p, q) => p + q, 0)).toBeCloseTo(whole(points), 6)
    expect(new Set(triangles.flat()).size).toBe(8)
  })

  it('meets its outline edge by edge: every side of it belongs to one triangle, every other edge to two (property)', () => {
    fc.assert(
      fc.property(profile, (points) => {
        const n = points.length / 2
        const count = new Map<string, number>()
        for (const [a, b, c] of trianglesOf(flatEnd(points)))
          for (const [p, q] of [[a, b], [b, c], [c, a]]) count.set(`${p}-${q}`, (count.get(`${p}-${q}`) ?? 0) + 1) // prettier-ignore
        for (const [edge, times] of count) {
          const [p, q] = edge.split('-').map(Number) as [number, number]
          expect(times).toBe(1)
          const isSide = q === (p + 1) % n
          expect(count.has(`${q}-${p}`)).toBe(!isSide)
        }
        for (let i = 0; i < n; i++) expect(count.has(`${i}-${(i + 1) % n}`)).toBe(true)
      }),
    )
  })
})
