import { zlibSync } from 'fflate'

/** The table of CRC-32 (ISO 3309), reflected. */
const CRC = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n
  for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1
  return c >>> 0
})

/**
 * Eight-bit red, green and blue as a PNG file (ISO/IEC 15948), unfiltered.
 * @param rgb three bytes a pixel, row by row from the top
 */
export function writePng(rgb: Uint8Array, width: number, height: number): Uint8Array<ArrayBuffer> {
  const rows = new Uint8Array(height * (1 + 3 * width))
  for (let y = 0; y < height; y++)
    rows.set(rgb.subarray(3 * width * y, 3 * width * (y + 1)), y * (1 + 3 * width) + 1)
  const head = new Uint8Array(13)
  const view = new DataView(head.buffer)
  view.setUint32(0, width)
  view.setUint32(4, height)
  // Eight bits, true colour, deflate, no interlacing.
  head.set([8, 2, 0, 0, 0], 8)
  const chunks = [
    chunk('IHDR', head),
    chunk('IDAT', zlibSync(rows, { level: 9 })),
    chunk('IEND', new Uint8Array(0)),
  ]
  const signature = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]
  const out = new Uint8Array(signature.length + chunks.reduce((n, c) => n + c.length, 0))
  out.set(signature)
  let at = signature.length
  for (const c of chunks) {
    out.set(c, at)
    at += c.length
  }
  return out
}

function chunk(name: string, data: Uint8Array): Uint8Array {
  const out = new Uint8Array(12 + data.length)
  const view = new DataView(out.buffer)
  view.setUint32(0, data.length)
  for (let i = 0; i < 4; i++) out[4 + i] = name.charCodeAt(i)
  out.set(data, 8)
  let c = 0xffffffff
  for (const byte of out.subarray(4, 8 + data.length)) c = CRC[(c ^ byte) & 255]! ^ (c >>> 8)
  view.setUint32(8 + data.length, (c ^ 0xffffffff) >>> 0)
  return out
}
