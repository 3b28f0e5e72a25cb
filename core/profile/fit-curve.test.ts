import fc from 'fast-check'
import { sharpSegments, turnBetween } from './segments'
import { describe, expect, it } from 'vitest'
import { fitCurve } from './fit-curve'
import { flatten } from './flatten'
import { profileSegments } from './profile-segments'
import type { ProfileNode } from './profile'
import { node, samples } from './test-samples'

const ids = () => {
  let n = 0
  return () => `n${n++}`
}
const fit = (points: [number, number][], toleranceMm: number) =>
  fitCurve(points, { toleranceMm, newId: ids() })
const kinds = (nodes: readonly ProfileNode[]) => nodes.slice(0, -1).map((n) => n.next).join(' ') // prettier-ignore

/** Largest distance of points from the curve through nodes. */
function off(points: readonly [number, number][], nodes: readonly ProfileNode[]): number {
  const { points: chain } = flatten(profileSegments(nodes), { toleranceMm: 1e-4 })
  return Math.max(
    ...points.map(([r, z]) => {
      let least = Infinity
      for (let i = 0; i + 3 < chain.length; i += 2) {
        const [dr, dz] = [chain[i + 2]! - chain[i]!, chain[i + 3]! - chain[i + 1]!]
        const t = Math.max(0, Math.min(1, ((r - chain[i]!) * dr + (z - chain[i + 1]!) * dz) / (dr * dr + dz * dz || 1))) // prettier-ignore
        least = Math.min(least, Math.hypot(r - chain[i]! - t * dr, z - chain[i + 1]! - t * dz))
      }
      return least
    }),
  )
}

/** A piece about 100 mm tall at 10 px a mm: 0.3 px are 0.03 mm. */
const NOISE = 0.03
const TOLERANCE = 2 * NOISE
const quarter = Math.tan(Math.PI / 8)
const SHAPES: Record<string, ProfileNode[]> = {
  'a bottle of lines and a quarter circle': [
    node(0, 0),
    node(25, 0),
    node(27, 2),
    node(27, 60, 'smooth', { next: 'arc', bulge: quarter }),
    node(15, 72),
    node(15, 90),
    node(17, 90),
    node(17, 97),
    node(0, 97),
  ],
  'a ball': [node(0, 0, 'smooth', { next: 'arc', bulge: 1 }), node(0, 80, 'smooth')],
  'a vase of one cubic': [
    node(0, 0),
    node(20, 0, 'corner', { next: 'curve', handles: [28, 30, -6, -45] }),
    node(14, 100),
    node(0, 100),
  ],
  'a spool of two arcs': [
    node(0, 0),
    node(30, 0),
    node(30, 8, 'corner', { next: 'arc', bulge: -0.4 }),
    node(30, 52),
    node(30, 60, 'corner', { next: 'arc', bulge: 0.15 }),
    node(12, 90),
    node(0, 90),
  ],
}

describe('a curve fitted to points of lines, arcs and cubics', () => {
  for (const [name, nodes] of Object.entries(SHAPES)) {
    it(`${name}: the same elements, exactly, from exact points`, () => {
      const got = fit(samples(nodes, 0.1), 0.03)
      expect(kinds(got.nodes)).toBe(kinds(nodes))
      got.nodes.forEach((n, i) => {
        expect(Math.hypot(n.r - nodes[i]!.r, n.z - nodes[i]!.z)).toBeLessThan(0.01)
        expect(n.joint).toBe(nodes[i]!.joint)
      })
      expect(got.deviationMm).toBeLessThan(0.002)
    })

    it(`${name}: the same elements from points with 0.3 px of noise, within the tolerance`, () => {
      for (const seed of [3, 17, 92]) {
        const got = fit(samples(nodes, 0.1, NOISE, seed), TOLERANCE)
        expect(kinds(got.nodes)).toBe(kinds(nodes))
        expect(got.deviationMm).toBeLessThanOrEqual(TOLERANCE)
        // Against the true curve, not the noisy points.
        expect(off(samples(nodes, 0.5), got.nodes)).toBeLessThan(TOLERANCE)
        expect(got.rmsMm / NOISE).toBeGreaterThan(0.9)
        expect(got.rmsMm / NOISE).toBeLessThan(1.1)
      }
    })
  }

  it('near-level and near-upright lines are exactly so, ends on the axis exactly there', () => {
    const { nodes } = fit(
      samples(SHAPES['a bottle of lines and a quarter circle']!, 0.1, NOISE, 5),
      TOLERANCE,
    )
    expect([nodes[0]!.r, nodes[8]!.r]).toEqual([0, 0])
    for (const [a, b] of [[0, 1], [5, 6], [7, 8]] as const) expect(nodes[a]!.z).toBe(nodes[b]!.z) // prettier-ignore
    for (const [a, b] of [[2, 3], [4, 5], [6, 7]] as const) expect(nodes[a]!.r).toBe(nodes[b]!.r) // prettier-ignore
  })

  it('a circle comes back as an arc, where a cubic a quarter would err by 0.027 % of the radius', () => {
    const { nodes, deviationMm } = fit(samples(SHAPES['a ball']!, 0.05), 0.0003 * 80)
    expect(nodes).toHaveLength(2)
    expect(nodes[0]!.bulge).toBeCloseTo(1, 5)
    expect(deviationMm).toBeLessThan(0.0001 * 40)
  })

  it('scales and moves with its points (property)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 8, max: 40, noNaN: true }), { minLength: 3, maxLength: 6 }),
        fc.constantFrom(1 / 1024, 1024),
        fc.integer({ min: -200, max: 200 }),
        (radii, scale, shift) => {
          const step = 90 / (radii.length - 1)
          const shape = [node(0, 0), ...radii.map((r, i) => node(r, i * step, i % 2 ? 'smooth' : 'corner', { next: 'curve' })), node(0, 90)] // prettier-ignore
          shape[shape.length - 2]!.next = 'line'
          // A curve that folds back on itself at a corner crosses itself or not by rounding alone.
          const segments = sharpSegments(shape)
          fc.pre(segments.slice(1).every((s, i) => Math.abs(turnBetween(segments[i]!, s)) < 2.4))
          const points = samples(shape, 0.3)
          const plain = fit(points, 0.05)
          const changed = fit(points.map(([r, z]) => [r * scale, (z + shift) * scale]), 0.05 * scale) // prettier-ignore
          expect(kinds(changed.nodes)).toBe(kinds(plain.nodes))
          changed.nodes.forEach((n, i) => {
            const twin = plain.nodes[i]!
            expect(Math.hypot(n.r / scale - twin.r, n.z / scale - shift - twin.z)).toBeLessThan(0.005)
          })
        },
      ),
      { numRuns: 12 },
    )
  })

  it('holds the ends that it is told to hold', () => {
    const points = samples(SHAPES['a vase of one cubic']!, 0.2, NOISE).slice(150, -150)
    points[0] = [points[0]![0] + 0.4, points[0]![1]]
    const { nodes } = fitCurve(points, { toleranceMm: 0.06, newId: ids(), held: { start: true, end: true } })
    expect([nodes[0]!.r, nodes[0]!.z]).toEqual(points[0])
    expect([nodes.at(-1)!.r, nodes.at(-1)!.z]).toEqual(points.at(-1))
  })

  it('nothing comes of too little', () => {
    expect(fit([], 0.1).nodes).toEqual([])
    expect(fit([[3, 3], [3, 3], [3, 3]], 0.1).nodes).toEqual([]) // prettier-ignore
  })
})
