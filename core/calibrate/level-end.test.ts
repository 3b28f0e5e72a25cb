import { describe, expect, it } from 'vitest'
import type { DistantView } from '../camera/view'
import type { OutlineSide } from '../outline/refine'
import { levelEnd } from './level-end'
import { readProfile } from './read-profile'

const degrees = Math.PI / 180

/** The half-outline, px from the top's crossing, of a cylinder ⌀ 2a whose rim at v = 0 is seen from above by parallel rays. */
function rim(a: number, pitch: number, rounding = 0): Float64Array {
  const b = a * Math.sin(pitch)
  const out: number[] = []
  for (let u = 0; u < a - rounding; u += 2) out.push(u, b * Math.sqrt(1 - (u / a) ** 2))
  for (let t = 90; t > 0 && rounding > 0; t -= 10)
    out.push(a - rounding * (1 - Math.cos(t * degrees)), -rounding * (1 - Math.sin(t * degrees)))
  for (let v = -rounding; v > -400; v -= 2) out.push(a, v)
  return Float64Array.from(out)
}

describe('the level with which a half-outline ends', () => {
  // Closed form: parallel rays at a pitch T picture a circle as an ellipse whose half axes are a and a sin T.
  it.each([3, 6, 12, 25])('is that of the ring’s middle, seen from %s° above', (pitch) => {
    expect(levelEnd(rim(150, pitch * degrees))).toBeCloseTo(0, 1)
  })

  it('is the end’s own where the ring is seen edge-on, whether its edge is rounded or not', () => {
    for (const half of [rim(150, 0), rim(150, 0.4 * degrees), rim(150, 0, 12)])
      expect(Math.abs(levelEnd(half)!)).toBeLessThan(1.1)
  })

  it('is unknown for a dome, a spire and what is too narrow', () => {
    const dome = Float64Array.from({ length: 160 }, (_, i) => {
      const t = (i >> 1) * 1.15 * degrees
      return i % 2 ? 150 * Math.cos(t) : 150 * Math.sin(t)
    })
    expect(levelEnd(dome)).toBeNull()
    // Its crown can't be seen: what is left is steep, and a few px of it look like an edge.
    const crownless = dome.slice(dome.findIndex((u, i) => i % 2 === 0 && u > 100))
    expect(levelEnd(crownless)).toBeNull()
    expect(levelEnd(Float64Array.from({ length: 400 }, (_, i) => (i % 2 ? -1 : 0.4) * (i >> 1)))).toBeNull()
    expect(levelEnd(rim(8, 0))).toBeNull()
  })
})

describe('a half-profile read by the scale', () => {
  const view: DistantView = { kind: 'distant', lens: null, origin: { x: 500, y: 900 }, up: { x: 0, y: -1 }, mmPerPx: 0.2 } // prettier-ignore
  /** A cylinder ⌀ 300 px, 400 px tall, its foot flat on the ground, its rim seen from above. */
  const side = (sign: 1 | -1, pitch: number): OutlineSide => {
    const half = rim(150, pitch)
    const points: number[] = []
    for (let u = 0; u < 150; u += 2) points.push(500 + sign * u, 900)
    for (let i = half.length - 2; i >= 0; i -= 2) points.push(500 + sign * half[i]!, 500 - half[i + 1]!)
    return { points: Float64Array.from(points), sd: new Float64Array(points.length / 2).fill(0.1), blur: 1 }
  }

  it.each([0, 4, 15])('ends level at its rim, seen from %s° above', (pitch) => {
    const read = readProfile(view, { left: side(-1, pitch * degrees), right: side(1, pitch * degrees) })
    expect(read.top).toBeCloseTo(80, 1)
    expect(read.points.at(-1)).toEqual([0, read.top])
    const level = read.points.filter(([, z]) => z > read.top - 1e-6)
    // Half a px is lost where the corner was smoothed.
    expect(Math.abs(Math.max(...level.map(([r]) => r)) - 30)).toBeLessThan(0.1)
    expect(Math.max(...read.points.map((p) => p[1]))).toBeLessThan(read.top + 1e-6)
  })
})
