import { describe, expect, it } from 'vitest'
import type { Silhouette } from './silhouette'
import { rowsTakenIn } from './taken-in'

const [WIDTH, HEIGHT, MIDDLE, HALF, FOOT] = [160, 140, 80, 30, 100]

/** Evidence of a post of some half-width, which says so much within. */
const post = (within: number) => ({
  width: WIDTH,
  height: HEIGHT,
  data: Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => {
    const [x, y] = [(i % WIDTH) + 0.5, Math.floor(i / WIDTH)]
    return y >= 20 && y < FOOT && Math.abs(x - MIDDLE) < HALF ? within : -0.9
  }),
})
/** A silhouette that goes out along lines of the floor over some of its last rows. */
const led = (rows: number): Silhouette => ({
  axis: { at: { x: MIDDLE, y: 0 }, up: { x: 0, y: -1 } },
  top: 0,
  half: Float32Array.from({ length: HEIGHT }, (_, row) => {
    if (row < 20 || row >= FOOT) return 0
    return HALF + (row >= FOOT - rows ? 14 : 0)
  }),
  edges: 1,
})

describe('backdrop within both edges of a silhouette', () => {
  it('is counted in rows on end, wherever lines led it away', () => {
    for (const rows of [8, 30]) expect(rowsTakenIn(led(rows), post(0.9))).toBeCloseTo(rows, -1)
  })

  it('is none where it follows the piece, though that has colours of the backdrop', () => {
    expect(rowsTakenIn(led(0), post(0.9))).toBe(0)
    expect(rowsTakenIn(led(0), post(-0.3))).toBe(0)
  })

  it('is none where one side alone is led away: a shadow, a handle', () => {
    const shifted = { ...led(30), axis: { at: { x: MIDDLE + 14, y: 0 }, up: { x: 0, y: -1 } } }
    expect(rowsTakenIn({ ...shifted, half: led(0).half.map((r) => (r ? HALF : 0)) }, post(0.9))).toBe(0)
  })
})
