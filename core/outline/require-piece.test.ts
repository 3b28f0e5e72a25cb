import { describe, expect, it } from 'vitest'
import {
  endsNearBorder,
  isWhole,
  requireBothSides,
  requireClosing,
  requireInFocus,
  requireLikeness,
  requirePiece,
  requireWide,
} from './require-piece'
import type { MirrorFit } from './mirror'
import type { OutlineSide } from './refine'
import type { Silhouette } from './silhouette'
import { paint } from './test-pictures'

const picture = { width: 120, height: 160, data: new Float32Array(120 * 160) }

/** An upright silhouette with its rows between two heights of the picture, all of one half-width. */
function upright(top: number, foot: number, half: number, x = 60): Silhouette {
  const rows = Float32Array.from({ length: 160 }, (_, row) => (row >= top && row < foot ? half : 0))
  return { axis: { at: { x, y: 0 }, up: { x: 0, y: -1 } }, top: 0, half: rows, edges: 1 }
}

describe('what is a piece', () => {
  it('has a dozen rows at least', () => {
    expect(() => requirePiece(upright(40, 51, 20))).toThrow(/No round piece stands out/)
    expect(() => requirePiece(upright(40, 53, 20))).not.toThrow()
  })

  it('is whole unless a border runs along it or cuts an end', () => {
    expect(isWhole(upright(20, 140, 30), picture)).toBe(true)
    expect(isWhole(upright(20, 140, 59.5), picture)).toBe(false)
    expect(isWhole(upright(20, 140, 30, 31), picture)).toBe(false)
    expect(isWhole(upright(0, 140, 30), picture)).toBe(false)
    expect(isWhole(upright(20, 160, 30), picture)).toBe(false)
  })

  it('that ends near a border may be cut there', () => {
    expect(endsNearBorder(upright(20, 140, 30), picture)).toBe(false)
    expect(endsNearBorder(upright(6, 140, 30), picture)).toBe(true)
    expect(endsNearBorder(upright(20, 155, 30), picture)).toBe(true)
  })
})

describe('what was found is refused', () => {
  /** A side of 100 points, 2 px apart: 20 across its foot, 60 up, 20 across its top. Those show an edge that are asked for. */
  const side = (seen: (i: number) => boolean): OutlineSide => ({
    points: Float64Array.from(
      Array.from({ length: 100 }, (_, i) =>
        i < 20 ? [2 * i, 300] : i < 80 ? [40, 338 - 2 * i] : [198 - 2 * i, 180],
      ).flat(),
    ),
    sd: Float64Array.from({ length: 100 }, (_, i) => (seen(i) ? 0.1 : Infinity)),
    blur: 1,
  })
  const axis = { at: { x: 0, y: 300 }, up: { x: 0, y: -1 } }
  const mirror = (spread: number) => ({ spread, axis }) as MirrorFit
  const judge = (seen: (i: number) => boolean, spread: number, clear = false) =>
    requireLikeness([side(seen), side(seen)], mirror(spread), clear)

  it('where left and right hardly ever show an edge at the same height', () => {
    const crossed = (share: number, others = false) =>
      requireBothSides([side((i) => i < 100 * share), side((i) => i >= 100 - 100 * share)], axis, others)
    expect(() => crossed(0.6)).toThrow(/both show an edge over only \d\d % of its height/)
    expect(() => crossed(0.7)).not.toThrow()
    // As clear edges elsewhere may be the rest of the piece.
    expect(() => crossed(0.7, true)).toThrow(/both show an edge over only 6\d % of its height/)
    expect(() => crossed(0.9, true)).not.toThrow()
  })

  it('where few edges are seen and both sides disagree', () => {
    /** Both ends, and every so many points of the flank. */
    const ends = (every: number) => (i: number) => i < 20 || i >= 80 || i % every === 0
    expect(() => judge(ends(4), 3)).toThrow(/only 55 % of it shows an edge.*differ by 3\.0 px/)
    expect(() => judge(ends(4), 0.2)).not.toThrow()
    expect(() => judge((i) => i % 3 === 0, 0.2)).toThrow(/only 34 %/)
    expect(() => judge(ends(2), 3)).toThrow(/only 70 %/)
    // A highlight taken for one of the edges: much is seen, but as no mirror image.
    expect(() => judge((i) => i % 5 !== 0, 2.2)).toThrow(/only 80 %.*differ by 2\.2 px/)
    expect(() => judge((i) => i % 5 !== 0, 1.2)).not.toThrow()
    expect(() => judge((i) => i % 10 !== 0, 3)).not.toThrow()
  })

  it('where no end is closed, or one hardly is and little is seen', () => {
    expect(() => judge((i) => i >= 10 && i < 90, 0.1)).toThrow(/foot or at the top/)
    // Every other point of the foot, or two of three, and three of four of the rest.
    expect(() => judge((i) => (i < 20 ? i % 2 === 0 : i % 4 > 0), 0.1)).toThrow(
      /Only 70 %.*closes it at its foot/,
    )
    expect(() => judge((i) => (i < 20 ? i % 2 === 0 : i % 4 > 0), 0.1, true)).not.toThrow()
    expect(() => judge((i) => i < 78, 0.1, true)).toThrow(/Only 78 %.*closes it at its top/)
    expect(() => judge((i) => (i < 20 ? i % 3 > 0 : i % 4 > 0), 0.1)).not.toThrow()
    expect(() => judge((i) => i < 60, 0.1)).toThrow(/Only 60 %.*closes it at its top/)
    expect(() => judge((i) => i > 39, 0.1)).toThrow(/closes it at its foot/)
    expect(() => judge((i) => i < 83, 0.1)).toThrow(/Only 83 %.*closes it at its top/)
    expect(() => judge((i) => i < 85, 0.1)).not.toThrow()
  })

  it('where an end near the border shows no edge, but not where only its middle lies in shadow', () => {
    // A post 120 px wide, from 12 px above the border of a picture of 400 x 600 px up to 100, 2 px between its points.
    const post = (seen: (u: number) => boolean): OutlineSide => {
      const places: [number, number][] = []
      for (let u = 0; u < 60; u += 2) places.push([u, 588])
      for (let y = 586; y > 100; y -= 2) places.push([60, y])
      for (let u = 58; u >= 0; u -= 2) places.push([u, 100])
      return {
        points: Float64Array.from(places.flatMap(([u, y]) => [200 + u, y])),
        sd: Float64Array.from(places, ([u, y]) => (y < 588 || seen(u) ? 0.1 : Infinity)),
        blur: 1,
      }
    }
    const raster = { width: 400, height: 600, data: new Uint8Array(4) }
    const judge = (seen: (u: number) => boolean) => requireClosing([post(seen), post(seen)], raster)
    expect(() => judge(() => false)).toThrow(/reaches the border/)
    expect(() => judge((u) => u > 50)).toThrow(/reaches the border/)
    expect(() => judge((u) => u > 26)).not.toThrow()
    const high = { ...raster, height: 640 }
    expect(() => requireClosing([post(() => false), post(() => false)], high)).not.toThrow()
  })
})

describe('an outline that is hardly wider than a line', () => {
  const axis = { at: { x: 50, y: 0 }, up: { x: 0, y: -1 } }
  const picture = { width: 1200, height: 1600, data: new Uint8Array(0) }
  /** Both sides of a rod, so many px thick. */
  const rod = (thick: number): OutlineSide[] =>
    [-1, 1].map((side) => ({
      points: Float64Array.from([
        50,
        300,
        50 + (side * thick) / 2,
        300,
        50 + (side * thick) / 2,
        100,
        50,
        100,
      ]),
      sd: new Float64Array(4),
      blur: 1,
    }))

  it('is refused, in a large picture the sooner', () => {
    expect(() => requireWide(rod(9), axis, picture)).toThrow(
      /only 9 px wide: a line, or the border of a shadow/,
    )
    expect(() => requireWide(rod(11), axis, picture)).not.toThrow()
    expect(() => requireWide(rod(9), axis, { ...picture, height: 1200 })).not.toThrow()
  })
})

describe('an outline that is out of focus', () => {
  /** A sharp disc before an even wall. */
  const sharp = paint(200, 200, (x, y) => Math.hypot(x - 100, y - 100) - 60)
  const soft = paint(200, 200, (x, y) => Math.hypot(x - 100, y - 100) - 60, { blur: 2.5 })
  const sides = (blur: number): OutlineSide[] =>
    [blur, blur + 0.2].map((each) => ({ points: new Float64Array(4), sd: new Float64Array(2), blur: each }))

  it('is refused where the photo shows sharp things', () => {
    expect(() => requireInFocus(sides(3.6), sharp)).toThrow(/something out of focus behind the piece/)
    expect(() => requireInFocus(sides(2.5), sharp)).not.toThrow()
  })

  it('is the piece’s where nothing is sharper', () => {
    expect(() => requireInFocus(sides(3.6), soft)).not.toThrow()
  })
})
