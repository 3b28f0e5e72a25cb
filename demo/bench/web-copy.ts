import sharp from 'sharp'

/** So long is a picture of a shop or an auction, px, and how it is saved. */
const LONGEST = 600
const QUALITY = 82

/**
 * A photo of the bench as a web page shows it: reduced, without noise, and compressed, its hues in blocks of 16 px. The piece in it stays where it is.
 * @param bytes of a JPEG file
 */
export async function webCopy(bytes: Buffer): Promise<Buffer> {
  return sharp(bytes)
    .rotate()
    .resize({ width: LONGEST, height: LONGEST, fit: 'inside', withoutEnlargement: true })
    .jpeg({ quality: QUALITY, chromaSubsampling: '4:2:0' })
    .toBuffer()
}
