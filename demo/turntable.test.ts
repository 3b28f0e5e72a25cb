import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { writeWebpAnimation } from '../core/formats/webp-animation'

const still = (k: number, options: { lossless?: boolean }) => sharp({ create: { width: 40, height: 30, channels: 4, background: { r: 10 * k, g: 200 - 20 * k, b: 50, alpha: k / 5 } } }).webp(options).toBuffer() // prettier-ignore

describe('a moving WebP, read by libwebp', () => {
  it.each([{ lossless: true }, { lossless: false }])(
    'has all its frames, as long as asked, as they were: %o',
    async (options) => {
      const frames = await Promise.all([1, 2, 3, 4, 5].map((k) => still(k, options)))
      const bytes = writeWebpAnimation({ frames, width: 40, height: 30, frameMs: 55 })
      const meta = await sharp(bytes, { animated: true }).metadata()
      expect([meta.format, meta.pages, meta.width, meta.pageHeight, meta.loop]).toEqual([
        'webp',
        5,
        40,
        30,
        0,
      ])
      expect(meta.delay).toEqual([55, 55, 55, 55, 55])
      for (const [page, frame] of frames.entries()) {
        const [own, wanted] = await Promise.all([sharp(bytes, { page }), sharp(frame)].map((s) => s.ensureAlpha().raw().toBuffer())) // prettier-ignore
        expect(own!.equals(wanted!)).toBe(true)
      }
    },
  )

  it('refuses what is no WebP', () => {
    expect(() =>
      writeWebpAnimation({ frames: [new Uint8Array(30)], width: 4, height: 3, frameMs: 50 }),
    ).toThrow(/no WebP/)
  })
})
