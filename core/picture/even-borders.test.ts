import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { noise, paint, skittle } from '../outline/test-pictures'
import { partOf, withinEvenBorders, type Part } from './even-borders'
import type { Raster } from './raster'

type Colour = readonly [number, number, number]

/** A picture of one colour, but for a part that shows another picture. */
function laidAbout(
  inner: Raster,
  { left, top, right, bottom }: Record<string, number>,
  colour: Colour,
): Raster {
  const [width, height] = [inner.width + left! + right!, inner.height + top! + bottom!]
  const data = new Uint8Array(4 * width * height)
  for (let i = 0; i < width * height; i++) data.set([...colour, 255], 4 * i)
  for (let y = 0; y < inner.height; y++)
    data.set(
      inner.data.subarray(4 * y * inner.width, 4 * (y + 1) * inner.width),
      4 * ((y + top!) * width + left!),
    )
  return { width, height, data }
}

/** A photo of a graded wall, with noise. */
function wall(width: number, height: number): Raster {
  const gauss = noise(3)
  const data = new Uint8Array(4 * width * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const v = Math.round(
        110 + (60 * y) / height + 2 * gauss() + (Math.hypot(x - width / 2, y - height / 2) < 20 ? -80 : 0),
      )
      data.set([v, v, v - 6, 255], 4 * (y * width + x))
    }
  return { width, height, data }
}

describe('even borders about a photo', () => {
  it('are told wherever they lie, and nothing of the photo is lost but its soft edge', () => {
    const bar = fc.integer({ min: 3, max: 60 })
    const none = fc.constant(0)
    const beside = fc.oneof(bar, none)
    const colour = fc.constantFrom<Colour>([255, 255, 255], [0, 0, 0], [240, 20, 40])
    fc.assert(
      fc.property(beside, beside, beside, beside, colour, (left, right, top, bottom, of) => {
        const inner = wall(160, 200)
        const part = withinEvenBorders(laidAbout(inner, { left, right, top, bottom }, of))
        if (left + right + top + bottom === 0) {
          expect(part).toBeNull()
          return
        }
        const cut = (by: number) => (by > 0 ? 2 : 0)
        expect(part).toEqual<Part>({
          left: left + cut(left),
          top: top + cut(top),
          width: 160 - cut(left) - cut(right),
          height: 200 - cut(top) - cut(bottom),
        })
      }),
      { numRuns: 80 },
    )
  })

  it('are none where a piece stands before an even backdrop, fills its picture nearly, or is a plain rectangle itself', () => {
    const even = { outside: () => [1, 1, 1], grain: 0 }
    const shape = skittle(150, 350, 50, 0)
    expect(withinEvenBorders(paint(300, 400, shape.distance, even))).toBeNull()
    // A tumbler, with the rings of foot and rim, that nearly fills its picture.
    const tumbler = (x: number, y: number) => {
      const end = 6 * Math.sqrt(Math.max(0, 1 - ((x - 100) / 92) ** 2))
      return Math.max(Math.abs(x - 100) - 92, 12 - end - y, y - 288 - end)
    }
    expect(withinEvenBorders(paint(200, 300, tumbler, even))).toBeNull()
    const can = (x: number, y: number) => Math.max(Math.abs(x - 100) - 70, Math.abs(y - 150) - 110)
    expect(withinEvenBorders(paint(200, 300, can, even))).toBeNull()
  })

  it('are none about a cut-out', () => {
    const picture = laidAbout(wall(100, 120), { left: 20, right: 20, top: 0, bottom: 0 }, [255, 255, 255])
    expect(withinEvenBorders(picture)).not.toBeNull()
    for (let i = 0; i < picture.data.length; i += 4) if (picture.data[i] === 255) picture.data[i + 3] = 0
    expect(withinEvenBorders(picture)).toBeNull()
  })

  it('are left out by taking a part', () => {
    const inner = wall(50, 40)
    const picture = laidAbout(inner, { left: 7, right: 3, top: 5, bottom: 0 }, [9, 9, 9])
    expect(partOf(picture, { left: 7, top: 5, width: 50, height: 40 })).toEqual(inner)
  })
})
