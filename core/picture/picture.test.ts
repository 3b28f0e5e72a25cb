import fc from 'fast-check'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { noise } from '../outline/test-pictures'
import { withAir, withClearAir } from './air'
import { calmed } from './calm'
import { enlarged } from './enlarge'
import { GRAIN_PX, grainPicture } from './grain'
import { writePng } from './png'
import { noiseOf } from './noise'
import { LINEAR, requireRaster, type Plane, type Raster } from './raster'
import { halved, reduceToLab, toOklab } from './reduce'
import { addLight, samplePlane } from './sample'
import { sharpness } from './sharpness'
import { smoothed } from './smooth'

/** A picture of grey bytes, opaque unless said. */
function grey(width: number, height: number, value: (x: number, y: number) => number, alpha = 255): Raster {
  const data = new Uint8Array(4 * width * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const v = Math.max(0, Math.min(255, Math.round(value(x, y))))
      data.set([v, v, v, alpha], 4 * (y * width + x))
    }
  return { width, height, data }
}

describe('light and colour', () => {
  it('takes sRGB bytes to linear light as the standard says', () => {
    // IEC 61966-2-1: black, white, the end of the straight part (0.04045 / 12.92), and mid grey, which sends a fifth of the light.
    expect(LINEAR[0]).toBe(0)
    expect(LINEAR[255]).toBeCloseTo(1, 6)
    expect(LINEAR[10]).toBeCloseTo(10 / 255 / 12.92, 7)
    expect(LINEAR[128]).toBeCloseTo(0.21586, 5)
    for (let i = 1; i < 256; i++) expect(LINEAR[i]!).toBeGreaterThan(LINEAR[i - 1]!)
  })

  it.each([
    // CSS Color Module Level 4, sample values of sRGB's primaries in OKLab (from memory).
    ['white', [1, 1, 1], [1, 0, 0]],
    ['red', [1, 0, 0], [0.62796, 0.22486, 0.12585]],
    ['green', [0, 1, 0], [0.86644, -0.23389, 0.1795]],
    ['blue', [0, 0, 1], [0.45201, -0.03246, -0.31153]],
  ] as const)('%s is where OKLab has it', (_name, [r, g, b], lab) => {
    const [L, A, B] = [new Float32Array(1), new Float32Array(1), new Float32Array(1)]
    toOklab(r, g, b, 0, L, A, B)
    lab.forEach((v, k) => expect([L, A, B][k]![0]).toBeCloseTo(v, 4))
  })

  it('dimmed light scales all three coordinates by the cube root (property)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.float({ min: 0, max: 1, noNaN: true }), { minLength: 3, maxLength: 3 }),
        fc.float({ min: Math.fround(0.05), max: 1, noNaN: true }),
        (rgb, dim) => {
          const [r, g, b] = rgb as [number, number, number]
          const out = [new Float32Array(2), new Float32Array(2), new Float32Array(2)] as const
          toOklab(r, g, b, 0, ...out)
          toOklab(dim * r, dim * g, dim * b, 1, ...out)
          for (const c of out) expect(c[1]).toBeCloseTo(Math.cbrt(dim) * c[0]!, 5)
        },
      ),
    )
  })
})

describe('a reduced picture', () => {
  it('averages light, not bytes', () => {
    // A board of black and white sends half of the light: lightness is its cube root.
    const board = grey(90, 60, (x, y) => ((x + y) % 2 ? 255 : 0))
    const { width, height, l, alpha } = reduceToLab(board, 2)
    expect([width, height, alpha]).toEqual([45, 30, null])
    for (const v of l) expect(v).toBeCloseTo(Math.cbrt(0.5), 5)
  })

  it('is at half the size the mean of four, channel by channel, wherever the bytes begin (property)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 13 }),
        fc.integer({ min: 2, max: 13 }),
        fc.integer({ min: 0, max: 3 }),
        fc.integer({ min: 1, max: 1e6 }),
        (width, height, offset, seed) => {
          const buffer = new Uint8Array(4 * width * height + offset).map((_, i) => (i * seed * 7919) >> 5)
          const data = buffer.subarray(offset)
          const small = halved({ width, height, data })
          expect([small.width, small.height]).toEqual([width >> 1, height >> 1])
          for (let y = 0; y < small.height; y++)
            for (let x = 0; x < small.width; x++)
              for (let c = 0; c < 4; c++) {
                const at = (dx: number, dy: number) => data[4 * ((2 * y + dy) * width + 2 * x + dx) + c]!
                const mean = (at(0, 0) + at(1, 0) + at(0, 1) + at(1, 1)) / 4
                expect(Math.abs(small.data[4 * (y * small.width + x) + c]! - mean)).toBeLessThanOrEqual(0.5)
              }
        },
      ),
    )
  })

  it('leaves out what fills no whole cell, and knows transparent pixels', () => {
    const { width, height, alpha } = reduceToLab(
      grey(95, 64, () => 200, 128),
      3,
    )
    expect([width, height]).toEqual([31, 21])
    for (const v of alpha!.data) expect(v).toBeCloseTo(128 / 255, 5)
  })

  it('is refused with its sizes where bytes are missing or it is tiny', () => {
    expect(() => requireRaster({ width: 100, height: 90, data: new Uint8Array(12) })).toThrow(/36000 bytes/)
    expect(() => requireRaster(grey(60, 40, () => 0))).toThrow(/only 60 × 40 px/)
    expect(() => requireRaster(grey(400, 12, () => 0))).toThrow(/Take a larger one/)
    const least = grey(16, 80, () => 0)
    expect(requireRaster(least)).toBe(least)
  })
})

describe('an enlarged picture', () => {
  /** All light here lies on the upper part of the standard's curve. */
  const encode = (v: number) => 255 * (1.055 * v ** (1 / 2.4) - 0.055)

  it('keeps one colour, is opaque, and shows a parabola of light as it is (Keys 1981: exact up to its second degree)', () => {
    const light = (x: number, y: number) => 0.1 + 0.4 * (x / 40) ** 2 + (0.2 * y) / 30
    const picture = grey(40, 30, (x, y) => encode(light(x + 0.5, y + 0.5)))
    for (const times of [2, 3]) {
      const { width, height, data } = enlarged(picture, times)
      expect([width, height]).toEqual([40 * times, 30 * times])
      for (let y = 2 * times; y < height - 2 * times; y++)
        for (let x = 2 * times; x < width - 2 * times; x++) {
          const at = 4 * (y * width + x)
          // Both are rounded to bytes.
          const off = Math.abs(data[at]! - encode(light((x + 0.5) / times, (y + 0.5) / times)))
          expect(off).toBeLessThan(1.3)
          expect(data[at + 3]).toBe(255)
        }
    }
    const plain = enlarged(
      grey(8, 8, () => 137),
      2,
    )
    expect(plain.data.every((v, i) => v === (i % 4 === 3 ? 255 : 137))).toBe(true)
  })

  it('has a blurred edge where it was, and repeats borders (property)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 8, max: 22, noNaN: true }),
        fc.integer({ min: 2, max: 4 }),
        (place, times) => {
          const light = (x: number) => 0.1 + 0.6 / (1 + Math.exp(-1.702 * (x - place)))
          const { width, data } = enlarged(
            grey(30, 8, (x) => encode(light(x + 0.5))),
            times,
          )
          const at = (x: number) => LINEAR[data[4 * (3 * width + x)]!]!
          let x = 0
          while (at(x + 1) < 0.4) x++
          const crossing = x + 0.5 + (0.4 - at(x)) / (at(x + 1) - at(x))
          expect(Math.abs(crossing / times - place)).toBeLessThan(0.06)
          expect(at(0)).toBeCloseTo(0.1, 2)
          expect(at(width - 1)).toBeCloseTo(0.7, 2)
        },
      ),
    )
  })
})

describe('samples between pixels', () => {
  const plane: Plane = { width: 7, height: 5, data: new Float32Array(35) }
  for (let i = 0; i < 35; i++) plane.data[i] = 3 * (i % 7) - 2 * Math.floor(i / 7) + 1

  it('a plane that rises evenly is met everywhere within (property)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 6.5, noNaN: true }),
        fc.double({ min: 0.5, max: 4.5, noNaN: true }),
        (x, y) => {
          expect(samplePlane(plane, x, y, -99)).toBeCloseTo(3 * (x - 0.5) - 2 * (y - 0.5) + 1, 5)
        },
      ),
    )
  })

  it('beyond its edges there is what was said', () => {
    expect(samplePlane(plane, -0.1, 2, -99)).toBe(-99)
    expect(samplePlane(plane, 3, 5.1, -99)).toBe(-99)
    // Within the outer half of a border pixel its own value counts.
    expect(samplePlane(plane, 0.1, 0.5, -99)).toBeCloseTo(1, 6)
    expect(samplePlane(plane, 6.9, 4.9, -99)).toBeCloseTo(3 * 6 - 2 * 4 + 1, 5)
  })

  it('light along a line is mixed linearly, and borders are repeated', () => {
    const raster = grey(20, 20, (x) => (x < 10 ? 0 : 255))
    const out = new Float32Array(15)
    // From the middle of a black pixel to that of a white one in quarters.
    addLight(raster, { x: 9.5, y: 7.5, dx: 0.25, dy: 0, count: 5 }, out)
    for (const channel of [0, 5, 10])
      [0, 0.25, 0.5, 0.75, 1].forEach((v, k) => expect(out[channel + k]).toBeCloseTo(v, 5))
    addLight(raster, { x: 30, y: -8, dx: 5, dy: 0, count: 5 }, out)
    // Added to what was there.
    expect(out[0]).toBeCloseTo(1, 5)
    expect(out[4]).toBeCloseTo(2, 5)
  })
})

describe('sharpness', () => {
  const at = (plane: Plane, x: number, y: number) => plane.data[y * plane.width + x]!
  const most = ({ width, data }: Plane, from: number, to: number) =>
    Math.max(...data.filter((_, i) => i % width >= from && i % width < to))

  it('answers a step across x where it is, and in that direction only', () => {
    const gauss = noise(3)
    const { x, y } = sharpness(
      grey(360, 300, (px) => (px < 181 ? 90 : 130) + gauss()),
      3,
    )
    for (let row = 5; row < 95; row++) expect(at(x, 60, row)).toBeGreaterThan(0.9)
    expect(most(x, 5, 50)).toBeLessThan(0.35)
    expect(most(x, 70, 115)).toBeLessThan(0.35)
    expect(most(y, 10, 110)).toBeLessThan(0.35)
  })

  it('a slope of as much, as the edge of a soft shadow is, gets no answer', () => {
    const gauss = noise(4)
    const soft = (px: number) => 90 + 40 / (1 + Math.exp(-(px - 180) / 18))
    const { x } = sharpness(
      grey(360, 300, (px) => soft(px) + gauss()),
      3,
    )
    expect(most(x, 5, 115)).toBeLessThan(0.35)
  })

  it('grain raises what an edge must show', () => {
    const faint = (rough: number) => {
      const gauss = noise(9)
      const { x } = sharpness(
        grey(360, 300, (px) => (px < 181 ? 100 : 112) + rough * gauss()),
        3,
      )
      return [...Array(80).keys()].reduce((sum, k) => sum + at(x, 60, 10 + k), 0) / 80
    }
    expect(faint(1)).toBeGreaterThan(0.6)
    expect(faint(12)).toBeLessThan(0.3 * faint(1))
  })

  it('sees red against blue of one lightness', () => {
    const raster = grey(360, 300, () => 0)
    for (let i = 0; i < raster.data.length; i += 4)
      raster.data.set((i / 4) % 360 < 181 ? [160, 110, 80, 255] : [80, 130, 140, 255], i)
    expect(at(sharpness(raster, 3).x, 60, 50)).toBeGreaterThan(0.9)
  })

  it('sees green against grey of one lightness, and as much red as blue', () => {
    const raster = grey(360, 300, () => 0)
    // Lightness weighs 2 : 5 : 1; both sides have 120.
    for (let i = 0; i < raster.data.length; i += 4)
      raster.data.set((i / 4) % 360 < 181 ? [110, 126, 110, 255] : [120, 120, 120, 255], i)
    expect(at(sharpness(raster, 3).x, 60, 50)).toBeGreaterThan(0.9)
  })

  it('sees the edges of a picture that is soft all over, and still no shadow’s', () => {
    const gauss = noise(6)
    // A step of 110 that tells the blur of 2 px, one of 26 that has it too, in grain, and a slope of as much over 60 px.
    const step = (px: number, place: number, blur: number) =>
      1 / (1 + Math.exp((-1.702 * (px - place)) / blur))
    const { x } = sharpness(
      grey(
        400,
        300,
        (px) => 90 + 110 * step(px, 60, 2) - 26 * (step(px, 181, 2) + step(px, 300, 25)) + 3 * gauss(),
      ),
      4,
    )
    const along = Array.from({ length: 60 }, (_, k) => Math.max(at(x, 44, 8 + k), at(x, 45, 8 + k)))
    expect(Math.min(...along)).toBeGreaterThan(0.05)
    expect(along.reduce((a, b) => a + b) / 60).toBeGreaterThan(0.3)
    expect(most(x, 55, 95)).toBeLessThan(0.35)
  })

  it('of a small picture that is soft all over, sees both edges of what is only a few px thin', () => {
    const gauss = noise(6)
    const step = (px: number, place: number) => 1 / (1 + Math.exp((-1.702 * (px - place)) / 1.6))
    const { x } = sharpness(
      grey(120, 100, (px) => 150 - 50 * (step(px, 57) - step(px, 62)) + gauss()),
      1,
    )
    const mean = (column: number) =>
      Array.from({ length: 60 }, (_, k) => at(x, column, 20 + k)).reduce((a, b) => a + b) / 60
    const [left, right] = [Math.max(mean(56), mean(57)), Math.max(mean(61), mean(62))]
    expect(Math.min(left, right)).toBeGreaterThan(0.1)
    expect(mean(59)).toBeLessThan(0.02)
  })
})

describe('pictures that the project makes', () => {
  it('a PNG is read back byte for byte by another library (property)', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 1, max: 24 }),
        fc.integer({ min: 1, max: 24 }),
        fc.integer(),
        async (w, h, seed) => {
          const rgb = Uint8Array.from({ length: 3 * w * h }, (_, i) => (i * 7919 + seed * 31) & 255)
          const { data, info } = await sharp(writePng(rgb, w, h))
            .raw()
            .toBuffer({ resolveWithObject: true })
          expect([info.width, info.height, info.channels]).toEqual([w, h, 3])
          expect(Uint8Array.from(data)).toEqual(rgb)
        },
      ),
      { numRuns: 20 },
    )
  })

  it('grain repeats without a seam', () => {
    const grain = grainPicture()
    const red = (x: number, y: number) => grain[3 * ((y % GRAIN_PX) * GRAIN_PX + (x % GRAIN_PX))]!
    const jump = (list: number[]) => Math.max(...list)
    const indices = [...Array(GRAIN_PX).keys()]
    const within = jump(
      indices.slice(1).flatMap((k) => indices.map((j) => Math.abs(red(k, j) - red(k - 1, j)))),
    )
    const across = jump(indices.map((j) => Math.abs(red(GRAIN_PX, j) - red(GRAIN_PX - 1, j))))
    expect(across).toBeLessThanOrEqual(within)
    expect(jump(indices.map((k) => red(k, 9))) - Math.min(...indices.map((k) => red(k, 9)))).toBeGreaterThan(
      5,
    )
  })
})

describe('noise', () => {
  /** Noise of a known spread over what the picture shows. */
  const noisy = (sd: number, shows: (x: number, y: number) => number, alpha = 255) => {
    const gauss = noise(3)
    return grey(400, 300, (x, y) => shows(x, y) + sd * gauss(), alpha)
  }
  const ramp = (x: number, y: number) => 60 + 0.2 * x + 0.1 * y

  it.each([1.5, 3, 6, 12])('of %d codes is told to a tenth on slopes', (sd) => {
    expect(Math.abs(noiseOf(noisy(sd, ramp)) / Math.hypot(sd, Math.sqrt(1 / 12)) - 1)).toBeLessThan(0.1)
  })

  it('is none of the texture that fills two thirds of a picture', () => {
    const tiles = (x: number, y: number) => (x > 130 && (x + y) % 6 < 3 ? 60 : 120)
    const told = noiseOf(noisy(3, tiles))
    expect(told).toBeGreaterThan(2.8)
    expect(told).toBeLessThan(3.4)
  })

  it('is taken down by smoothing as theory says, and levels and slopes stay', () => {
    const sigma = 1.2
    const smooth = smoothed(noisy(12, ramp), sigma)
    let squares = 0
    let sum = 0
    for (let y = 20; y < 280; y++)
      for (let x = 20; x < 380; x++) {
        const off = smooth.data[4 * (400 * y + x)]! - ramp(x, y)
        sum += off
        squares += off * off
      }
    const n = 260 * 360
    expect(Math.abs(sum / n)).toBeLessThan(0.1)
    // White noise by a Gaussian: 1 / (2 sigma sqrt(pi)); rounding adds a twelfth of a code squared.
    const wanted = Math.hypot(12 / (2 * sigma * Math.sqrt(Math.PI)), Math.sqrt(1 / 12))
    expect(Math.abs(Math.sqrt(squares / n) / wanted - 1)).toBeLessThan(0.05)
  })

  it('smoothing turns a dot into a Gaussian, in every channel and at the border', () => {
    const dot = grey(40, 40, (x, y) => (x === 20 && y === 20 ? 255 : 0))
    const { data } = smoothed(dot, 1)
    for (const [x, y] of [
      [20, 20],
      [21, 20],
      [20, 22],
      [18, 19],
    ] as const)
      // prettier-ignore
      for (const c of [0, 1, 2]) {
        const wanted = (255 / (2 * Math.PI)) * Math.exp(-((x - 20) ** 2 + (y - 20) ** 2) / 2)
        expect(Math.abs(data[4 * (40 * y + x) + c]! - wanted)).toBeLessThan(1.2)
      }
    const flat = grey(30, 20, () => 201)
    expect(smoothed(flat, 1.5)).toEqual(flat)
  })

  it('alone makes a picture be smoothed', () => {
    const quiet = noisy(0.6, ramp)
    const cutOut = noisy(8, ramp, 254)
    const loud = noisy(8, ramp)
    expect(calmed(quiet)).toBe(quiet)
    expect(calmed(cutOut)).toBe(cutOut)
    expect(noiseOf(calmed(loud))).toBeLessThan(0.1 * noiseOf(loud))
  })
})

describe('air about a picture', () => {
  const at = ({ width, data }: Raster, x: number, y: number) => [
    ...data.subarray(4 * (y * width + x), 4 * (y * width + x) + 4),
  ]

  it('leaves the picture as it is, and leads on what lies right at its border', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 0, max: 12 }),
        (width, height, air) => {
          const picture = grey(width, height, (x, y) => 20 * x + 3 * y)
          const wide = withAir(picture, air)
          expect([wide.width, wide.height, wide.data.length]).toEqual([width + 2 * air, height + 2 * air, 4 * (width + 2 * air) * (height + 2 * air)]) // prettier-ignore
          for (let y = 0; y < height; y++)
            for (let x = 0; x < width; x++) expect(at(wide, x + air, y + air)).toEqual(at(picture, x, y))
          // Each px laid about it is one of its own, no more than two px from its border.
          for (let y = 0; y < wide.height; y++)
            for (let x = 0; x < wide.width; x++) {
              const value = wide.data[4 * (y * wide.width + x)]!
              const column =
                x < air ? [0, 1, 2] : x >= width + air ? [1, 2, 3].map((k) => width - k) : [x - air]
              const row =
                y < air ? [0, 1, 2] : y >= height + air ? [1, 2, 3].map((k) => height - k) : [y - air]
              const within = (list: number[], size: number) =>
                list.map((k) => Math.min(size - 1, Math.max(0, k)))
              const values = within(column, width).flatMap((cx) =>
                within(row, height).map((cy) => at(picture, cx, cy)[0]),
              )
              expect(values).toContain(value)
            }
        },
      ),
      { numRuns: 60 },
    )
  })

  it('is clear about a cut-out', () => {
    const picture = grey(3, 2, () => 90)
    const wide = withClearAir(picture, 2)
    expect([wide.width, wide.height]).toEqual([7, 6])
    expect(at(wide, 2, 2)).toEqual([90, 90, 90, 255])
    expect(at(wide, 4, 3)).toEqual([90, 90, 90, 255])
    expect(at(wide, 5, 3)).toEqual([0, 0, 0, 0])
    expect(Array.from(wide.data).reduce((sum, v) => sum + v, 0)).toBe(6 * (3 * 90 + 255))
  })
})
