import Module from 'manifold-3d'
import occt from 'occt-import-js'
import type { Mesh as ThreeMesh } from 'three'
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js'
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js'
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js'
import { strFromU8, unzipSync } from 'fflate'

/** Triangles as some reader of the registry read them: [x y z ...] a corner. */
export type Soup = Float32Array

const arrayBuffer = (bytes: Buffer) => Uint8Array.from(bytes).buffer

export const readStl = (bytes: Buffer): Soup => Float32Array.from(new STLLoader().parse(arrayBuffer(bytes)).getAttribute('position').array) // prettier-ignore

export const readObj = (text: string): Soup[] =>
  new OBJLoader().parse(text).children.map((child) => Float32Array.from((child as ThreeMesh).geometry.getAttribute('position').array)) // prettier-ignore

export function readPly(bytes: Buffer): Soup {
  return Float32Array.from(
    new PLYLoader().parse(arrayBuffer(bytes)).toNonIndexed().getAttribute('position').array,
  )
}

/** The meshes of a 3MF package, by the names of the core specification, in its unit. */
export function read3mf(bytes: Buffer): { unit: string; objects: Soup[] } {
  const model = strFromU8(unzipSync(bytes)['3D/3dmodel.model']!)
  const objects = [...model.matchAll(/<object [^>]*>(.*?)<\/object>/gs)].map(([, body]) => {
    const points = [...body!.matchAll(/<vertex x="([^"]+)" y="([^"]+)" z="([^"]+)"/g)].map((m) =>
      m.slice(1).map(Number),
    )
    const corners = [...body!.matchAll(/<triangle v1="(\d+)" v2="(\d+)" v3="(\d+)"/g)].flatMap((m) => m.slice(1).map(Number)) // prettier-ignore
    return Float32Array.from(corners.flatMap((c) => points[c]!))
  })
  return { unit: /unit="(\w+)"/.exec(model)![1]!, objects }
}

/** What manifold-3d says of triangles once their corners are merged: its status and the volume. */
export async function asManifold(soup: Soup): Promise<{ status: string; volume: number; pieces: number }> {
  const kernel = await Module()
  kernel.setup()
  const mesh = new kernel.Mesh({ numProp: 3, vertProperties: soup, triVerts: Uint32Array.from({ length: soup.length / 3 }, (_, i) => i) }) // prettier-ignore
  mesh.merge()
  try {
    const solid = new kernel.Manifold(mesh)
    return { status: String(solid.status()), volume: solid.volume(), pieces: solid.decompose().length }
  } catch (error) {
    return { status: (error as Error).message, volume: 0, pieces: 0 }
  }
}

/** Solids of a STEP file as OpenCascade reads them, meshed finely: volume, mm³, and how often each edge is met. */
export async function readStep(
  bytes: Buffer,
): Promise<{ solids: number; volume: number; edges: Set<number> }> {
  const reader = await occt()
  const { success, meshes } = reader.ReadStepFile(bytes, { linearUnit: 'millimeter', linearDeflectionType: 'absolute_value', linearDeflection: 0.005, angularDeflection: 0.05 }) // prettier-ignore
  if (!success) return { solids: 0, volume: 0, edges: new Set() }
  let volume = 0
  const met = new Map<string, number>()
  for (const { attributes, index } of meshes) {
    const p = attributes.position.array
    const key = (i: number) => [0, 1, 2].map((k) => Math.round(p[3 * i + k]! * 1e4)).join(' ')
    for (let t = 0; t < index.array.length; t += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => index.array[t + k]!) as [number, number, number]
      const at = (i: number) => [p[3 * i]!, p[3 * i + 1]!, p[3 * i + 2]!] as const
      const [u, v, w] = [at(a), at(b), at(c)]
      volume += (u[0] * (v[1] * w[2] - v[2] * w[1]) + u[1] * (v[2] * w[0] - v[0] * w[2]) + u[2] * (v[0] * w[1] - v[1] * w[0])) / 6 // prettier-ignore
      const keys = [key(a), key(b), key(c)]
      // A triangle of no area at a pole.
      if (new Set(keys).size < 3) continue
      for (let k = 0; k < 3; k++) {
        const edge = [keys[k]!, keys[(k + 1) % 3]!].sort().join('|')
        met.set(edge, (met.get(edge) ?? 0) + 1)
      }
    }
  }
  return { solids: meshes.length, volume, edges: new Set(met.values()) }
}
