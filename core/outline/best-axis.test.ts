import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { PicturePoint } from '../conventions'
import type { Plane } from '../picture/raster'
import { bestAxis } from './best-axis'
import { lineThroughMiddles } from './middles-line'
import { regionMiddleAxes } from './region-middles'

const [width, height] = [120, 160]

/** Evidence for a piece of a half-width about a line, where `extra` adds piece on one side of it. */
function evidenceAbout(
  at: PicturePoint,
  up: PicturePoint,
  half: (v: number) => number,
  extra: (v: number) => number = () => 0,
): Plane {
  const data = new Float32Array(width * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [dx, dy] = [x + 0.5 - at.x, y + 0.5 - at.y]
      const v = dx * up.x + dy * up.y
      const u = -dx * up.y + dy * up.x
      data[y * width + x] = u > -half(v) && u < half(v) + extra(v) ? 1 : -1
    }
  return { width, height, data }
}

/** How far one line lies off another within so many px about the first one's place, px. */
function off(
  axis: { at: PicturePoint; up: PicturePoint },
  at: PicturePoint,
  up: PicturePoint,
  reach: number,
) {
  const far = (v: number) => {
    const [x, y] = [at.x + v * up.x - axis.at.x, at.y + v * up.y - axis.at.y]
    return Math.abs(-x * axis.up.y + y * axis.up.x)
  }
  return Math.max(far(-reach), far(reach))
}

describe('axes through the middles of what looks like piece', () => {
  const directions = [
    { x: 0, y: -1 },
    { x: 0, y: 1 },
    { x: 1, y: 0 },
    { x: -1, y: 0 },
  ]

  it('lie on the mirror line of any leaning piece, whichever way is up (property)', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...directions),
        fc.double({ min: -0.1, max: 0.1, noNaN: true }),
        fc.double({ min: -8, max: 8, noNaN: true }),
        fc.double({ min: 12, max: 28, noNaN: true }),
        (rough, lean, aside, wide) => {
          const [c, s] = [Math.cos(lean), Math.sin(lean)]
          const up = { x: rough.x * c - rough.y * s, y: rough.x * s + rough.y * c }
          const at = { x: width / 2 + aside * -rough.y, y: height / 2 + aside * rough.x }
          const plane = evidenceAbout(at, up, (v) => (Math.abs(v) < 45 ? wide + 4 * Math.sin(v / 9) : 0))
          const [axis] = regionMiddleAxes(plane, rough)
          // Rows are level, the piece leans: where its width changes their middles lie a little beside its axis.
          expect(off(axis!, at, up, 40)).toBeLessThan(2.5)
        },
      ),
      { numRuns: 60 },
    )
  })

  it('are not bent by a shadow that lies on one side of some rows', () => {
    const at = { x: 58, y: 80 }
    const up = { x: 0, y: -1 }
    const plane = evidenceAbout(at, up, (v) => (Math.abs(v) < 60 ? 25 : 0), (v) => (v < -45 ? 30 : 0)) // prettier-ignore
    const [axis] = regionMiddleAxes(plane, up)
    expect(off(axis!, at, up, 60)).toBeLessThan(0.5)
  })

  it('need some rows', () => {
    const nothing = evidenceAbout({ x: 60, y: 80 }, { x: 0, y: -1 }, () => 0)
    expect(regionMiddleAxes(nothing, { x: 0, y: -1 })).toEqual([])
    expect(lineThroughMiddles([{ v: 0, offset: 1, edge: 1 }])).toBeNull()
  })
})

describe('the axis', () => {
  const up = { x: 1, y: 0 }
  /** A lying log from y = 40 to 80: its upper edge is faint, and the border of its shadow at 112 mirrors the lower one. */
  const edges = new Map([[40, 0.7], [80, 1], [112, 1]]) // prettier-ignore
  const y = new Float32Array(width * height)
  for (const [row, sharp] of edges) y.fill(sharp, row * width + 10, row * width + 110)
  const plane = evidenceAbout({ x: 60, y: 60 }, up, (v) => (Math.abs(v) < 50 ? 20 : 0))
  const sharp = {
    x: { width, height, data: new Float32Array(width * height) },
    y: { width, height, data: y },
  }
  const evidence = {
    kind: 'plain' as const,
    plane,
    loose: plane,
    unshadowed: plane,
    bare: plane,
    firm: null,
    backdrop: null,
  }

  it('is the piece’s, not the line between its lower edge and the border of its shadow', () => {
    const { best } = bestAxis(sharp, evidence, up)
    expect(off(best, { x: 60, y: 60 }, up, 50)).toBeLessThan(1)
  })

  it('is told with others that might be it, none of them the same line, the likeliest first', () => {
    // Without what lies between the edges both lines are about as good.
    const { best, others } = bestAxis(sharp, { ...evidence, kind: 'textured' }, up)
    const places = [best, ...others].map(({ at, up: { x, y } }) => at.y - ((at.x - 60) * y) / x)
    expect(places.some((y) => Math.abs(y - 60) < 1)).toBe(true)
    expect(places.some((y) => Math.abs(y - 76) < 1)).toBe(true)
    places.forEach((y, i) => places.forEach((z, k) => expect(i === k || Math.abs(y - z) > 1).toBe(true)))
  })
})

describe('a thing beside the piece', () => {
  const up = { x: 0, y: -1 }
  /** Edges of a faint thing 52 px wide and 130 high about one line, of a sharp one 16 px wide and 90 high about another. */
  const bestOf = (large: number, small: number) => {
    const x = new Float32Array(width * height)
    for (let row = 20; row < 150; row++) for (const at of [large - 26, large + 26]) x[row * width + at] = 0.42
    for (let row = 60; row < 150; row++) for (const at of [small - 8, small + 8]) x[row * width + at] = 1
    const plane = { width, height, data: new Float32Array(width * height) }
    const sharp = { x: { ...plane, data: x }, y: plane }
    const evidence = {
      kind: 'textured' as const,
      plane,
      loose: plane,
      unshadowed: null,
      bare: plane,
      firm: null,
      backdrop: null,
    }
    return bestAxis(sharp, evidence, up).best
  }

  it('is not the piece, sharp as it is, where one many times as large stands nearer to the middle', () => {
    expect(off(bestOf(58, 104), { x: 58.5, y: 85 }, up, 60)).toBeLessThan(1)
  })

  it('may be the piece where it stands in the middle', () => {
    expect(off(bestOf(28, 64), { x: 64.5, y: 105 }, up, 45)).toBeLessThan(1)
  })
})
