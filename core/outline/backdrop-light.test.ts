import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { reduceToLab } from '../picture/reduce'
import { fitLight, lightAt } from './backdrop-light'
import { pieceEvidence } from './evidence'
import { findOutline } from './find-outline'
import { paint, skittle } from './test-pictures'

const [WIDTH, HEIGHT] = [160, 200]
/** A difference of this share makes a colour another one. */
const LIMIT = 0.05
const limitAt = () => LIMIT
/** What stands before the backdrop in the middle. */
const piece = (x: number, y: number) => Math.hypot((x - 80) / 30, (y - 110) / 60) < 1

describe('light between the borders of a plain backdrop', () => {
  const spot = (cx: number, cy: number, gain: number) => (x: number, y: number) =>
    1 + gain * Math.exp(-((x - cx) ** 2 + (y - cy) ** 2) / 8000)

  it('is left alone where the borders foretell it', () => {
    const off = (x: number, y: number) => (piece(x, y) ? 0.4 : 1 + 0.015 * Math.sin(x / 20))
    expect(fitLight(WIDTH, HEIGHT, off, limitAt)).toBeNull()
  })

  it('is found for spots of any place and strength, behind the piece too (property)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 40, max: 120, noNaN: true }),
        fc.double({ min: 50, max: 150, noNaN: true }),
        fc.double({ min: 0.12, max: 0.3, noNaN: true }),
        (cx, cy, gain) => {
          const real = spot(cx, cy, gain)
          const light = fitLight(WIDTH, HEIGHT, (x, y) => (piece(x, y) ? 0.35 : real(x, y)), limitAt)
          expect(light).not.toBeNull()
          let most = 0
          for (let y = 4; y < HEIGHT; y += 9)
            for (let x = 4; x < WIDTH; x += 9)
              most = Math.max(most, Math.abs(lightAt(light!, x, y) / real(x, y) - 1))
          expect(most).toBeLessThan(LIMIT)
        },
      ),
      { numRuns: 40 },
    )
  })

  it('a piece much like the backdrop is not led over: a step parts it', () => {
    // Everything to the right of a step is a little darker: no smooth light makes a step.
    const light = fitLight(WIDTH, HEIGHT, (x, y) => (piece(x, y) ? 0.9 : spot(80, 100, 0.2)(x, y)), limitAt)
    expect(lightAt(light!, 80, 110)).toBeGreaterThan(1.1)
  })

  it('a weak one is led over, and fitted where the piece seems to reach the border', () => {
    const weak = (x: number, y: number) => (piece(x, y) ? 0.35 : spot(80, 100, 0.055)(x, y))
    expect(fitLight(WIDTH, HEIGHT, weak, limitAt)).toBeNull()
    const light = fitLight(WIDTH, HEIGHT, weak, limitAt, true)
    expect(Math.abs(lightAt(light!, 80, 100) - 1.055)).toBeLessThan(0.01)
  })

  it('what is darker than the borders make expect is a shadow’s', () => {
    expect(fitLight(WIDTH, HEIGHT, spot(80, 100, -0.2), limitAt)).toBeNull()
    // A shadow beside a spot leaves the spot's light as it is.
    const shaded = (x: number, y: number) => (y > 150 && x > 40 && x < 110 ? 0.8 : spot(80, 70, 0.2)(x, y))
    const light = fitLight(WIDTH, HEIGHT, shaded, limitAt)
    expect(Math.abs(lightAt(light!, 80, 70) - 1.2)).toBeLessThan(0.03)
    for (let y = 152; y < 196; y += 6) expect(lightAt(light!, 75, y)).toBeGreaterThanOrEqual(1)
  })

  it('texture is no light', () => {
    const bricks = (x: number, y: number) => ((Math.floor(x / 14) + Math.floor(y / 9)) % 2 ? 1.2 : 0.85)
    expect(fitLight(WIDTH, HEIGHT, bricks, limitAt)).toBeNull()
  })

  it('a picture too small to tell is left alone', () => {
    expect(fitLight(24, 80, () => 1.3, limitAt)).toBeNull()
  })
})

describe('a piece before a lamp’s spot', () => {
  const shape = skittle(300, 820, 90, 0.01)
  const lit = (x: number, y: number) => {
    const light = 0.3 + 0.35 * Math.exp(-((x - 260) ** 2 + (y - 420) ** 2) / 90000)
    return [light, 0.97 * light, 0.9 * light]
  }
  const raster = paint(600, 900, shape.distance, { outside: lit, inside: () => [0.2, 0.19, 0.17] })

  it('the spot speaks for no piece', () => {
    const { kind, plane } = pieceEvidence(reduceToLab(raster, 3))
    expect(kind).toBe('plain')
    let wrong = 0
    let all = 0
    for (let y = 30; y < 870; y += 6)
      for (let x = 30; x < 570; x += 6) {
        const d = shape.distance(x, y)
        if (Math.abs(d) < 6) continue
        all++
        if (plane.data[Math.floor(y / 3) * plane.width + Math.floor(x / 3)]! > 0 !== d < 0) wrong++
      }
    expect(wrong / all).toBeLessThan(0.02)
  })

  it('its outline is found to a fraction of a pixel', () => {
    const { left, right } = findOutline(raster)
    const off = [left, right]
      .flatMap(({ points, sd }) =>
        [...sd].flatMap((s, i) =>
          Number.isFinite(s) ? [Math.abs(shape.distance(points[2 * i]!, points[2 * i + 1]!))] : [],
        ),
      )
      .sort((a, b) => a - b)
    expect(off.length).toBeGreaterThan(300)
    expect(off[off.length >> 1]).toBeLessThan(0.15)
    expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(0.6)
  })
})
