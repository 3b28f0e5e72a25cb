import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { coveredLines, leadOver, type LineEnds } from './covered-lines'

const LINES = 300
const FLOOR = 220
type Lab = readonly [number, number, number]
const DIM: Lab = [0.47, 0, 0.016]

/** A wall that is lighter to the left and darker downwards, on a floor that begins at these lines, left and right. */
const wall = (line: number, side: number, floors: readonly number[] = [FLOOR, FLOOR]): Lab => {
  const l = 0.8 - 0.0003 * line - 0.05 * side
  return line < floors[side]! ? [l, 0, 0.01] : [l - 0.15, 0, 0.02]
}
const endsOf = (at: (line: number, side: number) => Lab): LineEnds => {
  const side = (s: number) =>
    Float32Array.from({ length: 3 * LINES }, (_, i) => at(Math.floor(i / 3), s)[i % 3]!)
  return [side(0), side(1)]
}
/** A thing of this colour over lines of one side, its border one line soft. */
const covering =
  (covered: number, from: number, to: number, colour: Lab) =>
  (line: number, side: number): Lab => {
    const bare = wall(line, side)
    if (side !== covered || line < from || line >= to) return bare
    const share = line === from || line === to - 1 ? 0.5 : 1
    return bare.map((v, c) => share * colour[c]! + (1 - share) * v) as unknown as Lab
  }

describe('lines of which one end shows a thing', () => {
  it('are found wherever it crosses the border, and led over as the wall and the floor go on there (property)', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(0 as const, 1 as const),
        fc.integer({ min: 10, max: 180 }),
        fc.integer({ min: 20, max: 95 }),
        fc.constantFrom<Lab>([0.3, 0, 0], [0.96, 0, 0], [0.55, 0.1, 0.06], [0.6, -0.08, 0.02]),
        (side, from, length, colour) => {
          const to = from + length
          // A thing's foot on the very line where the floor begins hides it on its side.
          fc.pre(Math.abs(to - FLOOR) > 8 && Math.abs(from - FLOOR) > 8)
          const ends = endsOf(covering(side, from, to, colour))
          const found = coveredLines(ends)
          expect(found).toHaveLength(1)
          expect(found[0]!.side).toBe(side)
          expect(found[0]!.from).toBeLessThanOrEqual(from)
          expect(found[0]!.to).toBeGreaterThanOrEqual(to)
          expect(found[0]!.to - found[0]!.from).toBeLessThan(length + 10)
          leadOver(ends, found[0]!)
          const bare = endsOf(wall)
          ends[side].forEach((value, i) => expect(Math.abs(value - bare[side][i]!)).toBeLessThan(0.004))
        },
      ),
      { numRuns: 60 },
    )
  })

  it('aren’t those where the floor begins, not even at another height on either side', () => {
    expect(coveredLines(endsOf(wall))).toEqual([])
    expect(coveredLines(endsOf((line, side) => wall(line, side, [190, 240])))).toEqual([])
  })

  it('aren’t more than a third of all: then the rest may be the thing, a mirror image in the floor say', () => {
    expect(coveredLines(endsOf(covering(1, 60, 200, [0.3, 0.1, 0])))).toEqual([])
    const middle = endsOf((line, side) =>
      side === 1 && line >= 70 && line < 240 ? [0.3, 0.1, 0] : wall(0, side),
    )
    expect(coveredLines(middle)).toEqual([])
  })

  it('aren’t those of bricks, which differ all along', () => {
    const bricks = endsOf((line, side) => [0.5 + 0.2 * Math.sin((line + 23 * side) / 9), 0.02 * side, 0.02])
    expect(coveredLines(bricks)).toEqual([])
  })

  it('aren’t those that a shadow reaches, whose border is soft', () => {
    const shadow = (line: number) => 1 - 0.25 * Math.exp(-(((line - 250) / 25) ** 2))
    const ends = endsOf((line, side) => {
      const bare = wall(line, side)
      return side === 0 ? bare : (bare.map((v) => shadow(line) * v) as unknown as Lab)
    })
    expect(coveredLines(ends)).toEqual([])
    // The same dimming with sharp borders is a grey thing.
    expect(coveredLines(endsOf(covering(1, 225, 275, DIM)))).toHaveLength(1)
  })
})
