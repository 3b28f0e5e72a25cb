import { describe, expect, it } from 'vitest'
import { endsGoingOn } from './going-on'
import { openEnds } from './open-ends'
import type { OutlineSide } from './refine'
import { paint } from './test-pictures'

/** A tumbler from y = 100 to `foot`, 100 px wide on either side at its foot and 12 more 400 px above it. */
const [cx, top] = [250, 100]
const halfAt = (y: number, foot: number) => 100 + (12 * (foot - y)) / 400
const tumbler = (foot: number) =>
  paint(500, 700, (x, y) => Math.max(Math.abs(x - cx) - halfAt(y, foot), top - y, y - foot), {
    outside: () => [0.5, 0.5, 0.5],
    grain: 1.5,
  })
const axis = { at: { x: cx, y: 350 }, up: { x: 0, y: -1 } }

/** Both sides of it, ended by a line without an edge at a height, but for a speckle here and there. */
function sidesTo(end: number, foot: number): [OutlineSide, OutlineSide] {
  const one = (sign: 1 | -1): OutlineSide => {
    const places: [number, number][] = []
    for (let u = 0; u < halfAt(end, foot) - 6; u += 2) places.push([u, end])
    const line = places.length
    for (let y = end - 6; y > top; y -= 2) places.push([halfAt(y, foot), y])
    const side = places.length
    for (let u = halfAt(top, foot); u > 0; u -= 2) places.push([u, top])
    return {
      points: Float64Array.from(places.flatMap(([u, y]) => [cx + sign * u, y])),
      sd: Float64Array.from(places, (_, i) => (i < line && i % 12 !== 5 && i < side ? Infinity : 0.1)),
      blur: 0.7,
    }
  }
  return [one(-1), one(1)]
}

describe('ends beyond which the edges go on', () => {
  it('are none: the piece was cut off in its middle', () => {
    const sides = sidesTo(350, 560)
    expect(openEnds(sides)).toEqual(['foot'])
    expect(endsGoingOn(tumbler(560), sides, axis)).toEqual(['foot'])
  })

  it('an end that only isn’t seen stays, with nothing beyond it', () => {
    expect(endsGoingOn(tumbler(560), sidesTo(560, 560), axis)).toEqual([])
    // What goes on for a little, less than it takes to tell.
    expect(endsGoingOn(tumbler(560), sidesTo(545, 560), axis)).toEqual([])
  })

  it('an end with an edge is one, even if lines of the backdrop go on below it', () => {
    const sides = sidesTo(350, 560)
    for (const { sd } of sides) sd.fill(0.1)
    expect(endsGoingOn(tumbler(560), sides, axis)).toEqual([])
  })

  it('an edge on one side alone is no piece', () => {
    const half = paint(
      500,
      700,
      (x, y) => Math.max(Math.abs(x - cx) - halfAt(y, 560), top - y, y - (x < cx ? 350 : 560)),
      { outside: () => [0.5, 0.5, 0.5] },
    )
    expect(endsGoingOn(half, sidesTo(350, 560), axis)).toEqual([])
  })
})
