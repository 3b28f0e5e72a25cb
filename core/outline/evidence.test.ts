import { describe, expect, it } from 'vitest'
import { reduceToLab } from '../picture/reduce'
import { texturedEvidence } from './textured-evidence'
import { paint } from './test-pictures'

const [WIDTH, HEIGHT, HORIZON] = [200, 240, 120]
const BRICK = [0.35, 0.18, 0.12]
const MORTAR = [0.5, 0.48, 0.45]
const FLOOR = [0.35, 0.3, 0.65]

describe('shadows on the floor below a textured wall', () => {
  const [piece, shadow] = [
    { x: 100, y: 110, r: 40 },
    { x: 100, y: 185, r: 20 },
  ]
  const isIn = ({ x, y, r }: typeof piece, px: number, py: number) => Math.hypot(px - x, py - y) < r
  const picture = reduceToLab(
    paint(WIDTH, HEIGHT, (x, y) => Math.hypot(x - piece.x, y - piece.y) - piece.r, {
      inside: () => [0.02, 0.25, 0.03],
      outside: (x, y) => {
        if (y < HORIZON) return y % 20 < 3 || (x + (y % 40 < 20 ? 0 : 18)) % 36 < 3 ? MORTAR : BRICK
        return isIn(shadow, x, y) ? FLOOR.map((v) => 0.3 * v) : FLOOR
      },
      grain: 2,
    }),
    1,
  )
  const { plane, bare } = texturedEvidence(picture)
  const mean = (values: Float32Array, place: typeof piece) => {
    let [sum, count] = [0, 0]
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++)
        if (isIn({ ...place, r: place.r - 4 }, x, y)) [sum, count] = [sum + values[y * WIDTH + x]!, count + 1]
    return sum / count
  }

  it('are as rare a colour as the piece is', () => {
    for (const place of [piece, shadow]) expect(mean(plane.data, place)).toBeGreaterThan(0.8)
  })

  it('count as backdrop where shadows are taken out, since they are the floor dimmed; the piece stays', () => {
    expect(mean(bare.data, shadow)).toBeLessThan(-0.15)
    expect(mean(bare.data, piece)).toBeGreaterThan(0.8)
  })
})
