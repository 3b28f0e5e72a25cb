import { describe, expect, it } from 'vitest'
import { withoutThingsAcross } from './border-things'

const LINES = 300
const bordersOf = (at: (line: number, side: number) => readonly [number, number, number]) => {
  const end = (s: number) =>
    Float32Array.from({ length: 3 * LINES }, (_, i) => at(Math.floor(i / 3), s)[i % 3]!)
  const limits = new Float32Array(LINES).fill(0.027)
  return { ends: [end(0), end(1)] as const, limits, hueLimits: limits.slice() }
}
const wallAt = (line: number) => [0.7 - 0.0004 * line, 0, 0.01] as const
const coin = [0.6, 0.02, 0.1] as const
const box = [0.5, 0.1, 0.06] as const

describe('along the borders', () => {
  it('a coin, shorter than its neighbours, is led over by them, a longer box by the opposite border', () => {
    const borders = bordersOf((line, side) => {
      if (side === 0) return line >= 240 && line < 248 ? coin : wallAt(line)
      return line >= 130 && line < 200 ? box : wallAt(line)
    })
    borders.limits.fill(0.2, 128, 132)
    withoutThingsAcross(borders)
    for (const end of borders.ends)
      for (const line of [131, 165, 198, 244])
        wallAt(line).forEach((value, c) => expect(end[3 * line + c]).toBeCloseTo(value, 2))
    expect(Math.max(...borders.limits)).toBeCloseTo(0.027, 5)
  })

  it('lines that nothing covers stay as they are', () => {
    const [before, after] = [bordersOf(wallAt), bordersOf(wallAt)]
    withoutThingsAcross(after)
    expect(after).toEqual(before)
  })
})
