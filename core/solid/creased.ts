import type { Mesh } from './mesh'
import type { ShadingBuffers } from './shading'

/** Faces that meet at less than this are shaded as one surface, radians: below the 36° of ten sides, which show. */
export const CREASE = (35 * Math.PI) / 180

/**
 * A mesh with normals: smooth over edges that bend less than `crease`, sharp elsewhere. Each corner takes the normals of
 * the faces about its vertex that lie within the crease of its own face, weighted by their area.
 */
export function creased(mesh: Mesh, crease = CREASE): ShadingBuffers {
  const { positions: p, triangles: t } = mesh
  const faces = t.length / 3
  const normals = new Float64Array(3 * faces) // of twice the area's length
  for (let f = 0; f < faces; f++) normals.set(faceNormal(p, t, f), 3 * f)
  const around = facesAround(t, p.length / 3)
  const out = { positions: [] as number[], normals: [] as number[] }
  const indices = new Uint32Array(t.length)
  // Corners of one vertex with one normal share it: the made ones of each vertex, as a linked list.
  const first = new Int32Array(p.length / 3).fill(-1)
  const next: number[] = []
  const limit = Math.cos(crease)
  for (let i = 0; i < t.length; i++) {
    const [vertex, own] = [t[i]!, Math.floor(i / 3)]
    let [x, y, z] = [0, 0, 0]
    for (let k = around.from[vertex]!; k < around.from[vertex + 1]!; k++) {
      const f = around.faces[k]!
      if (f !== own && !isSmooth(normals, own, f, limit)) continue
      x += normals[3 * f]!
      y += normals[3 * f + 1]!
      z += normals[3 * f + 2]!
    }
    const length = Math.sqrt(x * x + y * y + z * z) || 1
    const n = [x / length, y / length, z / length] as const
    let index = first[vertex]!
    while (index !== -1 && !sameNormal(out.normals, index, n)) index = next[index]!
    if (index === -1) {
      index = out.positions.length / 3
      next.push(first[vertex]!)
      first[vertex] = index
      out.positions.push(p[3 * vertex]!, p[3 * vertex + 1]!, p[3 * vertex + 2]!)
      out.normals.push(...n)
    }
    indices[i] = index
  }
  return {
    positions: Float32Array.from(out.positions),
    normals: Float32Array.from(out.normals),
    indices,
    endsFrom: indices.length,
  }
}

/** Parts of unit normals that differ by less than this are the same to the eye and to float32. */
const SAME_NORMAL = 1e-5

function sameNormal(
  normals: readonly number[],
  index: number,
  n: readonly [number, number, number],
): boolean {
  const at = 3 * index
  return (
    Math.abs(normals[at]! - n[0]) < SAME_NORMAL &&
    Math.abs(normals[at + 1]! - n[1]) < SAME_NORMAL &&
    Math.abs(normals[at + 2]! - n[2]) < SAME_NORMAL
  )
}

function faceNormal(p: Float64Array, t: Uint32Array, f: number): [number, number, number] {
  const [a, b, c] = [3 * t[3 * f]!, 3 * t[3 * f + 1]!, 3 * t[3 * f + 2]!]
  const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!]
  const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!]
  return [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
}

/** True where two faces bend by less than the angle of this cosine. */
function isSmooth(n: Float64Array, a: number, b: number, limit: number): boolean {
  const [i, j] = [3 * a, 3 * b]
  const [ax, ay, az, bx, by, bz] = [n[i]!, n[i + 1]!, n[i + 2]!, n[j]!, n[j + 1]!, n[j + 2]!]
  const size = Math.sqrt((ax * ax + ay * ay + az * az) * (bx * bx + by * by + bz * bz))
  return size > 0 && ax * bx + ay * by + az * bz >= limit * size
}

/** Faces about each vertex, as runs of one list. */
function facesAround(t: Uint32Array, vertices: number): { from: Uint32Array; faces: Uint32Array } {
  const from = new Uint32Array(vertices + 1)
  for (const v of t) from[v + 1]!++
  for (let v = 0; v < vertices; v++) from[v + 1]! += from[v]!
  const next = from.slice()
  const faces = new Uint32Array(t.length)
  t.forEach((v, i) => (faces[next[v]!++] = Math.floor(i / 3)))
  return { from, faces }
}

/**
 * The same buffers with texture coordinates in mm: each vertex as it lies in the plane that its normal is squarest to, grain
 * upwards on what stands, along +x on what lies.
 */
export function boxMapped(buffers: ShadingBuffers): ShadingBuffers {
  const { positions: p, normals: n } = buffers
  const uvs = new Float32Array((2 * p.length) / 3)
  for (let i = 0; i < p.length; i += 3) {
    const [nx, ny, nz] = [Math.abs(n[i]!), Math.abs(n[i + 1]!), Math.abs(n[i + 2]!)]
    const [x, y, z] = [p[i]!, p[i + 1]!, p[i + 2]!]
    uvs.set(nz >= nx && nz >= ny ? [x, y] : nx >= ny ? [z, y] : [z, x], (2 * i) / 3)
  }
  return { ...buffers, uvs }
}
