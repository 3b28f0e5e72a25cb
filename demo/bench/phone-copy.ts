import sharp from 'sharp'

/** Light lost in the corners of the picture, as a share, and what a phone does to a picture before it saves it. */
const CORNERS = 0.25
const SHARPEN = { sigma: 1.2, m1: 1, m2: 2 }
const QUALITY = 80
/** The lamp isn't in the middle: where the picture is lightest, as shares of its sides. */
const LIGHTEST = { x: 0.44, y: 0.4 }

const linear = (byte: number) => (byte <= 10.31 ? byte / 3294.6 : ((byte / 255 + 0.055) / 1.055) ** 2.4)
const encoded = (light: number) =>
  255 * (light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055)

/**
 * A photo of the bench as phones make them: darker towards the corners, sharpened, compressed. The piece in it stays where it is.
 * @param bytes of a JPEG file
 */
export async function phoneCopy(bytes: Buffer): Promise<Buffer> {
  const { data, info } = await sharp(bytes).raw().toBuffer({ resolveWithObject: true })
  const { width, height, channels } = info
  const reach = Math.hypot(width, height) / 2
  const lights = Float32Array.from({ length: 256 }, (_, v) => linear(v))
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const far = Math.hypot(x - LIGHTEST.x * width, y - LIGHTEST.y * height) / reach
      const left = 1 - CORNERS * Math.min(1, far * far)
      for (let c = 0; c < 3; c++) {
        const i = (y * width + x) * channels + c
        data[i] = Math.round(encoded(left * lights[data[i]!]!))
      }
    }
  return sharp(data, { raw: { width, height, channels } })
    .sharpen(SHARPEN)
    .jpeg({ quality: QUALITY })
    .toBuffer()
}
