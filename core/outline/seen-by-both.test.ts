import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { OutlineSide } from './refine'
import { seenByBoth } from './seen-by-both'

const axis = { at: { x: 200, y: 500 }, up: { x: 0, y: -1 } }

/** An upright side of 400 points from 500 px down to 100, of which those are seen that are asked for by their share of the height. */
function side(seen: (share: number) => boolean): OutlineSide {
  const shares = Array.from({ length: 400 }, (_, i) => (i + 0.5) / 400)
  return {
    points: Float64Array.from(shares.flatMap((s) => [260, 500 - 400 * s])),
    sd: Float64Array.from(shares, (s) => (seen(s) ? 0.1 : Infinity)),
    blur: 1,
  }
}

describe('the height over which both sides show an edge', () => {
  it('is where their stretches meet (property)', () => {
    const share = fc.double({ min: 0, max: 1, noNaN: true })
    fc.assert(
      fc.property(share, share, (a, b) => {
        const both = seenByBoth([side((s) => s < a), side((s) => s > b)], axis)
        expect(both).toBeCloseTo(Math.max(0, a - b), 1)
      }),
    )
  })

  it('is all of it where no more than every other point is missing', () => {
    let i = 0
    expect(seenByBoth([side(() => i++ % 2 === 0), side(() => true)], axis)).toBe(1)
  })
})
