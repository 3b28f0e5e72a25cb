import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fitNodes } from './fit-nodes'
import { flatten } from './flatten'
import { profileSegments } from './profile-segments'

const ids = () => {
  let n = 0
  return () => `n${n++}`
}
const dense = (points: [number, number][], step: number): [number, number][] =>
  points.flatMap((p, i) => {
    const q = points[i + 1]
    if (!q) return [p]
    const n = Math.max(1, Math.ceil(Math.hypot(q[0] - p[0], q[1] - p[1]) / step))
    return Array.from({ length: n }, (_, k): [number, number] => [
      p[0] + ((q[0] - p[0]) * k) / n,
      p[1] + ((q[1] - p[1]) * k) / n,
    ])
  })
/** Largest distance of points from the curve through nodes. */
function off(points: [number, number][], nodes: Parameters<typeof profileSegments>[0]): number {
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

describe('nodes fitted to a dense half-profile', () => {
  it('straight runs become lines between their corners, and nothing more', () => {
    const corners: [number, number][] = [[0, 0], [30, 0], [33, 3], [33, 70], [20, 80], [0, 80]] // prettier-ignore
    const { nodes, deviationMm } = fitNodes(dense(corners, 0.2), 0.03, ids())
    expect(nodes.map((n) => [Number(n.r.toFixed(6)), Number(n.z.toFixed(6))])).toEqual(corners)
    expect(nodes.every((n) => n.joint === 'corner')).toBe(true)
    expect(nodes.slice(0, -1).every((n) => n.next === 'line')).toBe(true)
    expect(deviationMm).toBeLessThan(1e-9)
  })

  it('a dome ends smooth on the axis, with few nodes', () => {
    const ball = Array.from({ length: 400 }, (_, i): [number, number] => {
      const a = -Math.PI / 2 + (Math.PI * i) / 399
      return [i === 0 || i === 399 ? 0 : 40 * Math.cos(a), 40 + 40 * Math.sin(a)]
    })
    const { nodes } = fitNodes(ball, 0.04, ids())
    expect(nodes.length).toBeLessThan(10)
    expect([nodes[0]!.joint, nodes.at(-1)!.joint]).toEqual(['smooth', 'smooth'])
    expect(off(ball, nodes)).toBeLessThan(0.042)
  })

  it('stays within its tolerance, and scales with the piece', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 8, max: 40, noNaN: true }), { minLength: 3, maxLength: 7 }),
        fc.constantFrom(0.05, 1, 1000),
        (radii, scale) => {
          const at = (t: number) => {
            const k = Math.min(radii.length - 2, Math.floor(t * (radii.length - 1)))
            const s = t * (radii.length - 1) - k
            return radii[k]! + (radii[k + 1]! - radii[k]!) * (s * s * (3 - 2 * s))
          }
          const points: [number, number][] = [[0, 0], ...Array.from({ length: 300 }, (_, i): [number, number] => [scale * at(i / 299), (scale * 100 * i) / 299]), [0, scale * 100]] // prettier-ignore
          const tolerance = 0.08 * scale
          const { nodes, deviationMm } = fitNodes(points, tolerance, ids())
          expect(deviationMm).toBeLessThanOrEqual(tolerance * 1.0001)
          expect(off(points, nodes)).toBeLessThan(1.1 * tolerance)
          const unscaled = fitNodes(points.map(([r, z]) => [r / scale, z / scale] as const), 0.08, ids()) // prettier-ignore
          expect(unscaled.nodes.length).toBe(nodes.length)
        },
      ),
      { numRuns: 25 },
    )
  })
})
