import { describe, expect, it } from 'vitest'
import { findOutline } from './find-outline'
import { misses, paint } from './test-pictures'

const [width, height] = [900, 500]
const AXIS = 240
/** A bottle that lies with its neck to the right: half its width at each place along it. */
const half = (x: number) => 110 - 70 / (1 + Math.exp((560 - x) / 18))
const slope = (x: number) => (half(x + 1) - half(x - 1)) / 2
const bottle = (x: number, y: number) =>
  Math.max((Math.abs(y - AXIS) - half(x)) / Math.hypot(1, slope(x)), 150 - x, x - 760)

/** Darker towards its underside, as what is lit from above. */
const shaded = (_x: number, y: number) => {
  const t = Math.max(0.25, 1 - ((y - AXIS) / 130 + 1) / 2.6)
  return [0.32 * t, 0.24 * t, 0.14 * t]
}
/** Its lower flank lies on the floor along the body, with a thin dark stripe of shadow under it. */
const withStripe = (deep: number) => (x: number, y: number) => {
  const below = y - AXIS - half(x)
  const isDark = x > 150 && x < 540 && below > 0 && below < deep
  return isDark ? [0.012, 0.011, 0.01] : [0.5, 0.48, 0.44]
}
const UP = { x: 1, y: 0 }
const outlined = (deep: number) => {
  const { left, right, mirror } = findOutline(
    paint(width, height, bottle, { inside: shaded, outside: withStripe(deep) }),
    { up: UP },
  )
  const off = misses([left, right], bottle)
  return { off, axis: mirror.axis, share: (q: number) => off[Math.floor(q * off.length)]! }
}

describe('the contact shadow under a piece that lies on its side', () => {
  it.each([5, 8, 11])('is none of it, %i px deep', (deep) => {
    const { share, axis } = outlined(deep)
    // 0.9 without its rule: 4.9, 8.0 and 11.0 px.
    expect(share(0.9)).toBeLessThan(deep === 5 ? 2 : 1)
    expect(Math.abs(axis.at.y + ((450 - axis.at.x) * axis.up.y) / axis.up.x - AXIS)).toBeLessThan(0.6)
  })

  it('leaves a flank without one as it is', () => {
    expect(outlined(0).share(0.95)).toBeLessThan(0.4)
  })

  it('is not told from a dark stripe on both flanks, which is the piece’s', () => {
    const rimmed = (x: number, y: number) =>
      half(x) - Math.abs(y - AXIS) < 7 && x < 540 ? [0.012, 0.011, 0.01] : shaded(x, y)
    const { left, right } = findOutline(
      paint(width, height, bottle, { inside: rimmed, outside: withStripe(0) }),
      { up: UP },
    )
    const off = misses([left, right], bottle)
    expect(off[Math.floor(0.95 * off.length)]!).toBeLessThan(0.5)
  })
})
