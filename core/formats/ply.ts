import type { Mesh } from '../solid/mesh'
import { encodeText } from './text'

export const ply = {
  name: 'PLY',
  extension: 'ply',
  mediaType: 'model/ply',
  toBytes: writePly,
  byteLength: (vertices: number, triangles: number) => 12 * vertices + 13 * triangles + 250,
} as const

/** Binary little-endian PLY 1.0: float positions and triangles; unit and upward axis in a comment, as the format has no word for them. */
export function writePly(mesh: Mesh, name = 'piece', axes = 'mm, z up'): Uint8Array<ArrayBuffer> {
  const { positions, triangles } = mesh
  const [vertices, faces] = [positions.length / 3, triangles.length / 3]
  const header = encodeText(
    `ply\nformat binary_little_endian 1.0\ncomment ${name.replace(/[^\x20-\x7e]+/g, '_')}, ${axes}\nelement vertex ${vertices}\nproperty float x\nproperty float y\nproperty float z\nelement face ${faces}\nproperty list uchar int vertex_indices\nend_header\n`,
  )
  const bytes = new Uint8Array(header.length + 12 * vertices + 13 * faces)
  bytes.set(header)
  const view = new DataView(bytes.buffer)
  let at = header.length
  for (const value of positions) {
    view.setFloat32(at, value, true)
    at += 4
  }
  for (let i = 0; i < triangles.length; i += 3) {
    bytes[at++] = 3
    for (let k = 0; k < 3; k++, at += 4) view.setInt32(at, triangles[i + k]!, true)
  }
  return bytes
}
