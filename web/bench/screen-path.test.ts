import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { node } from '../../core/profile/test-samples'
import { profileSegments } from '../../core/profile/profile-segments'
import { pointOn } from '../../core/profile/segments'
import { screenPath } from './screen-path'

const scaled = (k: number) => (p: { x: number; z: number }) => ({ sx: 300 + k * p.x, sy: 700 - k * p.z })

/** Every number pair of a path, in its order. */
function points(d: string): [number, number][] {
  const numbers = (d.match(/-?\d+(\.\d+)?/g) ?? []).map(Number)
  return numbers.flatMap((v, i) => (i % 2 ? [[numbers[i - 1]!, v] as [number, number]] : []))
}

describe('the half-profile as a path on the screen', () => {
  it('draws lines, arcs and curves as they are where they can be seen', () => {
    const segments = profileSegments([
      node(0, 0),
      node(20, 0, 'corner', { next: 'arc', bulge: 0.2 }),
      node(20, 30, 'corner', { next: 'curve', handles: [2, 5, 2, -5] }),
      node(10, 60),
    ])
    expect(screenPath(segments, 1, scaled(5))).toMatch(
      /^M300 700L400 700C.+ 400 550C410 525 360 425 350 400$/,
    )
    expect(screenPath(segments, 1, scaled(5)).match(/M/g)).toHaveLength(1)
  })

  it('begins anew where the curve is interrupted', () => {
    const [first, , third] = profileSegments([node(0, 0), node(20, 0), node(20, 30), node(0, 30)])
    expect(screenPath([first!, third!], 1, scaled(5))).toBe('M300 700L400 700M400 550L300 550')
  })

  it('of thousands of nodes keeps within a pixel of the curve, both ends, and a fraction of its length (property)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1000, max: 3000 }),
        fc.double({ min: 1, max: 5, noNaN: true }),
        (count, k) => {
          const nodes = Array.from({ length: count }, (_, i) => {
            const t = i / (count - 1)
            return node(30 + 12 * Math.sin(7 * t), 150 * t, 'smooth', { next: 'curve' })
          })
          const segments = profileSegments(nodes)
          const toScreen = scaled(k)
          const seen = points(screenPath(segments, -1, toScreen))
          const near = (x: number, y: number) => seen.some(([a, b]) => Math.hypot(a - x, b - y) < 2)
          for (let i = 0; i < segments.length; i += 37) {
            const [r, z] = pointOn(segments[i]!, 0.5)
            const { sx, sy } = toScreen({ x: -r, z })
            expect(near(sx, sy)).toBe(true)
          }
          const [first, last] = [nodes[0]!, nodes.at(-1)!].map((n) => toScreen({ x: -n.r, z: n.z }))
          expect(Math.hypot(seen[0]![0] - first!.sx, seen[0]![1] - first!.sy)).toBeLessThan(0.01)
          expect(Math.hypot(seen.at(-1)![0] - last!.sx, seen.at(-1)![1] - last!.sy)).toBeLessThan(0.01)
          // However many nodes: a step for each 0.75 px of its 150 k px of height, of at most four
          // points (a line to the end of a run, and a curve's three), besides the first and the last.
          expect(seen.length).toBeLessThanOrEqual(4 * ((150 * k) / 0.75) + 2)
        },
      ),
      { numRuns: 20 },
    )
  })
})
