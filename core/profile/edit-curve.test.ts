import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { signedArea } from './check'
import { cutAt, replaceBetween } from './between-levels'
import { copyStretch } from './copy-stretch'
import { flatten } from './flatten'
import { LINE } from './node-segment'
import type { HalfProfile, ProfileNode } from './profile'
import { setHandles, setNodeKind } from './segment-kind'
import { sharpSegments, tangentAt, turnBetween } from './segments'
import { settleTangents } from './tangents'

const node = (id: string, r: number, z: number, more: Partial<ProfileNode> = {}): ProfileNode => ({
  id,
  r,
  z,
  joint: 'corner',
  next: 'line',
  ...more,
})
const profile = (...nodes: ProfileNode[]): HalfProfile => ({ side: 'right', nodes })
const ids = () => {
  let n = 0
  return () => `new${n++}`
}
/** A vase of all three kinds of segment. */
const vase = profile(
  node('a', 0, 0),
  node('b', 30, 0, { next: 'arc', bulge: 0.3 }),
  node('c', 40, 40, { next: 'curve', handles: [0, 15, 8, -15], joint: 'smooth' }),
  node('d', 15, 80),
  node('e', 15, 110),
  node('f', 0, 110),
)
const areaOf = (p: HalfProfile) => signedArea(flatten(sharpSegments(p.nodes), { toleranceMm: 1e-4 }).points)
const turnAt = (nodes: readonly ProfileNode[], i: number) => {
  const list = sharpSegments(nodes)
  const [a, b] = [list.find((s) => s.index === i - 1)!, list.find((s) => s.index === i)!]
  return turnBetween(a, b)
}

describe('a curve that is cut at a height', () => {
  it('keeps its shape, and has a node exactly there (property)', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.5, max: 109.5, noNaN: true }), (z) => {
        const { profile: cut, index } = cutAt(vase, z, 'cut')
        expect(cut.nodes[index]!.z === z || vase.nodes.some((n) => Math.abs(n.z - z) < 1e-6)).toBe(true)
        expect(areaOf(cut) / areaOf(vase)).toBeCloseTo(1, 5)
      }),
    )
  })

  it('uses a node that is there already, and says where the curve goes when it doesn’t pass', () => {
    const { profile: same, index } = cutAt(vase, 80, 'cut')
    expect(same).toBe(vase)
    expect(vase.nodes[index]!.id).toBe('d')
    expect(() => cutAt(vase, 200, 'cut')).toThrow(/doesn’t pass the height 200 mm; it goes from 0 to 110 mm/)
  })

  it('takes another part between two heights, whichever way it runs', () => {
    const groove = (rLow: number, rHigh: number) => [
      { r: rLow, z: 88, joint: 'corner' as const, segment: LINE },
      { r: rLow - 3, z: 92, joint: 'corner' as const, segment: LINE },
      { r: rHigh, z: 96, joint: 'corner' as const, segment: LINE },
    ]
    const grooved = replaceBetween(vase, [88, 96], groove, ids())
    // A triangle of 8 by 3 mm is gone.
    expect(areaOf(vase) - areaOf(grooved)).toBeCloseTo(12, 3)
    const down = profile(...[...vase.nodes].reverse().map((n, i, all) => ({ ...n, next: 'line' as const, bulge: undefined, handles: undefined, id: all[i]!.id }))) // prettier-ignore
    const same = replaceBetween(down, [88, 96], groove, ids())
    expect(Math.abs(areaOf(down)) - Math.abs(areaOf(same))).toBeCloseTo(12, 3)
    expect(() => replaceBetween(vase, [90, 90], groove, ids())).toThrow(/nothing to replace/)
  })
})

describe('a stretch that is put elsewhere', () => {
  const ring = profile(
    node('a', 20, 0),
    node('b', 20, 10),
    node('c', 24, 12),
    node('d', 20, 14),
    node('e', 20, 100),
    node('f', 0, 100),
  )

  it('stands out there as it does here, on the straight way between its ends', () => {
    const twice = copyStretch(ring, { ids: ['b', 'c', 'd'], low: 50, mirrored: false }, ids())
    // Another triangle of 4 by 4 mm.
    expect(areaOf(twice) - areaOf(ring)).toBeCloseTo(8, 6)
    expect(twice.nodes.some(({ r, z }) => Math.abs(r - 24) < 1e-9 && Math.abs(z - 52) < 1e-9)).toBe(true)
  })

  it('upside down it leans the other way', () => {
    const hook = profile(...ring.nodes.map((n) => (n.id === 'c' ? { ...n, z: 11 } : n)))
    const twice = copyStretch(hook, { ids: ['b', 'c', 'd'], low: 50, mirrored: true }, ids())
    expect(twice.nodes.some(({ r, z }) => Math.abs(r - 24) < 1e-9 && Math.abs(z - 53) < 1e-9)).toBe(true)
  })

  it('must be whole, and rise', () => {
    expect(() => copyStretch(ring, { ids: ['b', 'd'], low: 50, mirrored: false }, ids())).toThrow(/without gaps/) // prettier-ignore
    expect(() => copyStretch(ring, { ids: ['e', 'f'], low: 50, mirrored: false }, ids())).toThrow(/without gaps/) // prettier-ignore
  })
})

describe('kinds of segments', () => {
  it('an arc made of a curve goes through its middle; made of a line it is a flat one', () => {
    const arc = setNodeKind(vase, 'c', { next: 'arc' })
    const [before, after] = [vase, arc].map((p) => sharpSegments(p.nodes).find((s) => s.index === 2)!)
    const middle = flatten([before!], { toleranceMm: 1e-4 }).points
    if (after!.kind !== 'arc') throw new Error('no arc')
    const { centre, radius } = after!.arc
    const least = Math.min(...Array.from({ length: middle.length / 2 }, (_, k) => Math.abs(Math.hypot(middle[2 * k]! - centre[0], middle[2 * k + 1]! - centre[1]) - radius))) // prettier-ignore
    expect(least).toBeLessThan(0.05)
    expect(setNodeKind(vase, 'd', { next: 'arc' }).nodes[3]!.bulge).toBeCloseTo(Math.tan(Math.PI / 16), 12)
  })

  it('a line has neither bulge nor handles left, and an unknown node changes nothing', () => {
    const line = setNodeKind(vase, 'c', { next: 'line' }).nodes[2]!
    expect(line).not.toHaveProperty('handles')
    expect(setNodeKind(vase, 'nobody', { next: 'line' })).toBe(vase)
  })

  it('a handle turns its neighbour across a smooth joint, and leaves its length', () => {
    const two = profile(
      node('a', 10, 0, { next: 'curve', handles: [0, 10, 0, -10] }),
      node('b', 20, 40, { joint: 'smooth', next: 'curve', handles: [0, 10, 0, -10] }),
      node('c', 10, 80),
    )
    const turned = setHandles(two, 'b', [6, 8, 0, -10])
    const [, , r, z] = turned.nodes[0]!.handles!
    expect([r, z].map((v) => Math.round(1e9 * v) / 1e9)).toEqual([-6, -8])
    expect(turnAt(turned.nodes, 1)).toBeCloseTo(0, 9)
  })
})

describe('smooth joints after an edit', () => {
  it('have one tangent again: the line leads the arc, the arc the curve', () => {
    const before = [node('a', 20, 0), node('b', 20, 30, { joint: 'smooth', next: 'arc', bulge: 0.4 }), node('c', 10, 60)] // prettier-ignore
    const after = settleTangents(before, [{ ...before[0]!, r: 26 }, before[1]!, before[2]!])
    expect(turnAt(after, 1)).toBeCloseTo(0, 9)
    // The line's direction is what it was moved to.
    const [line] = sharpSegments(after)
    expect(tangentAt(line!, 1)[0] / tangentAt(line!, 1)[1]).toBeCloseTo(-6 / 30, 9)
  })

  it('between two curves both turn to their mean', () => {
    const curves = [
      node('a', 20, 0, { next: 'curve', handles: [0, 10, 0, -10] }),
      node('b', 20, 40, { joint: 'smooth', next: 'curve', handles: [0, 10, 0, -10] }),
      node('c', 20, 80),
    ]
    const bent = [curves[0]!, { ...curves[1]!, handles: [10, 10, 0, -10] as const }, curves[2]!] as ProfileNode[] // prettier-ignore
    const after = settleTangents(curves, bent)
    expect(turnAt(after, 1)).toBeCloseTo(0, 9)
    const [dr, dz] = tangentAt(sharpSegments(after)[1]!, 0)
    expect((Math.atan2(dr, dz) * 180) / Math.PI).toBeCloseTo(22.5, 6)
  })

  it('corners, and joints that nothing changed about, stay as they are', () => {
    const corner = [node('a', 20, 0), node('b', 20, 30, { next: 'arc', bulge: 0.4 }), node('c', 10, 60)]
    const moved = [{ ...corner[0]!, r: 26 }, corner[1]!, corner[2]!]
    expect(settleTangents(corner, moved)).toEqual(moved)
    const far = [
      ...corner.map((n) => ({ ...n, joint: 'smooth' as const })),
      node('d', 5, 80),
      node('e', 5, 99),
    ]
    const edited = [...far.slice(0, 4), { ...far[4]!, r: 7 }]
    expect(settleTangents(far, edited)[1]).toEqual(far[1])
  })
})
