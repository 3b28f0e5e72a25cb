import sharp from 'sharp'
import { Body } from './body'
import { contourPoint, makeCamera, project, type Camera, type CameraSpec } from './camera'
import { render, type RenderOptions } from './render'
import { Scene, type SceneSpec } from './scene'
import { chainOf, chainVolume, type Chain, type Shape } from './shape'
import type { Material } from './surface'

/** Everything a made-up photo is computed from. */
export interface PhotoSpec {
  name: string
  shape: Shape
  materials: Material[]
  camera: CameraSpec
  scene: SceneSpec
  lens: Pick<RenderOptions, 'blur' | 'noise'>
  jpegQuality: number
  /** Store the pixels lying, to be turned upright by EXIF orientation 6. */
  storedTurned?: boolean
}

/** What is true about a photo, to measure against. Positions are px in the upright picture. */
export interface Truth {
  name: string
  unit: 'mm'
  height: number
  maxDiameter: number
  /** Of the revolved outside, mm³. */
  volumeMm3: number
  camera: CameraSpec & { f: number }
  /** The axis from the foot plane to the top. */
  axisPx: [[number, number], [number, number]]
  /** Outer half-profile, mm. */
  profile: [number, number][]
  /** Where each point of the profile stands on the right-hand outline; null where it has none. */
  contourPx: ([number, number] | null)[]
}

/** Computes the picture and encodes it as JPEG with the focal length in its EXIF. */
export async function makePhoto(spec: PhotoSpec): Promise<Buffer> {
  const camera = makeCamera(spec.camera)
  const body = new Body(chainOf(spec.shape))
  const scene = new Scene(spec.scene, body)
  const pixels = render(camera, body, spec.materials, scene, { ...spec.lens, seed: spec.scene.seed })
  let picture = sharp(pixels, { raw: { width: camera.width, height: camera.height, channels: 3 } })
  if (spec.storedTurned) picture = picture.rotate(-90)
  return picture
    .withMetadata({ orientation: spec.storedTurned ? 6 : 1 })
    .withExifMerge({ IFD2: { FocalLengthIn35mmFilm: String(Math.round(spec.camera.focalLength35mm)) } })
    .jpeg({ quality: spec.jpegQuality })
    .toBuffer()
}

export function truthOf(spec: PhotoSpec): Truth {
  const camera = makeCamera(spec.camera)
  const chain = chainOf(spec.shape, true)
  // The outside of a hollow piece is closed flat at its rim.
  const last = chain.r.length - 1
  const r = chain.r[last] === 0 ? [...chain.r] : [...chain.r, 0]
  const z = chain.r[last] === 0 ? [...chain.z] : [...chain.z, chain.z[last]!]
  const low = Math.min(...z)
  const high = Math.max(...z)
  const foot = project(camera, [0, 0, low])
  const top = project(camera, [0, 0, high])
  return {
    name: spec.name,
    unit: 'mm',
    height: high - low,
    maxDiameter: 2 * Math.max(...r),
    volumeMm3: chainVolume({ r: Float64Array.from(r), z: Float64Array.from(z) }),
    camera: { ...spec.camera, f: camera.f },
    axisPx: [
      [foot.x, foot.y],
      [top.x, top.y],
    ],
    profile: r.map((value, i) => [value, z[i]!]),
    contourPx: r.map((_, i) => contourOf(camera, chain, i)),
  }
}

/**
 * Outline place of point i of the chain, on the right of the upright piece; corners count as upright walls.
 * @param mostSine beyond this sine of the contact's azimuth the ring's own side is given instead
 */
export function contourOf(camera: Camera, chain: Chain, i: number, mostSine = 1): [number, number] | null {
  if (i >= chain.r.length || chain.r[i] === 0) return null
  const ring = { r: chain.r[i]!, z: chain.z[i]! }
  const side = contourPoint(camera, { ...ring, nr: 1, nz: 0 }, 1)
  const normal = smoothNormal(chain, i)
  const contact = normal ? contourPoint(camera, { ...ring, nr: normal[0], nz: normal[1] }, 1) : side
  const level = mostSine < 1 && (!contact || Math.abs(contact[1]) > mostSine * ring.r)
  const p = level ? side : contact
  if (!p) return null
  const { x, y } = project(camera, p)
  return [x, y]
}

/** The normal of a point where the chain has one, null at corners. */
function smoothNormal({ startNormal: start, endNormal: end }: Chain, i: number): [number, number] | null {
  if (i === 0 || 2 * i >= start.length) return null
  const [nr, nz] = [start[2 * i]!, start[2 * i + 1]!]
  return end[2 * i - 2]! * nr + end[2 * i - 1]! * nz > 0.999 ? [nr, nz] : null
}
