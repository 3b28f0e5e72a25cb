import { describe, expect, it } from 'vitest'
import type { Raster } from '../picture/raster'
import { sharpness } from '../picture/sharpness'
import { findOutline } from './find-outline'
import { rulersIn } from './rulers'
import { misses, paint, skittle } from './test-pictures'

const [width, height] = [480, 640]
const FACTOR = 2
const UP = { x: 0, y: -1 }
const piece = skittle(270, 560, 90, 0.01)

/** A light bar 40 px wide from a place on, before the wall, with or without marks; 8 px apart, every fifth one longer. */
function withBar(picture: Raster, left: number, { marks = true, top = 30, foot = 590 } = {}): Raster {
  const data = Uint8Array.from(picture.data)
  for (let y = top; y < foot; y++)
    for (let x = Math.max(0, left); x < Math.min(width, left + 40); x++) {
      const mark = Math.floor((y - top) / 8)
      const long = mark % 5 === 0 ? 20 : 10
      const dark = marks && (y - top) % 8 < 2 && left + 40 - x <= long
      data.set(dark ? [40, 30, 25] : [225, 200, 140], 4 * (y * width + x))
    }
  return { ...picture, data }
}
const bare = paint(width, height, piece.distance)
const rulers = (picture: Raster) => rulersIn(picture, FACTOR, sharpness(picture, FACTOR), UP)
const farOff = (picture: Raster, options = {}) => {
  const found = findOutline(picture, { up: UP, ...options })
  const off = misses([found.left, found.right], piece.distance)
  return { found, most: off[Math.floor(0.95 * off.length)]! }
}

describe('a ruler beside the piece', () => {
  it('is told by its marks, and begins at its inner side', () => {
    const [begins, ...others] = rulers(withBar(bare, 60))
    expect(others).toEqual([])
    const [{ line, inwards, low, high }] = begins as [NonNullable<typeof begins>[0]]
    expect(Math.abs(line.at.x - 100 / FACTOR)).toBeLessThan(4)
    expect(Math.abs(line.up.x)).toBeLessThan(0.01)
    // Looking along the line downwards its right is to the left.
    expect(inwards * line.up.y).toBeLessThan(0)
    expect(low).toBeLessThan(30 / FACTOR - height / 4 + 8)
    expect(high).toBeGreaterThan(590 / FACTOR - height / 4 - 8)
  })

  it('is none without marks, and none is seen of a piece alone', () => {
    expect(rulers(withBar(bare, 60, { marks: false }))).toEqual([])
    expect(rulers(bare)).toEqual([])
  })

  it.each([10, 16, 24])('is none of the sides of a thread, at %i px a turn', (pitch) => {
    // A bolt, black before the wall; the turns of its two sides are half a pitch apart.
    const half = (x: number, y: number) =>
      90 - 0.6 * pitch * Math.abs(2 * ((((y + (x < 240 ? 0 : pitch / 2)) / pitch) % 1) - 0.5))
    const bolt = (x: number, y: number) => Math.max(0.7 * (Math.abs(x - 240) - half(x, y)), 70 - y, y - 570)
    expect(rulers(paint(width, height, bolt, { inside: () => [0.02, 0.02, 0.02] }))).toEqual([])
  })

  it.each([
    ['whole', 60, {}],
    ['cut off by the border', -15, { top: 0, foot: 590 }],
    ['without marks that are seen', 60, { marks: false }],
  ])('is left out, and that is said: %s', (_, left, options) => {
    const { found, most } = farOff(withBar(bare, left, { top: 30, ...options }))
    expect(found.besideLeftOut).toBe(true)
    expect(most).toBeLessThan(0.4)
  })

  it('isn’t left out about an axis that somebody set on it, nor where somebody painted it as piece', () => {
    const picture = withBar(bare, 60)
    const about = findOutline(picture, { up: UP, axis: { at: { x: 80, y: 320 }, up: UP } })
    const points = [100, 300, 500].map((y) => ({ x: 75, y }))
    const painted = findOutline(picture, { up: UP, guides: { piece: [{ points, radius: 8 }], backdrop: [], marks: [] } }) // prettier-ignore
    for (const { besideLeftOut, axis } of [about, painted]) {
      expect(besideLeftOut).toBe(false)
      expect(Math.abs(axis.at.x - 80)).toBeLessThan(8)
    }
  })

  it('is left out about the piece’s own axis, too, and nothing is said of a piece alone', () => {
    const alone = farOff(bare)
    expect(alone.found.besideLeftOut).toBe(false)
    const { found, most } = farOff(withBar(bare, 60), { axis: alone.found.axis })
    expect(found.besideLeftOut).toBe(true)
    expect(most).toBeLessThan(0.4)
  })
})
