import { describe, expect, it } from 'vitest'
import { paint } from '../outline/test-pictures'
import { topFaceSeen } from './top-face'

/** A post whose upper end is a ring of half-width a that rises by b, its middle at a height of the picture. */
const [cx, middle, a] = [300, 200, 150]
const axis = { at: { x: cx, y: 400 }, up: { x: 0, y: -1 } }
const sag = (x: number, b: number) => b * Math.sqrt(Math.max(0, 1 - ((x - cx) / a) ** 2))
const grey = (v: number) => [v, v, v]

/** The outline of its upper part in the axis' frame, from the tip down the sides. */
function halves(b: number): [Float64Array, Float64Array] {
  const half: number[] = []
  for (let u = 0; u < 0.99 * a; u += 2) half.push(u, 400 - (middle - sag(cx + u, b)))
  for (let y = middle; y < 500; y += 2) half.push(a, 400 - y)
  return [Float64Array.from(half), Float64Array.from(half)]
}

/** A picture of it in which lines of a lighter face or band run where they are told to: distances below the ring's middle. */
function picture(b: number, isFace: (x: number, below: number) => boolean) {
  const post = (x: number, y: number) => Math.max(Math.abs(x - cx) - a, middle - sag(x, b) - y)
  return paint(600, 520, post, {
    inside: (x, y) => grey(isFace(x + 0.5, y + 0.5 - middle) ? 0.16 : 0.08),
    outside: () => grey(0.5),
  })
}
const seen = (b: number, isFace: (x: number, below: number) => boolean) =>
  topFaceSeen(picture(b, isFace), halves(b), { axis, offset: { x: 0, y: 0 }, blur: 0.7 })

describe('a ring that closes a piece at its top', () => {
  it('is looked down on where the near half of it is seen in front', () => {
    for (const b of [6, 12, 30]) expect(seen(b, (x, below) => below < sag(x, b))).toBe(true)
    // The near edge is rounded off, so that the face ends a little lower.
    expect(seen(20, (x, below) => below < sag(x, 20) + 8)).toBe(true)
  })

  it('isn’t known to be where nothing is seen there, or a band that bends as the far half does', () => {
    expect(seen(12, () => false)).toBe(false)
    for (const down of [10, 14, 24]) expect(seen(12, (x, below) => below < down - sag(x, 12))).toBe(false)
  })

  it('isn’t told where it is seen edge-on, or where its near half closes the outline', () => {
    expect(seen(1.5, (x, below) => below < sag(x, 1.5))).toBe(false)
    const sunk = halves(12).map((half) => half.map((c, i) => (i % 2 && c > 200 ? 2 * 200 - c : c))) as [Float64Array, Float64Array] // prettier-ignore
    expect(topFaceSeen(picture(12, (x, below) => below < sag(x, 12)), sunk, { axis, offset: { x: 0, y: 0 }, blur: 0.7 })).toBe(false) // prettier-ignore
  })

  it('is looked for where the raster lies in the picture', () => {
    const b = 12
    const there = { at: { x: cx + 70, y: 440 }, up: axis.up }
    const at = (offset: { x: number; y: number }) =>
      topFaceSeen(
        picture(b, (x, below) => below < sag(x, b)),
        halves(b),
        { axis: there, offset, blur: 0.7 },
      )
    expect(at({ x: 70, y: 40 })).toBe(true)
    expect(at({ x: 0, y: 0 })).toBe(false)
  })
})
