import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { firstCrossing, openEnds, profileFaults, signedArea } from './check'
import { deleteNodes } from './delete-nodes'
import { closeToAxis, reversed } from './edit'
import { insertNode } from './insert-node'
import { moveNode, typeCoordinate } from './move-nodes'
import { recalibrate } from './recalibrate'
import { flatten } from './flatten'
import { isClosed, type HalfProfile, type ProfileNode } from './profile'
import { profileSegments } from './profile-segments'
import { derivativeOn, endOf, pointOn, startOf } from './segments'

const node = (
  r: number,
  z: number,
  joint: ProfileNode['joint'] = 'corner',
  next: ProfileNode['next'] = 'line',
): ProfileNode => ({
  id: `${r}/${z}`,
  r,
  z,
  joint,
  next,
})
const smooth = (r: number, z: number) => node(r, z, 'smooth', 'curve')
const profile = (...nodes: ProfileNode[]): HalfProfile => ({ side: 'right', nodes })
/** A half circle of radius R about (0, R), clicked at the given angles from the bottom pole. */
const ball = (R: number, angles: number[]) =>
  angles.map((a) => smooth(a <= 0 || a >= Math.PI ? 0 : R * Math.sin(a), R * (1 - Math.cos(a))))

describe('curve through nodes', () => {
  it('keeps lines straight and passes through every node', () => {
    const nodes = [
      node(0, 0),
      node(30, 0),
      smooth(40, 20),
      smooth(35, 60),
      node(12, 90),
      node(12, 110),
      node(0, 110),
    ]
    const segments = profileSegments(nodes)
    expect(segments.map((s) => s.kind)).toEqual(['line', 'line', 'cubic', 'cubic', 'line', 'line'])
    segments.forEach((s, i) => {
      expect(startOf(s)).toEqual([nodes[i]!.r, nodes[i]!.z])
      expect(endOf(s)).toEqual([nodes[i + 1]!.r, nodes[i + 1]!.z])
    })
  })

  it('is tangent-continuous at smooth nodes, also beside a line, and level at a smooth pole', () => {
    const nodes = [
      smooth(0, 0),
      smooth(30, 12),
      node(40, 30, 'smooth', 'line'),
      smooth(40, 70),
      smooth(25, 90),
      smooth(0, 100),
    ]
    const segments = profileSegments(nodes)
    for (let i = 1; i < segments.length; i++) {
      const [ar, az] = derivativeOn(segments[i - 1]!, 1)
      const [br, bz] = derivativeOn(segments[i]!, 0)
      expect(Math.abs(Math.atan2(ar * bz - az * br, ar * br + az * bz))).toBeLessThan(1e-9)
    }
    expect(derivativeOn(segments[0]!, 0)[1]).toBeCloseTo(0, 9)
    expect(derivativeOn(segments[4]!, 1)[1]).toBeCloseTo(0, 9)
  })

  it('makes a near circle of points clicked unevenly on a circle', () => {
    // Closed form: every point of the curve should lie R from the centre.
    const segments = profileSegments(ball(50, [0, 0.5, 1.3, 1.8, 2.6, Math.PI]))
    let worst = 0
    for (const s of segments) {
      for (let t = 0; t <= 1; t += 0.05) {
        const [r, z] = pointOn(s, t)
        worst = Math.max(worst, Math.abs(Math.hypot(r, z - 50) - 50))
      }
    }
    expect(worst).toBeLessThan(0.05) // 0.1 % of the radius
  })

  it('drops segments of no length instead of making numbers that are not finite', () => {
    const segments = profileSegments([
      smooth(0, 0),
      smooth(20, 10),
      { ...smooth(20, 10), id: 'again' },
      smooth(0, 40),
    ])
    expect(segments).toHaveLength(2)
    expect(segments.every((s) => [0, 0.5, 1].every((t) => pointOn(s, t).every(Number.isFinite)))).toBe(true)
  })

  it('gives finite curves for any distinct nodes, and the same curve scaled and run backwards (property)', () => {
    const coordinate = fc.integer({ min: 1, max: 500 })
    const anyNode = fc.record({
      r: coordinate,
      z: coordinate,
      joint: fc.constantFrom('corner' as const, 'smooth' as const),
      next: fc.constantFrom('line' as const, 'arc' as const, 'curve' as const),
      bulge: fc.double({ min: -2, max: 2, noNaN: true }),
      handles: fc.option(fc.tuple(coordinate, coordinate, coordinate, coordinate), { nil: undefined }),
    })
    fc.assert(
      fc.property(fc.array(anyNode, { minLength: 2, maxLength: 12 }), (raw) => {
        fc.pre(raw.every((n, i) => i === 0 || n.r !== raw[i - 1]!.r || n.z !== raw[i - 1]!.z))
        const nodes = raw.map((n, i) => ({ ...n, id: String(i) }))
        const segments = profileSegments(nodes)
        const big = profileSegments(
          nodes.map((n) => ({
            ...n,
            r: 1024 * n.r,
            z: 1024 * n.z,
            handles: n.handles?.map((v) => 1024 * v) as typeof n.handles,
          })),
        )
        const back = profileSegments(reversed(nodes))
        segments.forEach((s, i) => {
          for (const t of [0, 0.3, 0.7, 1])
            pointOn(s, t).forEach((value, k) => {
              expect(Number.isFinite(value)).toBe(true)
              expect(pointOn(big[i]!, t)[k]! / 1024).toBeCloseTo(value, 6)
              expect(pointOn(back[segments.length - 1 - i]!, 1 - t)[k]!).toBeCloseTo(value, 6)
            })
        })
      }),
    )
  })
})

describe('flatten', () => {
  it('keeps chords within the tolerance and marks corners', () => {
    const nodes = [node(0, 0), node(30, 0, 'corner', 'curve'), smooth(45, 40), smooth(20, 90), node(0, 100)]
    const segments = profileSegments(nodes)
    for (const toleranceMm of [1, 0.1, 0.01]) {
      const flat = flatten(segments, { toleranceMm })
      const far = distanceToChain(segments, flat.points)
      expect(far).toBeLessThanOrEqual(toleranceMm)
      expect(far).toBeGreaterThan(toleranceMm / 30) // not wastefully fine either
    }
    const flat = flatten(segments)
    const corners = [...flat.corner].flatMap((c, i) => (c ? [flat.points[2 * i + 1]] : []))
    expect(corners).toEqual([0, 0, 100])
  })

  function distanceToChain(segments: ReturnType<typeof profileSegments>, points: Float64Array): number {
    let worst = 0
    for (const s of segments) {
      for (let t = 0.01; t < 1; t += 0.02) {
        const [r, z] = pointOn(s, t)
        let best = Infinity
        for (let i = 0; i + 3 < points.length; i += 2) {
          const [ar, az, br, bz] = [points[i]!, points[i + 1]!, points[i + 2]!, points[i + 3]!]
          const l2 = (br - ar) ** 2 + (bz - az) ** 2
          const u = Math.max(0, Math.min(1, ((r - ar) * (br - ar) + (z - az) * (bz - az)) / l2))
          best = Math.min(best, Math.hypot(r - ar - u * (br - ar), z - az - u * (bz - az)))
        }
        worst = Math.max(worst, best)
      }
    }
    return worst
  }
})

describe('checks', () => {
  it('names the open end and its gap', () => {
    expect(openEnds([node(0, 0), node(20, 0), node(20, 50)])).toEqual([
      { end: 'last', place: 'top', gapMm: 20 },
    ])
    expect(openEnds([node(0.3, 60), node(20, 50), node(0, 0)])).toEqual([
      { end: 'first', place: 'top', gapMm: 0.3 },
    ])
    expect(openEnds([node(0, 0), node(20, 0), node(0, 50)])).toEqual([])
  })

  it('finds a crossing where it is, and none in a fair profile', () => {
    const bow = profileSegments([
      node(0, 0),
      node(40, 0),
      node(10, 60),
      node(10, 20),
      node(40, 70),
      node(0, 80),
    ])
    const hit = firstCrossing(flatten(bow).points)!
    // Lines (40,0)-(10,60) and (10,20)-(40,70) meet at 40-30s = 10+30t, 60s = 20+50t: s = 7/11, t = 4/11.
    expect(hit.r).toBeCloseTo(40 - (30 * 7) / 11, 9)
    expect(hit.z).toBeCloseTo((60 * 7) / 11, 9)
    expect(firstCrossing(flatten(profileSegments(ball(50, [0, 1, 2, Math.PI]))).points)).toBeNull()
  })

  it('agrees with testing all pairs (property)', () => {
    const point = fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 60 }))
    fc.assert(
      fc.property(fc.array(point, { minLength: 4, maxLength: 14 }), (points) => {
        const flat = Float64Array.from(points.flat())
        expect(firstCrossing(flat) !== null).toBe(anyPairCrosses(flat))
      }),
    )
    function anyPairCrosses(p: Float64Array): boolean {
      for (let i = 0; i + 3 < p.length; i += 2) {
        for (let j = i + 4; j + 3 < p.length; j += 2) {
          const pair = Float64Array.from([...p.slice(i, i + 4), 1e9, 1e9, ...p.slice(j, j + 4)])
          // Two chords kept apart by a far detour: only their own crossing can be found.
          if (
            orient(pair, 0, 1, 3) * orient(pair, 0, 1, 4) < 0 &&
            orient(pair, 3, 4, 0) * orient(pair, 3, 4, 1) < 0
          )
            return true
        }
      }
      return false
    }
    function orient(p: Float64Array, a: number, b: number, c: number): number {
      return Math.sign(
        (p[2 * b]! - p[2 * a]!) * (p[2 * c + 1]! - p[2 * a + 1]!) -
          (p[2 * b + 1]! - p[2 * a + 1]!) * (p[2 * c]! - p[2 * a]!),
      )
    }
  })

  it('refuses a curve that dips through the axis or touches it half-way', () => {
    const touching = [node(0, 0), node(20, 0), node(0, 30), node(20, 60), node(0, 60)]
    expect(profileFaults(touching, flatten(profileSegments(touching))).map((f) => f.code)).toContain(
      'touches-axis',
    )
    const dipping = [node(0, 0), node(60, 0, 'corner', 'curve'), smooth(1, 30), node(60, 60), node(0, 60)]
    dipping[2] = { ...dipping[2]!, r: 0.001 }
    dipping[1] = { ...dipping[1]!, z: 20 }
    dipping[3] = { ...dipping[3]!, z: 32 }
    expect(profileFaults(dipping, flatten(profileSegments(dipping))).map((f) => f.code)).toContain(
      'crosses-axis',
    )
  })
})

describe('edits', () => {
  const jar = profile(node(0, 0), node(30, 0), node(30, 80), node(20, 80))

  it('closes open ends level to the axis, exactly', () => {
    let id = 0
    const closed = closeToAxis(jar, () => `c${id++}`)
    expect(isClosed(closed.nodes)).toBe(true)
    expect(closed.nodes.at(-1)).toMatchObject({ r: 0, z: 80 })
    expect(closeToAxis(closed, () => 'x')).toEqual(closed)
  })

  it('moves ends onto the axis but never a node between them', () => {
    expect(moveNode(jar, '20/80', { r: -3, z: 90 }, 0.02).nodes.at(-1)).toMatchObject({ r: 0, z: 90 })
    expect(moveNode(jar, '30/80', { r: -3, z: 90 }, 0.02).nodes[2]).toMatchObject({ r: 0.02, z: 90 })
  })

  it('inserts on the curve and deletes again', () => {
    const vase = profile(
      node(0, 0),
      node(20, 0, 'corner', 'curve'),
      smooth(40, 40),
      node(10, 90),
      node(0, 90),
    )
    const inserted = insertNode(vase, 1, 0.4, 'new')
    const [r, z] = pointOn(profileSegments(vase.nodes)[1]!, 0.4)
    expect(inserted.nodes[2]).toMatchObject({ id: 'new', r, z, joint: 'smooth', next: 'curve' })
    const shape = (p: typeof vase, index: number, t: number) => pointOn(profileSegments(p.nodes)[index]!, t)
    for (const t of [0.1, 0.25, 0.39])
      shape(vase, 1, t).forEach((v, i) => expect(shape(inserted, 1, t / 0.4)[i]).toBeCloseTo(v, 9))
    for (const t of [0.2, 0.7])
      shape(vase, 2, t).forEach((v, i) => expect(shape(inserted, 3, t)[i]).toBeCloseTo(v, 6))
    // Joined again it is the one cubic that it was cut from.
    const joined = deleteNodes(inserted, new Set(['new']))
    expect(joined.nodes).toHaveLength(5)
    for (const t of [0.3, 0.6])
      shape(vase, 1, t).forEach((v, i) => expect(shape(joined, 1, t)[i]).toBeCloseTo(v, 3))
    expect(insertNode(jar, 1, 0.5, 'mid').nodes[2]).toMatchObject({
      r: 30,
      z: 40,
      joint: 'corner',
      next: 'line',
    })
  })

  it('encloses the same area whichever way it is run', () => {
    const closed = closeToAxis(jar, () => 'c').nodes
    const area = signedArea(flatten(profileSegments(closed)).points)
    expect(area).toBe(2400)
    expect(signedArea(flatten(profileSegments(reversed(closed))).points)).toBe(-2400)
  })

  it('follows a changed scale, but typed coordinates and the axis stay', () => {
    const view = (mmPerPx: number) => ({
      kind: 'distant' as const,
      lens: null,
      origin: { x: 100, y: 900 },
      up: { x: 0, y: -1 },
      mmPerPx,
    })
    const drawn = profile(
      { ...node(0, 0), drawn: { x: 100.2, y: 900 } },
      { ...node(30, 0), drawn: { x: 160, y: 900 } },
      { ...node(30, 80), drawn: { x: 160, y: 740 } },
      node(0, 80),
    )
    const typed = typeCoordinate(drawn, '30/0', 'r', 33)
    const followed = recalibrate(typed, view(0.25))
    expect(followed.nodes.map((n) => [n.r, n.z])).toEqual([
      [0, 0],
      [33, 0],
      [15, 40],
      [0, 40],
    ])
  })

  it('handles grow with a changed scale, held nodes stay, and a radius that can’t reach refuses nothing', () => {
    const view = { kind: 'distant' as const, lens: null, origin: { x: 100, y: 900 }, up: { x: 0, y: -1 }, mmPerPx: 0.25 } // prettier-ignore
    const drawn = profile(
      { ...node(0, 0), drawn: { x: 100, y: 900 } },
      { ...node(30, 0, 'corner', 'curve'), handles: [4, 10, 6, -12], drawn: { x: 160, y: 900 } },
      { ...node(20, 80), next: 'arc', bulge: 0.3, radius: 2, drawn: { x: 140, y: 740 } },
      { ...node(16, 90), held: ['r'], drawn: { x: 132, y: 720 } },
      node(0, 90),
    )
    const { nodes } = recalibrate(drawn, view)
    expect(nodes[1]).toMatchObject({ r: 15, z: 0, handles: [2, 5, 3, -6] })
    expect(nodes[3]).toMatchObject({ r: 16, z: 45 })
  })
})
