import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { edgeAcross, lineBeside, linesAbout, smoothBetween, type Line } from './edge-lines'
import { mendGaps } from './mend-gaps'
import type { OutlineSide } from './refine'
import { paint } from './test-pictures'

const sideOf = (places: readonly (readonly [number, number, boolean])[]): OutlineSide => ({
  points: Float64Array.from(places.flatMap(([x, y]) => [x, y])),
  sd: Float64Array.from(places, ([, , seen]) => (seen ? 0.05 : Infinity)),
  blur: 0.7,
})
const headingOf = ({ dx, dy }: Line) => Math.atan2(dy, dx)

describe('edges on either side of a gap', () => {
  it('are the lines that lead into it, from where they enter it (property)', () => {
    fc.assert(
      fc.property(fc.double({ min: -1.2, max: 1.2, noNaN: true }), fc.double({ min: -1.2, max: 1.2, noNaN: true }), (p, q) => {
        // Up to (100, 100) in one direction, unseen, and on from (130, 110) in another.
        const before = Array.from({ length: 12 }, (_, k) => [100 - 2 * (11 - k) * Math.cos(p), 100 - 2 * (11 - k) * Math.sin(p), true] as const)
        const after = Array.from({ length: 12 }, (_, k) => [130 + 2 * k * Math.cos(q), 110 + 2 * k * Math.sin(q), true] as const)
        const gap = [[110, 90, false], [120, 120, false]] as const
        const [a, b] = linesAbout(sideOf([...before, ...gap, ...after]), 12, 14)!
        expect(headingOf(a)).toBeCloseTo(p, 6)
        expect(headingOf(b)).toBeCloseTo(q, 6)
        expect(Math.hypot(a.x - 100, a.y - 100)).toBeLessThan(1e-6)
        expect(Math.hypot(b.x - 130, b.y - 110)).toBeLessThan(1e-6)
      }),
    ) // prettier-ignore
  })

  it('are none where too few points were seen beside it', () => {
    const few = Array.from({ length: 20 }, (_, k) => [k, 0, k < 3 || k > 14] as const)
    expect(linesAbout(sideOf(few), 3, 15)).toBeNull()
  })

  it('are one line where the points beside it lie on it, in the side’s order (property)', () => {
    fc.assert(
      fc.property(fc.double({ min: -1.2, max: 1.2, noNaN: true }), fc.integer({ min: 0, max: 2 }), (p, unseen) => {
        const places = Array.from({ length: 12 }, (_, k) => [50 + 2 * k * Math.cos(p), 50 + 2 * k * Math.sin(p), k < 1 || k > unseen] as const)
        const [after, before] = [lineBeside(sideOf(places), 0, 1, 12)!, lineBeside(sideOf(places), 11, -1, 12)!]
        for (const line of [after, before]) expect(headingOf(line)).toBeCloseTo(p, 6)
        expect(Math.hypot(after.x - 50, after.y - 50)).toBeLessThan(1e-6)
        expect(Math.hypot(before.x - places[11]![0], before.y - places[11]![1])).toBeLessThan(1e-6)
      }),
    ) // prettier-ignore
  })

  it('are no line where they bend, or too few were seen', () => {
    const bent = Array.from({ length: 12 }, (_, k) => [2 * k, 0.05 * k * k, true] as const)
    expect(lineBeside(sideOf(bent), 0, 1, 12)).toBeNull()
    expect(lineBeside(sideOf(bent.map(([x]) => [x, 0, true] as const)), 0, 1, 12)).not.toBeNull()
    expect(lineBeside(sideOf(bent.map(([x], k) => [x, 0, k < 8] as const)), 0, 1, 12)).toBeNull()
    expect(lineBeside(sideOf(bent.map(([x]) => [x, 0, true] as const)), 4, 1, 12)).toBeNull()
  })

  it('run over into each other with both their directions (property)', () => {
    const line = fc.tuple(fc.integer({ min: 0, max: 40 }), fc.double({ min: -0.7, max: 0.7, noNaN: true }))
    fc.assert(
      fc.property(line, line, ([y0, p], [y1, q]) => {
        const a = { x: 0, y: y0, dx: Math.cos(p), dy: Math.sin(p) }
        const b = { x: 100, y: y1, dx: Math.cos(q), dy: Math.sin(q) }
        const way = smoothBetween(a, b, 0.5)
        const chord = Math.atan2(y1 - y0, 100)
        // A cubic over the chord: its slopes against that are the lines' to first order.
        const slope = (from: { x: number; y: number }, to: { x: number; y: number }) => Math.atan2(to.y - from.y, to.x - from.x) // prettier-ignore
        const gentle = Math.max(Math.abs(p - chord), Math.abs(q - chord)) < 0.35
        fc.pre(gentle)
        expect(Math.abs(slope(a, way[0]!) - p)).toBeLessThan(0.06)
        expect(Math.abs(slope(way.at(-1)!, b) - q)).toBeLessThan(0.06)
      }),
    )
  })
})

describe('an edge across a place', () => {
  const wall = paint(120, 120, (x) => x - 60.3)

  it('is where the picture has it, to a tenth of a pixel', () => {
    const edge = edgeAcross(wall, { x: 60, y: 60, dx: 0, dy: 1 }, 1, 0.7)!
    expect(Math.abs(edge.x - 60.3)).toBeLessThan(0.1)
    expect(edge.sd).toBeLessThan(0.1)
  })

  it('is none farther than a pixel off', () => {
    expect(edgeAcross(wall, { x: 57.5, y: 60, dx: 0, dy: 1 }, 1, 0.7)).toBeNull()
    expect(edgeAcross(wall, { x: 30, y: 60, dx: 0, dy: 1 }, 1, 0.7)).toBeNull()
  })
})

describe('corners that smoothing cut', () => {
  /** A square piece with its corner at (80, 40); the way comes up its side, cuts the corner and goes along its top. */
  const square = paint(140, 140, (x, y) => Math.max(x - 80, 40 - y))
  const cut = (from: number) => {
    const up = Array.from({ length: 20 }, (_, k) => [80, 40 + from + 2 * (19 - k), true] as const)
    const over = Array.from({ length: 3 }, (_, k) => [80 - (from * (k + 1)) / 4, 40 + from - (from * (k + 1)) / 4, false] as const) // prettier-ignore
    const along = Array.from({ length: 20 }, (_, k) => [80 - from - 2 * k, 40, true] as const)
    return sideOf([...up, ...over, ...along])
  }
  const farOff = ({ points }: OutlineSide) => {
    let most = 0
    for (let i = 0; i < points.length; i += 2)
      most = Math.max(most, Math.abs(Math.max(points[i]! - 80, 40 - points[i + 1]!)))
    return most
  }

  it('are drawn on to where their edges meet, and found there', () => {
    const before = cut(9)
    expect(farOff(before)).toBeGreaterThan(3)
    const after = mendGaps(square, before, 1, 0.7, 2)
    expect(farOff(after)).toBeLessThan(0.2)
    expect(after.sd.filter(Number.isFinite).length).toBeGreaterThan(before.sd.filter(Number.isFinite).length)
    const nearest = Math.min(...Array.from({ length: after.sd.length }, (_, i) => Math.hypot(after.points[2 * i]! - 80, after.points[2 * i + 1]! - 40))) // prettier-ignore
    expect(nearest).toBeLessThan(0.3)
  })

  it('stay cut where the picture shows no edge there, or the corner lies too far off', () => {
    const blank = paint(140, 140, () => 50)
    const before = cut(9)
    expect(mendGaps(blank, before, 1, 0.7, 2).points).toEqual(before.points)
    const far = cut(30)
    expect(mendGaps(square, far, 1, 0.7, 2).points).toEqual(far.points)
  })
})
