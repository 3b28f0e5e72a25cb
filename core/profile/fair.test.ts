import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyToProfile, type ProfileCommand } from '../piece/profile-commands'
import { curvatureComb, curvatureOn } from './curvature'
import { curveDeviation } from './deviation'
import { curvaturesAt } from './even-joints'
import { flatten } from './flatten'
import type { HalfProfile, ProfileNode } from './profile'
import { pointOn, sharpSegments, tangentAt, turnBetween } from './segments'
import { gaussian, node } from './test-samples'

const run = (p: HalfProfile, command: ProfileCommand) => applyToProfile(p, command, undefined)
const profile = (nodes: ProfileNode[]): HalfProfile => ({ side: 'right', nodes })
const curve = (...handles: [number, number, number, number]) => ({ next: 'curve' as const, handles })

describe('curvature', () => {
  it('of a parabola as a cubic is 2a / (1 + 4a²x²)^1.5', () => {
    // z = r² from r = 1 to 3, raised to a cubic.
    const [s] = sharpSegments([node(1, 1, 'corner', curve(2 / 3, 4 / 3, -2 / 3, -4)), node(3, 9)])
    for (const t of [0, 0.3, 1]) {
      const [r, z] = pointOn(s!, t)
      expect(z).toBeCloseTo(r * r, 12)
      expect(curvatureOn(s!, t)).toBeCloseTo(2 / (1 + 4 * r * r) ** 1.5, 12)
    }
  })

  it('of an arc is that of its circle, to the side it turns to; its comb stands on it', () => {
    const [s] = sharpSegments([node(10, 0, 'corner', { next: 'arc', bulge: Math.tan(Math.PI / 8) }), node(0, 10)]) // prettier-ignore
    expect(curvatureOn(s!, 0.4)).toBeCloseTo(0.1, 12)
    for (const { at, normal, curvature } of curvatureComb([s!])[0]!) {
      expect(Math.hypot(...at)).toBeCloseTo(10, 9)
      // To the left is inwards here.
      expect(at[0] + normal[0] / curvature).toBeCloseTo(0, 9)
    }
  })
})

describe('joints of one curvature', () => {
  const even = (nodes: ProfileNode[], index: number) =>
    run(profile(nodes), { type: 'set-joint', id: nodes[index]!.id, joint: 'even' })
  const step = (p: HalfProfile, index: number) => {
    const [a, b] = curvaturesAt(p.nodes, index)!
    return Math.abs(a - b) / Math.max(Math.abs(a), Math.abs(b), 1e-12)
  }
  const smooth = (p: HalfProfile, index: number) => {
    const segments = sharpSegments(p.nodes)
    return Math.abs(turnBetween(segments[index - 1]!, segments[index]!))
  }

  it('two curves meet in one curvature and keep tangents and far ends', () => {
    const nodes = [node(20, 0, 'corner', curve(6, 6, 0, -25)), node(32, 40, 'smooth', curve(0, 20, 6, 10)), node(10, 80)] // prettier-ignore
    expect(step(profile(nodes), 1)).toBeGreaterThan(0.1)
    const made = even(nodes, 1)
    expect(step(made, 1)).toBeLessThan(1e-6)
    expect(smooth(made, 1)).toBeLessThan(1e-9)
    expect(made.nodes[0]!.handles!.slice(0, 2)).toEqual([6, 6])
    // Moving the node keeps it so.
    const moved = run(made, { type: 'move-node', id: made.nodes[1]!.id, r: 33, z: 43 })
    expect(step(moved, 1)).toBeLessThan(1e-6)
  })

  it('an arc leads, and a line asks for none at all', () => {
    const arc = [node(30, 0, 'corner', { next: 'arc', bulge: 0.3 }), node(30, 40, 'smooth', curve(-5, 8, 4, -9)), node(8, 70)] // prettier-ignore
    const made = even(arc, 1)
    expect(step(made, 1)).toBeLessThan(1e-6)
    expect(made.nodes[0]).toEqual(arc[0])
    const line = [node(30, 0), node(30, 40, 'smooth', curve(0, 8, 10, -2)), node(8, 70)]
    const straight = even(line, 1)
    expect(Math.abs(curvaturesAt(straight.nodes, 1)![1])).toBeLessThan(1e-9)
  })

  it('fair curves get handles for it; between lines and arcs alone it is refused in words', () => {
    const fair = [node(20, 0), node(30, 30, 'smooth', { next: 'curve' }), node(18, 60, 'smooth', { next: 'curve' }), node(24, 90)] // prettier-ignore
    const made = even(fair, 2)
    expect(made.nodes[1]!.handles).toHaveLength(4)
    expect(made.nodes[2]!.handles).toHaveLength(4)
    expect(step(made, 2)).toBeLessThan(1e-6)
    const arcs = [node(30, 0, 'corner', { next: 'arc', bulge: 0.3 }), node(30, 40, 'smooth', { next: 'arc', bulge: 0.1 }), node(8, 70)] // prettier-ignore
    expect(() => even(arcs, 1)).toThrow(/only lines and arcs/)
    // Another joint takes the wish away.
    expect(run(made, { type: 'set-joint', id: made.nodes[2]!.id, joint: 'smooth' }).nodes[2]!.even).toBeUndefined() // prettier-ignore
  })
})

describe('fair stretches', () => {
  /** A quarter of a circle of radius 40 through many uneven nodes, between two lines. */
  const wavy = (seed: number, noise: number): HalfProfile => {
    const gauss = gaussian(seed)
    const inner = Array.from({ length: 9 }, (_, k) => {
      const a = ((k + 1) * Math.PI) / 20
      const r = 40 + noise * gauss()
      return node(r * Math.cos(a), 20 + r * Math.sin(a), 'smooth', { next: 'curve' })
    })
    return profile([node(0, 0), node(40, 0, 'corner', { way: 'upright' }), node(40, 20, 'smooth', { next: 'curve' }), ...inner, node(0, 60)]) // prettier-ignore
  }
  const fair = (p: HalfProfile, from: number, to: number, withinMm: number) =>
    run(p, { type: 'fair-stretch', ids: [p.nodes[from]!.id, p.nodes[to]!.id], withinMm, idPrefix: 'f' })
  /** Sum of the changes of curvature along a stretch: nothing for a circle. */
  const unrest = (p: HalfProfile) => {
    const teeth = curvatureComb(sharpSegments(p.nodes).filter((s) => s.kind === 'cubic')).flat()
    return teeth.slice(1).reduce((s, t, k) => s + Math.abs(t.curvature - teeth[k]!.curvature), 0)
  }
  const apart = (a: HalfProfile, b: HalfProfile) => {
    const chain = (p: HalfProfile) => flatten(sharpSegments(p.nodes), { toleranceMm: 1e-4 }).points
    const points = (c: Float64Array) => Array.from({ length: c.length / 2 }, (_, i) => [c[2 * i]!, c[2 * i + 1]!] as const) // prettier-ignore
    return Math.abs(curveDeviation(chain(a), points(chain(b))).most!.mm)
  }

  it('calm the curvature, stay within the distance, keep ends, tangents and locks (property)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 10_000 }),
        fc.double({ min: 0.02, max: 0.4, noNaN: true }),
        (seed, noise) => {
          const p = wavy(seed, noise)
          const made = fair(p, 2, p.nodes.length - 1, 2 * noise)
          expect(apart(made, p)).toBeLessThan(2 * noise + 2e-4)
          expect(unrest(made)).toBeLessThan(unrest(p))
          expect(made.nodes.slice(0, 2)).toEqual(p.nodes.slice(0, 2))
          expect(made.nodes.at(-1)).toMatchObject({ r: 0, z: 60 })
          const segments = sharpSegments(made.nodes)
          expect(turnBetween(segments[1]!, segments[2]!)).toBeCloseTo(0, 6)
          expect(made.nodes.length).toBeLessThanOrEqual(p.nodes.length + 3)
        },
      ),
      { numRuns: 40 },
    )
  })

  it('bring a disturbed circle nearer to the circle it was', () => {
    const worst = (p: HalfProfile) =>
      Math.max(...curvatureComb(sharpSegments(p.nodes)).flat().filter(({ at }) => at[1] > 24 && at[1] < 58).map(({ at }) => Math.abs(Math.hypot(at[0], at[1] - 20) - 40))) // prettier-ignore
    const p = wavy(7, 0.2)
    const made = fair(p, 2, p.nodes.length - 1, 0.5)
    expect(worst(made)).toBeLessThan(0.7 * worst(p))
    expect(made.nodes.length).toBeLessThan(p.nodes.length)
  })

  it('leave corners where they are, and say when there is nothing to make fair', () => {
    const p = wavy(3, 0.1)
    p.nodes[7] = { ...p.nodes[7]!, joint: 'corner' }
    const made = fair(p, 2, p.nodes.length - 1, 0.2)
    const corner = made.nodes.find((n) => n.id === p.nodes[7]!.id)!
    expect(corner).toMatchObject({ r: p.nodes[7]!.r, z: p.nodes[7]!.z, joint: 'corner' })
    expect(() => fair(p, 0, 1, 0.2)).toThrow(/no curve to make fair/)
    const [dr, dz] = tangentAt(sharpSegments(made.nodes)[2]!, 0)
    expect(dz).toBeGreaterThan(Math.abs(dr) * 100)
  })

  it('scale with the piece', () => {
    const p = wavy(5, 0.2)
    const thousand: HalfProfile = profile(p.nodes.map((n) => ({ ...n, r: 1000 * n.r, z: 1000 * n.z })))
    const [small, large] = [fair(p, 2, 12, 0.3), fair(thousand, 2, 12, 300)]
    expect(large.nodes).toHaveLength(small.nodes.length)
    large.nodes.forEach((n, i) => expect(n.r).toBeCloseTo(1000 * small.nodes[i]!.r, 3))
  })
})
