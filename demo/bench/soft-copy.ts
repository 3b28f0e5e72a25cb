import sharp from 'sharp'

/** Standard deviation of the blur, as a share of the picture's longer side: 4.5 px in 1600. */
const BLUR = 0.0028
const QUALITY = 92

/**
 * A photo of the bench out of focus, or enlarged from a small one, with the noise gone as well. The piece in it stays where it is.
 * @param bytes of a JPEG file
 */
export async function softCopy(bytes: Buffer): Promise<Buffer> {
  const { data, info } = await sharp(bytes).rotate().removeAlpha().raw().toBuffer({ resolveWithObject: true })
  const { width, height, channels } = info
  return sharp(data, { raw: { width, height, channels } })
    .blur(BLUR * Math.max(width, height))
    .jpeg({ quality: QUALITY })
    .toBuffer()
}
