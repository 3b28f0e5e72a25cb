import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { misses, noise, paint, skittle } from '../outline/test-pictures'
import { findOutline } from '../outline/find-outline'
import { cutFromCheckers } from './checkered'
import type { Raster } from './raster'

interface Ground {
  pitch: number
  greys: readonly [number, number]
  /** Turned by so much, radians. */
  turn?: number
}

type Shape = (x: number, y: number) => number

const SIZE = { width: 260, height: 300 }

/** A thing of one colour before squares, by its signed distance; a share of each px, mixed as editors do (in sRGB), with a little noise. */
function before(
  { pitch, greys, turn = 0 }: Ground,
  distance: Shape,
  colour: readonly number[],
  { width, height } = SIZE,
): Raster {
  const gauss = noise(7)
  const data = new Uint8ClampedArray(4 * width * height)
  const sub = [0.125, 0.375, 0.625, 0.875]
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let ground = 0
      for (const v of sub)
        for (const u of sub) {
          const [px, py] = [x + u, y + v]
          const across = px * Math.cos(turn) + py * Math.sin(turn)
          const down = py * Math.cos(turn) - px * Math.sin(turn)
          const isOdd = (Math.floor(across / pitch) + Math.floor(down / pitch)) & 1
          ground += greys[isOdd ? 1 : 0]! / sub.length ** 2
        }
      const cover = Math.max(0, Math.min(1, 0.5 - distance(x + 0.5, y + 0.5)))
      const i = 4 * (y * width + x)
      for (let c = 0; c < 3; c++)
        data[i + c] = Math.round(cover * colour[c]! + (1 - cover) * ground + gauss())
      data[i + 3] = 255
    }
  return { width, height, data }
}

/** So many px are covered. */
const area = ({ data }: Raster) => {
  let sum = 0
  for (let i = 3; i < data.length; i += 4) sum += data[i]! / 255
  return sum
}

const disc =
  (x: number, y: number, r: number): Shape =>
  (u, v) =>
    Math.hypot(u - x, v - y) - r

describe('a picture that shows squares where it was clear', () => {
  it('is the cut-out again, whose disc covers π r²', () => {
    const greys = fc.constantFrom<Ground['greys']>([255, 204], [204, 255], [255, 239], [102, 153])
    const pitch = fc.constantFrom(8, 10.67, 16, 24)
    const r = fc.double({ min: 40, max: 110, noNaN: true })
    fc.assert(
      fc.property(pitch, greys, r, (pitch, greys, r) => {
        const cut = cutFromCheckers(before({ pitch, greys }, disc(131.3, 149.6, r), [150, 40, 30]))
        expect(cut).not.toBeNull()
        expect(area(cut!)).toBeGreaterThan(0.998 * Math.PI * r * r)
        expect(area(cut!)).toBeLessThan(1.002 * Math.PI * r * r)
      }),
      { numRuns: 24 },
    )
  })

  it('is clear where a handle’s hole shows squares', () => {
    const ring: Shape = (x, y) => Math.abs(Math.hypot(x - 130, y - 150) - 70) - 30
    const cut = cutFromCheckers(before({ pitch: 16, greys: [255, 204] }, ring, [30, 60, 120]))
    expect(cut!.data[4 * (150 * SIZE.width + 130) + 3]).toBe(0)
    expect(area(cut!) / (Math.PI * (100 ** 2 - 40 ** 2))).toBeCloseTo(1, 2)
  })

  it('has no bites where the piece is as grey as a square', () => {
    for (const grey of [255, 204, 230]) {
      const cut = cutFromCheckers(
        before({ pitch: 16, greys: [255, 204] }, disc(130, 150, 90), [grey, grey, grey]),
      )
      expect(area(cut!) / (Math.PI * 90 ** 2), String(grey)).toBeGreaterThan(0.97)
      expect(area(cut!) / (Math.PI * 90 ** 2), String(grey)).toBeLessThan(1.02)
      expect(cut!.data[4 * (150 * SIZE.width + 130) + 3], String(grey)).toBe(255)
    }
  })

  it('is told from pictures of other things', () => {
    const thing = disc(130, 150, 70)
    const brown = [120, 80, 50]
    const turned = before({ pitch: 16, greys: [255, 204], turn: 0.2 }, thing, brown)
    const plain = before({ pitch: 16, greys: [230, 230] }, thing, brown)
    const stripes = before({ pitch: 16, greys: [255, 204] }, thing, brown)
    for (let y = 16; y < SIZE.height; y++)
      stripes.data.copyWithin(4 * y * SIZE.width, 4 * (y % 16) * SIZE.width, 4 * ((y % 16) + 1) * SIZE.width)
    const wall = paint(SIZE.width, SIZE.height, thing)
    for (const picture of [turned, plain, stripes, wall]) expect(cutFromCheckers(picture)).toBeNull()
  })

  it('shows its piece’s outline to a fraction of a px', () => {
    const { distance } = skittle(160, 560, 40, 0.02)
    const size = { width: 320, height: 600 }
    const picture = before({ pitch: 12, greys: [255, 204] }, distance, [140, 60, 40], size)
    const { left, right } = findOutline(cutFromCheckers(picture)!)
    const off = misses([left, right], distance)
    expect(off.length).toBeGreaterThan(400)
    expect(off[off.length >> 1]).toBeLessThan(0.1)
    expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(0.5)
  })
})
