import type { Mesh } from '../solid/mesh'
import { encodeText } from './text'

export const obj = { name: 'OBJ', extension: 'obj', mediaType: 'model/obj', toBytes: writeObj } as const

/**
 * Wavefront OBJ text with positions and faces, an object a solid; one-based indices, mm, z up (the format states neither).
 * Numbers are written with up to nine significant digits, more than a float32 reader keeps.
 */
export function writeObj(solids: readonly { name: string; mesh: Mesh }[]): Uint8Array<ArrayBuffer> {
  const lines: string[] = ['# Baldacchino. Unit: millimetre. Axis: z, up.']
  let first = 1
  for (const { name, mesh } of solids) {
    const { positions: p, triangles: t } = mesh
    lines.push(`o ${name.replace(/\s+/g, '_') || 'piece'}`)
    for (let i = 0; i < p.length; i += 3)
      lines.push(`v ${digits(p[i]!)} ${digits(p[i + 1]!)} ${digits(p[i + 2]!)}`)
    for (let i = 0; i < t.length; i += 3)
      lines.push(`f ${t[i]! + first} ${t[i + 1]! + first} ${t[i + 2]! + first}`)
    first += p.length / 3
  }
  lines.push('')
  return encodeText(lines.join('\n'))
}

function digits(value: number): string {
  return String(Number(value.toPrecision(9)))
}
