import type { PolyMesh } from '../solid/cage'
import type { Mesh } from '../solid/mesh'
import type { ShadingBuffers } from '../solid/shading'
import { encodeText } from './text'

export const obj = { name: 'OBJ', extension: 'obj', mediaType: 'model/obj', toBytes: writeObj } as const

export interface ObjSolid {
  name: string
  mesh: Mesh
  /** The same triangles with texture coordinates in mm and normals. */
  buffers?: ShadingBuffers
}

/**
 * Wavefront OBJ text, an object a solid: positions, one a point, and faces; with texture coordinates and normals where they
 * are given. One-based indices, mm, z up (the format states neither). Numbers are written with up to nine significant digits,
 * more than a float32 reader keeps.
 */
export function writeObj(solids: readonly ObjSolid[]): Uint8Array<ArrayBuffer> {
  const lines: string[] = ['# Baldacchino. Unit: millimetre. Axis: z, up.']
  let [first, firstCorner] = [1, 1]
  for (const { name, mesh, buffers } of solids) {
    const { positions: p, triangles: t } = mesh
    lines.push(`o ${name.replace(/\s+/g, '_') || 'piece'}`)
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
    for (let i = 0; i < t.length; i += 3) lines.push(`f ${corner(i)} ${corner(i + 1)} ${corner(i + 2)}`)
    first += p.length / 3
    if (uvs) firstCorner += uvs.length / 2
  }
  lines.push('')
  return encodeText(lines.join('\n'))
}

/** Texture coordinates to a thousandth mm; normals need no more either. */
const short = (value: number) => String(Number(value.toFixed(4)))

function digits(value: number): string {
  return String(Number(value.toPrecision(9)))
}

export const quads = {
  name: 'OBJ of quads',
  extension: 'quads.obj',
  mediaType: 'model/obj',
  toBytes: writeQuadsObj,
} as const

/**
 * A mesh of quads as Wavefront OBJ, mm, z up. Edges that stay sharp are no part of the format: they stand as `#crease a b
 * sharpness` remarks, by one-based indices.
 */
export function writeQuadsObj(
  { positions: p, faces, creases }: PolyMesh,
  name = 'piece',
): Uint8Array<ArrayBuffer> {
  const lines = ['# Baldacchino. Unit: millimetre. Axis: z, up.', `o ${name.replace(/\s+/g, '_') || 'piece'}`]
  for (let i = 0; i < p.length; i += 3)
    lines.push(`v ${digits(p[i]!)} ${digits(p[i + 1]!)} ${digits(p[i + 2]!)}`)
  for (const face of faces) lines.push(`f ${face.map((v) => v + 1).join(' ')}`)
  for (const { a, b, sharpness } of creases) lines.push(`#crease ${a + 1} ${b + 1} ${short(sharpness)}`)
  lines.push('')
  return encodeText(lines.join('\n'))
}
