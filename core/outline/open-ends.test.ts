import { describe, expect, it } from 'vitest'
import { resample } from './chain'
import { openEnds } from './open-ends'
import type { OutlineSide } from './refine'

/** Both sides of something as wide as that at its foot and its top, 400 px high, whose places show an edge where they are said to. */
function sidesOf(foot: number, top: number, isSeen: (u: number, y: number) => boolean) {
  return ([-1, 1] as const).map((side): OutlineSide => {
    const points = resample([0, 400, side * foot, 400, side * top, 0, 0, 0], 2)
    const sd = Float64Array.from({ length: points.length / 2 }, (_, i) =>
      isSeen(Math.abs(points[2 * i]!), points[2 * i + 1]!) ? 0.05 : Infinity,
    )
    return { points, sd, blur: 0.7 }
  })
}

describe('ends that nothing closes', () => {
  it('are told, however narrow: what their sides show doesn’t close them', () => {
    expect(openEnds(sidesOf(100, 20, (_, y) => y > 2))).toEqual(['top'])
    expect(openEnds(sidesOf(100, 20, () => true))).toEqual([])
  })

  it('are told of broad ones by their middle: their corners show edges of the floor', () => {
    expect(openEnds(sidesOf(150, 100, (u, y) => y < 398 || u > 60))).toEqual(['foot'])
    expect(openEnds(sidesOf(150, 100, (u, y) => y < 398 || u < 60))).toEqual([])
  })

  it('are told of a point by its sides, since nothing else closes it', () => {
    expect(openEnds(sidesOf(100, 1, (_, y) => y > 2))).toEqual([])
    expect(openEnds(sidesOf(100, 1, (_, y) => y > 40))).toEqual(['top'])
  })
})
