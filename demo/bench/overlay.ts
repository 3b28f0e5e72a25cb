import sharp, { type Sharp } from 'sharp'
import { gaussPair } from '../maker/random'
import type { PhotoSpec } from '../maker/photo'
import type { Dice } from './dice'

const QUALITY = 91

/** A place in the picture, px. */
export type Place = { x: number; y: number }

/** The way of an SVG path through places of the picture. */
export const pathThrough = (places: readonly Place[]) =>
  places.map(({ x, y }, i) => `${i ? 'L' : 'M'}${x.toFixed(2)} ${y.toFixed(2)}`).join('')

/**
 * A photo of the photo maker with something drawn over it, with the photo's own blur and noise.
 * @param bytes of a JPEG file
 * @param drawn elements of an SVG file in the picture's px
 */
export async function withDrawn(
  bytes: Buffer,
  drawn: string,
  { lens }: PhotoSpec,
  dice: Dice,
): Promise<Buffer> {
  const { data, info } = await sharp(bytes).rotate().removeAlpha().raw().toBuffer({ resolveWithObject: true })
  const { width, height, channels } = info
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${drawn}</svg>`
  const layer = await sharp(Buffer.from(svg)).blur(Math.max(0.3, lens.blur)).raw().toBuffer()
  const out = Buffer.from(data)
  for (let i = 0; i < width * height; i++) {
    const share = layer[4 * i + 3]! / 255
    if (share === 0) continue
    const noise = [...gaussPair(dice.next), ...gaussPair(dice.next)]
    for (let c = 0; c < 3; c++) {
      const seen = layer[4 * i + c]! + lens.noise * noise[c]!
      const k = channels * i + c
      out[k] = Math.max(0, Math.min(255, Math.round((1 - share) * data[k]! + share * seen)))
    }
  }
  return sharp(out, { raw: { width, height, channels } }).jpeg({ quality: QUALITY }).toBuffer()
}

/** Lightness of a colour, #rrggbb, as the eye weighs it (ITU-R BT.601), codes. */
export const lightnessOf = (colour: string) =>
  [0.299, 0.587, 0.114].reduce(
    (sum, share, c) => sum + share * Number.parseInt(colour.slice(1 + 2 * c, 3 + 2 * c), 16),
    0,
  )

/** A box in the picture, px. */
export interface Box {
  left: number
  top: number
  width: number
  height: number
}

/** Mean lightness of what three bytes a px show in a box. */
export function lightnessIn(data: Buffer, width: number, box: Box): number {
  let [sum, count] = [0, 0]
  for (let y = Math.ceil(box.top); y < box.top + box.height; y++)
    for (let x = Math.ceil(box.left); x < box.left + box.width; x++) {
      const i = 3 * (y * width + x)
      sum += 0.299 * data[i]! + 0.587 * data[i + 1]! + 0.114 * data[i + 2]!
      count++
    }
  return sum / count
}

const CRISP_QUALITY = 88

/** A picture with something drawn on it, crisp and straight, as editors do, and saved once more. @param drawn elements of an SVG file in the picture's px */
export async function withCrisp(
  picture: Sharp,
  { width, height }: { width: number; height: number },
  drawn: string,
): Promise<Buffer> {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${drawn}</svg>`
  return picture
    .composite([{ input: Buffer.from(svg) }])
    .withMetadata()
    .jpeg({ quality: CRISP_QUALITY })
    .toBuffer()
}
