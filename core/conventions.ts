/**
 * Conventions that every module of core follows; stated here and nowhere else.
 *
 * - Lengths are millimetres (mm), angles radians, unless a field's name says otherwise.
 * - World: right-handed, z is the axis of the piece and points up, the foot stands on z = 0.
 * - Half-profile plane: (r, z) with r >= 0. A closed half-profile runs from the lower axis end outwards
 *   and up to the upper axis end, so that with the axis it bounds its area counter-clockwise.
 * - Picture: x to the right, y down, in full-resolution pixels after the EXIF turn and before any crop;
 *   the centre of the first pixel is (0.5, 0.5).
 * - Meshes: triangles counter-clockwise seen from outside.
 */

/** A position in the picture, px. */
export interface PicturePoint {
  x: number
  y: number
}

/** A position in the half-profile plane, mm. */
export interface ProfilePoint {
  r: number
  z: number
}
