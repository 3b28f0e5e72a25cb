import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { findOutline } from './find-outline'
import { hornsOf, ledToHorns } from './horns'
import type { OutlineSide } from './refine'
import { paint } from './test-pictures'
import { silhouetteOf, stripOf, vase } from './test-strips'

const axis = { at: { x: 200, y: 400 }, up: { x: 0, y: -1 } }
/** A tube 100 px wide and 300 tall whose foot lies so much deeper in its middle than at its corners, and its top so much higher. */
const tube = (foot: number, top: number) =>
  ([-1, 1] as const).map((sign): OutlineSide => {
    const points = [
      [200, 400 + foot],
      [200 + 50 * sign, 400],
      [200 + 50 * sign, 100],
      [200, 100 - top],
    ].flat()
    return { points: Float64Array.from(points), sd: new Float64Array(4).fill(0.1), blur: 1 }
  }) as [OutlineSide, OutlineSide]

describe('an end between two corners that reach beyond it', () => {
  it('has horns as high as they do; one that bulges outwards has none (property)', () => {
    const depth = fc.double({ min: 0, max: 40, noNaN: true })
    fc.assert(
      fc.property(depth, depth, (foot, top) => {
        expect(hornsOf(tube(foot, top), axis)).toEqual({ foot: 0, top: 0 })
        const { foot: low, top: high } = hornsOf(tube(-foot, -top), axis)
        expect(low).toBeCloseTo(foot, 9)
        expect(high).toBeCloseTo(top, 9)
      }),
    )
  })

  it('has none where one corner only reaches beyond it, as a spout does', () => {
    const [left] = tube(0, -15)
    const [, right] = tube(0, 0)
    expect(hornsOf([left!, right!], axis).top).toBe(0)
  })

  it('is led on straight as far as they reach', () => {
    const strip = stripOf(vase, () => 0.8)
    const led = ledToHorns(silhouetteOf(strip, vase), { foot: 0.5, top: 6 })!
    expect(led.half.findIndex((r) => r > 0)).toBe(14)
    expect(led.half[14]).toBe(vase[21])
    expect(led.half.subarray(21)).toEqual(Float32Array.from(vase).subarray(21))
    expect(ledToHorns(silhouetteOf(strip, vase), { foot: 0.5, top: 1 })).toBeNull()
  })
})

describe('a lip as light as the wall on one side, above a crease', () => {
  const [foot, top, crease] = [1000, 160, 178]
  const wall = [0.48, 0.46, 0.44]
  /** The lip is darker to the right, and at its very corner to the left; all below the crease is dark. */
  const lipAt = (x: number) => 1 - 0.75 * Math.max(0, (x - 270) / 260) ** 3 - (x < 276 ? 0.25 : 0)
  const inside = (x: number, y: number) => (y > crease ? [0.13, 0.12, 0.11] : wall.map((v) => v * lipAt(x)))
  const raster = paint(800, 1200, (x, y) => Math.max(Math.abs(x - 400) - 130, top - y, y - foot), {
    inside,
    outside: () => wall,
  })

  it('is found: the outline ends at it, not at the crease', () => {
    const { left, right } = findOutline(raster)
    for (const { points } of [left, right]) expect(points.at(-1)!).toBeLessThan(top + 3)
  })
})
