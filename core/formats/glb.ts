import type { ShadingBuffers } from '../solid/shading'
import { encodeText } from './text'

export const glb = {
  name: 'GLB',
  extension: 'glb',
  mediaType: 'model/gltf-binary',
  toBytes: writeGlb,
} as const

export interface GlbMaterial {
  name: string
  /** Linear red, green, blue. */
  colour: readonly [number, number, number]
  metallic: number
  roughness: number
  ior?: number
  /** Of the wall that light goes through, m. */
  thickness?: number
  /** Laid over the colour by the texture coordinates. */
  picture?: GlbPicture
  /** Laid over the picture: roughness in green and metal in blue, and bumps as normals in the surface's own frame. */
  roughnessFile?: GlbFile
  normalsFile?: GlbFile
}

export interface GlbFile {
  bytes: Uint8Array
  mediaType: 'image/png' | 'image/jpeg'
}

/** A picture on a surface: a file, and [a b c d e f] from texture coordinates u, v in mm to s = a u + b v + c to the right, t = d u + e v + f up. */
export interface GlbPicture extends GlbFile {
  matrix: readonly [number, number, number, number, number, number]
}

export interface GlbSolid {
  name: string
  /** mm, z up. */
  buffers: ShadingBuffers
  /** Which material the triangles have, from an index on. */
  runs: readonly { from: number; material: number }[]
}

/** What is written: solids that share materials. */
export interface GlbScene {
  name: string
  solids: readonly GlbSolid[]
  materials: readonly GlbMaterial[]
  /** Facts of the piece for programs and people, as they are. */
  extras: Record<string, string | number>
  /** The same with fewer triangles, each in a scene of its own: readers show the first scene, and find the others by name. */
  levels?: readonly Pick<GlbScene, 'name' | 'solids' | 'extras'>[]
}

/** Numbers that stand for kinds in glTF 2.0. */
const FLOAT = 5126
const UNSIGNED_INT = 5125
const ARRAY_BUFFER = 34962
const ELEMENT_ARRAY_BUFFER = 34963
const LINEAR = 9729
const LINEAR_MIPMAP_LINEAR = 9987
const REPEAT = 10497

/** The binary part while it is put together: views follow each other without gaps, as all are made of four-byte numbers. */
class BinaryPart {
  readonly views: { buffer: 0; byteOffset: number; byteLength: number; target: number }[] = []
  readonly accessors: object[] = []
  readonly data: (Float32Array | Uint32Array | Uint8Array)[] = []
  length = 0

  /** A picture file, filled up to four bytes. @returns the number of its view */
  addFile(bytes: Uint8Array): number {
    const data = padded(bytes, 0)
    this.pictureViews.push({ buffer: 0, byteOffset: this.length, byteLength: bytes.length })
    this.data.push(data)
    this.length += data.byteLength
    return this.pictureViews.length - 1
  }
  readonly pictureViews: object[] = []

  /** @returns the number of the accessor */
  add(
    data: Float32Array | Uint32Array,
    type: 'VEC4' | 'VEC3' | 'VEC2' | 'SCALAR',
    facts: object = {},
  ): number {
    const floats = data instanceof Float32Array
    const target = floats ? ARRAY_BUFFER : ELEMENT_ARRAY_BUFFER
    this.views.push({ buffer: 0, byteOffset: this.length, byteLength: data.byteLength, target })
    this.data.push(data)
    this.length += data.byteLength
    const count = data.length / { VEC4: 4, VEC3: 3, VEC2: 2, SCALAR: 1 }[type]
    const componentType = floats ? FLOAT : UNSIGNED_INT
    return (
      this.accessors.push({ bufferView: this.views.length - 1, componentType, count, type, ...facts }) - 1
    )
  }
}

/**
 * glTF 2.0 in one binary file: metres, y up, the foot's middle at the origin of the piece's node, each solid a mesh with one
 * primitive a material, texture coordinates in mm (first along the grain); transparent materials by KHR_materials_transmission, _ior and _volume.
 */
export function writeGlb({ materials, levels = [], ...own }: GlbScene): Uint8Array<ArrayBuffer> {
  const binary = new BinaryPart()
  const transparent = materials.some((m) => m.ior !== undefined)
  const nodes: object[] = []
  const meshes: object[] = []
  const scenes = [own, ...levels].map(({ name, solids, extras }) => {
    const first = meshes.length
    meshes.push(...solids.map((s) => ({ name: s.name, primitives: primitivesOf(s, materials, binary) })))
    const root = nodes.length
    if (solids.length === 1) nodes.push({ name, mesh: first, extras })
    else {
      nodes.push({ name, children: solids.map((_, k) => root + 1 + k), extras })
      nodes.push(...solids.map((s, k) => ({ name: s.name, mesh: first + k })))
    }
    return { name, nodes: [root] }
  })
  // Views of pictures come behind those of the meshes.
  const pictures: GlbFile[] = [...new Set(materials.flatMap((m) => [m.picture, m.roughnessFile, m.normalsFile].flatMap((f) => f ?? [])))] // prettier-ignore
  const textureOf = (file?: GlbFile) => (file ? { index: pictures.indexOf(file) } : undefined)
  const files = pictures.map((p) => binary.addFile(p.bytes))
  const json = {
    asset: { version: '2.0', generator: 'Baldacchino' },
    ...(transparent && {
      extensionsUsed: ['KHR_materials_transmission', 'KHR_materials_ior', 'KHR_materials_volume'],
    }),
    scene: 0,
    scenes,
    nodes,
    meshes,
    materials: materials.map((m) => materialJson(m, textureOf)),
    ...(pictures.length > 0 && {
      images: pictures.map(({ mediaType }, k) => ({
        mimeType: mediaType,
        bufferView: binary.views.length + files[k]!,
      })),
      samplers: [{ magFilter: LINEAR, minFilter: LINEAR_MIPMAP_LINEAR, wrapS: REPEAT, wrapT: REPEAT }],
      textures: pictures.map((_, source) => ({ source, sampler: 0 })),
    }),
    accessors: binary.accessors,
    bufferViews: [...binary.views, ...binary.pictureViews],
    buffers: [{ byteLength: binary.length }],
  }
  const text = padded(encodeText(JSON.stringify(json)), 0x20)
  const bytes = new Uint8Array(12 + 8 + text.length + 8 + binary.length)
  const head = new DataView(bytes.buffer)
  const word = (at: number, value: number) => head.setUint32(at, value, true)
  word(0, 0x46546c67)
  word(4, 2)
  word(8, bytes.length)
  word(12, text.length)
  word(16, 0x4e4f534a)
  bytes.set(text, 20)
  word(20 + text.length, binary.length)
  word(24 + text.length, 0x004e4942)
  let at = 28 + text.length
  for (const data of binary.data) {
    bytes.set(new Uint8Array(data.buffer, data.byteOffset, data.byteLength), at)
    at += data.byteLength
  }
  return bytes
}

function primitivesOf(
  { buffers, runs }: GlbSolid,
  materials: readonly GlbMaterial[],
  binary: BinaryPart,
): object[] {
  const positions = turned(buffers.positions, 0.001)
  const normals = turned(buffers.normals, 1)
  const attributes = {
    POSITION: binary.add(positions, 'VEC3', bounds(positions)),
    NORMAL: binary.add(normals, 'VEC3'),
  }
  // In mm, for those without a picture.
  let plain: number | null = null
  const used = [...new Set(runs.map((r) => r.material))].sort((a, b) => a - b)
  return used.map((material) => {
    const parts = runs.flatMap((r, k) =>
      r.material === material ? [buffers.indices.subarray(r.from, runs[k + 1]?.from)] : [],
    )
    const indices = new Uint32Array(parts.reduce((n, part) => n + part.length, 0))
    let at = 0
    for (const part of parts) {
      indices.set(part, at)
      at += part.length
    }
    const { picture, normalsFile } = materials[material] ?? {}
    // A picture brings texture coordinates of its own, 0 to 1 over it; bumps also say which way is right on the surface.
    const placed = picture && buffers.uvs && onPicture(buffers.uvs, picture.matrix)
    const coordinates = (uvs: Float32Array) =>
      placed ? binary.add(placed, 'VEC2') : (plain ??= binary.add(uvs, 'VEC2'))
    const own = {
      ...(buffers.uvs && { TEXCOORD_0: coordinates(buffers.uvs) }),
      ...(placed && normalsFile && { TANGENT: binary.add(tangentsOf(positions, normals, placed, indices), 'VEC4') }), // prettier-ignore
    }
    return { attributes: { ...attributes, ...own }, indices: binary.add(indices, 'SCALAR'), material }
  })
}

/** Places on a picture, from its upper left corner as glTF counts them. */
function onPicture(uvs: Float32Array, [a, b, c, d, e, f]: GlbPicture['matrix']): Float32Array {
  const out = new Float32Array(uvs.length)
  for (let i = 0; i < uvs.length; i += 2) {
    const [u, v] = [uvs[i]!, uvs[i + 1]!]
    out[i] = a * u + b * v + c
    out[i + 1] = 1 - (d * u + e * v + f)
  }
  return out
}

/**
 * Unit tangents to the right over a picture, and 1 or -1 by whether up lies to the left of them seen from outside (as glTF 2.0
 * has them): of each triangle from its places on the picture, summed at the vertices and made square to the normals.
 */
function tangentsOf(p: Float32Array, n: Float32Array, st: Float32Array, indices: Uint32Array): Float32Array {
  const count = p.length / 3
  const right = new Float64Array(p.length)
  const up = new Float64Array(p.length)
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i]!, indices[i + 1]!, indices[i + 2]!]
    const [s1, s2] = [st[2 * b]! - st[2 * a]!, st[2 * c]! - st[2 * a]!]
    // glTF counts down the picture.
    const [t1, t2] = [st[2 * a + 1]! - st[2 * b + 1]!, st[2 * a + 1]! - st[2 * c + 1]!]
    const area = s1 * t2 - s2 * t1
    if (area === 0) continue
    for (let k = 0; k < 3; k++) {
      const [u, v] = [p[3 * b + k]! - p[3 * a + k]!, p[3 * c + k]! - p[3 * a + k]!]
      for (const vertex of [a, b, c]) {
        right[3 * vertex + k]! += (u * t2 - v * t1) / area
        up[3 * vertex + k]! += (v * s1 - u * s2) / area
      }
    }
  }
  const out = new Float32Array(4 * count)
  for (let i = 0; i < count; i++) {
    const at = (list: Float32Array | Float64Array) =>
      [list[3 * i]!, list[3 * i + 1]!, list[3 * i + 2]!] as const
    const [x, y, z] = at(n)
    const [rx, ry, rz] = at(right)
    const lean = x * rx + y * ry + z * rz
    let [tx, ty, tz] = [rx - lean * x, ry - lean * y, rz - lean * z]
    const size = Math.hypot(tx, ty, tz)
    // Where nothing says, any direction square to the normal will do.
    if (size > 0) [tx, ty, tz] = [tx / size, ty / size, tz / size]
    else [tx, ty, tz] = Math.abs(x) < 0.9 ? unitOf(0, z, -y) : unitOf(-z, 0, x)
    const [ux, uy, uz] = at(up)
    const side = ux * (y * tz - z * ty) + uy * (z * tx - x * tz) + uz * (x * ty - y * tx)
    out.set([tx, ty, tz, side < 0 ? -1 : 1], 4 * i)
  }
  return out
}

function unitOf(x: number, y: number, z: number): [number, number, number] {
  const size = Math.hypot(x, y, z)
  return [x / size, y / size, z / size]
}

function materialJson(material: GlbMaterial, textureOf: (file?: GlbFile) => object | undefined): object {
  const { picture, roughnessFile, normalsFile } = material
  return {
    name: material.name,
    pbrMetallicRoughness: {
      baseColorFactor: [...material.colour, 1],
      metallicFactor: material.metallic,
      // With a picture of it the roughness is all the picture's.
      roughnessFactor: roughnessFile ? 1 : material.roughness,
      ...(picture && { baseColorTexture: textureOf(picture) }),
      ...(roughnessFile && { metallicRoughnessTexture: textureOf(roughnessFile) }),
    },
    ...(normalsFile && { normalTexture: textureOf(normalsFile) }),
    ...(material.ior !== undefined && {
      extensions: {
        KHR_materials_transmission: { transmissionFactor: 1 },
        KHR_materials_ior: { ior: material.ior },
        KHR_materials_volume: { thicknessFactor: material.thickness ?? 0 },
      },
    }),
  }
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
