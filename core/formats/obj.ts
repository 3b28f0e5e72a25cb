import { encoded } from '../picture/raster'
import type { PolyMesh } from '../solid/cage'
import type { Mesh } from '../solid/mesh'
import type { ShadingBuffers } from '../solid/shading'
import type { GlbMaterial } from './glb'
import { encodeText } from './text'

export const obj = { name: 'OBJ', extension: 'obj', mediaType: 'model/obj', toBytes: writeObj } as const

export interface ObjSolid {
  name: string
  mesh: Mesh
  /** The same triangles with texture coordinates in mm and normals. */
  buffers?: ShadingBuffers
  /** Which material the triangles have, from an index on. */
  runs?: readonly { from: number; material: number }[]
}

/** The materials of an OBJ file, which stand in a file of their own. */
export interface ObjMaterials {
  /** Name of that file, as the OBJ file refers to it. */
  fileName: string
  materials: readonly Pick<GlbMaterial, 'name' | 'colour' | 'metallic' | 'roughness' | 'ior'>[]
}

/** What the unit and the upward axis of the numbers are: the format itself has no word for either. */
export interface ObjAxes {
  unit: string
  up: 'y' | 'z'
}
const USUAL_AXES: ObjAxes = { unit: 'mm', up: 'z' }
const remark = ({ unit, up }: ObjAxes) => `# Baldacchino. Unit: ${unit}. Axis: ${up}, up.`

/**
 * Wavefront OBJ text, an object a solid: positions, one a point, and faces, quads where the sides are; with texture coordinates and normals where they
 * are given, and groups by material. One-based indices.
 */
export function writeObj(
  solids: readonly ObjSolid[],
  { materials, axes = USUAL_AXES }: { materials?: ObjMaterials; axes?: ObjAxes } = {},
): Uint8Array<ArrayBuffer> {
  const lines: string[] = [remark(axes)]
  if (materials) lines.push(`mtllib ${materials.fileName}`)
  let [first, firstCorner] = [1, 1]
  for (const { name, mesh, buffers, runs = [] } of solids) {
    const { positions: p, triangles: t } = mesh
    lines.push(`o ${oneWord(name)}`)
    const digits = digitsOf(p)
    for (let i = 0; i < p.length; i += 3)
      lines.push(`v ${digits(p[i]!)} ${digits(p[i + 1]!)} ${digits(p[i + 2]!)}`)
    const uvs = buffers?.uvs
    if (buffers && uvs)
      for (let i = 0; i < uvs.length / 2; i++) {
        const [x, y, z] = [0, 1, 2].map((k) => short(buffers.normals[3 * i + k]!))
        lines.push(`vt ${short(uvs[2 * i]!)} ${short(uvs[2 * i + 1]!)}`, `vn ${x} ${y} ${z}`)
      }
    const corner = (i: number) => {
      const v = t[i]! + first
      if (!buffers || !uvs) return String(v)
      const c = buffers.indices[i]! + firstCorner
      return `${v}/${c}/${c}`
    }
    const begins = new Map(runs.map((run) => [run.from, run.material]))
    for (let i = 0; i < t.length;) {
      const material = begins.get(i)
      if (materials && material !== undefined)
        lines.push(`g ${oneWord(name)}_${oneWord(materials.materials[material]!.name)}`, `usemtl ${oneWord(materials.materials[material]!.name)}`) // prettier-ignore
      // Sides between two rows come as two triangles a-b-c, a-c-d.
      const quad = !begins.has(i + 3) && isQuad(mesh, i) && (!buffers || sameCorners(buffers.indices, i))
      const face = `f ${corner(i)} ${corner(i + 1)} ${corner(i + 2)}`
      lines.push(quad ? `${face} ${corner(i + 5)}` : face)
      i += quad ? 6 : 3
    }
    first += p.length / 3
    if (uvs) firstCorner += uvs.length / 2
  }
  lines.push('')
  return encodeText(lines.join('\n'))
}

/** Corners of a quad lie this near to one plane, as a share of its longer diagonal: rounding, as sides of what is turned are plane. */
const PLANE = 1e-6

/** Two triangles one after the other that are a plane quad a-b-c-d, split from a to c. */
function isQuad({ positions: p, triangles: t }: Mesh, i: number): boolean {
  if (i + 5 >= t.length || t[i] !== t[i + 3] || t[i + 2] !== t[i + 4]) return false
  const [a, b, c, d] = [3 * t[i]!, 3 * t[i + 1]!, 3 * t[i + 2]!, 3 * t[i + 5]!]
  if (b === d) return false
  // Plain numbers: this runs a million times.
  const [x, y, z] = [p[a]!, p[a + 1]!, p[a + 2]!]
  const [bx, by, bz] = [p[b]! - x, p[b + 1]! - y, p[b + 2]! - z]
  const [cx, cy, cz] = [p[c]! - x, p[c + 1]! - y, p[c + 2]! - z]
  const [dx, dy, dz] = [p[d]! - x, p[d + 1]! - y, p[d + 2]! - z]
  const [nx, ny, nz] = [by * cz - bz * cy, bz * cx - bx * cz, bx * cy - by * cx]
  const [mx, my, mz] = [cy * dz - cz * dy, cz * dx - cx * dz, cx * dy - cy * dx]
  const size = Math.sqrt(
    Math.max(cx * cx + cy * cy + cz * cz, (bx - dx) ** 2 + (by - dy) ** 2 + (bz - dz) ** 2),
  )
  // Plane, and both halves on the same side.
  const off = Math.abs(nx * dx + ny * dy + nz * dz)
  return off <= PLANE * size * Math.sqrt(nx * nx + ny * ny + nz * nz) && nx * mx + ny * my + nz * mz > 0
}

/** The shared corners carry the same normal and texture coordinate in both triangles. */
const sameCorners = (indices: Uint32Array, i: number) => indices[i] === indices[i + 3] && indices[i + 2] === indices[i + 4] // prettier-ignore

const oneWord = (name: string) => name.replace(/\s+/g, '_') || 'piece'

/** The materials of an OBJ file (MTL), with the colours, and the roughness and metallic that newer readers take (`Pr`, `Pm`). */
export function writeMtl(materials: ObjMaterials['materials']): Uint8Array<ArrayBuffer> {
  const text = materials.map(({ name, colour, metallic, roughness, ior }) => {
    // Colours of the format are meant for the screen, ours are linear.
    const [r, g, b] = colour.map((c) => short(encoded(c)))
    const shine = Math.round(1000 * (1 - roughness) ** 2)
    return `newmtl ${oneWord(name)}
Kd ${r} ${g} ${b}
Ks ${short(ior ? 0.5 : 0.04 + 0.5 * metallic)} ${short(ior ? 0.5 : 0.04 + 0.5 * metallic)} ${short(ior ? 0.5 : 0.04 + 0.5 * metallic)}
Ns ${shine}
${ior ? `Ni ${ior}\nd 0.25\nillum 7` : 'd 1\nillum 2'}
Pr ${short(roughness)}
Pm ${short(metallic)}
`
  })
  return encodeText(`# Baldacchino\n${text.join('\n')}`)
}

/** Texture coordinates to a thousandth mm; normals need no more either. */
const short = (value: number) => String(Math.round(value * 1e4) / 1e4)

/** Writes numbers of a mesh with nine significant digits of the largest of them: more than a float32 reader keeps. */
function digitsOf(positions: Float64Array): (value: number) => string {
  let most = 0
  for (const v of positions) most = Math.max(most, Math.abs(v))
  const steps = 10 ** Math.min(15, Math.max(0, 8 - Math.floor(Math.log10(most || 1))))
  return (value) => String(Math.round(value * steps) / steps)
}

export const quads = {
  name: 'OBJ of quads',
  extension: 'quads.obj',
  mediaType: 'model/obj',
  toBytes: writeQuadsObj,
} as const

/**
 * A mesh of quads as Wavefront OBJ. Edges that stay sharp are no part of the format: they stand as `#crease a b
 * sharpness` remarks, by one-based indices.
 */
export function writeQuadsObj(
  { positions: p, faces, creases }: PolyMesh,
  name = 'piece',
  axes = USUAL_AXES,
): Uint8Array<ArrayBuffer> {
  const lines = [remark(axes), `o ${oneWord(name)}`]
  const digits = digitsOf(p)
  for (let i = 0; i < p.length; i += 3)
    lines.push(`v ${digits(p[i]!)} ${digits(p[i + 1]!)} ${digits(p[i + 2]!)}`)
  for (const face of faces) lines.push(`f ${face.map((v) => v + 1).join(' ')}`)
  for (const { a, b, sharpness } of creases) lines.push(`#crease ${a + 1} ${b + 1} ${short(sharpness)}`)
  lines.push('')
  return encodeText(lines.join('\n'))
}
