import { describe, expect, it } from 'vitest'
import { leftOutBy } from './left-out'
import { requireMost } from './require-piece'
import type { Silhouette } from './silhouette'

const [WIDTH, HEIGHT, MIDDLE] = [100, 80, 50]

/** A silhouette of half-width 10 in rows 20 to 59. */
const silhouette: Silhouette = {
  axis: { at: { x: MIDDLE, y: 0 }, up: { x: 0, y: -1 } },
  top: 0,
  half: Float32Array.from({ length: HEIGHT }, (_, row) => (row >= 20 && row < 60 ? 10 : 0)),
  edges: 1,
}
/** Evidence for a piece of some half-width in those rows. */
const pieceOf = (half: number) => ({
  width: WIDTH,
  height: HEIGHT,
  data: Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => {
    const [x, y] = [(i % WIDTH) + 0.5, Math.floor(i / WIDTH)]
    return y >= 20 && y < 60 && Math.abs(x - MIDDLE) < half ? 1 : -0.5
  }),
})

describe('what speaks for a piece outside of what was found', () => {
  it('is nothing where all of it was found, and grain beside it tells nothing', () => {
    expect(leftOutBy(silhouette, pieceOf(10))).toBe(0)
    expect(leftOutBy(silhouette, pieceOf(14))).toBe(0)
  })

  it('is as much as lies within where half of the piece was found, which isn’t believed then', () => {
    const left = leftOutBy(silhouette, pieceOf(22))
    // Of the 12 px on either side three are taken to be the edge's.
    expect(left).toBeGreaterThan(0.6)
    expect(left).toBeLessThan(1)
    expect(() => requireMost(left)).toThrow(/lies outside of what was found/)
    expect(() => requireMost(0.3)).not.toThrow()
  })
})
