import sharp from 'sharp'
import { Body } from '../maker/body'
import { makeCamera, project, rayThrough } from '../maker/camera'
import type { PhotoSpec } from '../maker/photo'
import { chainOf } from '../maker/shape'
import type { Vec } from '../maker/vector'
import { closedAtTop } from './true-silhouette'

/** How much of its light a glossy floor throws back, at the piece's foot and of what stands so many heights above it. */
const STRENGTH = 0.35
const FADED = 0.8
/** A polished floor is a little uneven. */
const BLUR = 0.5
const QUALITY = 92

/**
 * A photo of the photo maker as if its floor were glossy: the piece's mirror image is seen in it. The piece stays as it is.
 * @param bytes of a JPEG file, in which the piece stands upright on its foot
 */
export async function glossyCopy(bytes: Buffer, { camera: of, shape }: PhotoSpec): Promise<Buffer> {
  const { data, info } = await sharp(bytes).rotate().removeAlpha().raw().toBuffer({ resolveWithObject: true })
  const { width, height, channels } = info
  const camera = makeCamera(of)
  const chain = closedAtTop(chainOf(shape, true))
  const body = new Body(chain)
  const floor = Math.min(...chain.z)
  const tall = Math.max(...chain.z) - floor
  const eye = camera.position
  const out = Buffer.from(data)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const ray = rayThrough(camera, x + 0.5, y + 0.5)
      if (ray[2] >= 0 || Number.isFinite(body.distance(eye, ray))) continue
      // Just above the floor, where the ray is thrown back.
      const at = along(eye, ray, (floor - eye[2]) / ray[2], 1e-6)
      const back: Vec = [ray[0], ray[1], -ray[2]]
      const far = body.distance(at, back)
      if (!Number.isFinite(far)) continue
      const hit = along(at, back, far)
      const share = STRENGTH * Math.max(0, 1 - (hit[2] - floor) / (FADED * tall))
      const seen = project(camera, hit)
      const from = channels * (within(seen.y, height) * width + within(seen.x, width))
      const to = channels * (y * width + x)
      for (let c = 0; c < channels; c++)
        out[to + c] = Math.round(data[to + c]! * (1 - share) + share * data[from + c]!)
    }
  return sharp(out, { raw: { width, height, channels } }).blur(BLUR).jpeg({ quality: QUALITY }).toBuffer()
}

const along = (from: Vec, d: Vec, t: number, lift = 0): Vec => [
  from[0] + t * d[0],
  from[1] + t * d[1],
  from[2] + t * d[2] + lift,
]

const within = (value: number, size: number) => Math.max(0, Math.min(size - 1, Math.floor(value)))
