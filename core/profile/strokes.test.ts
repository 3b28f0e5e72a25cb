import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyToProfile, type ProfileCommand } from '../piece/profile-commands'
import { profileMeasures } from '../measure/profile-measures'
import { EMPTY_PROFILE, type HalfProfile } from './profile'
import { profileSegments } from './profile-segments'
import { nearestEnds } from './strokes'
import { node } from './test-samples'

const run = (p: HalfProfile, ...commands: ProfileCommand[]) =>
  commands.reduce((q, c) => applyToProfile(q, c, undefined), p)
const volume = (p: HalfProfile) => profileMeasures(profileSegments(p.nodes)).volumeMm3
const places = (p: HalfProfile) => p.nodes.map((n) => [n.r, n.z])

/** A bottle: foot, wall, an arc for the shoulder, a curved neck, a flat top; its smooth joints settled by one edit. */
const bottle: HalfProfile = run(
  {
    side: 'right',
    nodes: [
      node(0, 0),
      node(30, 0),
      node(30, 60, 'smooth', { next: 'arc', bulge: 0.2 }),
      node(14, 80, 'smooth', { next: 'curve', handles: [-2, 6, 0, -6] }),
      node(12, 110),
      node(0, 110),
    ],
  },
  ...[2, 3].map((i): ProfileCommand => ({
    type: 'move-node',
    id: ['30,60', '14,80'][i - 2]!,
    r: [30, 14][i - 2]!,
    z: [61, 81][i - 2]!,
  })),
)
const id = (i: number) => bottle.nodes[i]!.id

describe('strokes', () => {
  it('are parted at a node and joined again to the same solid, whichever way they run (property)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 4 }), fc.boolean(), fc.boolean(), (at, turned, swapped) => {
        let p = run(bottle, { type: 'split-stroke', id: id(at), node: 'twin', stroke: 's' })
        expect(p.aside).toHaveLength(1)
        expect(p.nodes.length + p.aside![0]!.nodes.length).toBe(7)
        expect(p.nodes.length).toBeGreaterThanOrEqual(p.aside![0]!.nodes.length)
        if (turned) p = run(p, { type: 'reverse-stroke' })
        let other = 's'
        if (swapped) {
          p = run(p, { type: 'take-stroke', id: 's', as: 't' })
          other = 't'
        }
        expect(nearestEnds(p, other)!.gapMm).toBe(0)
        p = run(p, { type: 'join-stroke', id: other, mergeMm: 0.5 })
        expect(p.aside).toBeUndefined()
        const way = p.nodes[0]!.z === 0 ? places(p) : places(p).reverse()
        expect(way).toEqual(places(bottle))
        // Run downwards a profile encloses the negative of its volume.
        expect(Math.abs(volume(p))).toBeCloseTo(volume(bottle), 6)
      }),
    )
  })

  it('refuse to be parted at an end', () => {
    expect(() => run(bottle, { type: 'split-stroke', id: id(0), node: 'n', stroke: 's' })).toThrow(/between its ends/) // prettier-ignore
  })

  it('nearer than the tolerance meet in one node, others by a line; ends on the axis are left alone', () => {
    const two = (gap: number): HalfProfile => ({
      side: 'right',
      nodes: [node(0, 0), node(30, 0), node(30, 60)],
      aside: [{ id: 's', nodes: [node(0, 110), node(12, 110), node(12, 80), node(30 + gap, 60)] }],
    })
    const merged = run(two(0.3), { type: 'join-stroke', id: 's', mergeMm: 0.5 })
    expect(places(merged)).toEqual([[0, 0], [30, 0], [30.3, 60], [12, 80], [12, 110], [0, 110]]) // prettier-ignore
    const bridged = run(two(5), { type: 'join-stroke', id: 's', mergeMm: 0.5 })
    expect(places(bridged)).toEqual([[0, 0], [30, 0], [30, 60], [35, 60], [12, 80], [12, 110], [0, 110]]) // prettier-ignore
    expect(bridged.nodes[2]!.next).toBe('line')
  })

  it('lie aside while another is begun, mirror with the profile and are thrown away alone', () => {
    const begun = run(bottle, { type: 'lay-aside', stroke: 's' }, { type: 'add-node', node: node(5, 5), at: 'last' }) // prettier-ignore
    expect(places(begun)).toEqual([[5, 5]])
    expect(begun.aside![0]!.nodes).toEqual(bottle.nodes)
    const back = run(begun, { type: 'take-stroke', id: 's', as: 't' })
    expect(places(back)).toEqual(places(bottle))
    expect(run(back, { type: 'drop-stroke', id: 't' })).toEqual(bottle)
    expect(run(EMPTY_PROFILE, { type: 'lay-aside', stroke: 's' })).toEqual(EMPTY_PROFILE)
    expect(run(back, { type: 'clear-profile' }).aside).toBeUndefined()
  })
})
