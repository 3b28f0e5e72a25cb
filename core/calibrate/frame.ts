import type { PicturePoint } from '../conventions'

/**
 * A distant view: parallel rays, so that one similarity takes the picture to the axis plane.
 * `origin` is where the axis meets the ground in the picture; `up` is the unit vector along the axis
 * towards the top, in picture coordinates (y down).
 */
export interface PictureFrame {
  origin: PicturePoint
  up: PicturePoint
  mmPerPx: number
}

/** Signed distance from the axis (positive to the right of the upright piece) and height, mm. */
export interface PlanePoint {
  x: number
  z: number
}

/** The unit vector to the right of the upright piece, in picture coordinates. */
export function acrossOf(frame: Pick<PictureFrame, 'up'>): PicturePoint {
  return { x: -frame.up.y, y: frame.up.x }
}

/** Picture position -> axis plane. */
export function toPlane(frame: PictureFrame, p: PicturePoint): PlanePoint {
  const dx = p.x - frame.origin.x
  const dy = p.y - frame.origin.y
  const a = acrossOf(frame)
  return {
    x: (dx * a.x + dy * a.y) * frame.mmPerPx,
    z: (dx * frame.up.x + dy * frame.up.y) * frame.mmPerPx,
  }
}

/** Axis plane -> picture position. */
export function toPicture(frame: PictureFrame, p: PlanePoint): PicturePoint {
  const a = acrossOf(frame)
  const x = p.x / frame.mmPerPx
  const z = p.z / frame.mmPerPx
  return {
    x: frame.origin.x + x * a.x + z * frame.up.x,
    y: frame.origin.y + x * a.y + z * frame.up.y,
  }
}
