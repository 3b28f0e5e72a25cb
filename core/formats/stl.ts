import type { Mesh } from '../solid/mesh'

export const stl = {
  name: 'STL',
  extension: 'stl',
  mediaType: 'model/stl',
  toBytes: writeStl,
  /** Size of the file, bytes, before it is written. */
  byteLength: (triangles: number) => 84 + 50 * triangles,
} as const

/** Binary STL is little-endian; nearly every machine is, and there typed arrays beat DataView several times. */
const LITTLE_ENDIAN = new Uint8Array(new Uint16Array([1]).buffer)[0] === 1

/**
 * Binary STL: 80 bytes of header, triangle count, then 50 bytes a triangle. The format has no unit; mm by
 * common practice (no source). Normals are computed from the float32 corners' plane; a triangle without area gets a zero normal,
 * which readers take as "compute it".
 */
export function writeStl(mesh: Mesh, title = 'Baldacchino, millimetres'): Uint8Array<ArrayBuffer> {
  const { positions: p, triangles: t } = mesh
  const count = t.length / 3
  const bytes = new Uint8Array(84 + 50 * count)
  // "solid" at the start would make readers expect the text variant.
  const header = title.replace(/^solid/i, 'Solid').slice(0, 80)
  for (let i = 0; i < header.length; i++) bytes[i] = header.charCodeAt(i) & 0x7f
  const view = new DataView(bytes.buffer)
  view.setUint32(80, count, true)
  if (LITTLE_ENDIAN) fillFast(bytes, p, t)
  else fillPortably(view, p, t)
  return bytes
}

/**
 * Records are 50 bytes long, so that only every other one starts at an address that 4 divides, as a Float32Array
 * needs. Those are written in place; the others go through a scratch record and are copied as 16-bit words.
 */
function fillFast(bytes: Uint8Array<ArrayBuffer>, p: Float64Array, t: Uint32Array): void {
  const count = t.length / 3
  const aligned = new Float32Array(bytes.buffer, 84, Math.floor((bytes.length - 84) / 4))
  const scratch = new Float32Array(12)
  const words = new Uint16Array(scratch.buffer)
  const target = new Uint16Array(bytes.buffer)
  for (let i = 0; i < count; i++) {
    if ((i & 1) === 0) {
      record(aligned, (25 * i) >> 1, p, t, 3 * i)
    } else {
      record(scratch, 0, p, t, 3 * i)
      const at = 42 + 25 * i
      for (let k = 0; k < 24; k++) target[at + k] = words[k]!
    }
  }
}

function fillPortably(view: DataView, p: Float64Array, t: Uint32Array): void {
  const scratch = new Float32Array(12)
  for (let i = 0; i < t.length / 3; i++) {
    record(scratch, 0, p, t, 3 * i)
    for (let k = 0; k < 12; k++) view.setFloat32(84 + 50 * i + 4 * k, scratch[k]!, true)
  }
}

/** Normal and three corners of one triangle, 12 numbers from `at` on. */
function record(out: Float32Array, at: number, p: Float64Array, t: Uint32Array, i: number): void {
  const a = 3 * t[i]!
  const b = 3 * t[i + 1]!
  const c = 3 * t[i + 2]!
  const ax = p[a]!
  const ay = p[a + 1]!
  const az = p[a + 2]!
  const bx = p[b]!
  const by = p[b + 1]!
  const bz = p[b + 2]!
  const cx = p[c]!
  const cy = p[c + 1]!
  const cz = p[c + 2]!
  const ux = bx - ax
  const uy = by - ay
  const uz = bz - az
  const vx = cx - ax
  const vy = cy - ay
  const vz = cz - az
  const nx = uy * vz - uz * vy
  const ny = uz * vx - ux * vz
  const nz = ux * vy - uy * vx
  const length = Math.sqrt(nx * nx + ny * ny + nz * nz)
  const s = length > 0 ? 1 / length : 0
  out[at] = nx * s
  out[at + 1] = ny * s
  out[at + 2] = nz * s
  out[at + 3] = ax
  out[at + 4] = ay
  out[at + 5] = az
  out[at + 6] = bx
  out[at + 7] = by
  out[at + 8] = bz
  out[at + 9] = cx
  out[at + 10] = cy
  out[at + 11] = cz
}
