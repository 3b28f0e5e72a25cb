import { CoreError } from '../errors'

/** A decoded picture: 8-bit sRGB with alpha, row by row from the top left, four bytes a pixel, not premultiplied. */
export interface Raster {
  width: number
  height: number
  data: Uint8ClampedArray | Uint8Array
  /** 1 at the pixels whose edges, somebody has said, are none of the piece's: none are found there. */
  edgeless?: Uint8Array
}

/** Whether a place's edges are none of the piece's, as somebody has said. */
export function isEdgeless({ width, height, edgeless }: Raster, x: number, y: number): boolean {
  if (!edgeless || !(x >= 0 && y >= 0 && x < width && y < height)) return false
  return edgeless[Math.floor(y) * width + Math.floor(x)] === 1
}

/** One channel of a picture as floats, row by row. */
export interface Plane {
  width: number
  height: number
  data: Float32Array
}

/** @throws CoreError `raster-size` when the bytes don't match the size, `raster-small` below 80 px along and 16 px across */
export function requireRaster(raster: Raster): Raster {
  const { width, height, data } = raster
  if (!(width > 0) || !(height > 0) || data.length !== 4 * width * height) {
    throw new CoreError({
      code: 'raster-size',
      message: `A picture of ${width} × ${height} px needs ${4 * width * height} bytes, but has ${data.length}.`,
      where: 'raster',
    })
  }
  if (Math.min(width, height) < 16 || Math.max(width, height) < 80) {
    throw new CoreError({
      code: 'raster-small',
      message: `The picture is only ${width} × ${height} px: one pixel would be more than 1 % of the piece. Take a larger one, or draw the half-profile by hand.`,
      where: 'raster',
    })
  }
  return raster
}

/** True for a picture without a pixel that anything shows through. */
export function isOpaque({ data }: Raster): boolean {
  // Four bytes at once, the last of which, alpha, is the highest; and four pixels, since a photo has millions.
  const pixels = pixelsOf(data)
  const fours = pixels.length - (pixels.length % 4)
  for (let i = 0; i < fours; i += 4)
    if ((pixels[i]! & pixels[i + 1]! & pixels[i + 2]! & pixels[i + 3]!) >>> 24 !== 255) return false
  return pixels.subarray(fours).every((px) => px >>> 24 === 255)
}

/** By how many codes two px, by their numbers, differ in the colour that they differ most in. */
export function codesApart({ data }: Raster, i: number, j: number): number {
  return Math.max(
    Math.abs(data[4 * i]! - data[4 * j]!),
    Math.abs(data[4 * i + 1]! - data[4 * j + 1]!),
    Math.abs(data[4 * i + 2]! - data[4 * j + 2]!),
  )
}

/** Bytes of a picture as its pixels, four to each: red the lowest, alpha the highest, on all machines that browsers run on. */
export function pixelsOf(data: Raster['data']): Int32Array {
  const known = PIXELS.get(data)
  if (known) return known
  const aligned = data.byteOffset % 4 === 0 ? data : data.slice()
  const pixels = new Int32Array(aligned.buffer, aligned.byteOffset, data.length / 4)
  // A copy wouldn't follow what is written into the bytes later.
  if (aligned === data) PIXELS.set(data, pixels)
  return pixels
}

/** Light is read along so many lines of a picture that a view for each would cost more than the reading. */
const PIXELS = new WeakMap<Raster['data'], Int32Array>()

/** Linear light of an sRGB byte, 0..1 (IEC 61966-2-1). */
export const LINEAR = Float32Array.from({ length: 256 }, (_, i) => {
  const c = i / 255
  return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4
})

/** Linear light as sRGB encodes it, both 0..1 (IEC 61966-2-1). */
export function encoded(light: number): number {
  return light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055
}

/** The larger of two planes' values at each place. */
export function strongerOf(p: Plane, q: Plane): Plane {
  return { ...p, data: p.data.map((v, i) => Math.max(v, q.data[i]!)) }
}
