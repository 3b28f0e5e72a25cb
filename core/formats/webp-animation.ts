import { CoreError } from '../errors'

export interface WebpAnimation {
  /** Still WebP files, all of one size. */
  frames: readonly Uint8Array[]
  width: number
  height: number
  /** Each frame is shown this long, ms. */
  frameMs: number
}

const MOST_SIDE = 16_384

/**
 * Still WebP pictures as one that moves, for ever: their compressed data is taken as it is, so that nothing is lost. The container is that
 * of the WebP Container Specification (RFC 9649, section 2.7): VP8X, ANIM, and one ANMF a frame.
 * @throws CoreError `bad-frame` for a frame that is no still WebP
 */
export function writeWebpAnimation({
  frames,
  width,
  height,
  frameMs,
}: WebpAnimation): Uint8Array<ArrayBuffer> {
  if (!(width >= 1 && height >= 1 && width <= MOST_SIDE && height <= MOST_SIDE))
    throw new CoreError({
      code: 'bad-frame',
      message: `A moving picture of ${width} × ${height} px can’t be written.`,
    })
  const extended = chunk('VP8X', [...u32(ANIMATED | HAS_ALPHA), ...u24(width - 1), ...u24(height - 1)])
  // No background of its own; repeated without end.
  const animation = chunk('ANIM', [...u32(0), 0, 0])
  const shown = frames.map((frame) => {
    const head = [...u24(0), ...u24(0), ...u24(width - 1), ...u24(height - 1), ...u24(Math.round(frameMs)), NO_BLENDING] // prettier-ignore
    return chunk('ANMF', joined([Uint8Array.from(head), ...pictureChunks(frame)]))
  })
  const body = joined([ascii('WEBP'), extended, animation, ...shown])
  return joined([ascii('RIFF'), Uint8Array.from(u32(body.length)), body])
}

const ANIMATED = 0x02
const HAS_ALPHA = 0x10
/** Each frame is whole: it takes the place of the one before. */
const NO_BLENDING = 0x02

/** The chunks of a still file that hold its picture, with their heads. */
function pictureChunks(file: Uint8Array): Uint8Array[] {
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength)
  const name = (at: number) => String.fromCharCode(...file.subarray(at, at + 4))
  if (file.length < 20 || name(0) !== 'RIFF' || name(8) !== 'WEBP')
    throw new CoreError({ code: 'bad-frame', message: 'A frame of the moving picture is no WebP picture.' })
  const kept: Uint8Array[] = []
  for (let at = 12; at + 8 <= file.length;) {
    const size = view.getUint32(at + 4, true)
    const end = at + 8 + size + (size % 2)
    if (['ALPH', 'VP8 ', 'VP8L'].includes(name(at))) kept.push(file.subarray(at, Math.min(end, file.length)))
    at = end
  }
  if (kept.length === 0)
    throw new CoreError({
      code: 'bad-frame',
      message: 'A frame of the moving picture holds no still picture.',
    })
  return kept
}

function chunk(name: string, data: ArrayLike<number>): Uint8Array {
  const padded = new Uint8Array(8 + data.length + (data.length % 2))
  padded.set(ascii(name))
  padded.set(u32(data.length), 4)
  padded.set(data, 8)
  return padded
}

const ascii = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0))
const u24 = (v: number) => [v & 255, (v >> 8) & 255, (v >> 16) & 255]
const u32 = (v: number) => [...u24(v), (v >>> 24) & 255]

function joined(parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0))
  let at = 0
  for (const part of parts) {
    out.set(part, at)
    at += part.length
  }
  return out
}
