import fc from 'fast-check'
import Module from 'manifold-3d'
import { beforeAll, describe, expect, it } from 'vitest'
import { CoreError } from '../errors'
import { isClosedAndOriented, meshArea, meshVolume } from '../measure/mesh-measures'
import { profileMeasures, radiusAt } from '../measure/profile-measures'
import { flatten, type FlatProfile } from '../profile/flatten'
import { profileSegments } from '../profile/profile-segments'
import type { ProfileNode } from '../profile/profile'
import type { Mesh } from './mesh'
import { revolve } from './revolve'
import { shadingBuffers } from './shading'

const line = (...points: [number, number][]): ProfileNode[] =>
  points.map(([r, z], i) => ({ id: String(i), r, z, joint: 'corner', next: 'line' }))
const flatOf = (nodes: ProfileNode[], toleranceMm?: number): FlatProfile =>
  flatten(profileSegments(nodes), { toleranceMm })
const chain = (...points: [number, number][]) => Float64Array.from(points.flat())
/** Dense half circle of radius a about (R, h), from angle `from` to `to`, as points. */
function arc(R: number, h: number, a: number, from: number, to: number, n: number): [number, number][] {
  return Array.from({ length: n + 1 }, (_, i) => {
    const t = from + ((to - from) * i) / n
    return [R + a * Math.cos(t), h + a * Math.sin(t)]
  })
}
/** Area of a regular polygon of circumradius 1 over that of the circle: what N sides cost in volume. */
const polygonShare = (n: number) => (n / (2 * Math.PI)) * Math.sin((2 * Math.PI) / n)

let manifold: Awaited<ReturnType<typeof Module>>
beforeAll(async () => {
  manifold = await Module()
  manifold.setup()
})

/** Volume and genus by manifold-3d, an independent judge; throws when the mesh isn't a closed, oriented manifold. */
function judge(mesh: Mesh): { volume: number; status: string } {
  const solid = new manifold.Manifold(
    new manifold.Mesh({
      numProp: 3,
      vertProperties: Float32Array.from(mesh.positions),
      triVerts: mesh.triangles,
    }),
  )
  try {
    return { volume: solid.volume(), status: solid.status() }
  } finally {
    solid.delete()
  }
}

describe('revolve', () => {
  it('a cylinder has the volume and area of its prism, exactly', () => {
    const mesh = revolve(chain([0, 0], [30, 0], [30, 50], [0, 50]), { sides: 24 })
    const base = 0.5 * 24 * 30 * 30 * Math.sin((2 * Math.PI) / 24)
    const side = 2 * 30 * Math.sin(Math.PI / 24)
    expect(meshVolume(mesh)).toBeCloseTo(base * 50, 6)
    expect(meshArea(mesh)).toBeCloseTo(2 * base + 24 * side * 50, 6)
  })

  it.each([3, 6, 64, 257])('cone and frustum with %d sides: closed form times the polygon share', (sides) => {
    const cone = revolve(chain([0, 0], [21, 0], [0, 90]), { sides })
    expect(meshVolume(cone) / ((Math.PI * 21 ** 2 * 90) / 3)).toBeCloseTo(polygonShare(sides), 10)
    const frustum = revolve(chain([0, 0], [40, 0], [25, 60], [0, 60]), { sides })
    const volume = (Math.PI * 60 * (40 ** 2 + 40 * 25 + 25 ** 2)) / 3
    expect(meshVolume(frustum) / volume).toBeCloseTo(polygonShare(sides), 10)
  })

  it('sphere: 4/3 π R³ and 4 π R² in the limit', () => {
    const points = arc(0, 0, 50, -Math.PI / 2, Math.PI / 2, 400)
    points[0] = [0, -50]
    points[400] = [0, 50]
    const mesh = revolve(chain(...points), { sides: 800 })
    expect(meshVolume(mesh) / ((4 / 3) * Math.PI * 50 ** 3)).toBeCloseTo(1, 4)
    expect(meshArea(mesh) / (4 * Math.PI * 50 ** 2)).toBeCloseTo(1, 4)
  })

  it('half-torus bulge: Pappus-Guldinus, volume 2π·(distance of the centroid)·area', () => {
    // A half disc of radius 10 bulging from a cylinder of radius 40. Its centroid lies 4a/(3π) outside the cylinder.
    const bulge = arc(40, 50, 10, -Math.PI / 2, Math.PI / 2, 600)
    const mesh = revolve(chain([0, 0], [40, 0], ...bulge, [40, 100], [0, 100]), { sides: 1200 })
    const exact =
      Math.PI * 40 ** 2 * 100 + 2 * Math.PI * (40 + (4 * 10) / (3 * Math.PI)) * ((Math.PI * 100) / 2)
    expect(meshVolume(mesh) / exact).toBeCloseTo(1, 4)
  })

  it.each([3, 8, 16, 48, 360])('the silhouette of %d sides errs by r(1 - cos(π/N))', (sides) => {
    const mesh = revolve(chain([0, 0], [100, 0], [100, 10], [0, 10]), { sides })
    let middle = Infinity
    for (let i = 0; i < sides; i++) {
      const a = 3 * (1 + i)
      const b = 3 * (1 + ((i + 1) % sides))
      const { positions: p } = mesh
      middle = Math.min(middle, Math.hypot((p[a]! + p[b]!) / 2, (p[a + 1]! + p[b + 1]!) / 2))
    }
    expect(100 - middle).toBeCloseTo(100 * (1 - Math.cos(Math.PI / sides)), 9)
  })

  it('has one vertex a pole, none doubled at the seam, and 2·sides·rings triangles', () => {
    const mesh = revolve(chain([0, 0], [10, 0], [12, 5], [8, 9], [0, 9]), { sides: 7 })
    expect(mesh.positions.length / 3).toBe(3 * 7 + 2)
    expect(mesh.triangles.length / 3).toBe(2 * 7 * 3)
    const seen = new Set<string>()
    for (let i = 0; i < mesh.positions.length; i += 3) seen.add(mesh.positions.slice(i, i + 3).join())
    expect(seen.size).toBe(mesh.positions.length / 3)
  })

  it('scaled by 1000 it is the same mesh scaled', () => {
    const points: [number, number][] = [[0, 0], [10.3, 0], [12.7, 5.1], [8, 9.9], [0, 9.9]] // prettier-ignore
    const small = revolve(chain(...points), { sides: 31 })
    const large = revolve(chain(...points.map(([r, z]): [number, number] => [1000 * r, 1000 * z])), {
      sides: 31,
    })
    expect(large.triangles).toEqual(small.triangles)
    small.positions.forEach((x, i) => expect(large.positions[i]! / 1000).toBeCloseTo(x, 10))
  })

  it.each([
    [
      'revolve-open',
      [
        [0.3, 0],
        [10, 0],
        [10, 5],
        [0, 5],
      ],
    ],
    [
      'revolve-inner-pole',
      [
        [0, 0],
        [10, 0],
        [0, 3],
        [10, 5],
        [0, 5],
      ],
    ],
    [
      'revolve-too-short',
      [
        [0, 0],
        [0, 5],
      ],
    ],
    [
      'not-finite',
      [
        [0, 0],
        [NaN, 1],
        [0, 5],
      ],
    ],
  ] as [string, [number, number][]][])('refuses with %s', (code, points) => {
    expect(codeOf(() => revolve(chain(...points), { sides: 12 }))).toBe(code)
  })

  it.each([2, 2.5, NaN, 5000])('refuses %d sides', (sides) => {
    expect(codeOf(() => revolve(chain([0, 0], [1, 0], [0, 1]), { sides }))).toBe('revolve-sides')
  })

  it('any profile gives a closed, oriented mesh; manifold-3d agrees and finds the same volume (property)', () => {
    const profile = fc.array(
      fc.tuple(fc.double({ min: 0.5, max: 100, noNaN: true }), fc.double({ min: 0.2, max: 30, noNaN: true })),
      { minLength: 1, maxLength: 25 },
    )
    fc.assert(
      fc.property(profile, fc.integer({ min: 3, max: 40 }), (steps, sides) => {
        let z = 0
        const points: [number, number][] = [
          [0, 0],
          ...steps.map(([r, dz], i): [number, number] => [r, (z += i ? dz : 0)]),
          [0, z + 1],
        ]
        const mesh = revolve(chain(...points), { sides })
        expect(isClosedAndOriented(mesh)).toBe(true)
        const { volume, status } = judge(mesh)
        expect(status).toBe('NoError')
        expect(volume / meshVolume(mesh)).toBeCloseTo(1, 4)
      }),
      { numRuns: 60 },
    )
  })

  it('the check itself sees a missing triangle, a flipped one and a doubled vertex', () => {
    const mesh = revolve(chain([0, 0], [10, 0], [10, 5], [0, 5]), { sides: 5 })
    expect(isClosedAndOriented({ ...mesh, triangles: mesh.triangles.slice(3) })).toBe(false)
    const flipped = mesh.triangles.slice()
    ;[flipped[0], flipped[1]] = [flipped[1]!, flipped[0]!]
    expect(isClosedAndOriented({ ...mesh, triangles: flipped })).toBe(false)
    const doubled = mesh.triangles.slice()
    doubled[1] = mesh.positions.length / 3
    expect(
      isClosedAndOriented({ positions: new Float64Array([...mesh.positions, 10, 0, 0]), triangles: doubled }),
    ).toBe(false)
  })
})

describe('measures of the exact curve', () => {
  const smooth = (r: number, z: number): ProfileNode => ({
    id: `${r}/${z}`,
    r,
    z,
    joint: 'smooth',
    next: 'curve',
  })

  it('agree with closed forms for straight profiles', () => {
    const m = profileMeasures(profileSegments(line([0, 0], [40, 0], [25, 60], [0, 60])))
    const slant = Math.hypot(15, 60)
    expect(m.volumeMm3).toBeCloseTo((Math.PI * 60 * (1600 + 1000 + 625)) / 3, 6)
    expect(m.areaMm2).toBeCloseTo(Math.PI * (1600 + 625 + 65 * slant), 6)
    expect([m.heightMm, m.maxRadiusMm, m.maxRadiusAtMm]).toEqual([60, 40, 0])
  })

  it('find the belly between two nodes', () => {
    const nodes = [
      ...line([0, 0], [20, 0]).map((n, i) => (i === 1 ? { ...n, next: 'curve' as const } : n)),
      smooth(38, 30),
      smooth(30, 70),
      ...line([0, 80]),
    ]
    const segments = profileSegments(nodes)
    const m = profileMeasures(segments)
    const dense = flatten(segments, { toleranceMm: 1e-5 }).points
    let most = 0
    for (let i = 0; i < dense.length; i += 2) most = Math.max(most, dense[i]!)
    expect(m.maxRadiusMm).toBeGreaterThan(38)
    expect(m.maxRadiusMm).toBeCloseTo(most, 4)
    expect(radiusAt(flatten(segments, { toleranceMm: 1e-4 }), m.maxRadiusAtMm)).toBeCloseTo(most, 3)
  })

  it('are the limit of the mesh as rows and sides grow', () => {
    const nodes = [smooth(0, 0), smooth(30, 15), smooth(18, 60), smooth(24, 90), smooth(0, 110)]
    const segments = profileSegments(nodes)
    const m = profileMeasures(segments)
    const mesh = revolve(flatten(segments, { toleranceMm: 1e-4 }).points, { sides: 2000 })
    expect(meshVolume(mesh) / m.volumeMm3).toBeCloseTo(1, 5)
    expect(meshArea(mesh) / m.areaMm2).toBeCloseTo(1, 5)
  })
})

describe('shading buffers', () => {
  const flat = flatOf(line([0, 0], [30, 0], [30, 50], [0, 80]))

  it('cover the same surface as the mesh, with outward unit normals', () => {
    for (const sides of [6, 32]) {
      const buffers = shadingBuffers(flat, sides)
      const mesh = revolve(flat.points, { sides })
      const asMesh: Mesh = { positions: Float64Array.from(buffers.positions), triangles: buffers.indices }
      expect(meshVolume(asMesh)).toBeCloseTo(meshVolume(mesh), 1)
      expect(buffers.indices.length).toBe(mesh.triangles.length)
      for (let i = 0; i < buffers.normals.length; i += 3) {
        expect(Math.hypot(...buffers.normals.slice(i, i + 3))).toBeCloseTo(1, 5)
      }
      for (let i = 0; i < buffers.indices.length; i += 3) expect(facing(buffers, i)).toBeGreaterThan(0)
    }
  })

  /** Dot product of a triangle's plane normal with its first corner's normal. */
  function facing(
    { positions: p, normals: n, indices }: ReturnType<typeof shadingBuffers>,
    i: number,
  ): number {
    const [a, b, c] = [3 * indices[i]!, 3 * indices[i + 1]!, 3 * indices[i + 2]!]
    const u = [0, 1, 2].map((k) => p[b + k]! - p[a + k]!)
    const v = [0, 1, 2].map((k) => p[c + k]! - p[a + k]!)
    const plane = [
      u[1]! * v[2]! - u[2]! * v[1]!,
      u[2]! * v[0]! - u[0]! * v[2]!,
      u[0]! * v[1]! - u[1]! * v[0]!,
    ]
    return plane.reduce((sum, x, k) => sum + x * n[a + k]!, 0)
  }
})

function codeOf(action: () => unknown): string {
  try {
    action()
  } catch (error) {
    if (error instanceof CoreError) return error.code
    throw error
  }
  return 'no error'
}

describe('a part of a turn', () => {
  const quarter = { start: 0.3, sweep: Math.PI / 2 }

  it('of a cylinder holds its share of the prism, closed by two flat ends', () => {
    const mesh = revolve(chain([0, 0], [30, 0], [30, 50], [0, 50]), { sides: 24, turn: quarter })
    // Six of the 24 sides.
    expect(meshVolume(mesh)).toBeCloseTo(6 * 0.5 * 900 * Math.sin((2 * Math.PI) / 24) * 50, 6)
    expect(isClosedAndOriented(mesh)).toBe(true)
    expect(judge(mesh).status).toBe('NoError')
  })

  it('of any profile, hollow ones and points on straight runs among them, is closed and oriented (property)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 5, max: 40, noNaN: true }), { minLength: 2, maxLength: 8 }),
        fc.double({ min: 0.2, max: 6.2, noNaN: true }),
        fc.integer({ min: 0, max: 3 }),
        fc.boolean(),
        (radii, sweep, extra, straight) => {
          const outer = radii.map((r, i): [number, number] => [straight ? 20 : r, 10 * i])
          // More points on the level top, and a bore from it down to a floor.
          const [rim, z] = outer.at(-1)!
          const bore = Math.min(...outer.map(([r]) => r)) - 2
          const top = Array.from({ length: extra }, (_, k): [number, number] => [rim - ((k + 1) * (rim - bore)) / (extra + 1), z]) // prettier-ignore
          const points = chain([0, 0], ...outer, ...top, [bore, z], [bore, z - 3], [0, z - 3])
          const mesh = revolve(points, { sides: 16, turn: { start: 1, sweep } })
          expect(isClosedAndOriented(mesh)).toBe(true)
          const judged = judge(mesh)
          expect(judged.status).toBe('NoError')
          expect(judged.volume).toBeCloseTo(meshVolume(mesh), 0)
          // Its share of the full turn, by the polygons of both.
          const n = Math.max(1, Math.round((16 * sweep) / (2 * Math.PI)))
          const full = meshVolume(revolve(points, { sides: 16 }))
          const share = (n * Math.sin(sweep / n)) / (16 * Math.sin((2 * Math.PI) / 16))
          expect(meshVolume(mesh)).toBeCloseTo(full * share, 4)
        },
      ),
    )
  })
})
