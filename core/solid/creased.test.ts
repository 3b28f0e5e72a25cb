import { describe, expect, it } from 'vitest'
import { boxMapped, creased } from './creased'
import type { Mesh } from './mesh'

/** A prism about the z axis with so many sides, its ends as fans about their middles. */
function prism(sides: number, radius = 10, height = 20): Mesh {
  const positions: number[] = []
  for (const z of [0, height])
    for (let k = 0; k < sides; k++) {
      const a = (2 * Math.PI * k) / sides
      positions.push(radius * Math.cos(a), radius * Math.sin(a), z)
    }
  positions.push(0, 0, 0, 0, 0, height)
  const triangles: number[] = []
  for (let k = 0; k < sides; k++) {
    const [a, b] = [k, (k + 1) % sides]
    triangles.push(a, b, sides + b, a, sides + b, sides + a)
    triangles.push(b, a, 2 * sides, sides + a, sides + b, 2 * sides + 1)
  }
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) } as Mesh
}
const normalOf = (normals: Float32Array, i: number) => Array.from(normals.subarray(3 * i, 3 * i + 3))
const placeOf = normalOf

describe('normals of a mesh', () => {
  it('are sharp where faces meet at more than the crease: a cube has three a corner', () => {
    const cube = creased(prism(4))
    // Eight corners with three normals each, and the middle of either end.
    expect(cube.positions.length / 3).toBe(8 * 3 + 2)
    for (let i = 0; i < cube.normals.length / 3; i++) {
      const [x, y, z] = normalOf(cube.normals, i)
      expect(Math.hypot(x!, y!, z!)).toBeCloseTo(1, 6)
      // Square to one of its faces: along z, or halfway between x and y.
      expect([0, 1]).toContain(Math.round(1e5 * Math.abs(z!)) / 1e5)
    }
  })

  it('are smooth about a cylinder of many sides, pointing from its axis, and sharp at its rims', () => {
    const { positions, normals, indices } = creased(prism(48))
    expect(positions.length / 3).toBe(2 * 48 * 2 + 2)
    let upright = 0
    for (let i = 0; i < normals.length / 3; i++) {
      const [x, y, z] = normalOf(normals, i)
      if (Math.abs(z!) > 0.5) continue
      upright++
      const [px, py] = placeOf(positions, i)
      // Weighted by area, each of its two faces is cut into unlike triangles: within half a side's angle.
      expect(Math.acos(Math.min(1, (x! * px! + y! * py!) / 10))).toBeLessThan(Math.PI / 48 + 1e-6)
    }
    expect(upright).toBe(96)
    expect(indices.length).toBe(4 * 48 * 3)
  })

  it('keep every face where it was', () => {
    const mesh = prism(7)
    const made = creased(mesh)
    for (let i = 0; i < mesh.triangles.length; i++) {
      const before = mesh.positions.subarray(3 * mesh.triangles[i]!, 3 * mesh.triangles[i]! + 3)
      placeOf(made.positions, made.indices[i]!).forEach((v, k) => expect(v).toBeCloseTo(before[k]!, 5))
    }
  })

  it('take a crease of their own: with a wide one even a cube is smooth', () => {
    expect(creased(prism(4), Math.PI).positions.length / 3).toBe(10)
  })
})

describe('a picture laid on like a box', () => {
  it('is as large as the mesh, in mm, in the plane that the normal is squarest to', () => {
    const { positions, normals, uvs } = boxMapped(creased(prism(4)))
    for (let i = 0; i < positions.length / 3; i++) {
      const [x, y, z] = placeOf(positions, i)
      const [nx, ny, nz] = normalOf(normals, i).map(Math.abs)
      const [u, v] = uvs!.subarray(2 * i, 2 * i + 2)
      if (nz! > 0.9) expect([u, v]).toEqual([x, y])
      else if (nx! >= ny!) expect([u, v]).toEqual([z, y])
      else expect([u, v]).toEqual([z, x])
    }
  })
})
