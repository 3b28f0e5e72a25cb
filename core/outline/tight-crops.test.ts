import { describe, expect, it } from 'vitest'
import { mayBeCutOff } from './border-coverage'
import { findOutline } from './find-outline'
import { misses, paint, skittle } from './test-pictures'

const shape = skittle(300, 820, 120, 0.02)
/** The skittle's bounds. */
const BOUNDS = { left: 199, right: 405, top: 120, bottom: 822 }

/** The picture with so many px beside the skittle on every side; with fewer than none it cuts into it. */
function crop({ left = 6, right = 6, top = 6, bottom = 6 }, looks: Parameters<typeof paint>[3] = {}) {
  const [x0, y0] = [BOUNDS.left - left, BOUNDS.top - top]
  const distance = (x: number, y: number) => shape.distance(x + x0, y + y0)
  return { distance, raster: paint(BOUNDS.right + right - x0, BOUNDS.bottom + bottom - y0, distance, looks) }
}

describe('a picture cropped close to the piece', () => {
  it('is read as well as one with room beside it', () => {
    const { raster, distance } = crop({})
    const { left, right } = findOutline(raster)
    const off = misses([left, right], distance)
    expect(off.length).toBeGreaterThan(500)
    expect(off[off.length >> 1]).toBeLessThan(0.1)
    expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(0.5)
  })

  it('is read, where it lies, with bars at its sides that make it square', () => {
    const { raster, distance } = crop({})
    const bar = (raster.height - raster.width) >> 1
    const width = raster.width + 2 * bar
    const data = new Uint8Array(4 * width * raster.height).fill(255)
    for (let y = 0; y < raster.height; y++)
      data.set(raster.data.subarray(4 * y * raster.width, 4 * (y + 1) * raster.width), 4 * (y * width + bar))
    const { left, right } = findOutline({ width, height: raster.height, data })
    const off = misses([left, right], (x, y) => distance(x - bar, y))
    expect(off.length).toBeGreaterThan(500)
    expect(off[off.length >> 1]).toBeLessThan(0.1)
  })

  it('stays cut off where the border cuts into the piece', () => {
    for (const side of ['left', 'right', 'top', 'bottom'] as const)
      expect(() => findOutline(crop({ [side]: -60 }).raster), side).toThrow(/reaches the border/)
  })

  it('has the axis and the marks that are given where they are', () => {
    const { raster, distance } = crop({})
    const at = { x: 300 - BOUNDS.left + 6, y: 820 - BOUNDS.top + 6 }
    const axis = { at, up: { x: Math.sin(0.02), y: -Math.cos(0.02) } }
    const guides = {
      piece: [{ points: [{ x: at.x + 4, y: at.y - 200 }], radius: 8 }],
      backdrop: [],
      marks: [],
    }
    const found = findOutline(raster, { axis, guides })
    expect(found.axis).toEqual(axis)
    const off = misses([found.left, found.right], distance)
    expect(off[off.length >> 1]).toBeLessThan(0.1)
  })
})

describe('a cut-out trimmed to its bounds', () => {
  /** Its soft edge reaches so far. */
  const soft = { left: 2, right: 2, top: 2, bottom: 2 }
  const none = { left: 0, right: 0, top: 0, bottom: 0 }

  it('is read by its coverage', () => {
    const { raster, distance } = crop(soft, { alpha: true })
    const { left, right } = findOutline(raster)
    const off = misses([left, right], distance)
    expect(off.length).toBeGreaterThan(500)
    expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(0.2)
    expect(mayBeCutOff(raster)).toBe(false)
  })

  it('is refused where it is cut off on one side', () => {
    for (const side of ['left', 'right'])
      expect(() => findOutline(crop({ ...none, [side]: -40 }, { alpha: true }).raster), side).toThrow(
        /reaches the border/,
      )
  })

  it('is said to be perhaps cut off where it ends flat at the border, since a flat foot does, too', () => {
    const { raster } = crop({ ...none, top: -100 }, { alpha: true })
    expect(mayBeCutOff(raster)).toBe(true)
    expect(() => findOutline(raster)).not.toThrow()
  })
})
