import Module from 'manifold-3d'
import { beforeAll, describe, expect, it } from 'vitest'
import { flatten } from '../profile/flatten'
import { profileSegments } from '../profile/profile-segments'
import { node } from '../profile/test-samples'
import { assemble, BODY } from './assemble'
import type { Kernel } from './kernel'
import { ON_AXIS } from './placement'
import { shadingBuffers, type ShadingBuffers } from './shading'

let kernel: Kernel
beforeAll(async () => {
  kernel = await Module()
  kernel.setup()
})

const vase = flatten(
  profileSegments([
    node(0, 0),
    node(30, 0, 'corner', { next: 'curve', handles: [8, 20, 4, -25] }),
    node(18, 90, 'smooth', { next: 'line' }),
    node(18, 110),
    node(0, 110),
  ]),
)

/** Of each triangle: its area on the surface and unrolled, mm². */
function areas({ positions: p, uvs, indices }: ShadingBuffers): { solid: number; flat: number }[] {
  const out: { solid: number; flat: number }[] = []
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i]!, indices[i + 1]!, indices[i + 2]!]
    const d = (k: number, v: number) => p[3 * v + k]! - p[3 * a + k]!
    const [ux, uy, uz, vx, vy, vz] = [d(0, b), d(1, b), d(2, b), d(0, c), d(1, c), d(2, c)]
    const t = (k: number, v: number) => uvs![2 * v + k]! - uvs![2 * a + k]!
    out.push({
      solid: Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2,
      flat: Math.abs(t(0, b) * t(1, c) - t(1, b) * t(0, c)) / 2,
    })
  }
  return out
}

describe('texture coordinates', () => {
  it.each([8, 96])('have the density of the surface everywhere, in mm (%d sides)', (sides) => {
    const all = areas(shadingBuffers(vase, sides, undefined, { seam: 1, way: 'even' }))
    // A side is a chord in space and an arc unrolled.
    const chord = Math.sin(Math.PI / sides) / (Math.PI / sides)
    for (const { solid, flat } of all) if (solid > 1e-3) expect(flat / solid).toBeGreaterThan(0.97 * chord)
    for (const { solid, flat } of all) if (solid > 1e-3) expect(flat / solid).toBeLessThan(1.03 / chord)
  })

  it('run along the axis first, and part at the seam only', () => {
    const { positions, uvs } = shadingBuffers(vase, 64, undefined, { seam: Math.PI / 2, way: 'even' })
    const at = (x: number, y: number, z: number) => {
      const found: [number, number][] = []
      for (let v = 0; v < positions.length / 3; v++)
        if (Math.hypot(positions[3 * v]! - x, positions[3 * v + 1]! - y, positions[3 * v + 2]! - z) < 1e-3)
          found.push([uvs![2 * v]!, uvs![2 * v + 1]!])
      return found
    }
    // On the straight neck: opposite the seam the middle, at the seam both ends of half a turn each.
    const middle = at(0, -18, 110)
    expect(middle.some(([, v]) => Math.abs(v) < 1e-3)).toBe(true)
    const low = at(0, -18, 90)[0]![0]
    expect(middle.some(([u]) => Math.abs(u - low - 20) < 1e-3)).toBe(true)
    const seam = at(0, 18, 110).map(([, v]) => v)
    for (const end of [-18 * Math.PI, 18 * Math.PI])
      expect(seam.some((v) => Math.abs(v - end) < 1e-3)).toBe(true)
  })

  it('or, grain straight: what lies along the profile lies along the grain', () => {
    const { positions, normals, uvs } = shadingBuffers(vase, 16, undefined, { seam: 0, way: 'straight' })
    const byAngle = new Map<number, Set<number>>()
    for (let v = 0; v < positions.length / 3; v++) {
      const [x, y] = [positions[3 * v]!, positions[3 * v + 1]!]
      if (Math.hypot(x, y) < 1 || Math.abs(normals[3 * v + 2]!) > 0.99 || Math.abs(Math.atan2(y, x)) < 0.01)
        continue
      const angle = Math.round((Math.atan2(y, x) * 8) / Math.PI)
      byAngle.set(angle, (byAngle.get(angle) ?? new Set()).add(Math.round(1e3 * uvs![2 * v + 1]!)))
    }
    expect(byAngle.size).toBe(15)
    for (const across of byAngle.values()) expect(across.size).toBe(1)
  })

  it('cover the same mesh as without', () => {
    const [plain, mapped] = [
      shadingBuffers(vase, 24),
      shadingBuffers(vase, 24, undefined, { seam: 0, way: 'even' }),
    ]
    expect(mapped.indices.length).toBe(plain.indices.length)
    const total = (b: ShadingBuffers) => areas({ ...b, uvs: b.uvs ?? new Float32Array(b.positions.length) }).reduce((n, a) => n + a.solid, 0) // prettier-ignore
    expect(total(mapped)).toBeCloseTo(total(plain), 3)
  })

  it('go through booleans with the surface they belong to', () => {
    const surfaces = new Array<number>(vase.points.length / 2 - 1).fill(0)
    const hole = { id: 'h', name: 'Hole', relation: 'cut', target: BODY, copies: [0], surface: 1, shape: { kind: 'cylinder', diameterMm: 12, topDiameterMm: 12, heightMm: 200 }, place: { ...ON_AXIS, r: -100, z: 40, lean: Math.PI / 2 } } as const // prettier-ignore
    const { solids } = assemble(kernel, {
      body: { flat: vase, sides: 64, surfaces, mapping: { seam: 0, way: 'even' } },
      parts: [hole],
      surfaces: 2,
    })
    const all = areas(solids[0]!.buffers)
    let off = 0
    for (const { solid, flat } of all) if (solid > 0.01 && Math.abs(flat / solid - 1) > 0.05) off += solid
    // Only facets about the poles of the caps may differ.
    expect(off / all.reduce((n, a) => n + a.solid, 0)).toBeLessThan(0.02)
  })
})
