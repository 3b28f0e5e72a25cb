import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyToProfile, type ProfileCommand } from './profile-commands'
import { groupOf, lockProblem, moveWithLocks } from '../profile/locks'
import { nearEqualDiameters } from '../profile/near-equal'
import type { HalfProfile, ProfileNode } from '../profile/profile'
import { segmentFigures } from '../profile/segment-measures'
import { node } from '../profile/test-samples'

const upright = { way: 'upright' } as const
const level = { way: 'level' } as const
/** A stepped piece: foot level, body upright, a slope, a neck upright, a level top, and an arc of a kept radius. */
const stepped: HalfProfile = {
  side: 'right',
  nodes: [
    node(0, 0, 'corner', level),
    node(30, 0, 'corner', upright),
    node(30, 50),
    node(14, 70, 'corner', upright),
    node(14, 90, 'corner', { next: 'arc', bulge: 0.3, radius: 20 }),
    node(10, 100, 'corner', level),
    node(0, 100),
  ],
  ties: [],
}
const id = (i: number) => stepped.nodes[i]!.id
const run = (p: HalfProfile, command: ProfileCommand) => applyToProfile(p, command, undefined)

describe('locks', () => {
  it('move whole groups: a cylinder keeps its sides parallel when its ⌀ is typed', () => {
    const typed = run(stepped, { type: 'type-coordinate', id: id(3), coordinate: 'r', mm: 14 / 2 + 7.0 })
    const thinner = run(typed, { type: 'type-coordinate', id: id(4), coordinate: 'r', mm: 12 })
    expect(thinner.nodes.map((n) => n.r)).toEqual([0, 30, 30, 12, 12, 10, 0])
    expect(groupOf(stepped, id(3), 'r')).toEqual([id(3), id(4)])
  })

  it('keep what is held, and name it when something typed can’t be', () => {
    const held = run(stepped, { type: 'hold-node', id: id(3), coordinate: 'r', on: true })
    const dragged = run(held, { type: 'move-node', id: id(4), r: 25, z: 88 })
    expect(dragged.nodes[4]).toMatchObject({ r: 14, z: 88 })
    expect(() => run(held, { type: 'type-coordinate', id: id(4), coordinate: 'r', mm: 12 })).toThrow(/Node 5 shares its ⌀/) // prettier-ignore
    // The held one itself may be typed.
    expect(run(held, { type: 'type-coordinate', id: id(3), coordinate: 'r', mm: 12 }).nodes[4]!.r).toBe(12)
  })

  it('name a contradiction: two held diameters that are to be equal', () => {
    const held = [1, 3].reduce((p, i) => run(p, { type: 'hold-node', id: id(i), coordinate: 'r', on: true }), stepped) // prettier-ignore
    const tie = { id: 't', coordinate: 'r' as const, nodes: [id(2), id(4)] }
    expect(() => run(held, { type: 'tie-nodes', tie })).toThrow(
      /node 2 keeps ⌀ 60 mm and node 4 keeps ⌀ 28 mm/,
    )
    const tied = run(stepped, { type: 'tie-nodes', tie })
    expect(tied.nodes.map((n) => n.r)).toEqual([0, 30, 30, 30, 30, 10, 0])
    expect(lockProblem(tied)).toBeNull()
  })

  it('an upright line to the axis is a contradiction in words', () => {
    const nodes = stepped.nodes.map((n, i) => (i === 5 ? { ...n, way: 'upright' as const, held: ['r' as const] } : n)) // prettier-ignore
    expect(lockProblem({ side: 'right', nodes })!.message).toMatch(/node 6 keeps ⌀ 20 mm and node 7 lies on the axis/) // prettier-ignore
  })

  it('arcs keep their radius, and say when they can’t', () => {
    const moved = run(stepped, { type: 'move-node', id: id(5), r: 8, z: 105 })
    expect(segmentFigures(moved, 4)!.radiusMm).toBeCloseTo(20, 9)
    expect(() => run(stepped, { type: 'move-nodes', ids: [id(5), id(6)], dz: 60 })).toThrow(/radius of 20 mm/)
  })

  it('cylinders of nearly one ⌀ are offered to be made equal, equal and different ones are not', () => {
    const neck = (r: number) => ({ ...stepped, nodes: stepped.nodes.map((n, i) => (i === 3 || i === 4 ? { ...n, r } : n)) }) // prettier-ignore
    expect(nearEqualDiameters(stepped, 0.1)).toEqual([])
    expect(nearEqualDiameters(neck(30), 0.1)).toEqual([])
    const [offer, ...more] = nearEqualDiameters(neck(30.04), 0.1)
    expect(more).toEqual([])
    expect(offer!.diametersMm).toEqual([60, 60.08])
    const tied = run(neck(30.04), { type: 'tie-nodes', tie: { id: 't', coordinate: 'r', nodes: offer!.ids } })
    expect(new Set(tied.nodes.slice(1, 5).map((n) => n.r)).size).toBe(1)
  })

  it('typed lengths, angles and radii are exact', () => {
    const longer = run(stepped, { type: 'type-segment', id: id(3), measure: 'length', value: 25 })
    expect(longer.nodes[4]).toMatchObject({ r: 14, z: 95 })
    const angle = (170 * Math.PI) / 180
    const sloped = run(stepped, { type: 'type-segment', id: id(2), measure: 'angle', value: angle })
    expect(segmentFigures(sloped, 2)!.angle).toBeCloseTo(angle, 12)
    expect(segmentFigures(sloped, 2)!.lengthMm).toBeCloseTo(Math.hypot(16, 20), 12)
    expect(() => run(stepped, { type: 'type-segment', id: id(3), measure: 'angle', value: 1 })).toThrow(/Node 5 can’t go there/) // prettier-ignore
    const free = run(stepped, { type: 'lock-radius', id: id(4), mm: null })
    expect(() => run(free, { type: 'type-segment', id: id(4), measure: 'radius', value: 2 })).toThrow(/at least 5.385 mm/) // prettier-ignore
  })

  const held = run(stepped, { type: 'hold-node', id: id(1), coordinate: 'r', on: true })
  const locked: HalfProfile = { ...held, ties: [{ id: 't', coordinate: 'z', nodes: [id(2), id(2)] }] }
  const holds = (p: HalfProfile) => {
    expect(lockProblem(p)).toBeNull()
    p.nodes.forEach((n: ProfileNode, i) => {
      const to = p.nodes[i + 1]
      expect(Number.isFinite(n.r) && Number.isFinite(n.z) && n.r >= 0).toBe(true)
      if (n.way === 'level') expect(to!.z).toBe(n.z)
      if (n.way === 'upright') expect(to!.r).toBe(n.r)
      // An arc whose ends fall together has no radius to show.
      const chord = to ? Math.hypot(to.r - n.r, to.z - n.z) : 0
      if (n.radius && chord > 1e-3) expect(segmentFigures(p, i)!.radiusMm).toBeCloseTo(n.radius, 6)
      if (n.held?.includes('r')) expect(n.r).toBe(30)
    })
    expect([p.nodes[0]!.r, p.nodes.at(-1)!.r]).toEqual([0, 0])
  }
  it('no run of edits breaks one (property)', () => {
    const which = fc.integer({ min: 0, max: 6 }).map(id)
    const amount = fc.double({ min: -15, max: 15, noNaN: true })
    const command: fc.Arbitrary<ProfileCommand> = fc.oneof(
      fc.record({ type: fc.constant('move-nodes' as const), ids: fc.array(which, { minLength: 1, maxLength: 4 }), dr: amount, dz: amount, reachMm: fc.integer({ min: 0, max: 40 }) }), // prettier-ignore
      fc.record({ type: fc.constant('move-node' as const), id: fc.integer({ min: 1, max: 5 }).map(id), r: fc.double({ min: 1, max: 50, noNaN: true }), z: amount }), // prettier-ignore
      fc.record({ type: fc.constant('type-segment' as const), id: which, measure: fc.constantFrom('length' as const, 'angle' as const), value: fc.double({ min: 0.1, max: 30, noNaN: true }) }), // prettier-ignore
      fc.record({ type: fc.constant('align-nodes' as const), ids: fc.array(which, { minLength: 1, maxLength: 3 }), coordinate: fc.constant('z' as const), mm: amount }), // prettier-ignore
    )
    fc.assert(
      fc.property(fc.array(command, { minLength: 1, maxLength: 12 }), (commands) => {
        let profile = locked
        for (const c of commands) {
          try {
            profile = run(profile, c)
          } catch (error) {
            // Refused in words; nothing has changed.
            expect((error as Error).message).toMatch(/\.$/)
          }
          holds(profile)
        }
      }),
      { numRuns: 200 },
    )
  })

  it('a group that came apart by a new scale is one value again', () => {
    const apart = { ...stepped, nodes: stepped.nodes.map((n, i) => (i === 4 ? { ...n, r: 14.001 } : n)) }
    expect(moveWithLocks(apart, new Map()).nodes[4]!.r).toBe(14)
  })
})
