import { describe, expect, it } from 'vitest'
import { findOutline } from './find-outline'
import { NO_GUIDES } from './guides'
import { misses, paint, skittle } from './test-pictures'

const [width, height] = [600, 900]
const shape = skittle(300, 820, 90, 0)
const up = { x: 0, y: -1 }

interface Block {
  from: readonly [number, number]
  to: readonly [number, number]
  colour: readonly number[]
}
/** The skittle, and blocks beside it. */
function pictureWith(blocks: readonly Block[], inside?: (x: number, y: number) => number[]) {
  const bare = paint(width, height, shape.distance, inside ? { inside } : {})
  const data = Uint8Array.from(bare.data)
  for (const { from, to, colour } of blocks)
    for (let y = from[1]; y < to[1]; y++)
      for (let x = from[0]; x < to[0]; x++) data.set(colour, 4 * (y * width + x))
  return { ...bare, data }
}
const nearAll = (found: ReturnType<typeof findOutline>) => {
  const off = misses([found.left, found.right], shape.distance)
  return off[Math.floor(0.9 * off.length)]!
}

const red = [150, 50, 40]
const dark = [40, 40, 45]
const white = [250, 250, 248]
const box: Block = { from: [480, 600], to: [560, 815], colour: red }
const cutOff: Block = { from: [500, 560], to: [600, 815], colour: dark }
const coin: Block = { from: [20, 800], to: [90, 820], colour: white }

describe('a box or a coin beside the piece', () => {
  it.each([
    ['a box', [box]],
    ['a box that the border cuts off', [cutOff]],
    [
      'a white box cut off and a coin',
      [
        { ...cutOff, colour: white },
        { ...coin, colour: red },
      ],
    ],
    ['boxes on both sides', [box, { from: [0, 500], to: [80, 800], colour: dark } satisfies Block]],
  ])('is left out: %s', (_, blocks) => {
    const found = findOutline(pictureWith(blocks), { up })
    expect(found.besideLeftOut).toBe(true)
    expect(nearAll(found)).toBeLessThan(0.35)
  })

  it('stays where somebody painted it as piece', () => {
    const guides = { ...NO_GUIDES, piece: [{ points: [{ x: 520, y: 700 }], radius: 12 }] }
    expect(findOutline(pictureWith([box]), { up, guides }).besideLeftOut).toBe(false)
  })
})

describe('what is no thing beside the piece', () => {
  it('is a piece alone', () => {
    expect(findOutline(pictureWith([]), { up }).besideLeftOut).toBe(false)
  })

  it('is a side of the piece beyond a band where its shading passes through the backdrop’s colour', () => {
    const shaded = (x: number, y: number) => {
      const back = [0.5 + y / 9000, 0.48, 0.44]
      return back.map((v) => v * (1 + 0.5 * Math.tanh((330 - x) / 25)))
    }
    const found = findOutline(pictureWith([], shaded), { up })
    expect(found.besideLeftOut).toBe(false)
    expect(nearAll(found)).toBeLessThan(0.5)
  })
})
