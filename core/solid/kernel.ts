import type { Manifold, ManifoldToplevel, Mesh as KernelMesh } from 'manifold-3d'
import { CoreError } from '../errors'
import type { Mesh } from './mesh'
import type { ShadingBuffers } from './shading'

/** The boolean library, loaded by whoever calls: it is compiled code, which core can't fetch. */
export type Kernel = ManifoldToplevel
export type Body = Manifold

/** Position, normal and texture coordinates. */
const PROPERTIES = 8

/**
 * A drawn mesh as a body of the kernel. Vertices that were split for their normals are one in position again.
 * @param runs triangles of one surface each: where they begin among the indices, and the surface's number
 * @throws CoreError `not-manifold` where the mesh isn't closed
 */
export function toBody(kernel: Kernel, buffers: ShadingBuffers, runs: readonly SurfaceRun[]): Body {
  const { positions, normals, indices, uvs } = buffers
  const count = positions.length / 3
  const vertProperties = new Float32Array(PROPERTIES * count)
  for (let v = 0; v < count; v++) {
    for (let k = 0; k < 3; k++) {
      vertProperties[PROPERTIES * v + k] = positions[3 * v + k]!
      vertProperties[PROPERTIES * v + 3 + k] = normals[3 * v + k]!
    }
    if (uvs) vertProperties.set([uvs[2 * v]!, uvs[2 * v + 1]!], PROPERTIES * v + 6)
  }
  const { from, to } = splitVertices(positions)
  const mesh = new kernel.Mesh({
    numProp: PROPERTIES,
    vertProperties,
    triVerts: indices,
    mergeFromVert: from,
    mergeToVert: to,
    runIndex: Uint32Array.from([...runs.map((r) => r.from), indices.length]),
    runOriginalID: Uint32Array.from(runs.map((r) => r.surface)),
  })
  const body = kernel.Manifold.ofMesh(mesh)
  const status = body.status()
  if (status !== 'NoError' || body.isEmpty()) {
    body.delete()
    throw new CoreError({ code: 'not-manifold', message: `Its shape can’t be worked with (${status}).` })
  }
  return body
}

/** Triangles from an index on belong to one surface: its number tells whose it is after booleans. */
export interface SurfaceRun {
  from: number
  surface: number
}

/** Vertices at one position, as pairs: each but the first, and the first. Found through a hash of their bits, in one go. */
function splitVertices(positions: Float32Array): { from: Uint32Array; to: Uint32Array } {
  const count = positions.length / 3
  // Adding 0 makes -0 the same as 0.
  const bits = new Int32Array(positions.map((v) => v + 0).buffer)
  const size = 2 ** Math.ceil(Math.log2(2 * count + 1))
  const table = new Int32Array(size).fill(-1)
  const [from, to]: [number[], number[]] = [[], []]
  for (let v = 0; v < count; v++) {
    const [x, y, z] = [bits[3 * v]!, bits[3 * v + 1]!, bits[3 * v + 2]!]
    let slot = hashed(x, y, z) & (size - 1)
    for (;;) {
      const known = table[slot]!
      if (known === -1) {
        table[slot] = v
        break
      }
      if (bits[3 * known] === x && bits[3 * known + 1] === y && bits[3 * known + 2] === z) {
        from.push(v)
        to.push(known)
        break
      }
      slot = (slot + 1) & (size - 1)
    }
  }
  return { from: Uint32Array.from(from), to: Uint32Array.from(to) }
}

/** Mixes three words; the multipliers are odd and large, so that nearby numbers spread. */
function hashed(x: number, y: number, z: number): number {
  let h = Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(z, 0xc2b2ae35)
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d)
  return h ^ (h >>> 13)
}

/** What comes out of the kernel: to draw, to write, and whose surface each run of triangles is. */
export interface BodyMesh {
  buffers: ShadingBuffers
  /** One index a point. */
  mesh: Mesh
  runs: SurfaceRun[]
}

/** A body as meshes; normals follow what became of the body they came with. */
export function fromBody(body: Body): BodyMesh {
  const mesh = body.getMesh(0)
  const count = mesh.vertProperties.length / mesh.numProp
  const positions = new Float32Array(3 * count)
  const normals = new Float32Array(3 * count)
  const uvs = new Float32Array(2 * count)
  for (let v = 0; v < count; v++) {
    const at = mesh.numProp * v
    uvs.set([mesh.vertProperties[at + 6]!, mesh.vertProperties[at + 7]!], 2 * v)
    for (let k = 0; k < 3; k++) {
      positions[3 * v + k] = mesh.vertProperties[at + k]!
      normals[3 * v + k] = mesh.vertProperties[at + 3 + k]!
    }
    unit(normals, 3 * v)
  }
  const indices = mesh.triVerts
  const runs = [...mesh.runOriginalID].map((surface, i) => ({ from: mesh.runIndex[i]!, surface }))
  return { buffers: { positions, normals, indices, uvs, endsFrom: indices.length }, mesh: joined(mesh), runs }
}

/** A body's triangles alone. */
export function toMesh(body: Body): Mesh {
  return joined(body.getMesh())
}

function unit(n: Float32Array, at: number): void {
  const length = Math.hypot(n[at]!, n[at + 1]!, n[at + 2]!) || 1
  for (let k = 0; k < 3; k++) n[at + k] = n[at + k]! / length
}

/** The same triangles with one index a position. */
function joined(mesh: KernelMesh): Mesh {
  const count = mesh.vertProperties.length / mesh.numProp
  const target = Uint32Array.from({ length: count }, (_, v) => v)
  mesh.mergeFromVert.forEach((v, i) => (target[v] = mesh.mergeToVert[i]!))
  const index = new Int32Array(count).fill(-1)
  const positions: number[] = []
  const triangles = new Uint32Array(mesh.triVerts.length)
  mesh.triVerts.forEach((v, i) => {
    const root = target[v]!
    if (index[root] === -1) {
      index[root] = positions.length / 3
      const at = mesh.numProp * root
      positions.push(mesh.vertProperties[at]!, mesh.vertProperties[at + 1]!, mesh.vertProperties[at + 2]!)
    }
    triangles[i] = index[root]!
  })
  return { positions: Float64Array.from(positions), triangles }
}
