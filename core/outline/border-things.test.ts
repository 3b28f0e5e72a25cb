import { describe, expect, it } from 'vitest'
import { withoutThingsAcross } from './border-things'

const LINES = 300
const bordersOf = (at: (line: number, side: number) => readonly [number, number, number]) => {
  const end = (s: number) =>
    Float32Array.from({ length: 3 * LINES }, (_, i) => at(Math.floor(i / 3), s)[i % 3]!)
  const limits = new Float32Array(LINES).fill(0.027)
  return { ends: [end(0), end(1)] as const, limits, hueLimits: limits.slice() }
}
const wall = [0.7, 0, 0.01] as const
const shade = [0.5, 0, 0.01] as const
const coin = [0.6, 0.02, 0.1] as const
const box = [0.5, 0.1, 0.06] as const
const isShade = (line: number) => line >= 200 && line < 212

describe('along the borders', () => {
  it('a coin, shorter than its neighbours, is led over; a strip of shade that both borders show stays', () => {
    const borders = bordersOf((line, side) =>
      isShade(line) ? shade : side === 0 && line >= 240 && line < 248 ? coin : wall,
    )
    withoutThingsAcross(borders)
    for (const end of borders.ends) {
      expect(end[3 * 205]).toBeCloseTo(shade[0], 5)
      expect(end[3 * 244]).toBeCloseTo(wall[0], 5)
      expect(end[3 * 244 + 2]).toBeCloseTo(wall[2], 5)
    }
  })

  it('the strip of shade stays where a box hides it on one side, and comes back there', () => {
    const borders = bordersOf((line, side) =>
      side === 1 && line >= 150 && line < 230 ? box : isShade(line) ? shade : wall,
    )
    withoutThingsAcross(borders)
    for (const end of borders.ends) {
      expect(end[3 * 205]).toBeCloseTo(shade[0], 2)
      expect(end[3 * 180]).toBeCloseTo(wall[0], 2)
      expect(end[3 * 180 + 1]).toBeCloseTo(wall[1], 2)
    }
  })
})
