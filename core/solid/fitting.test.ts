import fc from 'fast-check'
import Module from 'manifold-3d'
import { beforeAll, describe, expect, it } from 'vitest'
import { centroid } from '../measure/assembly-figures'
import { isClosedAndOriented, meshArea, meshVolume } from '../measure/mesh-measures'
import { assemble, BODY, type PlannedPart } from './assemble'
import { plateMesh, tubeMesh } from './fitting'
import type { Kernel } from './kernel'
import { ON_AXIS } from './placement'

let kernel: Kernel
beforeAll(async () => {
  kernel = await Module()
  kernel.setup()
})

const tube = (points: [number, number, number][], flat = 1, ends: 'flat' | 'round' = 'flat') =>
  tubeMesh({ points: points.map(([x, z, mm]) => ({ x, z, mm })), flat, ends }, 96)
const polygonShare = (n: number) => (n / (2 * Math.PI)) * Math.sin((2 * Math.PI) / n)

describe('tubes', () => {
  it('a straight one is a cylinder, or flattened an elliptic one, or a capsule with round ends', () => {
    const share = polygonShare(96)
    expect(meshVolume(tube([[10, 0, 8], [10, 30, 8]])) / (share * Math.PI * 16 * 30)).toBeCloseTo(1, 9) // prettier-ignore
    expect(meshVolume(tube([[10, 0, 8], [10, 30, 8]], 0.5)) / (share * Math.PI * 8 * 30)).toBeCloseTo(1, 9) // prettier-ignore
    const capsule = tube([[10, 0, 8], [10, 30, 8]], 1, 'round') // prettier-ignore
    expect(meshVolume(capsule) / (Math.PI * 16 * 30 + (4 / 3) * Math.PI * 64)).toBeCloseTo(1, 1)
    expect(centroid(capsule)[2]).toBeCloseTo(15, 6)
  })

  it('a half ring has the volume of Pappus and Guldinus', () => {
    const points = Array.from({ length: 9 }, (_, k): [number, number, number] => {
      const a = (Math.PI * k) / 8 - Math.PI / 2
      return [30 + 20 * Math.cos(a), 50 + 20 * Math.sin(a), 6]
    })
    const mesh = tube(points)
    expect(isClosedAndOriented(mesh)).toBe(true)
    expect(meshVolume(mesh) / (Math.PI * 9 * Math.PI * 20)).toBeCloseTo(1, 2)
    expect(meshArea(mesh) / (2 * Math.PI * 3 * Math.PI * 20 + 2 * Math.PI * 9)).toBeCloseTo(1, 2)
  })

  it('between two sizes it never swells beyond them (property)', () => {
    const size = fc.double({ min: 1, max: 6, noNaN: true })
    fc.assert(
      fc.property(fc.array(size, { minLength: 2, maxLength: 7 }), (sizes) => {
        const { positions } = tube(sizes.map((mm, k) => [20, 15 * k, mm]))
        for (let i = 0; i < positions.length; i += 3) {
          const k = Math.min(sizes.length - 2, Math.floor(positions[i + 2]! / 15))
          const r = Math.hypot(positions[i]! - 20, positions[i + 1]!)
          expect(r).toBeLessThanOrEqual(Math.max(sizes[k]!, sizes[k + 1]!) / 2 + 1e-9)
        }
      }),
    )
  })

  it('refuses a bend sharper than it is thick, and ways of no length', () => {
    expect(() => tube([[0, 0, 20], [10, 10, 20], [0, 20, 20]])).toThrow(/bends more sharply than it is thick near/) // prettier-ignore
    expect(() => tube([[0, 0, 2]])).toThrow(/two points/)
    expect(() => tube([[0, 0, 2], [0, 0, 2]])).toThrow(/lie on each other/) // prettier-ignore
    expect(() => tube([[0, 0, 2], [0, 9, 0]])).toThrow(/⌀ at point 2/) // prettier-ignore
  })
})

describe('plates', () => {
  const square = [
    { x: 20, z: 0 },
    { x: 60, z: 0 },
    { x: 60, z: 30 },
    { x: 20, z: 30 },
  ]

  it('a sharp one is a prism, whichever way its outline was drawn', () => {
    for (const points of [square, [...square].reverse()]) {
      const mesh = plateMesh({ points, widthMm: 5, roundMm: 0, smooth: false })
      expect(meshVolume(mesh)).toBeCloseTo(40 * 30 * 5, 6)
      expect(isClosedAndOriented(mesh)).toBe(true)
    }
  })

  it('rounded edges take from every edge what a quarter circle leaves of its square', () => {
    const r = 2
    const mesh = plateMesh({ points: square, widthMm: 5, roundMm: r, smooth: false })
    // The quarter circle is one of six chords.
    const along = 2 * (2 * 40 + 2 * 30) * (1 - (polygonShare(24) * Math.PI) / 4) * r * r
    // At the corners two such edges meet; what they take twice is of third order.
    expect(40 * 30 * 5 - meshVolume(mesh)).toBeGreaterThan(along * 0.93)
    expect(40 * 30 * 5 - meshVolume(mesh)).toBeLessThan(along)
    expect(isClosedAndOriented(mesh)).toBe(true)
  })

  it('a smooth outline through eight points of a circle is a disc', () => {
    const points = Array.from({ length: 8 }, (_, k) => ({ x: 40 + 15 * Math.cos((k * Math.PI) / 4), z: 20 + 15 * Math.sin((k * Math.PI) / 4) })) // prettier-ignore
    const mesh = plateMesh({ points, widthMm: 4, roundMm: 2, smooth: true })
    expect(isClosedAndOriented(mesh)).toBe(true)
    // A disc with a half-round edge: the core, and half a torus about it.
    const core = Math.PI * 13 * 13 * 4
    const edge = ((Math.PI * 4) / 2) * 2 * Math.PI * (13 + 8 / (3 * Math.PI))
    expect(meshVolume(mesh) / (core + edge)).toBeCloseTo(1, 2)
  })

  it('refuses what can’t be', () => {
    const crossed = [square[0]!, square[2]!, square[1]!, square[3]!]
    const plate = { points: square, widthMm: 5, roundMm: 0, smooth: false }
    expect(() => plateMesh({ ...plate, points: crossed })).toThrow(/crosses itself/)
    expect(() => plateMesh({ ...plate, roundMm: 3 })).toThrow(/half of its width/)
    expect(() => plateMesh({ ...plate, widthMm: 60, roundMm: 20 })).toThrow(/too narrow/)
    expect(() => plateMesh({ ...plate, points: square.slice(0, 2) })).toThrow(/three points/)
    expect(() => plateMesh({ ...plate, widthMm: 0 })).toThrow(/more than 0/)
  })
})

describe('a handle', () => {
  it('joins the wall of a cup from outside and keeps out of its inside', () => {
    const flat = (points: number[]) => ({ points: Float64Array.from(points), corner: new Uint8Array(points.length / 2).fill(1), segmentStart: Uint32Array.from({ length: points.length / 2 }, (_, k) => k) }) // prettier-ignore
    // A cup of 40 mm radius with a wall of 3 mm.
    const body = { flat: flat([0, 0, 40, 0, 40, 90, 37, 90, 37, 4, 0, 4]), sides: 64, surfaces: [0, 0, 0, 0, 0], cavity: Float64Array.from([0, 4, 37, 4, 37, 90, 0, 90]) } // prettier-ignore
    const handle: PlannedPart = {
      id: 'h',
      name: 'Handle',
      relation: 'added',
      target: BODY,
      place: ON_AXIS,
      copies: [0],
      surface: 1,
      // Both ends are drawn well into the cup.
      shape: { kind: 'tube', flat: 1.4, ends: 'flat', points: [{ x: 25, z: 75, mm: 8 }, { x: 60, z: 72, mm: 8 }, { x: 66, z: 45, mm: 7 }, { x: 56, z: 22, mm: 7 }, { x: 25, z: 18, mm: 8 }] }, // prettier-ignore
    }
    const { solids, problems } = assemble(kernel, { body, parts: [handle], surfaces: 2 })
    expect(problems).toEqual([])
    expect(solids[0]!.pieces).toBe(1)
    expect(isClosedAndOriented(solids[0]!.mesh)).toBe(true)
    const { positions } = solids[0]!.mesh
    // Nothing of it lies inside, but for the float32 of the wall itself.
    for (let i = 0; i < positions.length; i += 3) {
      const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!]
      if (z > 4.01) expect(Math.hypot(x, y)).toBeGreaterThan(37 * Math.cos(Math.PI / 64) - 1e-3)
    }
    // A full ring of a handle: one hole through, which a cup's outside hasn't.
    expect(solids[0]!.volumeMm3 - meshVolume(assemble(kernel, { body, parts: [], surfaces: 2 }).plain)).toBeGreaterThan(3000) // prettier-ignore
  })
})
