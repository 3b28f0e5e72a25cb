import type { Mesh } from '../solid/mesh'

export const stl = {
  name: 'STL',
  extension: 'stl',
  mediaType: 'model/stl',
  toBytes: writeStl,
  /** Size of the file, bytes, before it is written. */
  byteLength: (triangles: number) => 84 + 50 * triangles,
} as const

/** Binary STL is little-endian, and so is nearly every machine; elsewhere a slower way is taken. */
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
  new DataView(bytes.buffer).setUint32(80, count, true)
  if (LITTLE_ENDIAN) fillRecords(bytes, p, t)
  else fillPortably(bytes, p, t)
  return bytes
}

/**
 * Records are 50 bytes long, so that only every other one starts at an address that 4 divides. Corners are copied as
 * the 32-bit patterns of their float32 numbers, through one word view: straight into aligned records, and into the
 * others halved over two words. Copying 16-bit words instead was a fifth slower.
 */
function fillRecords(bytes: Uint8Array<ArrayBuffer>, p: Float64Array, t: Uint32Array): void {
  const positions = new Float32Array(p)
  const bits = new Int32Array(positions.buffer)
  // The file's length is 0 or 2 modulo 4; the last half word of an odd count is the (zero) attribute.
  const out = new Int32Array(bytes.buffer, 84, (bytes.length - 84) >> 2)
  const normal = new Float32Array(3)
  const normalBits = new Int32Array(normal.buffer)
  // Signed views and imul let the compiler keep indices as integers.
  const indices = new Int32Array(t.buffer, t.byteOffset, t.length)
  const count = t.length / 3
  for (let i = 0, k = 0; i < count; i++, k += 3) {
    const a = Math.imul(3, indices[k]!)
    const b = Math.imul(3, indices[k + 1]!)
    const c = Math.imul(3, indices[k + 2]!)
    planeNormal(normal, positions, a, b, c)
    const n0 = normalBits[0]!
    const n1 = normalBits[1]!
    const n2 = normalBits[2]!
    const a0 = bits[a]!
    const a1 = bits[a + 1]!
    const a2 = bits[a + 2]!
    const b0 = bits[b]!
    const b1 = bits[b + 1]!
    const b2 = bits[b + 2]!
    const c0 = bits[c]!
    const c1 = bits[c + 1]!
    const c2 = bits[c + 2]!
    let at = Math.imul(25, i) >> 1
    if ((i & 1) === 0) {
      out[at] = n0
      out[at + 1] = n1
      out[at + 2] = n2
      out[at + 3] = a0
      out[at + 4] = a1
      out[at + 5] = a2
      out[at + 6] = b0
      out[at + 7] = b1
      out[at + 8] = b2
      out[at + 9] = c0
      out[at + 10] = c1
      out[at + 11] = c2
    } else {
      out[at] = n0 << 16
      out[++at] = (n0 >>> 16) | (n1 << 16)
      out[++at] = (n1 >>> 16) | (n2 << 16)
      out[++at] = (n2 >>> 16) | (a0 << 16)
      out[++at] = (a0 >>> 16) | (a1 << 16)
      out[++at] = (a1 >>> 16) | (a2 << 16)
      out[++at] = (a2 >>> 16) | (b0 << 16)
      out[++at] = (b0 >>> 16) | (b1 << 16)
      out[++at] = (b1 >>> 16) | (b2 << 16)
      out[++at] = (b2 >>> 16) | (c0 << 16)
      out[++at] = (c0 >>> 16) | (c1 << 16)
      out[++at] = (c1 >>> 16) | (c2 << 16)
      out[++at] = c2 >>> 16
    }
  }
}

/** Unit normal of the plane through three corners, or zeros. */
function planeNormal(out: Float32Array, p: Float32Array, a: number, b: number, c: number): void {
  const ax = p[a]!
  const ay = p[a + 1]!
  const az = p[a + 2]!
  const ux = p[b]! - ax
  const uy = p[b + 1]! - ay
  const uz = p[b + 2]! - az
  const vx = p[c]! - ax
  const vy = p[c + 1]! - ay
  const vz = p[c + 2]! - az
  const nx = uy * vz - uz * vy
  const ny = uz * vx - ux * vz
  const nz = ux * vy - uy * vx
  const length = Math.sqrt(nx * nx + ny * ny + nz * nz)
  const s = length > 0 ? 1 / length : 0
  out[0] = nx * s
  out[1] = ny * s
  out[2] = nz * s
}

/** The same records on a machine of any byte order, slower. */
export function fillPortably(bytes: Uint8Array<ArrayBuffer>, p: Float64Array, t: Uint32Array): void {
  const view = new DataView(bytes.buffer)
  const positions = new Float32Array(p)
  const normal = new Float32Array(3)
  for (let i = 0; i < t.length; i += 3) {
    const corners = [3 * t[i]!, 3 * t[i + 1]!, 3 * t[i + 2]!] as const
    planeNormal(normal, positions, ...corners)
    const numbers = [...normal, ...corners.flatMap((at) => [...positions.subarray(at, at + 3)])]
    numbers.forEach((value, k) => view.setFloat32(84 + 50 * (i / 3) + 4 * k, value, true))
  }
}
