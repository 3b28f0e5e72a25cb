import sharp from 'sharp'
import { gaussPair, random } from '../maker/random'

/** Noise of each channel, 8-bit codes, and how the picture is saved. */
const NOISE = 7
const QUALITY = 90

/**
 * A photo of the bench as taken in bad light without any noise being taken out. The piece in it stays where it is.
 * @param bytes of a JPEG file
 */
export async function noisyCopy(bytes: Buffer): Promise<Buffer> {
  const { data, info } = await sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true })
  const { width, height, channels } = info
  const next = random(7)
  for (let i = 0; i < data.length; i += 2)
    gaussPair(next).forEach((v, k) => {
      if (i + k < data.length) data[i + k] = Math.max(0, Math.min(255, Math.round(data[i + k]! + NOISE * v)))
    })
  return sharp(data, { raw: { width, height, channels } }).jpeg({ quality: QUALITY }).toBuffer()
}
