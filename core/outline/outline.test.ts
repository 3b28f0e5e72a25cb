import { describe, expect, it } from 'vitest'
import { requireRaster } from '../picture/raster'
import { reduceToLab } from '../picture/reduce'
import { fitEdge } from './edge-fit'
import type { AxisLine } from './axis-line'
import { findOutline } from './find-outline'
import { seen } from './refine'
import { fitMirror } from './mirror'
import { sightOf } from './sight'
import { misses, noise, paint, skittle } from './test-pictures'

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

  it('sees more of a round edge in noise with more rows along it, as honestly, and in its place if it is told how the edge bends', () => {
    const radius = 80
    const dim = { inside: () => [0.16, 0.15, 0.14], outside: () => [0.2, 0.19, 0.18], grain: 14 }
    const raster = paint(240, 240, (x, y) => Math.hypot(x - 120, y - 120) - radius, dim)
    const fits = (reach: number, bend: number) =>
      Array.from({ length: 360 }, (_, i) => {
        const [nx, ny] = [Math.cos((i * Math.PI) / 180), Math.sin((i * Math.PI) / 180)]
        return fitEdge(raster, 120 + radius * nx, 120 + radius * ny, nx, ny, 0.7, { reach, bend })
      }).filter((fit) => fit !== null)
    const [few, many, level] = [fits(2, 0), fits(7, -0.5 / radius), fits(7, 0)]
    expect(many.length).toBeGreaterThan(1.5 * few.length)
    const mean = (of: typeof many) => of.reduce((sum, { offset }) => sum + offset / of.length, 0)
    expect(Math.abs(mean(many))).toBeLessThan(0.05)
    // Rows at -7 … 7 px of a level edge lie outside of the circle by (2 · 140 / 15) / 2 r on average.
    expect(mean(level) - mean(many)).toBeCloseTo(-(280 / 15) / (2 * radius), 1)
    const within = many.filter(({ offset, sd }) => Math.abs(offset) < 2 * sd).length / many.length
    expect(within).toBeGreaterThan(0.9)
  })

  it('finds none where there is none', () => {
    const flat = paint(64, 64, () => 50, { outside: () => [0.4, 0.4, 0.4] })
    expect(fitEdge(flat, 30, 30, 1, 0, null)).toBeNull()
  })
})

describe('a noisy picture', () => {
  const shape = skittle(450, 1100, 90, 0.01)
  const [dim, dark] = [() => [0.2, 0.19, 0.18], () => [0.14, 0.135, 0.13]]

  it('shows its weak edges all the same, as well known as its noise lets them be', () => {
    const raster = paint(900, 1200, shape.distance, { inside: dark, outside: dim, grain: 6 })
    const { left, right, mirror } = findOutline(raster)
    const off = misses([left, right], shape.distance)
    expect(off.length).toBeGreaterThan(600)
    expect(off[off.length >> 1]!).toBeLessThan(0.3)
    expect(off[Math.floor(0.95 * off.length)]!).toBeLessThan(0.8)
    expect(mirror.agreeing).toBeGreaterThan(0.9)
  })
})

describe('a large picture', () => {
  const shape = skittle(350, 2900, 90, 0.004)
  const raster = paint(700, 3000, shape.distance)

  it('is looked through at half its size and fitted at its own', () => {
    const shown: number[] = []
    const found = findOutline(raster, { onProgress: (f) => shown.push(f) })
    const off = misses([found.left, found.right], shape.distance)
    expect(off.length).toBeGreaterThan(1000)
    expect(off[off.length >> 1]).toBeLessThan(0.06)
    expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(0.4)
    // Its progress only grows, and comes to an end.
    expect(shown).toEqual([...shown].sort((a, b) => a - b))
    expect(shown.at(-1)).toBe(1)
  })

  it('keeps an axis and takes guides in its own pixels', () => {
    const axis = { at: { x: 352, y: 1500 }, up: { x: 0, y: -1 } }
    const kept = findOutline(raster, { axis })
    expect(kept.axis).toEqual(axis)
    // Painted away, the upper part is none of the piece any more.
    const backdrop = [{ points: [{ x: 150, y: 300 }, { x: 550, y: 300 }], radius: 250 }] // prettier-ignore
    const { right } = findOutline(raster, { guides: { piece: [], backdrop, marks: [] } })
    const top = right.points.filter((_, i) => i % 2).reduce((p, q) => Math.min(p, q))
    expect(top).toBeGreaterThan(400)
  })
})

describe('a blurred picture', () => {
  const shape = skittle(300, 820, 90, 0.01)
  const raster = paint(600, 900, shape.distance, { blur: 5, grain: 0.3 })

  it('is looked through in a copy whose edges are sharp, and what was found given in its own pixels', () => {
    const shown: number[] = []
    const { left, right, axis, mirror } = findOutline(raster, { onProgress: (f) => shown.push(f) })
    const off = misses([left, right], shape.distance)
    expect(off.length).toBeGreaterThan(200)
    expect(off[off.length >> 1]).toBeLessThan(0.5)
    for (const side of [left, right]) expect(Math.abs(side.blur / 5 - 1)).toBeLessThan(0.2)
    expect(Math.atan2(axis.up.x, -axis.up.y)).toBeCloseTo(0.01, 2)
    expect(mirror.agreeing).toBeGreaterThan(0.8)
    expect(shown).toEqual([...shown].sort((a, b) => a - b))
    expect(shown.at(-1)).toBe(1)
  })

  it('keeps an axis and takes guides in its own pixels', () => {
    const axis = { at: { x: 302, y: 450 }, up: { x: 0, y: -1 } }
    expect(findOutline(raster, { axis }).axis).toEqual(axis)
    const backdrop = [{ points: [{ x: 150, y: 180 }, { x: 450, y: 180 }], radius: 80 }] // prettier-ignore
    const { right } = findOutline(raster, { guides: { piece: [], backdrop, marks: [] } })
    expect(right.points.filter((_, i) => i % 2).reduce((p, q) => Math.min(p, q))).toBeGreaterThan(220)
  })

  it('by moving it while the shutter was open is found all the same', () => {
    const still = paint(600, 900, shape.distance, { grain: 0 })
    const moved = { ...still, data: still.data.slice() }
    // 7 px across and 3 down.
    const way = Array.from({ length: 7 }, (_, k) => 4 * (k - 3 + 600 * Math.round((k - 3) / 3)))
    for (let y = 8; y < 892; y++)
      for (let i = 4 * (600 * y + 8); i < 4 * (600 * y + 592); i++)
        if (i % 4 < 3) moved.data[i] = way.reduce((sum, d) => sum + still.data[i + d]!, 0) / way.length
    const { left, right } = findOutline(moved)
    const off = misses([left, right], shape.distance)
    expect(off.length).toBeGreaterThan(200)
    // Bytes were averaged as they are encoded, which widens what is dark by a px or two.
    expect(off[off.length >> 1]).toBeLessThan(2)
  })
})

describe('a small picture', () => {
  const shape = skittle(120, 290, 30, 0.01)
  const raster = paint(240, 320, shape.distance)

  it('is fitted in an enlarged copy, and given in its own pixels, with points as near as it can tell apart', () => {
    const shown: number[] = []
    const { left, right, axis, factor } = findOutline(raster, { onProgress: (f) => shown.push(f) })
    expect(factor).toBe(1)
    expect(left.blur).toBeGreaterThan(0.5)
    expect(left.blur).toBeLessThan(1)
    for (const side of [left, right]) {
      const off = misses([side], shape.distance)
      // 390 px around half of it, and a point every one and a quarter.
      expect(off.length).toBeGreaterThan(280)
      expect(off[off.length >> 1]).toBeLessThan(0.05)
      expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(0.2)
    }
    expect(Math.atan2(axis.up.x, -axis.up.y)).toBeCloseTo(0.01, 3)
    expect(shown).toEqual([...shown].sort((a, b) => a - b))
    expect(shown.at(-1)).toBe(1)
  })

  it('that is soft and noisy is fitted over as many px as its edges take up', () => {
    const soft = { inside: () => [0.4, 0.38, 0.36], outside: () => [0.2, 0.55, 0.55], grain: 4, blur: 1.7 }
    const { left, right } = findOutline(paint(240, 320, shape.distance, soft))
    expect(left.blur).toBeGreaterThan(1.5)
    const off = misses([left, right], shape.distance)
    expect(off.length).toBeGreaterThan(450)
    expect(off[off.length >> 1]).toBeLessThan(0.4)
    expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(1)
  })

  it('says so where nothing lies about an axis that is given', () => {
    const beside: AxisLine = { at: { x: 30, y: 160 }, up: { x: 0, y: -1 } }
    expect(() => findOutline(raster, { axis: beside })).toThrow(/about the axis that was set.*Move it/)
  })

  it('keeps an axis that is given', () => {
    const axis: AxisLine = { at: { x: 121, y: 160 }, up: { x: 0, y: -1 } }
    expect(findOutline(raster, { axis }).axis).toEqual(axis)
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
    const small = skittle(140, 270, 30, 0)
    const picture = paint(280, 300, (x, y) => small.distance(x, y) + 0, {
      alpha: true,
      outside: () => [0.12, 0.07, 0.04],
      grain: 0,
    })
    const found = findOutline(picture)
    expect(
      Math.abs(found.axis.at.x + (found.axis.up.x / found.axis.up.y) * (150 - found.axis.at.y) - 140),
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

  it('says so where the border cuts the piece, and where there are too few pixels', () => {
    // The lower third is missing.
    expect(() => findOutline(paint(600, 600, shape.distance))).toThrow(/reaches the border/)
    expect(() => findOutline(paint(40, 60, () => 9))).toThrow(/only 40 × 60 px/)
  })

  it('tells of another thing in the picture, and takes the most regular one', () => {
    const alone = findOutline(paint(900, 900, shape.distance))
    const smaller = (x: number, y: number) => 0.85 * shape.distance((x - 480) / 0.85, 820 + (y - 820) / 0.85)
    const found = findOutline(paint(900, 900, (x, y) => Math.min(shape.distance(x, y), smaller(x, y))))
    expect(alone.others).toBe(false)
    expect(found.others).toBe(true)
    expect(axisError(found.axis).off).toBeLessThan(0.3)
  })

  it('leaves out another thing that is much smaller, and tells of that', () => {
    const box = (x: number, y: number) => Math.max(Math.abs(x - 790) - 75, Math.abs(y - 600) - 190)
    const found = findOutline(paint(900, 900, (x, y) => Math.min(shape.distance(x, y), box(x, y))))
    expect([found.others, found.besideLeftOut]).toEqual([false, true])
    expect(axisError(found.axis).off).toBeLessThan(0.3)
  })

  it('a soft shadow beside the foot is not taken for the piece', () => {
    const shadow = (x: number, y: number) => {
      const d = Math.hypot((x - 330) / 2.2, (y - 815) / 0.8)
      return 1 - 0.55 * Math.exp(-((d / 70) ** 2))
    }
    const found = findOutline(
      paint(600, 900, shape.distance, {
        outside: (x, y) => [0.5, 0.48, 0.44].map((c) => c * shadow(x, y)) as [number, number, number],
      }),
    )
    const errors = misses([found.right], shape.distance)
    expect(errors[Math.floor(0.9 * errors.length)]).toBeLessThan(0.35)
  })

  it('a highlight lies on the piece and isn’t it, however sharp', () => {
    const bar = (cx: number, half: number, top: number, foot: number) => (x: number, y: number) =>
      Math.max(Math.abs(x - cx) - half, top - y, y - foot)
    const [drum, light] = [bar(300, 150, 150, 750), bar(215, 30, 180, 720)]
    // Grey metal before a wall hardly lighter than it.
    const inside = (x: number, y: number) => [0.33, 0.33, 0.33].map((v) => (light(x, y) < 0 ? 1 : v))
    const picture = paint(600, 900, drum, { inside, outside: () => [0.42, 0.42, 0.42], grain: 1.5 })
    const found = findOutline(picture)
    expect(Math.abs(found.axis.at.x - 300)).toBeLessThan(0.2)
    const errors = misses([found.left, found.right], drum)
    expect(errors[Math.floor(0.9 * errors.length)]).toBeLessThan(0.35)
  })

  it('a flank hardly lighter than the wall moves the likeliest axis over; what is found about another one is taken', () => {
    const [cx, half, top, foot] = [300, 130, 150, 750]
    const cup = (x: number, y: number) => Math.max(Math.abs(x - cx) - (half - (y - top) * 0.06), top - y, y - foot) // prettier-ignore
    // Lit from the right: dark on the left, and over the last third as light as the wall 0.53 against 0.5.
    const inside = (x: number) => {
      const v = 0.2 + 0.33 * Math.min(1, Math.max(0, (x - (cx - half)) / (2 * half) / 0.7))
      return [v, v, v]
    }
    const picture = paint(600, 900, cup, { inside, outside: () => [0.5, 0.5, 0.5], grain: 2 })
    const xAt = ({ at, up }: AxisLine, y: number) => at.x + (up.x / up.y) * (y - at.y)
    const likeliest = sightOf(picture, 2, {})
    expect(Math.abs(2 * xAt(likeliest.silhouette.axis, 225) - cx)).toBeGreaterThan(40)
    expect(likeliest.otherAxes.length).toBeGreaterThan(0)
    expect(Math.abs(xAt(findOutline(picture).axis, 450) - cx)).toBeLessThan(0.1)
  })

  it('paint decides where colours can’t', () => {
    // Two bars of one colour; the search takes the taller one until it is told that it is backdrop.
    const bar = (cx: number, half: number, top: number, foot: number) => (x: number, y: number) =>
      Math.max(Math.abs(x - cx) - half, top - y, y - foot)
    const [tall, short] = [bar(230, 60, 120, 800), bar(640, 60, 300, 800)]
    const picture = paint(900, 900, (x, y) => Math.min(tall(x, y), short(x, y)))
    const line = (x: number) => ({ points: [{ x, y: 150 }, { x, y: 790 }], radius: 62 }) // prettier-ignore
    const found = findOutline(picture, {
      guides: { piece: [{ ...line(640), points: [{ x: 640, y: 330 }, { x: 640, y: 770 }], radius: 30 }], backdrop: [line(230)], marks: [] }, // prettier-ignore
    })
    expect(Math.abs(found.axis.at.x - 640)).toBeLessThan(3)
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
