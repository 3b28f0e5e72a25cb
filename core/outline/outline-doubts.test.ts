import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { outlineDoubts } from './outline-doubts'
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

describe('what there is to doubt about an outline', () => {
  it('is nothing where its ends bulge outwards, or hardly bends in (property)', () => {
    const out = fc.double({ min: -30, max: 1.5, noNaN: true })
    fc.assert(
      fc.property(out, out, fc.double({ min: -3, max: 3, noNaN: true }), (foot, top, lean) => {
        expect(outlineDoubts(tube(foot, top, { lean }))).toEqual([])
      }),
    )
  })

  it('is an inner edge where an end bends into the piece, whichever way that lies in the picture', () => {
    for (const lean of [0, 0.1, Math.PI / 2]) {
      expect(outlineDoubts(tube(4, 0, { lean }))).toEqual([expect.stringMatching(/at its foot bends into it.*Mark places/)]) // prettier-ignore
      expect(outlineDoubts(tube(-3, 4, { lean }))).toEqual([
        expect.stringMatching(/at its top bends into it/),
      ])
    }
  })

  it('is said once of an end that no edge closes', () => {
    expect(outlineDoubts(tube(4, 0, { sd: Infinity }))).toEqual([
      expect.stringMatching(/Hardly an edge closes the piece at its foot/),
      expect.stringMatching(/Hardly an edge closes the piece at its top/),
      expect.stringMatching(/only 0 % of the height/),
    ])
  })

  it('is that hardly anything of it is seen on both sides at once', () => {
    const { left, right } = tube(0, 0)
    const halfSeen = (side: OutlineSide, seen: (i: number) => boolean): OutlineSide => {
      const points = Float64Array.from({ length: 400 }, (_, i) => (i % 2 ? 600 - i : side.points[2]!))
      const sd = Float64Array.from({ length: 200 }, (_, i) => (seen(i) ? 0.1 : Infinity))
      return { ...side, points, sd }
    }
    const lower = halfSeen(left, (i) => i < 130)
    const upper = halfSeen(right, (i) => i > 70)
    expect(outlineDoubts({ left: lower, right: upper })).toEqual([
      expect.stringMatching(/both show an edge over only 3\d % of the height.*mark places/),
    ])
    expect(outlineDoubts({ left: lower, right: halfSeen(right, () => true) })).toEqual([
      expect.stringMatching(/only 65 %/),
    ])
    expect(outlineDoubts({ left: halfSeen(left, (i) => i < 150), right: halfSeen(right, () => true) })).toEqual([]) // prettier-ignore
  })

  it('is that over much of it neither side shows an edge', () => {
    const { left, right } = tube(0, 0)
    const seenBut = (side: OutlineSide, hidden: number): OutlineSide => {
      const points = Float64Array.from({ length: 400 }, (_, i) => (i % 2 ? 600 - i : side.points[2]!))
      const sd = Float64Array.from({ length: 200 }, (_, i) => (i >= 50 && i < 50 + hidden ? Infinity : 0.1))
      return { ...side, points, sd }
    }
    const saidOf = (hidden: number) =>
      outlineDoubts({ left: seenBut(left, hidden), right: seenBut(right, hidden) })
    expect(saidOf(50)).toEqual([
      expect.stringMatching(/^Only 75 % of the outline shows an edge.*mark places/),
    ])
    expect(saidOf(30)).toEqual([])
  })

  it('is a blur that is much of the height, and how much of it that may cost', () => {
    const blurred = (blur: number, lean = 0) => {
      const { left, right } = tube(0, 0, { lean })
      return outlineDoubts({ left: { ...left, blur }, right: { ...right, blur } })
    }
    expect(blurred(1.9)).toEqual([])
    // Half of 4 px in 400.
    expect(blurred(4)).toEqual([
      expect.stringMatching(/blurred: its edges spread over 4\.0 px.* 0\.5 % of the height/),
    ])
    // In a large photo it costs little.
    const { left, right } = tube(0, 0)
    const large = (side: OutlineSide) => ({ ...side, points: side.points.map((v) => 10 * v), blur: 4 })
    expect(outlineDoubts({ left: large(left), right: large(right) })).toEqual([])
  })
})
