import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { endDoubts } from './end-doubts'
import type { OutlineSide } from './refine'

/** Sides of a tube 100 px wide and 400 tall, leaning by an angle, whose foot and top lie so much deeper than their corners. */
function tube(foot: number, top: number, { sd = 0.1, lean = 0 } = {}) {
  const turned = ([u, v]: readonly number[]) => [
    300 + u! * Math.cos(lean) + v! * Math.sin(lean),
    600 + u! * Math.sin(lean) - v! * Math.cos(lean),
  ]
  const sideAt = (side: number): OutlineSide => {
    const corners = [[0, foot], [50 * side, 0], [50 * side, 400], [0, 400 - top]] // prettier-ignore
    return { points: Float64Array.from(corners.flatMap(turned)), sd: new Float64Array(4).fill(sd), blur: 1 }
  }
  return { left: sideAt(-1), right: sideAt(1) }
}

describe('what there is to doubt about an end', () => {
  it('is nothing where it bulges outwards, or hardly bends in (property)', () => {
    const out = fc.double({ min: -30, max: 1.5, noNaN: true })
    fc.assert(
      fc.property(out, out, fc.double({ min: -3, max: 3, noNaN: true }), (foot, top, lean) => {
        expect(endDoubts(tube(foot, top, { lean }))).toEqual([])
      }),
    )
  })

  it('is an inner edge where it bends into the piece, whichever way that lies in the picture', () => {
    for (const lean of [0, 0.1, Math.PI / 2]) {
      expect(endDoubts(tube(4, 0, { lean }))).toEqual([expect.stringMatching(/at its foot bends into it.*Mark places/)]) // prettier-ignore
      expect(endDoubts(tube(-3, 4, { lean }))).toEqual([expect.stringMatching(/at its top bends into it/)])
    }
  })

  it('is said once of an end that no edge closes', () => {
    expect(endDoubts(tube(4, 0, { sd: Infinity }))).toEqual([
      expect.stringMatching(/Hardly an edge closes the piece at its foot/),
      expect.stringMatching(/Hardly an edge closes the piece at its top/),
    ])
  })
})
