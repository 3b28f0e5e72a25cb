import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { profileMeasures } from '../measure/profile-measures'
import { signedArea } from './check'
import { flatten } from './flatten'
import { roundedSegments } from './profile-segments'
import type { ProfileNode } from './profile'
import { endOf, pointOn, startOf, tangentAt, type ArcSegment } from './segments'
import { node } from './test-samples'

const area = (nodes: ProfileNode[]) =>
  signedArea(flatten(roundedSegments(nodes).segments, { toleranceMm: 1e-6 }).points)

/** A corner at (r, z) whose legs go down and inwards-up, with an interior angle. */
function corner(angle: number, edge: ProfileNode['edge']): ProfileNode[] {
  const leg = 60
  return [
    node(0, 0),
    node(100, 0),
    node(100, leg, 'corner', edge && { edge }),
    node(100 - leg * Math.sin(angle), leg - leg * Math.cos(angle)),
    node(0, leg - leg * Math.cos(angle)),
  ]
}

describe('fillets', () => {
  it('touch both lines where geometry says and take r² (cot(θ/2) - (π-θ)/2) off the section (property)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.7, max: 3, noNaN: true }),
        fc.double({ min: 0.5, max: 9, noNaN: true }),
        (angle, mm) => {
          const nodes = corner(angle, { kind: 'fillet', mm })
          const { segments, notes } = roundedSegments(nodes)
          expect(notes).toEqual([])
          const arc = segments.find((s) => s.edge) as ArcSegment
          expect(arc.kind).toBe('arc')
          expect(arc.arc.radius).toBeCloseTo(mm, 9)
          // The tangent length is r cot(θ/2).
          const reach = mm / Math.tan(angle / 2)
          expect(60 - startOf(arc)[1]).toBeCloseTo(reach, 8)
          expect(Math.hypot(endOf(arc)[0] - 100, endOf(arc)[1] - 60)).toBeCloseTo(reach, 8)
          const off = mm * mm * (1 / Math.tan(angle / 2) - (Math.PI - angle) / 2)
          expect(area(corner(angle, undefined)) - area(nodes)).toBeCloseTo(off, 3)
        },
      ),
      { numRuns: 60 },
    )
  })

  it('meet arcs and curves with one tangent, and bulge into a hollow corner', () => {
    const nodes = [
      node(0, 0),
      node(30, 0, 'corner', { edge: { kind: 'fillet', mm: 3 }, next: 'arc', bulge: 0.3 }),
      node(22, 40, 'corner', { edge: { kind: 'fillet', mm: 2 }, next: 'curve', handles: [10, 2, 2, -14] }),
      node(36, 70),
      node(0, 70),
    ]
    const { segments, notes } = roundedSegments(nodes)
    expect(notes).toEqual([])
    expect(segments.filter((s) => s.edge)).toHaveLength(2)
    for (let i = 0; i + 1 < segments.length - 1; i++) {
      const [a, b] = [tangentAt(segments[i]!, 1), tangentAt(segments[i + 1]!, 0)]
      const turn = Math.atan2(a[0] * b[1] - a[1] * b[0], a[0] * b[0] + a[1] * b[1])
      expect(Math.hypot(endOf(segments[i]!)[0] - startOf(segments[i + 1]!)[0], endOf(segments[i]!)[1] - startOf(segments[i + 1]!)[1])).toBeLessThan(1e-6) // prettier-ignore
      if (segments[i]!.edge || segments[i + 1]!.edge) expect(Math.abs(turn)).toBeLessThan(1e-5)
    }
    const hollow = segments.filter((s) => s.edge)[1] as ArcSegment
    expect(hollow.arc.sweep).toBeLessThan(0)
  })

  it('are made as large as fits, with a note of what was asked for', () => {
    const lid = (mm: number) => [
      node(0, 0),
      node(20, 0, 'corner', { edge: { kind: 'fillet', mm } }),
      node(20, 10, 'corner', { edge: { kind: 'fillet', mm } }),
      node(0, 10),
    ]
    expect(roundedSegments(lid(5)).notes).toEqual([])
    const { segments, notes } = roundedSegments(lid(8))
    expect(notes.map((n) => [n.askedMm, Number(n.madeMm.toFixed(3))])).toEqual([[8, 5], [8, 5]]) // prettier-ignore
    // A full round: half a torus of minor radius 5 about radius 15, and the disc inside it (Pappus).
    const { volumeMm3 } = profileMeasures(segments)
    const halfDisc = (Math.PI * 25) / 2
    const expected = Math.PI * 225 * 10 + 2 * Math.PI * (15 + (4 * 5) / (3 * Math.PI)) * halfDisc
    expect(volumeMm3 / expected).toBeCloseTo(1, 6)
  })
})

describe('chamfers', () => {
  it('cut both sides as far from the corner as their size, square corners by half its square', () => {
    const nodes = corner(Math.PI / 2, { kind: 'chamfer', mm: 4 })
    const cut = roundedSegments(nodes).segments.find((s) => s.edge)!
    expect(cut.kind).toBe('line')
    expect(startOf(cut)).toEqual([100, expect.closeTo(56, 9)])
    expect(endOf(cut)).toEqual([expect.closeTo(96, 9), expect.closeTo(60, 9)])
    expect(area(corner(Math.PI / 2, undefined)) - area(nodes)).toBeCloseTo(8, 6)
  })

  it('leave smooth joints and the axis alone', () => {
    const nodes = [
      node(0, 0, 'corner', { edge: { kind: 'chamfer', mm: 1 } }),
      node(20, 0),
      node(20, 30, 'smooth', { edge: { kind: 'chamfer', mm: 1 }, next: 'arc', bulge: Math.tan(Math.PI / 8) }), // prettier-ignore
      node(0, 50),
    ]
    const { segments } = roundedSegments(nodes)
    expect(segments.some((s) => s.edge)).toBe(false)
    expect(pointOn(segments[2]!, 0)).toEqual([20, 30])
  })
})
