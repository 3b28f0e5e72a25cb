import { describe, expect, it } from 'vitest'
import type { Raster } from '../picture/raster'
import { requireRaster } from '../picture/raster'
import { reduceToLab } from '../picture/reduce'
import { fitEdge } from './edge-fit'
import { findOutline, seen } from './find-outline'
import { fitMirror } from './mirror'

function noise(seed: number) {
  let s = seed
  const random = () => (s = (s * 16807) % 2147483647) / 2147483647
  return () => Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random())
}
const encode = (linear: number) =>
  255 * (linear <= 0.0031308 ? 12.92 * linear : 1.055 * linear ** (1 / 2.4) - 0.055)

/**
 * A picture whose pixels are `cover` (0..1) of one colour over another, mixed in linear light as a lens does, with
 * some noise. Coverage is a smooth step of the signed distance, as a Gaussian blur of 0.7 px makes it.
 */
function paint(
  width: number,
  height: number,
  distance: (x: number, y: number) => number,
  {
    inside = [0.12, 0.07, 0.04],
    outside = (_x: number, y: number) => [0.5 + y / 9000, 0.48, 0.44],
    alpha = false,
    grain = 1,
  } = {},
): Raster {
  const data = new Uint8Array(4 * width * height)
  const gauss = noise(5)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const d = distance(x + 0.5, y + 0.5)
      const cover = 1 / (1 + Math.exp((1.702 * d) / 0.7))
      const back = outside(x, y)
      const i = 4 * (y * width + x)
      for (let k = 0; k < 3; k++) {
        const v = encode(cover * inside[k]! + (1 - cover) * back[k]!) + grain * gauss()
        data[i + k] = Math.max(0, Math.min(255, Math.round(v)))
      }
      data[i + 3] = alpha ? Math.round(255 * cover) : 255
    }
  return { width, height, data }
}

/** A skittle about a leaning axis: signed distance to its side, approximately, in px. */
function skittle(cx: number, foot: number, top: number, lean: number) {
  const half = (t: number) => 70 + 45 * Math.sin(Math.PI * (0.15 + 0.95 * t)) - 40 * t
  const slope = (t: number) =>
    (45 * Math.PI * 0.95 * Math.cos(Math.PI * (0.15 + 0.95 * t)) - 40) / (foot - top)
  return {
    half,
    distance: (x: number, y: number) => {
      const v = (foot - y) * Math.cos(lean) + (x - cx) * Math.sin(lean)
      const u = (x - cx) * Math.cos(lean) - (foot - y) * Math.sin(lean)
      const t = v / (foot - top)
      const side = (Math.abs(u) - half(Math.max(0, Math.min(1, t)))) / Math.hypot(1, slope(t))
      return Math.max(side, -v, v - (foot - top))
    },
  }
}

describe('picture', () => {
  it('refuses a raster whose bytes don’t match its size, or that holds nothing', () => {
    expect(() => requireRaster({ width: 20, height: 20, data: new Uint8Array(10) })).toThrow(/1600 bytes/)
    expect(() => requireRaster({ width: 4, height: 4, data: new Uint8Array(64) })).toThrow(/only 4 × 4 px/)
  })

  it('reduces by averaging light, and keeps alpha apart', () => {
    // White is lightness 1, black 0; half of each in linear light is OKLab L = 0.5^(1/3) = 0.794.
    const data = new Uint8Array(4 * 32 * 32).map((_, i) =>
      i % 4 === 3 ? 255 : ((i >> 2) % 32) % 2 ? 255 : 0,
    )
    const lab = reduceToLab({ width: 32, height: 32, data }, 2)
    expect(lab.width).toBe(16)
    expect(lab.l[20]).toBeCloseTo(0.5 ** (1 / 3), 4)
    expect(Math.abs(lab.a[20]!)).toBeLessThan(1e-4)
    expect(lab.alpha).toBeNull()
    data[3] = 0
    expect(reduceToLab({ width: 32, height: 32, data }, 2).alpha!.data[0]).toBeCloseTo(0.75, 6)
  })
})

describe('edge fit', () => {
  it('finds a blurred step to a twentieth of a pixel wherever it lies between the pixels', () => {
    for (const at of [30, 30.17, 30.5, 30.83]) {
      const raster = paint(64, 64, (x) => at - x, { grain: 1 })
      const errors: number[] = []
      for (let y = 12; y < 52; y += 4) {
        const fit = fitEdge(raster, 30.4, y, -1, 0, null)!
        errors.push(30.4 - fit.offset - at)
        expect(fit.sd).toBeLessThan(0.1)
      }
      expect(Math.abs(errors.reduce((a, b) => a + b, 0) / errors.length)).toBeLessThan(0.05)
    }
  })

  it('finds none where there is none', () => {
    const flat = paint(64, 64, () => 50, { outside: () => [0.4, 0.4, 0.4] })
    expect(fitEdge(flat, 30, 30, 1, 0, null)).toBeNull()
  })
})

describe('outline', () => {
  const lean = 0.021
  const shape = skittle(300, 820, 90, lean)
  const axisError = (axis: { at: { x: number; y: number }; up: { x: number; y: number } }) => {
    const angle = Math.atan2(axis.up.x, -axis.up.y) - lean
    // Across, at half height.
    const m = { x: 300 + 365 * Math.sin(lean), y: 820 - 365 * Math.cos(lean) }
    const off = -(axis.at.x - m.x) * axis.up.y + (axis.at.y - m.y) * axis.up.x
    return { degrees: Math.abs((angle * 180) / Math.PI), off: Math.abs(off) }
  }
  const meanSideError = (points: Float64Array) => {
    const errors: number[] = []
    for (let i = 0; i < points.length; i += 2) {
      const v = (820 - points[i + 1]!) * Math.cos(lean) + (points[i]! - 300) * Math.sin(lean)
      if (v > 60 && v < 670) errors.push(Math.abs(shape.distance(points[i]!, points[i + 1]!)))
    }
    return errors.reduce((a, b) => a + b, 0) / errors.length
  }

  it('axis and both edges of a leaning piece before a graded backdrop', () => {
    const found = findOutline(paint(600, 900, shape.distance))
    const e = axisError(found.axis)
    expect(e.degrees).toBeLessThan(0.03)
    expect(e.off).toBeLessThan(0.3)
    expect(meanSideError(seen(found.left))).toBeLessThan(0.1)
    expect(meanSideError(seen(found.right))).toBeLessThan(0.1)
    expect(found.mirror.sdAngle).toBeLessThan(0.0005)
  })

  it('a handle on one side and a lit side do no harm', () => {
    const handle = (x: number, y: number) => Math.abs(Math.hypot(x - 405, y - 480) - 70) - 14
    const picture = paint(600, 900, (x, y) => Math.min(shape.distance(x, y), handle(x, y)), {
      outside: (x, y) => [0.35 + x / 3000 + y / 9000, 0.4, 0.42],
    })
    const e = axisError(findOutline(picture).axis)
    expect(e.degrees).toBeLessThan(0.03)
    expect(e.off).toBeLessThan(0.3)
  })

  it('a cut-out is outlined from its alpha, even a small one', () => {
    const small = skittle(100, 270, 30, 0)
    const picture = paint(200, 300, (x, y) => small.distance(x, y) + 0, {
      alpha: true,
      outside: () => [0.12, 0.07, 0.04],
      grain: 0,
    })
    const found = findOutline(picture)
    expect(
      Math.abs(found.axis.at.x + (found.axis.up.x / found.axis.up.y) * (150 - found.axis.at.y) - 100),
    ).toBeLessThan(1)
  })

  it('a piece lying on its side is found along the given direction', () => {
    const turned = (x: number, y: number) => shape.distance(y, 900 - x)
    const found = findOutline(paint(900, 600, turned), { up: { x: 1, y: 0 } })
    expect(Math.abs(Math.asin(found.axis.up.y) - lean)).toBeLessThan(0.0006)
  })

  it('says so where nothing round stands out', () => {
    expect(() => findOutline(paint(300, 300, () => 99))).toThrow(/No round piece stands out/)
  })
})

describe('mirror axis', () => {
  it('stands a handle over half of the rows', () => {
    const gauss = noise(11)
    const side = (sign: number) => {
      const out: number[] = []
      for (let v = 0; v < 1500; v += 2) {
        const r = 200 + 60 * Math.sin(v / 200)
        const bulge = sign > 0 && v > 400 && v < 1100 ? 120 * Math.sin((Math.PI * (v - 400)) / 700) : 0
        out.push(500 + sign * (r + bulge) + 0.3 * gauss(), 1700 - v + 0.3 * gauss())
      }
      return Float64Array.from(out)
    }
    const fit = fitMirror(side(-1), side(1), { at: { x: 507, y: 1000 }, up: { x: 0.004, y: -1 } })!
    expect((Math.abs(fit.axis.up.x) * 180) / Math.PI).toBeLessThan(0.02)
    const middle = fit.axis.at.x + (fit.axis.up.x / fit.axis.up.y) * (950 - fit.axis.at.y)
    expect(Math.abs(middle - 500)).toBeLessThan(0.2)
    expect(fit.agreeing).toBeLessThan(0.9)
    expect(fit.difference.some((d) => !d.agrees)).toBe(true)
  })
})
