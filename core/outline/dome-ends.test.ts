import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { withDomes } from './dome-ends'
import { findOutline } from './find-outline'
import { openEnds } from './open-ends'
import type { OutlineSide } from './refine'
import { paint } from './test-pictures'

const axis = { at: { x: 300, y: 700 }, up: { x: 0, y: -1 } }
/** Where what is seen says nothing. */
const blank = paint(600, 900, () => 50)

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
        fc.double({ min: 80, max: 200, noNaN: true }),
        fc.double({ min: 0.7, max: 1.7, noNaN: true }),
        fc.double({ min: 0.88, max: 0.95, noNaN: true }),
        (wide, ratio, cut) => {
          const tall = ratio * wide
          const half = (v: number) => wide * Math.sqrt(Math.max(0, 1 - ((v - tall) / tall) ** 2))
          const level = tall * (1 + cut)
          const chains = withDomes(blank, sidesOf(half, level), axis, 2)
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
    for (const chain of withDomes(blank, sides(), axis, 2)!)
      expect(Math.abs(topOf(chain) - 400)).toBeLessThan(0.5)
    const seen = sides()
    for (const { sd } of seen) sd.fill(0.1)
    expect(withDomes(blank, seen, axis, 2)).toBeNull()
    // The same cap, along the dome itself: where no edge is seen the way is good enough.
    const along = [true, false].map((left) => {
      const side = sideOf(half, 399, left, 4)
      const n = side.sd.length
      side.sd.fill(Infinity, n - 10)
      return side
    }) as [OutlineSide, OutlineSide]
    expect(withDomes(blank, along, axis, 2)).toBeNull()
  })

  it('of cones and cylinders stay open: their sides lead to no dome', () => {
    expect(
      withDomes(
        blank,
        sidesOf((v) => 200 - v / 4, 400),
        axis,
        2,
      ),
    ).toBeNull()
    expect(
      withDomes(
        blank,
        sidesOf(() => 150, 400),
        axis,
        2,
      ),
    ).toBeNull()
  })

  it('are no domes that would lead out of the picture', () => {
    const half = (v: number) => 220 * Math.sqrt(Math.max(0, 1 - ((v - 370) / 370) ** 2))
    expect(withDomes(blank, sidesOf(half, 690), axis, 2)).toBeNull()
  })

  it('that an edge closes are left alone', () => {
    const half = (v: number) => 150 * Math.sqrt(Math.max(0, 1 - ((v - 200) / 200) ** 2))
    const sides = sidesOf(half, 340)
    for (const side of sides) side.sd.fill(0.1)
    expect(withDomes(blank, sides, axis, 2)).toBeNull()
  })
})

describe('a dark egg above the border of its shadow', () => {
  const [tall, wide, line] = [200, 150, 712]
  const half = (y: number) => wide * Math.sqrt(Math.max(0, 1 - ((y - 500) / tall) ** 2))
  const egg = (x: number, y: number) => (Math.hypot((x - 300) / wide, (y - 500) / tall) - 1) * wide
  const grey = (v: number) => [v, v, v]
  /** From so high on its edge is lost, and the way leaps down to the border of the shadow, wherever that shows an edge. */
  const lost = 696
  const shadow = (y: number, border = line) => grey(y > 640 && y < border ? 0.02 : 0.4)
  const through = (places: readonly [u: number, y: number, seen: boolean][], left: boolean): OutlineSide => ({
    points: Float64Array.from(places.flatMap(([u, y]) => [300 + (left ? -u : u), y])),
    sd: Float64Array.from(places, ([, , seen]) => (seen ? 0.1 : Infinity)),
    blur: 0.7,
  })
  const side = (left: boolean, onLine: (k: number) => boolean): OutlineSide => {
    const places: [number, number, boolean][] = []
    const u0 = half(lost)
    for (let u = 0, k = 0; u < u0; u += 2, k++) places.push([u, line, onLine(k)])
    for (let y = line - 2; y > lost; y -= 2) places.push([u0, y, false])
    for (let y = lost; y > 302; y -= 2) places.push([half(y), y, true])
    return through(places, left)
  }
  const sides = (onLine: (k: number) => boolean) =>
    [true, false].map((left) => side(left, onLine)) as [OutlineSide, OutlineSide]
  const footOf = (chain: Float64Array) => chain.filter((_, i) => i % 2).reduce((p, q) => Math.max(p, q))
  const seen = paint(600, 900, egg, { inside: () => grey(0.06), outside: (_, y) => shadow(y), grain: 0.5 })

  it('ends where its own edge is seen, whether the shadow’s border shows one all along or here and there', () => {
    for (const onLine of [() => true, (k: number) => k % 3 === 0]) {
      const chains = withDomes(seen, sides(onLine), axis, 2)
      for (const chain of chains!) expect(Math.abs(footOf(chain) - 700)).toBeLessThan(0.5)
    }
  })

  it('ends there, too, where its edge is lost early and the way slants down to a border that is seen', () => {
    const slanting = [true, false].map((left) => {
      const [early, end] = [650, 60]
      const places: [number, number, boolean][] = []
      for (let u = 0; u < end; u += 2) places.push([u, line, true])
      for (let t = 0; t < 1; t += 1 / 36)
        places.push([end + t * (half(early) - end), line + t * (early - line), false])
      for (let y = early; y > 302; y -= 2) places.push([half(y), y, true])
      return through(places, left)
    }) as [OutlineSide, OutlineSide]
    for (const chain of withDomes(seen, slanting, axis, 2)!)
      expect(Math.abs(footOf(chain) - 700)).toBeLessThan(0.5)
    // Where the dome shows no edge the way stays.
    expect(withDomes(blank, slanting, axis, 2)).toBeNull()
  })

  it('ends there, too, where the border runs close below it and the way follows it beyond the egg', () => {
    const close = 702.4
    const found = [true, false].map((left) => {
      const places: [number, number, boolean][] = []
      for (let u = 0; u < 60; u += 2) places.push([u, close, true])
      for (let t = 0; t < 1; t += 1 / 8)
        places.push([60 + t * (half(lost) - 60), close + t * (lost - close), false])
      for (let y = lost; y > 302; y -= 2) places.push([half(y), y, true])
      return through(places, left)
    }) as [OutlineSide, OutlineSide]
    const flat = paint(600, 900, egg, { inside: () => grey(0.06), outside: (_, y) => shadow(y, close), grain: 0.5 }) // prettier-ignore
    for (const chain of withDomes(flat, found, axis, 2)!)
      expect(Math.abs(footOf(chain) - 700)).toBeLessThan(0.5)
    expect(withDomes(blank, found, axis, 2)).toBeNull()
  })

  it('stands on a foot where nothing of it is seen before that', () => {
    const foot = (x: number, y: number) => Math.max(Math.abs(x - 300) - half(lost), lost - 40 - y, y - line)
    const footed = paint(600, 900, (x, y) => Math.min(egg(x, y), foot(x, y)), { inside: () => grey(0.06), outside: (_, y) => shadow(y), grain: 0.5 }) // prettier-ignore
    expect(withDomes(footed, sides(() => true), axis, 2)).toBeNull() // prettier-ignore
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
