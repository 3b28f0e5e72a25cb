import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Plane } from '../picture/raster'
import type { Sharpness } from '../picture/sharpness'
import type { AxisLine } from './axis-line'
import { MOST_LEAN, sameLine, symmetryAxes, turn } from './symmetry'

const [width, height] = [100, 130]
const UP = { x: 0, y: -1 }
const blank = () => new Float32Array(width * height)

/** A piece of a half-width about a leaning line: what its colours and its edges say, each side as clear as is said. */
function pictureOf(axis: AxisLine, half: (v: number) => number, clear: { left: number; right: number } = { left: 1, right: 1 }): { evidence: Plane; sharp: Sharpness } {
  const [data, x] = [blank(), blank()]
  for (let py = 0; py < height; py++)
    for (let px = 0; px < width; px++) {
      const [dx, dy] = [px + 0.5 - axis.at.x, py + 0.5 - axis.at.y]
      const v = dx * axis.up.x + dy * axis.up.y
      const u = -dx * axis.up.y + dy * axis.up.x
      const r = Math.abs(v) < 45 ? half(v) : 0
      data[py * width + px] = Math.abs(u) < r ? 1 : -1
      if (r > 0 && Math.abs(Math.abs(u) - r) < 0.8) x[py * width + px] = u < 0 ? clear.left : clear.right
    }
  return { evidence: { width, height, data }, sharp: { x: { width, height, data: x }, y: { width, height, data: blank() } } }
} // prettier-ignore

/** The largest distance between two lines over the piece's height, px. */
function apart(a: AxisLine, b: AxisLine): number {
  const off = (v: number) => {
    const [x, y] = [b.at.x + v * b.up.x - a.at.x, b.at.y + v * b.up.y - a.at.y]
    return Math.abs(-x * a.up.y + y * a.up.x)
  }
  return Math.max(off(-45), off(45))
}
const vase = (v: number) => 18 + 7 * Math.sin(v / 11)

describe('lines about which a picture is its own mirror image', () => {
  it('are found to about a pixel, wherever a piece stands and leans (property)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -16, max: 16, noNaN: true }),
        fc.double({ min: -0.09, max: 0.09, noNaN: true }),
        (aside, lean) => {
          const axis = { at: { x: width / 2 + aside, y: height / 2 }, up: turn(UP, lean) }
          const { evidence, sharp } = pictureOf(axis, vase)
          const axes = symmetryAxes(sharp, evidence, UP)
          expect(axes.length).toBeLessThanOrEqual(2)
          expect(Math.min(...axes.map((found) => apart(found, axis)))).toBeLessThan(2)
        },
      ),
      { numRuns: 12 },
    )
  })

  it('are known by edges alone where colours say nothing, and by colours where one side shows no edge', () => {
    const axis = { at: { x: 54, y: height / 2 }, up: UP }
    const { evidence, sharp } = pictureOf(axis, vase)
    const silent = { ...evidence, data: evidence.data.map(() => 0) }
    expect(Math.min(...symmetryAxes(sharp, silent, UP).map((found) => apart(found, axis)))).toBeLessThan(2)
    const half = pictureOf(axis, vase, { left: 0, right: 1 })
    expect(Math.min(...symmetryAxes(half.sharp, evidence, UP).map((found) => apart(found, axis)))).toBeLessThan(2) // prettier-ignore
  })

  it('that are nearly one are one', () => {
    const axis = { at: { x: 50, y: 60 }, up: UP }
    expect(sameLine(axis, { at: { x: 51, y: 20 }, up: turn(UP, 0.004) })).toBe(true)
    expect(sameLine(axis, { at: { x: 52, y: 60 }, up: UP })).toBe(false)
    expect(sameLine(axis, { at: { x: 50, y: 60 }, up: turn(UP, 0.01) })).toBe(false)
  })

  it('lean no farther than a photo does that is brought upright', () => {
    const axis = { at: { x: 50, y: height / 2 }, up: turn(UP, 0.25) }
    const { evidence, sharp } = pictureOf(axis, vase)
    for (const { up } of symmetryAxes(sharp, evidence, UP))
      expect(Math.abs(Math.atan2(up.x, -up.y))).toBeLessThanOrEqual(MOST_LEAN + 1e-9)
  })
})
