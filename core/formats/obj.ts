import type { Mesh } from '../solid/mesh'
import { encodeText } from './text'

export const obj = { name: 'OBJ', extension: 'obj', mediaType: 'model/obj', toBytes: writeObj } as const

/**
 * Wavefront OBJ text with positions and faces; one-based indices, mm, z up (the format states neither).
 * Numbers are written with up to nine significant digits, more than a float32 reader keeps.
 */
export function writeObj(mesh: Mesh, name = 'piece'): Uint8Array<ArrayBuffer> {
  const lines: string[] = [
    '# Baldacchino. Unit: millimetre. Axis: z, up.',
    `o ${name.replace(/\s+/g, '_') || 'piece'}`,
  ]
  const { positions: p, triangles: t } = mesh
  for (let i = 0; i < p.length; i += 3)
    lines.push(`v ${digits(p[i]!)} ${digits(p[i + 1]!)} ${digits(p[i + 2]!)}`)
  for (let i = 0; i < t.length; i += 3) lines.push(`f ${t[i]! + 1} ${t[i + 1]! + 1} ${t[i + 2]! + 1}`)
  lines.push('')
  return encodeText(lines.join('\n'))
}

function digits(value: number): string {
  return String(Number(value.toPrecision(9)))
}
