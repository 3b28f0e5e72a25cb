import sharp from 'sharp'
import type { Part } from '../../core/picture/even-borders'
import { makeCamera, project } from '../maker/camera'
import type { PhotoSpec } from '../maker/photo'
import { chainOf } from '../maker/shape'
import { diceOf } from './dice'

/** So much is left beside the piece, each side by itself, as a share of its length in the picture. */
const LEFT: [number, number] = [0.005, 0.03]
const AROUND = 72
const QUALITY = 92

/**
 * A photo of the photo maker cropped close to the piece, as most pictures from the web are; a handle may be cut off.
 * @param bytes of a JPEG file
 */
export async function tightCopy(bytes: Buffer, spec: PhotoSpec): Promise<{ bytes: Buffer; crop: Part }> {
  const { between } = diceOf(50001 + 23 * spec.scene.seed)
  const camera = makeCamera(spec.camera)
  const { r, z } = chainOf(spec.shape, true)
  const seen = Array.from(r, (radius, i) =>
    Array.from({ length: AROUND }, (_, k) => {
      const angle = (2 * Math.PI * k) / AROUND
      return project(camera, [radius * Math.cos(angle), radius * Math.sin(angle), z[i]!])
    }),
  ).flat()
  const reach = (of: 'x' | 'y') =>
    [Math.min(...seen.map((p) => p[of])), Math.max(...seen.map((p) => p[of]))] as const
  const [x, y] = [reach('x'), reach('y')]
  const long = Math.max(x[1] - x[0], y[1] - y[0])
  const { width, height } = spec.camera
  const low = (at: number) => Math.max(0, Math.floor(at - between(...LEFT) * long))
  const high = (at: number, most: number) => Math.min(most, Math.ceil(at + between(...LEFT) * long))
  const [left, top] = [low(x[0]), low(y[0])]
  const crop = { left, top, width: high(x[1], width) - left, height: high(y[1], height) - top }
  return { bytes: await sharp(bytes).rotate().extract(crop).jpeg({ quality: QUALITY }).toBuffer(), crop }
}
