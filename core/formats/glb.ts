import type { ShadingBuffers } from '../solid/shading'
import { encodeText } from './text'

export const glb = {
  name: 'GLB',
  extension: 'glb',
  mediaType: 'model/gltf-binary',
  toBytes: writeGlb,
} as const

/** What the file says beside the shape. */
export interface GlbFacts {
  name: string
  material: {
    name: string
    /** Linear red, green, blue. */
    colour: readonly [number, number, number]
    metallic: number
    roughness: number
    ior?: number
    /** Of the wall that light goes through, m. */
    thickness?: number
  }
  /** Facts of the piece for programs and people, as they are. */
  extras: Record<string, string | number>
}

/** Numbers that stand for kinds in glTF 2.0. */
const FLOAT = 5126
const UNSIGNED_INT = 5125
const ARRAY_BUFFER = 34962
const ELEMENT_ARRAY_BUFFER = 34963

/**
 * glTF 2.0 in one binary file: metres, y up, the foot's middle at the origin of the piece's own node; transparent materials
 * by KHR_materials_transmission, _ior and _volume.
 * @param buffers mm, z up
 */
export function writeGlb(
  buffers: ShadingBuffers,
  { name, material, extras }: GlbFacts,
): Uint8Array<ArrayBuffer> {
  const positions = turned(buffers.positions, 0.001)
  const normals = turned(buffers.normals, 1)
  const { indices } = buffers
  const views = [
    { data: positions, target: ARRAY_BUFFER },
    { data: normals, target: ARRAY_BUFFER },
    { data: indices, target: ELEMENT_ARRAY_BUFFER },
  ]
  let length = 0
  const bufferViews = views.map(({ data, target }) => {
    const view = { buffer: 0, byteOffset: length, byteLength: data.byteLength, target }
    length += data.byteLength
    return view
  })
  const transparent = material.ior !== undefined
  const json = {
    asset: { version: '2.0', generator: 'Baldacchino' },
    ...(transparent && {
      extensionsUsed: ['KHR_materials_transmission', 'KHR_materials_ior', 'KHR_materials_volume'],
    }),
    scene: 0,
    scenes: [{ name, nodes: [0] }],
    nodes: [{ name, mesh: 0, extras }],
    meshes: [{ name, primitives: [{ attributes: { POSITION: 0, NORMAL: 1 }, indices: 2, material: 0 }] }],
    materials: [
      {
        name: material.name,
        pbrMetallicRoughness: {
          baseColorFactor: [...material.colour, 1],
          metallicFactor: material.metallic,
          roughnessFactor: material.roughness,
        },
        ...(transparent && {
          extensions: {
            KHR_materials_transmission: { transmissionFactor: 1 },
            KHR_materials_ior: { ior: material.ior },
            KHR_materials_volume: { thicknessFactor: material.thickness ?? 0 },
          },
        }),
      },
    ],
    accessors: [
      {
        bufferView: 0,
        componentType: FLOAT,
        count: positions.length / 3,
        type: 'VEC3',
        ...bounds(positions),
      },
      { bufferView: 1, componentType: FLOAT, count: normals.length / 3, type: 'VEC3' },
      { bufferView: 2, componentType: UNSIGNED_INT, count: indices.length, type: 'SCALAR' },
    ],
    bufferViews,
    buffers: [{ byteLength: length }],
  }
  const text = padded(encodeText(JSON.stringify(json)), 0x20)
  const bytes = new Uint8Array(12 + 8 + text.length + 8 + length)
  const head = new DataView(bytes.buffer)
  const word = (at: number, value: number) => head.setUint32(at, value, true)
  word(0, 0x46546c67)
  word(4, 2)
  word(8, bytes.length)
  word(12, text.length)
  word(16, 0x4e4f534a)
  bytes.set(text, 20)
  word(20 + text.length, length)
  word(24 + text.length, 0x004e4942)
  let at = 28 + text.length
  for (const { data } of views) {
    bytes.set(new Uint8Array(data.buffer, data.byteOffset, data.byteLength), at)
    at += data.byteLength
  }
  return bytes
}

/** From z up to y up: a quarter turn about x. */
function turned(xyz: Float32Array, scale: number): Float32Array {
  const out = new Float32Array(xyz.length)
  for (let i = 0; i < xyz.length; i += 3) {
    out[i] = xyz[i]! * scale
    out[i + 1] = xyz[i + 2]! * scale
    out[i + 2] = -xyz[i + 1]! * scale
  }
  return out
}

function bounds(xyz: Float32Array): { min: number[]; max: number[] } {
  const min = [Infinity, Infinity, Infinity]
  const max = [-Infinity, -Infinity, -Infinity]
  for (let i = 0; i < xyz.length; i++) {
    min[i % 3] = Math.min(min[i % 3]!, xyz[i]!)
    max[i % 3] = Math.max(max[i % 3]!, xyz[i]!)
  }
  return { min, max }
}

/** Chunks end at a multiple of four bytes. */
function padded(bytes: Uint8Array, fill: number): Uint8Array {
  const out = new Uint8Array(Math.ceil(bytes.length / 4) * 4).fill(fill)
  out.set(bytes)
  return out
}
