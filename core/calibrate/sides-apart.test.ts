import { describe, expect, it } from 'vitest'
import type { HalfOutline } from '../camera/half-outline'
import { sidesApartDoubts } from './sides-apart'

/** A half-outline of 200 points, of which so many, from one on, lie a few px off the other side's. */
function half(from: number, count: number, px = 4): { half: HalfOutline } {
  const differs = (i: number) => i >= from && i < from + count
  return {
    half: {
      points: new Float64Array(400),
      sd: new Float64Array(200).fill(0.1),
      states: Array.from({ length: 200 }, (_, i) => (differs(i) ? 'left' : 'both')),
      reasons: Array.from({ length: 200 }, (_, i) => (differs(i) ? 'differs' : null)),
      difference: Float64Array.from({ length: 200 }, (_, i) => (differs(i) ? -px - (i % 2) : 0.1)),
      pxPerUnit: 1,
    },
  }
}

describe('sides that lie apart', () => {
  it('over much of an outline are doubted, with how far and what to do', () => {
    expect(sidesApartDoubts(half(20, 60))).toEqual([
      expect.stringMatching(/apart over 30 % of the outline, by up to 5 px.*choose the true side/),
    ])
  })

  it('over a handle’s length aren’t', () => {
    expect(sidesApartDoubts(half(80, 30, 30))).toEqual([])
    expect(sidesApartDoubts(half(0, 0))).toEqual([])
  })
})
