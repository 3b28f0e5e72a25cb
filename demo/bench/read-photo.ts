import sharp from 'sharp'
import { autoProfile, type AutoProfile } from '../../core/calibrate/auto-profile'
import { focalPx } from '../../core/calibrate/calibrate'
import type { Part } from '../../core/picture/even-borders'
import type { PhotoSpec, Truth } from '../maker/photo'
import { chainOf } from '../maker/shape'
import { visibleOf } from './judge'

/** The pixels of a picture's file, upright as the file says. */
export async function pixels(bytes: Buffer) {
  const { data, info } = await sharp(bytes).rotate().ensureAlpha().raw().toBuffer({ resolveWithObject: true })
  return { width: info.width, height: info.height, data: new Uint8Array(data) }
}

/**
 * The half-profile that the whole automatic way reads from a photo of the photo maker.
 * @param lying the axis is level in the picture, and its right end is the top
 * @param by what is known besides the height: lens and distance, the distance (a tape) alone, nothing, or the lens, with rays taken
 *   for parallel
 * @param crop what the bytes show of the photo, where that isn't all; told for a known lens only
 */
export async function readPhoto(
  bytes: Buffer,
  truth: Truth,
  lying: boolean,
  by: 'near' | 'tape' | 'unknown' | 'distant',
  crop: Part | null = null,
): Promise<AutoProfile> {
  const raster = await pixels(bytes)
  const { camera } = truth
  const half = Math.hypot(raster.width, raster.height) / 2
  const isLensKnown = by === 'near' || by === 'distant'
  const whole = Math.hypot(camera.width, camera.height) / 2
  return autoProfile(raster, {
    photo: {
      width: raster.width,
      height: raster.height,
      quarterTurns: lying ? 3 : 0,
      focalLength35mm: isLensKnown ? camera.focalLength35mm * (crop ? whole / half : 1) : null,
      ...(crop
        ? { principalPoint: { x: camera.width / 2 - crop.left, y: camera.height / 2 - crop.top } }
        : {}),
    },
    heightMm: truth.height,
    diameterMm: null,
    view: by === 'distant' ? by : by === 'unknown' ? 'auto' : 'near',
    distanceMm: by === 'near' || by === 'tape' ? camera.distance : null,
    focalLength35mm: null,
    // Without a focal length its unit is half the diagonal.
    k1: (camera.k1 ?? 0) * (isLensKnown ? 1 : (half / focalPx(camera.focalLength35mm, raster)) ** 2),
    up: lying ? { x: 1, y: 0 } : { x: 0, y: -1 },
    axis: null,
  })
}

/** Which points of the true half-profile the photo's camera sees on the outer contour. */
export function seenBy(spec: PhotoSpec, truth: Truth): boolean[] {
  const seen = visibleOf(spec.camera, chainOf(spec.shape, true))
  return truth.profile.map((_, i) => seen[i] ?? false)
}
