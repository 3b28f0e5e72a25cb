import { describe, expect, it } from 'vitest'
import { reduceToLab } from '../picture/reduce'
import { sharpness } from '../picture/sharpness'
import { withoutCutOff } from './cut-off-things'
import { findOutline } from './find-outline'
import { misses, noise, paint, skittle } from './test-pictures'

const [width, height] = [600, 800]
const shape = skittle(300, 720, 90, 0)
const up = { x: 0, y: -1 }

/** A wall of blotches, some px wide each, and a floor of a colour of its own. */
const blotches = (() => {
  const gauss = noise(11)
  const cells = Array.from({ length: 61 * 81 }, () => gauss())
  return (x: number, y: number) => {
    const v = (y > 640 ? 0.2 : 0.32) * (1 + 0.15 * cells[61 * Math.floor(y / 10) + Math.floor(x / 10)]!)
    return y > 640 ? [v, 0.7 * v, 0.5 * v] : [v, v, v]
  }
})()
/** Light where a thing stands; null where none does. */
type Thing = (x: number, y: number) => number[] | null
const picture = (thing: Thing = () => null) =>
  paint(width, height, shape.distance, {
    inside: () => [0.3, 0.22, 0.15],
    outside: (x, y) => thing(x, y) ?? blotches(x, y),
  })
const scene = (thing?: Thing) => {
  const raster = picture(thing)
  return { picture: reduceToLab(raster, 2), sharp: sharpness(raster, 2) }
}
const block =
  (x: [number, number], y: [number, number], colour: number[]): Thing =>
  (px, py) =>
    px >= x[0] && px < x[1] && py >= y[0] && py < y[1] ? colour : null
const [dark, green] = [
  [0.015, 0.015, 0.02],
  [0.05, 0.15, 0.04],
]
const nobody = () => false

describe('what the border of a textured picture cuts off', () => {
  it.each([
    ['at its left', block([0, 90], [480, 700], dark)],
    ['at its right', block([520, 600], [500, 690], green)],
    ['at its foot', block([60, 190], [730, 800], green)],
  ])('is taken out, and nothing else: %s', (_, thing) => {
    const before = scene(thing)
    const after = withoutCutOff(before, nobody)!
    expect(after.isWorthAWord).toBe(true)
    const { picture: was, sharp } = before
    const { picture: is, sharp: edges } = after.scene
    const isFarOff = (x: number, y: number) =>
      [-14, 14].every((d) => [thing(x + d, y), thing(x, y + d), thing(x + d, y + d), thing(x - d, y + d)].every((v) => !v)) // prettier-ignore
    let [things, left, others, changed] = [0, 0, 0, 0]
    for (let i = 0; i < was.l.length; i++) {
      const [x, y] = [2 * (i % was.width) + 1, 2 * Math.floor(i / was.width) + 1]
      const away = Math.hypot(is.l[i]! - was.l[i]!, is.a[i]! - was.a[i]!, is.b[i]! - was.b[i]!)
      const edge = Math.max(edges.x.data[i]!, edges.y.data[i]!)
      if (thing(x, y)) {
        things++
        if (away < 0.04 || edge > 0) left++
      } else if (isFarOff(x, y)) {
        others++
        if (away > 0 || edge !== Math.max(sharp.x.data[i]!, sharp.y.data[i]!)) changed++
      }
    }
    expect([left, changed]).toEqual([0, 0])
    expect(Math.min(things, others)).toBeGreaterThan(1000)
  })

  it('is let be where somebody said that it is the piece', () => {
    const before = scene(block([0, 90], [480, 700], dark))
    const asked: unknown[] = []
    expect(withoutCutOff(before, (bounds) => asked.push(bounds) > 0)).toBeNull()
    expect(asked).toHaveLength(1)
  })

  it.each([
    ['nothing', undefined],
    ['a thing that stands within', block([60, 130], [500, 690], dark)],
    ['a handle that ends at the piece', block([0, 230], [400, 440], dark)],
    ['a piece that the border cuts off', block([180, 420], [300, 800], dark)],
    ['a soft shadow', (x, y) => blotches(x, y).map((v) => v * (1 - 0.9 / (1 + Math.exp((Math.hypot(x, y - 560) - 110) / 25))))],
    ['a side that lies in the dark', (x, y) => blotches(x, y).map((v) => v * Math.min(1, 0.1 + x / 400))],
  ] satisfies [string, Thing | undefined][])('is not: %s', (_, thing) => {
    expect(withoutCutOff(scene(thing), nobody)).toBeNull()
  }) // prettier-ignore

  it('is no longer taken for the piece, and that is said', () => {
    const raster = picture(block([0, 90], [480, 700], dark))
    const found = findOutline(raster, { up })
    const off = misses([found.left, found.right], shape.distance)
    expect(found.besideLeftOut).toBe(true)
    // The blotches’ own edges beside the piece cost a px; the thing stood a hundred away.
    expect(off[Math.floor(0.9 * off.length)]).toBeLessThan(1.5)
  })
})
