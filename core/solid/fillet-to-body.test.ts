import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { isClosedAndOriented, meshVolume } from '../measure/mesh-measures'
import { filletedTo, revolvedDistance, type Distance } from './fillet-to-body'
import { plateMesh, tubeMesh, type Tube } from './fitting'
import type { Mesh } from './mesh'

/** The half space below z = 0. */
const table = (_x: number, _y: number, z: number) => z
/** Area between a fillet and the corner it fills, and how far its centre lies from both sides: closed forms, in radii. */
const SPANDREL = 1 - Math.PI / 4
const SPANDREL_AT = (10 - 3 * Math.PI) / (12 - 3 * Math.PI)

/** Volume of what of a closed mesh stands above z = 0: each triangle is cut off there, and a prism stands under the rest. */
function volumeAbove({ positions: p, triangles: t }: Mesh): number {
  let sum = 0
  for (let i = 0; i < t.length; i += 3) {
    const corners = [0, 1, 2].map((k) => [0, 1, 2].map((j) => p[3 * t[i + k]! + j]!))
    const above = corners.flatMap((a, k) => {
      const b = corners[(k + 1) % 3]!
      const cut =
        a[2]! > 0 !== b[2]! > 0 ? [a.map((v, j) => v + ((b[j]! - v) * a[2]!) / (a[2]! - b[2]!))] : []
      return a[2]! > 0 ? [a, ...cut] : cut
    })
    for (let k = 1; k + 1 < above.length; k++) {
      const [a, b, c] = [above[0]!, above[k]!, above[k + 1]!]
      const doubled = (b[0]! - a[0]!) * (c[1]! - a[1]!) - (b[1]! - a[1]!) * (c[0]! - a[0]!)
      sum += ((doubled / 2) * (a[2]! + b[2]! + c[2]!)) / 3
    }
  }
  return sum
}

describe('the distance from a turned body', () => {
  it('is that of a ball, inside and outside (property)', () => {
    const chords = 400
    const ball = Float64Array.from(Array.from({ length: chords + 1 }, (_, k) => [k % chords === 0 ? 0 : 30 * Math.sin((Math.PI * k) / chords), 30 - 30 * Math.cos((Math.PI * k) / chords)]).flat()) // prettier-ignore
    const distance = revolvedDistance(ball)
    const place = fc.double({ min: -60, max: 60, noNaN: true })
    fc.assert(
      fc.property(place, place, place, (x, y, z) => {
        expect(distance(x, y, z)).toBeCloseTo(Math.hypot(x, y, z - 30) - 30, 2)
      }),
    )
  })
})

/** A tube, and the same flared. */
function led(tube: Tube, sides: number, distance: Distance, radius: number) {
  const plain = tubeMesh(tube, sides)
  return { plain, led: filletedTo(plain, distance, radius) }
}
const post: Tube = { points: [{ x: 0, z: -20, mm: 10 }, { x: 0, z: 40, mm: 10 }], flat: 1, ends: 'flat' } // prettier-ignore

describe('a fillet where a fitting meets a body', () => {
  it('square to a plane adds the ring of Pappus and Guldinus about a tube', () => {
    const { plain, led: flared } = led(post, 96, table, 4)
    expect(isClosedAndOriented(flared)).toBe(true)
    const ring = 2 * Math.PI * (5 + SPANDREL_AT * 4) * SPANDREL * 16
    const added = volumeAbove(flared) - volumeAbove(plain)
    expect(added / ring).toBeGreaterThan(0.97)
    expect(added / ring).toBeLessThan(1.04)
    // Nothing is changed beyond its radius, and its foot is that much broader.
    const out = (z: number, by: number) => {
      let r = 0
      const { positions } = flared
      for (let i = 0; i < positions.length; i += 3)
        if (Math.abs(positions[i + 2]! - z) <= by)
          r = Math.max(r, Math.hypot(positions[i]!, positions[i + 1]!))
      return r
    }
    expect(out(30, 26)).toBeCloseTo(5, 6)
    expect(out(0, 0.3)).toBeGreaterThan(8.4)
    expect(out(0, 0.3)).toBeLessThan(9.01)
  })

  it('follows its arc: every point of it lies one radius from where the ball’s middle rolls', () => {
    const { positions } = led(post, 96, table, 4).led
    let seen = 0
    for (let i = 0; i < positions.length; i += 3) {
      const [r, z] = [Math.hypot(positions[i]!, positions[i + 1]!), positions[i + 2]!]
      if (z < 0.05 || z > 3.9 || r < 5.01) continue
      seen++
      // Chords of the tube's sides lie a little within its circle.
      expect(Math.hypot(r - 9, z - 4)).toBeGreaterThan(3.99)
      expect(Math.hypot(r - 9, z - 4)).toBeLessThan(4.03)
    }
    expect(seen).toBeGreaterThan(200)
  })

  it('runs about a plate too, along its faces and round its edges', () => {
    const points = [[-15, -10], [15, -10], [15, 30], [-15, 30]].map(([x, z]) => ({ x: x!, z: z! })) // prettier-ignore
    const plate = plateMesh({ points, widthMm: 8, roundMm: 2, smooth: false })
    const flared = filletedTo(plate, table, 3)
    expect(isClosedAndOriented(flared)).toBe(true)
    const around = 2 * (26 + 4) + 2 * Math.PI * 2
    const run = SPANDREL * 9 * (around + 2 * Math.PI * SPANDREL_AT * 3)
    const added = volumeAbove(flared) - volumeAbove(plate)
    expect(added / run).toBeGreaterThan(0.9)
    expect(added / run).toBeLessThan(1.1)
  })

  it('leaves what meets nothing as it is, and stays closed wherever a tube meets a turned body (property)', () => {
    const far = tubeMesh({ points: [{ x: 0, z: 20, mm: 6 }, { x: 0, z: 40, mm: 6 }], flat: 1, ends: 'round' }, 24) // prettier-ignore
    expect(filletedTo(far, table, 5).positions).toEqual(far.positions)
    const vase = revolvedDistance(Float64Array.of(0, 0, 30, 0, 36, 30, 22, 70, 26, 100, 0, 100))
    const mm = fc.double({ min: 4, max: 9, noNaN: true })
    fc.assert(
      fc.property(
        mm,
        fc.double({ min: 0.5, max: 4, noNaN: true }),
        fc.double({ min: 10, max: 40, noNaN: true }),
        (size, radius, reach) => {
          const points = [[20, 25], [45 + reach / 2, 30], [45 + reach / 2, 80], [18, 90]].map(([x, z]) => ({ x: x!, z: z!, mm: size })) // prettier-ignore
          const { plain, led: flared } = led({ points, flat: 1, ends: 'flat' }, 24, vase, radius)
          expect(isClosedAndOriented(flared)).toBe(true)
          expect(meshVolume(flared)).toBeGreaterThan(meshVolume(plain))
          // No point moved farther than the radius.
          for (let i = 0; i < plain.positions.length; i += 3) {
            const moved = Math.hypot(
              ...[0, 1, 2].map((k) => flared.positions[i + k]! - plain.positions[i + k]!),
            )
            expect(moved).toBeLessThanOrEqual(radius + 1e-9)
          }
        },
      ),
      { numRuns: 20 },
    )
  })
})
