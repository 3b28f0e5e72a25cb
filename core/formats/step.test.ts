import fc from 'fast-check'
import occt from 'occt-import-js'
import { beforeAll, describe, expect, it } from 'vitest'
import { profileMeasures } from '../measure/profile-measures'
import { meshVolume } from '../measure/mesh-measures'
import { hollowOut } from '../profile/hollow'
import type { ProfileNode } from '../profile/profile'
import { profileSegments } from '../profile/profile-segments'
import type { Segment } from '../profile/segments'
import { node } from '../profile/test-samples'
import { writeStep } from './step'
import { real, stepString } from './step-text'

let reader: Awaited<ReturnType<typeof occt>>
beforeAll(async () => {
  reader = await occt()
})

const bytesOf = (segments: readonly Segment[], name = 'Piece') => writeStep([{ name, segments }], { name, timeStamp: '2026-01-01T00:00:00' }) // prettier-ignore
/** Reads a file with OpenCascade: the solid's triangles, corners at one place made one. */
function read(bytes: Uint8Array) {
  const result = reader.ReadStepFile(bytes, {
    linearUnit: 'millimeter',
    linearDeflectionType: 'absolute_value',
    linearDeflection: 0.01,
    angularDeflection: 0.1,
  })
  expect(result.success).toBe(true)
  expect(result.meshes).toHaveLength(1)
  const { attributes, index, brep_faces: faces } = result.meshes[0]!
  const p = attributes.position.array
  const corners = new Map<string, number>()
  const positions: number[] = []
  const weld = Array.from({ length: p.length / 3 }, (_, i) => {
    const at = [p[3 * i]!, p[3 * i + 1]!, p[3 * i + 2]!]
    const key = at.map((v) => Math.round(v * 1e4)).join()
    const known = corners.get(key)
    if (known !== undefined) return known
    corners.set(key, positions.length / 3)
    positions.push(...at)
    return positions.length / 3 - 1
  })
  const triangles: number[] = []
  for (let i = 0; i < index.array.length; i += 3) {
    const t = [0, 1, 2].map((k) => weld[index.array[i + k]!]!)
    if (new Set(t).size === 3) triangles.push(...t)
  }
  return { mesh: { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) }, faces: faces.length } // prettier-ignore
}
/** Every edge met twice, once each way. */
function closed(triangles: Uint32Array): boolean {
  const edges = new Map<string, number>()
  for (let i = 0; i < triangles.length; i += 3)
    for (const [a, b] of [
      [0, 1],
      [1, 2],
      [2, 0],
    ] as const) {
      const [p, q] = [triangles[i + a]!, triangles[i + b]!]
      edges.set(`${p} ${q}`, (edges.get(`${p} ${q}`) ?? 0) + 1)
    }
  return [...edges].every(([key, n]) => n === 1 && edges.get(key.split(' ').reverse().join(' ')) === 1)
}
const count = (bytes: Uint8Array, kind: string) =>
  new TextDecoder().decode(bytes).split(`=${kind}(`).length - 1
function check(segments: readonly Segment[]) {
  const bytes = bytesOf(segments)
  const { mesh, faces } = read(bytes)
  expect(faces).toBe(segments.length)
  expect(closed(mesh.triangles)).toBe(true)
  // The reader's triangles cut a little off round surfaces, at this deflection.
  expect(Math.abs(meshVolume(mesh) / profileMeasures(segments).volumeMm3 - 1)).toBeLessThan(1e-3)
  return bytes
}
const quarter = Math.tan(Math.PI / 8)

describe('STEP, read by OpenCascade', () => {
  it('cylinder, cone, sphere and torus are what they are, in one closed solid', () => {
    const bytes = check(
      profileSegments([
        node(0, 0),
        node(30, 0, 'corner', { next: 'arc', bulge: quarter }),
        node(35, 5),
        node(35, 40),
        node(20, 60),
        node(20, 70, 'corner', { next: 'arc', bulge: -quarter }),
        node(15, 75),
        // A ball cap about (0, 75).
        node(15, 75.0001),
        node(0, 90),
      ].slice(0, 7).concat([node(0, 75)])), // prettier-ignore
    )
    expect(count(bytes, 'CYLINDRICAL_SURFACE')).toBe(2)
    expect(count(bytes, 'CONICAL_SURFACE')).toBe(1)
    expect(count(bytes, 'TOROIDAL_SURFACE')).toBe(2)
    expect(count(bytes, 'PLANE')).toBe(2)
    expect(count(bytes, 'MANIFOLD_SOLID_BREP')).toBe(1)
    expect(count(bytes, 'SURFACE_OF_REVOLUTION')).toBe(0)
  })

  it('a ball is one sphere, a cone comes to a point, a lemon is a surface of revolution', () => {
    const ball = check(profileSegments([node(0, 0, 'smooth', { next: 'arc', bulge: 1 }), node(0, 80)]))
    expect(count(ball, 'SPHERICAL_SURFACE')).toBe(1)
    check(profileSegments([node(0, 0), node(25, 0), node(0, 70)]))
    check(profileSegments([node(0, 0), node(25, 40), node(0, 60)]))
    const lemon = check(profileSegments([node(0, 0, 'corner', { next: 'arc', bulge: 0.5 }), node(0, 80)]))
    expect(count(lemon, 'SURFACE_OF_REVOLUTION')).toBe(1)
  })

  it('hollow pieces with curves keep both sides', () => {
    const outer = profileSegments([node(0, 0), node(25, 0, 'corner', { next: 'curve', handles: [14, 20, -2, -30] }), node(18, 90), node(0, 90)]) // prettier-ignore
    const { segments } = hollowOut(outer, { mm: 2, levels: [], floorMm: 3, way: 'inwards', lip: 'round', bore: false }) // prettier-ignore
    const bytes = check(segments)
    expect(count(bytes, 'SURFACE_OF_REVOLUTION')).toBeGreaterThan(1)
  })

  it('any profile of lines, arcs and curves gives a closed solid of its volume (property)', () => {
    const radius = fc.double({ min: 12, max: 40, noNaN: true })
    const kind = fc.constantFrom<Partial<ProfileNode>[]>([{ next: 'line' }], [{ next: 'arc', bulge: 0.25 }], [{ next: 'arc', bulge: -0.2 }], [{ next: 'curve', handles: [3, 5, 2, -6] }]) // prettier-ignore
    fc.assert(
      fc.property(fc.array(fc.tuple(radius, kind), { minLength: 2, maxLength: 6 }), (rows) => {
        const side = rows.map(([r, [segment]], i) => node(Math.round(r * 100) / 100, 20 * i, 'corner', segment)) // prettier-ignore
        side[side.length - 1] = node(side.at(-1)!.r, 20 * (rows.length - 1))
        check(profileSegments([node(0, 0), ...side, node(0, 20 * (rows.length - 1))]))
      }),
      { numRuns: 12 },
    )
  })

  it('is the same for the same time stamp, and names survive', () => {
    const segments = profileSegments([node(0, 0), node(10, 0), node(10, 10), node(0, 10)])
    expect(bytesOf(segments)).toEqual(bytesOf(segments))
    const text = new TextDecoder().decode(bytesOf(segments, "Flacon d'été"))
    expect(text).toContain("'Flacon d''\\X2\\00E9\\X0\\t\\X2\\00E9\\X0\\'")
    expect(text.startsWith('ISO-10303-21;')).toBe(true)
    expect([real(5), real(-0.25), real(1e-9), real(1.5e21)]).toEqual(['5.', '-0.25', '1.E-9', '1.5E21'])
    expect(stepString('a\\b')).toBe("'a\\\\b'")
  })
})
