import { describe, expect, it } from 'vitest'
import { enlarged } from '../picture/enlarge'
import type { Raster } from '../picture/raster'
import { findOutline } from './find-outline'
import { misses, paint, skittle } from './test-pictures'

const [width, height] = [480, 640]
const UP = { x: 0, y: -1 }
const piece = skittle(240, 540, 90, 0.01)

interface Bar {
  from?: number
  to?: number
  /** Its upper side at the picture's middle, its depth, and by how much it falls per px. */
  top?: number
  deep?: number
  lean?: number
  marks?: boolean
}

/** A light bar on the floor before the foot, with or without marks; 6 px apart, every fifth one longer. */
function withBar(
  picture: Raster,
  { from = 40, to = 400, top = 548, deep = 14, lean = 0.012, marks = true }: Bar = {},
): Raster {
  const data = Uint8Array.from(picture.data)
  for (let x = from; x < to; x++) {
    const upper = top + lean * (x - width / 2)
    for (let y = Math.round(upper); y < upper + deep; y++) {
      const long = Math.floor((x - from) / 6) % 5 === 0 ? 0.5 : 0.3
      const dark = marks && (x - from) % 6 < 2 && y - upper <= long * deep
      data.set(dark ? [40, 30, 25] : [225, 200, 140], 4 * (y * width + x))
    }
  }
  return { ...picture, data }
}

const bare = paint(width, height, piece.distance)
const outlined = (picture: Raster, distance = piece.distance) => {
  const found = findOutline(picture, { up: UP })
  const points = [found.left, found.right].flatMap((side) =>
    Array.from(side.sd, (_, i) => distance(side.points[2 * i]!, side.points[2 * i + 1]!)),
  )
  const off = misses([found.left, found.right], distance)
  return { found, farthest: Math.max(...points), usual: off[Math.floor(0.8 * off.length)]! }
}

describe('a ruler that lies before the foot', () => {
  it.each<[string, Bar]>([
    ['aside', {}],
    ['from border to border', { from: 0, to: width }],
    ['even about the axis, by its marks', { from: 60, to: 420 }],
    ['thin', { deep: 8 }],
    ['level', { lean: 0, to: 440 }],
  ])('is no part of the piece: %s', (_, bar) => {
    const { found, farthest, usual } = outlined(withBar(bare, bar))
    expect(farthest).toBeLessThan(4)
    expect(usual).toBeLessThan(0.5)
    expect(found.besideLeftOut).toBe(true)
  })

  it('is told in a large picture as well', () => {
    const times = 4
    const large = (x: number, y: number) => times * piece.distance(x / times, y / times)
    const { found, farthest, usual } = outlined(enlarged(withBar(bare), times), large)
    expect(farthest).toBeLessThan(4 * times)
    expect(usual).toBeLessThan(0.5 * times)
    expect(found.besideLeftOut).toBe(true)
  })

  it('hides what it covers, and nothing more', () => {
    const { farthest, usual } = outlined(withBar(bare, { top: 532 }))
    expect(farthest).toBeLessThan(4)
    expect(usual).toBeLessThan(0.5)
  })

  it('is told from a plate that the piece stands on, which is a part of it', () => {
    const plate = (x: number, y: number) =>
      Math.min(piece.distance(x, y), Math.max(Math.abs(x - 240) - 170, 536 - y, y - 550))
    const { found, usual, farthest } = outlined(paint(width, height, plate), plate)
    const reach = Math.max(...found.right.points.filter((_, i) => i % 2 === 0))
    expect(reach).toBeGreaterThan(400)
    expect(usual).toBeLessThan(0.5)
    expect(farthest).toBeLessThan(4)
  })

  it('is none where only the floor begins', () => {
    const floor = paint(width, height, piece.distance, {
      outside: (_, y) => (y > 556 ? [0.3, 0.22, 0.15] : [0.5 + y / 9000, 0.48, 0.44]),
    })
    const { found, farthest } = outlined(floor)
    expect(found.besideLeftOut).toBe(false)
    expect(farthest).toBeLessThan(4)
  })
})
