import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { profileMeasures, radiusAt } from '../measure/profile-measures'
import { profileFaults } from '../profile/check'
import { flatten } from '../profile/flatten'
import { profileSegments } from '../profile/profile-segments'
import type { HalfProfile } from '../profile/profile'
import { STRETCHES, type ReadyStretch } from '../profile/ready-stretches'
import { pointOn, tangentAt, type Segment } from '../profile/segments'
import { node } from '../profile/test-samples'
import { derive } from './derive'
import { applyToProfile, type ProfileCommand } from './profile-commands'
import { newPiece } from './schema'
import { readStations } from './stations'

const run = (p: HalfProfile, command: ProfileCommand) => applyToProfile(p, command, undefined)
const volume = (p: HalfProfile) => profileMeasures(profileSegments(p.nodes)).volumeMm3
/** A cylinder of ⌀ 60, 100 mm tall. */
const cylinder: HalfProfile = {
  side: 'right',
  nodes: [node(0, 0), node(30, 0), node(30, 100), node(0, 100)],
}
/** Foot and belly of a vase, smooth at its widest. */
const belly = [
  node(0, 0),
  node(20, 0, 'corner', { next: 'curve', handles: [8, 8, 0, -12] }),
  node(32, 40, 'smooth', { next: 'curve', handles: [0, 10, 3, -8] }),
]
const turn = (a: Segment, b: Segment) => {
  const [u, v] = [tangentAt(a, 1), tangentAt(b, 0)]
  return Math.atan2(u[0] * v[1] - u[1] * v[0], u[0] * v[0] + u[1] * v[1])
}

describe('ready stretches', () => {
  const insert = (stretch: Partial<ReadyStretch> & Pick<ReadyStretch, 'kind' | 'size'>, p = cylinder) =>
    run(p, { type: 'insert-stretch', stretch: { low: 40, high: 50, ...stretch }, idPrefix: 's' })

  it('add or take what Pappus says', () => {
    const full = Math.PI * 900 * 100
    const turned = (area: number, r: number) => 2 * Math.PI * area * r
    // A torus' half disc has its centre of area 4R/3π out; a V-groove's triangle a third of its depth in.
    const half = (Math.PI * 25) / 2
    expect(volume(insert({ kind: 'torus', size: 0 })) - full).toBeCloseTo(turned(half, 30 + 20 / (3 * Math.PI)), 6) // prettier-ignore
    expect(volume(insert({ kind: 'bead', size: 5 })) - full).toBeCloseTo(turned(half, 30 + 20 / (3 * Math.PI)), 6) // prettier-ignore
    expect(volume(insert({ kind: 'cove', size: 5 })) - full).toBeCloseTo(-turned(half, 30 - 20 / (3 * Math.PI)), 6) // prettier-ignore
    expect(volume(insert({ kind: 'V-groove', size: 3 })) - full).toBeCloseTo(-turned(15, 29), 6)
    expect(volume(insert({ kind: 'listel', size: 2 })) - full).toBeCloseTo(Math.PI * (32 ** 2 - 900) * 10, 6)
    const cone = (Math.PI * 10 * (20 ** 2 + 20 * 14 + 14 ** 2)) / 3
    expect(volume(insert({ kind: 'taper', size: 40, upper: 28 })) - full).toBeCloseTo(cone - Math.PI * 9000, 6) // prettier-ignore
    // A ball's zone of height h about its middle: π h (R² - h²/12).
    expect(volume(insert({ kind: 'ball', size: 50 })) - full).toBeCloseTo(Math.PI * 10 * (625 - 100 / 12) - Math.PI * 9000, 6) // prettier-ignore
  })

  it('every one leaves a sound profile, drawn upwards or downwards', () => {
    const down: HalfProfile = { side: 'left', nodes: [...cylinder.nodes].reverse() }
    for (const kind of STRETCHES)
      for (const p of [cylinder, down]) {
        const made = insert({ kind, size: kind === 'ball' ? 50 : 4, upper: 30 }, p)
        expect(profileFaults(made.nodes, flatten(profileSegments(made.nodes)))).toEqual([])
        expect(new Set(made.nodes.map((n) => n.id)).size).toBe(made.nodes.length)
        expect(Math.abs(volume(made))).toBeCloseTo(volume(insert({ kind, size: kind === 'ball' ? 50 : 4, upper: 30 })), 4) // prettier-ignore
      }
  })

  it('say what is impossible, and change nothing', () => {
    expect(() => insert({ kind: 'cove', size: 31 })).toThrow(/make it shallower/)
    expect(() => insert({ kind: 'ball', size: 8 })).toThrow(/isn’t 10 mm tall/)
    expect(() => insert({ kind: 'bead', size: 2, low: 90, high: 120 })).toThrow(/goes from 0 to 100 mm/)
    expect(() => insert({ kind: 'bead', size: 2, low: 50, high: 40 })).toThrow(/above its lower/)
  })
})

describe('copying a stretch', () => {
  it('puts the same groove at another height, also upside down and on a cone', () => {
    const groove = run(cylinder, { type: 'insert-stretch', stretch: { kind: 'V-groove', low: 20, high: 26, size: 3 }, idPrefix: 'g' }) // prettier-ignore
    const ids = groove.nodes.slice(2, 5).map((n) => n.id)
    const twice = run(groove, {
      type: 'copy-stretch',
      copy: { ids, low: 70, mirrored: false },
      idPrefix: 'c',
    })
    const taken = volume(cylinder) - volume(groove)
    expect(volume(cylinder) - volume(twice)).toBeCloseTo(2 * taken, 6)
    expect(twice.nodes.map((n) => n.z).filter((z) => z > 60 && z < 99)).toEqual([70, 73, 76])

    const lopsided: HalfProfile = { side: 'right', nodes: [node(0, 0), node(30, 0), node(30, 20), node(26, 22), node(30, 30), node(24, 100), node(0, 100)] } // prettier-ignore
    const chosen = lopsided.nodes.slice(2, 5).map((n) => n.id)
    const over = run(lopsided, {
      type: 'copy-stretch',
      copy: { ids: chosen, low: 60, mirrored: true },
      idPrefix: 'c',
    })
    const deepest = over.nodes.find((n) => n.z > 60 && n.z < 70)!
    // 2 mm from the lower end becomes 2 mm from the upper one; 4 mm deep below the cone's side there.
    expect(deepest.z).toBeCloseTo(68, 9)
    expect(deepest.r).toBeCloseTo(30 - (6 * 38) / 70 - 4, 6)
    const gap = [chosen[0]!, chosen[2]!]
    expect(() => run(lopsided, { type: 'copy-stretch', copy: { ids: gap, low: 60, mirrored: false }, idPrefix: 'c' })).toThrow(/without gaps/) // prettier-ignore
  })
})

describe('mirroring end to end', () => {
  it('makes the other end the same, whichever is kept', () => {
    const hub: HalfProfile = {
      side: 'right',
      nodes: [
        node(0, 0),
        node(12, 0, 'corner', { edge: { kind: 'fillet', mm: 1 } }),
        node(12, 20, 'corner', { next: 'arc', bulge: 0.4 }),
        node(30, 35, 'corner', { next: 'curve', handles: [3, 5, -4, -6] }),
        node(26, 80),
        node(0, 80),
      ],
    }
    for (const keep of ['below', 'above'] as const) {
      const both = run(hub, { type: 'mirror-ends', z: 50, keep, idPrefix: 'm' })
      const segments = profileSegments(both.nodes)
      const flat = flatten(segments).points
      for (let i = 0; i < flat.length; i += 2) {
        const j = flat.length - 2 - i
        expect(flat[j]!).toBeCloseTo(flat[i]!, 6)
        expect(flat[j + 1]! - 50).toBeCloseTo(50 - flat[i + 1]!, 6)
      }
      expect(both.nodes.filter((n) => n.edge).length).toBe(keep === 'below' ? 2 : 0)
      expect(new Set(both.nodes.map((n) => n.id)).size).toBe(both.nodes.length)
    }
    expect(() => run(hub, { type: 'mirror-ends', z: 95, keep: 'below', idPrefix: 'm' })).toThrow(/doesn’t pass/) // prettier-ignore
  })
})

describe('moving several nodes', () => {
  it('scales ⌀, shifts the upper part, and lets others follow within reach', () => {
    const ids = [cylinder.nodes[1]!.id, cylinder.nodes[2]!.id]
    expect(run(cylinder, { type: 'move-nodes', ids, factor: 0.5 }).nodes.map((n) => n.r)).toEqual([0, 15, 15, 0]) // prettier-ignore
    const upper = cylinder.nodes.slice(2).map((n) => n.id)
    expect(run(cylinder, { type: 'move-nodes', ids: upper, dz: 25 }).nodes.map((n) => n.z)).toEqual([0, 0, 125, 125]) // prettier-ignore
    const tall: HalfProfile = { side: 'right', nodes: [0, 10, 20, 30, 40].map((z) => node(20, z)) }
    const pulled = run(tall, { type: 'move-nodes', ids: [tall.nodes[2]!.id], dr: 4, reachMm: 20 })
    // (1 - (10/20)²)² of 4 mm beside it, nothing at the reach's end.
    expect(pulled.nodes.map((n) => n.r)).toEqual([20, 22.25, 24, 22.25, 20])
  })
})

describe('smooth joints', () => {
  it('keep one tangent under edits, and what is far away keeps its place (property)', () => {
    const vase: HalfProfile = {
      side: 'right',
      nodes: [
        ...belly,
        node(15, 70, 'smooth', { next: 'line' }),
        node(14.7, 70.8, 'smooth', { next: 'curve', handles: [-1, 2.6667, 0, -5] }),
        node(13, 90, 'corner'),
        node(0, 90),
      ],
    }
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 5 }),
        fc.double({ min: -4, max: 4, noNaN: true }),
        fc.double({ min: -4, max: 4, noNaN: true }),
        (i, dr, dz) => {
          const n = vase.nodes[i]!
          const moved = run(vase, { type: 'move-node', id: n.id, r: n.r + dr, z: n.z + dz })
          const segments = profileSegments(moved.nodes)
          for (const k of [2, 3, 4])
            if (Math.abs(k - i) < 2) expect(Math.abs(turn(segments[k - 1]!, segments[k]!))).toBeLessThan(1e-6)
          moved.nodes.forEach((m, k) => Math.abs(k - i) > 2 && expect(m).toBe(vase.nodes[k]))
        },
      ),
    )
  })

  it('an arc beside a line leaves it in its direction when it is made smooth', () => {
    const p: HalfProfile = { side: 'right', nodes: [node(0, 0), node(20, 0), node(20, 30, 'corner', { next: 'arc', bulge: 0.1 }), node(5, 50), node(0, 50)] } // prettier-ignore
    const smooth = run(p, { type: 'set-joint', id: p.nodes[2]!.id, joint: 'smooth' })
    const segments = profileSegments(smooth.nodes)
    expect(turn(segments[1]!, segments[2]!)).toBeCloseTo(0, 9)
  })

  it('a line becomes an arc and a curve, and straight again', () => {
    const side = cylinder.nodes[1]!.id
    const arc = run(cylinder, { type: 'set-segment', id: side, next: 'arc' })
    expect(pointOn(profileSegments(arc.nodes)[1]!, 0.5)[0]).not.toBeCloseTo(30, 1)
    const curve = run(arc, { type: 'set-segment', id: side, next: 'curve' })
    expect(curve.nodes[1]!.bulge).toBeUndefined()
    expect(run(curve, { type: 'set-segment', id: side, next: 'line' })).toEqual(cylinder)
  })
})

describe('stations', () => {
  const vase: HalfProfile = {
    side: 'right',
    nodes: [...belly, node(15, 70), node(0, 70)],
  }
  const at = (p: HalfProfile, z: number) => radiusAt(flatten(profileSegments(p.nodes), { toleranceMm: 1e-6 }), z)! // prettier-ignore

  it('read the ⌀, tell the caliper’s deviation, and let the profile pass through it', () => {
    const document = { ...newPiece('Vase'), profile: vase, stations: [{ id: 's', name: 'Belly', z: 30, caliperMm: 62 }] } // prettier-ignore
    const [reading] = readStations(document.stations, derive(document))
    expect(reading!.diameterMm! / 2).toBeCloseTo(at(vase, 30), 1)
    expect(reading!.offMm).toBeCloseTo(reading!.diameterMm! - 62, 9)
    const met = run(vase, { type: 'meet-station', z: 30, diameterMm: 62, reachMm: 15, id: 'm' })
    expect(met.nodes.find((n) => n.id === 'm')).toMatchObject({ r: 31, z: expect.closeTo(30, 9) })
    const far = { ...document.stations[0]!, z: 90 }
    expect(readStations([far], derive(document))[0]).toMatchObject({ diameterMm: null, offMm: null })
    expect(() => run(vase, { type: 'meet-station', z: 90, diameterMm: 62, reachMm: 15, id: 'm' })).toThrow(/from 0 to 70 mm/) // prettier-ignore
  })

  it('on an upright side the whole side takes the caliper’s ⌀', () => {
    const locked: HalfProfile = { ...cylinder, nodes: cylinder.nodes.map((n, i) => (i === 1 ? { ...n, way: 'upright' as const } : n)) } // prettier-ignore
    const met = run(locked, { type: 'meet-station', z: 50, diameterMm: 58.4, reachMm: 0, id: 'm' })
    expect(met.nodes.map((n) => n.r)).toEqual([0, 29.2, 29.2, 29.2, 0])
  })
})
