import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { painted, scaledGuides, type OutlineGuides } from './guides'
import { openEnds, openEndWords } from './open-ends'
import type { OutlineSide } from './refine'
import { withStroke } from './strokes'

/** An upright side with a point each 2 px. */
const upright = (count: number, seen: (i: number) => boolean = () => true): OutlineSide => ({
  points: Float64Array.from({ length: 2 * count }, (_, i) => (i % 2 ? 500 - (i - 1) : 100)),
  sd: Float64Array.from({ length: count }, (_, i) => (seen(i) ? 0.05 : Infinity)),
  blur: 1,
})

describe('a stroke of the edge pen', () => {
  it('stands between the places nearest to its ends, whichever way it was drawn (property)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 90 }),
        fc.integer({ min: 3, max: 40 }),
        fc.integer({ min: 2, max: 30 }),
        (from, long, n) => {
          const side = upright(150)
          const [y0, y1] = [500 - 2 * from, 500 - 2 * (from + long)]
          const stroke = Array.from({ length: n }, (_, k) => [104, y0 + ((y1 - y0) * k) / (n - 1)]).flat()
          const turned = Array.from({ length: n }, (_, k) =>
            stroke.slice(2 * (n - 1 - k), 2 * (n - k)),
          ).flat()
          const out = withStroke(side, stroke)
          const other = withStroke(side, turned)
          expect(other.hand).toEqual(out.hand)
          other.points.forEach((v, i) => expect(v).toBeCloseTo(out.points[i]!, 9))
          // As many are replaced as lie between, and nothing else is touched.
          expect(out.sd.length).toBe(150 - (long + 1) + n)
          expect([...out.hand!].filter((h) => h === 1)).toHaveLength(n)
          expect(out.points.subarray(0, 2 * from)).toEqual(side.points.subarray(0, 2 * from))
          for (let i = 2; i < out.points.length; i += 2)
            expect(out.points[i + 1]!).toBeLessThan(out.points[i - 1]!)
        },
      ),
    )
  })

  it('lays a second one over the first, and leaves a side alone when it is none', () => {
    const once = withStroke(
      upright(50),
      [480, 475, 470, 465, 460].flatMap((y) => [103, y]),
    )
    const twice = withStroke(once, [106, 475, 106, 470])
    expect([...twice.points].filter((v, i) => i % 2 === 0 && v === 103)).toHaveLength(3)
    expect([...twice.points].filter((v, i) => i % 2 === 0 && v === 106)).toHaveLength(2)
    const side = upright(5)
    expect(withStroke(side, [1, 2])).toBe(side)
  })
})

describe('guides', () => {
  const guides: OutlineGuides = {
    piece: [{ points: [{ x: 30, y: 40 }, { x: 90, y: 40 }], radius: 12 }], // prettier-ignore
    backdrop: [{ points: [{ x: 30, y: 100 }], radius: 9 }],
    marks: [{ x: 5, y: 6 }],
  }

  it('decide what they paint, along the whole stroke, and nothing farther off', () => {
    const plane = { width: 40, height: 40, data: new Float32Array(1600).fill(0.1) }
    const { data } = painted(plane, guides, 3)
    const at = (x: number, y: number) => data[Math.floor(y / 3) * 40 + Math.floor(x / 3)]!
    for (let x = 30; x <= 90; x += 3) expect(at(x, 40)).toBeGreaterThan(1)
    expect(at(30, 100)).toBeLessThan(-1)
    expect(at(60, 70)).toBeCloseTo(0.1, 6)
    expect(at(112, 40)).toBeCloseTo(0.1, 6)
    // What was given stays as it was.
    expect(plane.data.every((v) => Math.abs(v - 0.1) < 1e-6)).toBe(true)
  })

  it('follow a copy of the picture at another size and back', () => {
    const half = scaledGuides(guides, 0.5)
    expect(half.piece[0]).toEqual({ points: [{ x: 15, y: 20 }, { x: 45, y: 20 }], radius: 6 }) // prettier-ignore
    expect(half.marks).toEqual([{ x: 2.5, y: 3 }])
    expect(scaledGuides(half, 2)).toEqual(guides)
  })
})

describe('open ends', () => {
  it('are those at which hardly a point shows an edge, on both sides together', () => {
    const closed = upright(100)
    expect(openEnds([closed, closed])).toEqual([])
    const noTop = upright(100, (i) => i < 92)
    expect(openEnds([noTop, noTop])).toEqual(['top'])
    // What one side shows the other needn't.
    expect(openEnds([noTop, closed])).toEqual([])
    expect(openEnds([noTop, closed], 0.6)).toEqual(['top'])
    const nothing = upright(100, (i) => i > 10 && i < 90)
    expect(openEnds([nothing, nothing])).toEqual(['foot', 'top'])
  })

  it('are said with what to do', () => {
    expect(openEndWords('foot')).toMatch(/at its foot: .* is a guess\. Mark places on the edge/)
  })
})
