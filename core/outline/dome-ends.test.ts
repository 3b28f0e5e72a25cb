import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { withDomes } from './dome-ends'
import { findOutline } from './find-outline'
import { openEnds } from './open-ends'
import type { OutlineSide } from './refine'
import { paint } from './test-pictures'

const axis = { at: { x: 300, y: 700 }, up: { x: 0, y: -1 } }

/**
 * One side of a piece from its foot to its top, by its half-width at heights; above a level no edge was found and the way goes
 * straight to the axis.
 */
function sideOf(half: (v: number) => number, level: number, left: boolean, across = 60): OutlineSide {
  const places: [number, number][] = [[0, 0]]
  for (let v = 0; v <= level; v += 2) places.push([half(v), v])
  const [u] = places.at(-1)!
  const seen = places.length
  for (let k = 1; k <= across; k++) places.push([u * (1 - k / across), level])
  const points = Float64Array.from(places.flatMap(([u, v]) => [300 + (left ? -u : u), 700 - v]))
  return { points, sd: Float64Array.from(places, (_, i) => (i < seen ? 0.1 : Infinity)), blur: 1 }
}
const sidesOf = (half: (v: number) => number, level: number): [OutlineSide, OutlineSide] => [
  sideOf(half, level, true),
  sideOf(half, level, false),
]
const topOf = (chain: Float64Array) => 700 - chain.filter((_, i) => i % 2).reduce((p, q) => Math.min(p, q))

describe('ends that no edge closes', () => {
  it('of ellipsoids are closed at their tips (property)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 80, max: 250, noNaN: true }),
        fc.double({ min: 0.7, max: 1.7, noNaN: true }),
        fc.double({ min: 0.88, max: 0.95, noNaN: true }),
        (wide, ratio, cut) => {
          const tall = ratio * wide
          const half = (v: number) => wide * Math.sqrt(Math.max(0, 1 - ((v - tall) / tall) ** 2))
          const level = tall * (1 + cut)
          const chains = withDomes(sidesOf(half, level), axis, 2)
          expect(chains).not.toBeNull()
          for (const [k, chain] of chains!.entries()) {
            expect(Math.abs(topOf(chain) - 2 * tall)).toBeLessThan(0.5)
            // Every place lies on the ellipsoid, on its own side, and the way only goes up.
            for (let i = 4; i < chain.length; i += 2) {
              // Towards the foot the points of this side lie too far apart.
              if (700 - chain[i + 1]! < tall / 2) continue
              const u = (chain[i]! - 300) * (k === 0 ? -1 : 1)
              expect(Math.abs(u - half(700 - chain[i + 1]!))).toBeLessThan(1.5)
              expect(chain[i + 1]!).toBeLessThanOrEqual(chain[i - 1]! + 1e-9)
            }
          }
        },
      ),
      { numRuns: 60 },
    )
  })

  it('of which only a small cap was cut off straight are closed, too, unless the line over it is seen or leads on', () => {
    const half = (v: number) => 150 * Math.sqrt(Math.max(0, 1 - ((v - 200) / 200) ** 2))
    const sides = () => [true, false].map((left) => sideOf(half, 396, left, 10)) as [OutlineSide, OutlineSide]
    expect(openEnds(sides())).toEqual([])
    for (const chain of withDomes(sides(), axis, 2)!) expect(Math.abs(topOf(chain) - 400)).toBeLessThan(0.5)
    const seen = sides()
    for (const { sd } of seen) sd.fill(0.1)
    expect(withDomes(seen, axis, 2)).toBeNull()
    // The same cap, along the dome itself: where no edge is seen the way is good enough.
    const along = [true, false].map((left) => {
      const side = sideOf(half, 399, left, 4)
      const n = side.sd.length
      side.sd.fill(Infinity, n - 10)
      return side
    }) as [OutlineSide, OutlineSide]
    expect(withDomes(along, axis, 2)).toBeNull()
  })

  it('of cones and cylinders stay open: their sides lead to no dome', () => {
    expect(
      withDomes(
        sidesOf((v) => 200 - v / 4, 400),
        axis,
        2,
      ),
    ).toBeNull()
    expect(
      withDomes(
        sidesOf(() => 150, 400),
        axis,
        2,
      ),
    ).toBeNull()
  })

  it('that an edge closes are left alone', () => {
    const half = (v: number) => 150 * Math.sqrt(Math.max(0, 1 - ((v - 200) / 200) ** 2))
    const sides = sidesOf(half, 340)
    for (const side of sides) side.sd.fill(0.1)
    expect(withDomes(sides, axis, 2)).toBeNull()
  })
})

describe('a white egg before a white wall', () => {
  const [cx, foot, tall] = [300, 820, 700]
  const half = (y: number) => {
    const t = Math.min(1, Math.max(0, (foot - y) / tall))
    return 260 * Math.sqrt(t * (1 - t)) * 2 * (1 - 0.18 * (t - 0.5))
  }
  const distance = (x: number, y: number) => {
    const slope = (half(y + 1) - half(y - 1)) / 2
    return Math.max((Math.abs(x - cx) - half(y)) / Math.hypot(1, slope), foot - tall - y, y - foot)
  }
  it('keeps its top, where it is as light as the wall', () => {
    // Lit from above: the lower it is the darker, and level with the wall at its top.
    const inside = (_x: number, y: number) =>
      [0.62, 0.61, 0.59].map((v) => v * (1 - 0.5 * Math.min(1, (y - 120) / 220)))
    const outside = () => [0.6, 0.59, 0.57]
    const { left, right } = findOutline(paint(600, 900, distance, { inside, outside, grain: 1.5 }))
    const top = Math.min(...[left, right].map(({ points }) => 700 - topOf(points)))
    expect(Math.abs(top - (foot - tall))).toBeLessThan(6)
  })
})
