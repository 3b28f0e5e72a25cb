import { createHash } from 'node:crypto'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { HttpProblem } from '../http/problem'
import { inspectPhoto } from './inspect'

const picture = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#a86b3c' } })
const refusal = async (bytes: Buffer) => {
  try {
    await inspectPhoto(bytes)
  } catch (error) {
    if (error instanceof HttpProblem) return { status: error.status, code: error.code, detail: error.detail }
    throw error
  }
  return null
}
/** A file that begins as an ISO media file of a brand does. */
const branded = (brand: string) => Buffer.concat([Buffer.from([0, 0, 0, 24]), Buffer.from(`ftyp${brand}`), Buffer.alloc(64)]) // prettier-ignore

describe('a photo that comes in', () => {
  it('is known by its bytes, its type and its size, in all three types', async () => {
    for (const [type, made] of [
      ['image/jpeg', picture(90, 60).jpeg()],
      ['image/png', picture(90, 60).png()],
      ['image/webp', picture(90, 60).webp()],
    ] as const) {
      const bytes = await made.toBuffer()
      const { facts, thumbnail } = await inspectPhoto(bytes)
      expect(facts).toEqual({
        sha256: createHash('sha256').update(bytes).digest('hex'),
        mediaType: type,
        width: 90,
        height: 60,
        focalLength35mm: null,
      })
      // Nothing is made larger than it is.
      expect(await sharp(thumbnail).metadata()).toMatchObject({ format: 'webp', width: 90, height: 60 })
    }
  })

  it('is as large as it is seen: turned by its EXIF, and so is its thumbnail', async () => {
    const bytes = await picture(900, 600).jpeg().withMetadata({ orientation: 6 }).toBuffer()
    const { facts, thumbnail } = await inspectPhoto(bytes)
    expect([facts.width, facts.height]).toEqual([600, 900])
    expect(await sharp(thumbnail).metadata()).toMatchObject({ width: 427, height: 640 })
  })

  it('tells its lens where its EXIF does', async () => {
    const bytes = await picture(90, 60)
      .jpeg()
      .withExif({ IFD2: { FocalLengthIn35mmFilm: '85' } })
      .toBuffer()
    expect((await inspectPhoto(bytes)).facts.focalLength35mm).toBe(85)
    const nonsense = await picture(90, 60)
      .jpeg()
      .withExif({ IFD2: { FocalLengthIn35mmFilm: '0' } })
      .toBuffer()
    expect((await inspectPhoto(nonsense)).facts.focalLength35mm).toBeNull()
  })
})

describe('a file that is no usable photo is refused with what to do', () => {
  it('empty, or nothing that is known', async () => {
    expect(await refusal(Buffer.alloc(0))).toMatchObject({ status: 422, code: 'empty-file' })
    expect(await refusal(Buffer.from('Dear Sir or Madam,'))).toMatchObject({ status: 415, code: 'not-a-photo' }) // prettier-ignore
  })

  it('cut short', async () => {
    const noisy = Buffer.from(Uint8Array.from({ length: 300 * 200 * 3 }, (_, i) => (i * 7919) % 251))
    const whole = await sharp(noisy, { raw: { width: 300, height: 200, channels: 3 } }).jpeg().toBuffer() // prettier-ignore
    expect(await refusal(whole)).toBeNull()
    expect(await refusal(whole.subarray(0, whole.length / 2))).toMatchObject({ status: 422, code: 'broken-photo' }) // prettier-ignore
  })

  it('of a kind that has a better answer than unreadable', async () => {
    for (const brand of ['heic', 'heix', 'mif1', 'hevc'])
      expect(await refusal(branded(brand))).toMatchObject({ status: 415, code: 'heic' })
    const kinds: [Buffer, RegExp][] = [
      [branded('avif'), /an AVIF file/],
      [Buffer.from('GIF89a'), /a GIF file/],
      [Buffer.from('%PDF-1.7'), /a PDF file/],
      [Buffer.from('II*\0\b\0\0\0', 'latin1'), /a TIFF or raw file/],
      [Buffer.from('MM\0*\0\0\0\b', 'latin1'), /a TIFF or raw file/],
    ]
    for (const [bytes, words] of kinds) {
      const refused = await refusal(bytes)
      expect(refused).toMatchObject({ status: 415, code: 'wrong-type' })
      expect(refused!.detail).toMatch(words)
    }
  })

  it('with more pixels, or a longer side, than can be shown', async () => {
    const long = await picture(16_500, 20).png().toBuffer()
    const refused = await refusal(long)
    expect(refused).toMatchObject({ status: 413, code: 'too-many-pixels' })
    expect(refused!.detail).toMatch(/16500 × 20 pixels/)
  })
})
