import { describe, expect, it } from 'vitest'
import { findOutline } from './find-outline'
import { paint } from './test-pictures'

const [width, height] = [480, 640]
/** A jar with a lid as wide as itself, whose foot and top are level. */
const jar = (x: number, y: number) => Math.max(Math.abs(x - 240) - 150, 90 - y, y - 560)
/** Ribs 8 px apart all over the lid, whose lower edge is darker; or none. */
const ribbed = (from: number, to: number) => (x: number, y: number) => {
  if (y < from || y >= to) return [0.3, 0.1, 0.05]
  if (y >= to - 4) return [0.02, 0.02, 0.02]
  return x % 8 < 3 ? [0.02, 0.02, 0.02] : [0.25, 0.2, 0.1]
}
const rows = (found: ReturnType<typeof findOutline>) => {
  const ys = [...found.left.points].filter((_, i) => i % 2 === 1)
  return [Math.min(...ys), Math.max(...ys)] as const
}

describe('a part of the piece with ribs at even distances', () => {
  it('is no ruler: a knurled lid stays', () => {
    const found = findOutline(paint(width, height, jar, { inside: ribbed(90, 170) }), {
      up: { x: 0, y: -1 },
    })
    expect(found.besideLeftOut).toBe(false)
    const [top, foot] = rows(found)
    expect(Math.abs(top - 90)).toBeLessThan(1.5)
    expect(Math.abs(foot - 560)).toBeLessThan(1.5)
  })

  it('nor is a knurled foot', () => {
    const found = findOutline(paint(width, height, jar, { inside: ribbed(480, 560) }), {
      up: { x: 0, y: -1 },
    })
    expect(found.besideLeftOut).toBe(false)
    expect(Math.abs(rows(found)[1] - 560)).toBeLessThan(1.5)
  })
})

describe('a ruler that lies before the piece', () => {
  it('is left out, and the piece ends at its own foot', () => {
    const bare = paint(width, height, jar)
    const data = Uint8Array.from(bare.data)
    for (let y = 580; y < 610; y++)
      for (let x = 10; x < 440; x++) {
        const dark = (x - 10) % 8 < 2 && y < ((x - 10) % 40 < 2 ? 596 : 590)
        data.set(dark ? [40, 30, 25] : [225, 200, 140], 4 * (y * width + x))
      }
    const found = findOutline({ ...bare, data }, { up: { x: 0, y: -1 } })
    expect(found.besideLeftOut).toBe(true)
    const [top, foot] = rows(found)
    expect(Math.abs(top - 90)).toBeLessThan(1.5)
    expect(Math.abs(foot - 560)).toBeLessThan(1.5)
  })
})
