import sharp from 'sharp'
import { Body } from '../maker/body'
import { makeCamera, rayThrough } from '../maker/camera'
import type { PhotoSpec } from '../maker/photo'
import { chainOf } from '../maker/shape'
import { diceOf } from './dice'
import { closedAtTop } from './true-silhouette'

/** The shade reaches so many radii of the foot, moved aside and towards the camera by so many, … */
const WIDE: [number, number] = [0.95, 1.2]
const ASIDE: [number, number] = [-0.25, 0.25]
const TOWARDS: [number, number] = [0, 0.3]
/** … with a border so soft, radii, … */
const SOFT: [number, number] = [0.04, 0.35]
/** … and takes so much of the light. */
const DARK: [number, number] = [0.25, 0.65]
/** The foot is what lies within this share of the height from the floor. */
const FOOT = 0.02
/** Nothing is seen of it so many softnesses beyond its border, and it falls about as an error function does. */
const BEYOND = 2.5
const FALLS = 2.5
/** Px of piece and floor are told apart by so many places each way. */
const FINE = 4
const QUALITY = 92

/**
 * A photo of the photo maker with a shade under the piece, as soft light from above and behind throws it: it lies about the foot and shows
 * below it, where it ends softly. The piece stays as it is.
 * @param bytes of a JPEG file, in which the piece stands upright on its foot
 */
export async function shadeCopy(
  bytes: Buffer,
  { camera: of, shape, scene, lens }: PhotoSpec,
): Promise<Buffer> {
  const { between } = diceOf(60001 + 19 * scene.seed)
  const { data, info } = await sharp(bytes).rotate().removeAlpha().raw().toBuffer({ resolveWithObject: true })
  const { width, height, channels } = info
  const camera = makeCamera(of)
  const chain = closedAtTop(chainOf(shape, true))
  const body = new Body(chain)
  const eye = camera.position
  const floor = Math.min(...chain.z)
  const near = floor + FOOT * (Math.max(...chain.z) - floor)
  const foot = Math.max(...chain.r.filter((_, i) => chain.z[i]! < near))
  const wide = foot * between(...WIDE)
  const [aside, towards] = [foot * between(...ASIDE), foot * between(...TOWARDS)]
  const soft = foot * between(...SOFT)
  const dark = between(...DARK)
  const shadeAt = (x: number, y: number) => {
    const ray = rayThrough(camera, x, y)
    if (ray[2] >= 0) return 0
    const t = (floor - eye[2]) / ray[2]
    const off = Math.hypot(eye[0] + t * ray[0] - aside, eye[1] + t * ray[1] + towards)
    const out = (off - wide) / soft
    return out > BEYOND ? 0 : dark / (1 + Math.exp(FALLS * out))
  }
  const isFloor = (x: number, y: number) => body.distance(eye, rayThrough(camera, x, y)) === Infinity
  const shades = Float32Array.from({ length: width * height }, (_, i) =>
    shadeAt((i % width) + 0.5, Math.floor(i / width) + 0.5),
  )
  const covers = floorShares(shades, width, isFloor)
  // Where the picture's blur mixes piece and floor it mixes piece and shade.
  const mixed = await sharp(covers, { raw: { width, height, channels: 1 } }).blur(Math.max(0.3, lens.blur)).extractChannel(0).raw().toBuffer() // prettier-ignore
  const out = Buffer.from(data)
  shades.forEach((shade, i) => {
    if (shade === 0) return
    const share = 1 - (shade * mixed[i]!) / 255
    for (let c = 0; c < channels; c++) out[channels * i + c] = Math.round(share * data[channels * i + c]!)
  })
  return sharp(out, { raw: { width, height, channels } }).jpeg({ quality: QUALITY }).toBuffer()
}

/** How much of each px that a shade lies on is floor, 0 to 255. */
function floorShares(
  shades: Float32Array,
  width: number,
  isFloor: (x: number, y: number) => boolean,
): Uint8Array {
  const out = new Uint8Array(shades.length)
  const at = (i: number) => ({ x: i % width, y: Math.floor(i / width) })
  shades.forEach((shade, i) => {
    const { x, y } = at(i)
    if (shade > 0 && isFloor(x + 0.5, y + 0.5)) out[i] = 255
  })
  const whole = out.slice()
  shades.forEach((shade, i) => {
    if (shade === 0) return
    const isBorder = [-1, 1, -width, width].some((k) => shades[i + k]! > 0 && whole[i + k] !== whole[i])
    if (!isBorder) return
    const { x, y } = at(i)
    let count = 0
    for (let k = 0; k < FINE * FINE; k++)
      if (isFloor(x + ((k % FINE) + 0.5) / FINE, y + (Math.floor(k / FINE) + 0.5) / FINE)) count++
    out[i] = Math.round((255 * count) / FINE ** 2)
  })
  return out
}
