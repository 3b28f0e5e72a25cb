import type { PicturePoint } from '../conventions'
import { distort, undistort, type Lens } from './lens'

/**
 * Two ways from the picture to the piece. Both take a picture position to the side of the piece: to the distance from
 * the axis and the height of the surface that is seen edge-on there.
 *
 * World of a view: mm, z along the axis, foot at z = 0, the camera at (0, -distance, height) for a near view.
 */
export type View = DistantView | NearView

/** Parallel rays: one similarity takes the picture to the axis plane. */
export interface DistantView {
  kind: 'distant'
  lens: Lens | null
  /** Where the axis meets the ground, px; in the undistorted picture. */
  origin: PicturePoint
  /** Unit direction of the axis towards the top. */
  up: PicturePoint
  mmPerPx: number
}

/** A pinhole (after the lens). */
export interface NearView {
  kind: 'near'
  lens: Lens | null
  eye: Eye
  /** Of the camera from the axis, mm. */
  distance: number
  /** Of the camera above the foot plane, mm. */
  height: number
  /** Standard error of the camera's pitch, radians; absent: exact. */
  pitchSd?: number
}

export type Vec = readonly [number, number, number]

/**
 * Directions seen by the camera, turned so that the axis lies in the middle plane (math: a pure rotation of the
 * camera, so exact). The camera's own coordinates: x right, y down, z forward, in focal lengths.
 */
export interface Eye {
  /** Focal length, px. */
  f: number
  /** Principal point: the centre of the picture as the camera took it, px. */
  centre: PicturePoint
  /** World directions x (right), y (away, level), z (up along the axis) in camera coordinates. */
  right: Vec
  away: Vec
  up: Vec
}

/** Signed distance from the axis (positive to the right of the upright piece) and height, mm. */
export interface PlanePoint {
  x: number
  z: number
}

/**
 * The eye for an axis seen through two picture points, for a focal length and a pitch.
 * @param plumb undistorted picture points of the axis, lower and upper
 * @param pitch how far the turned camera looks down, radians: the angle between its line of sight and the level plane
 */
export function makeEye(
  f: number,
  centre: PicturePoint,
  plumb: { foot: PicturePoint; top: PicturePoint },
  pitch: number,
): Eye {
  const ray = (p: PicturePoint): Vec => [(p.x - centre.x) / f, (p.y - centre.y) / f, 1]
  const low = ray(plumb.foot)
  const high = ray(plumb.top)
  // The plane of eye and axis; its normal is level and points right of the upright piece.
  const right = unit(cross(low, high))
  const ahead = unit([-right[2] * right[0], -right[2] * right[1], 1 - right[2] * right[2]])
  const down = cross(ahead, right)
  // Looking down (pitch > 0) the level direction lies above the line of sight.
  const c = Math.cos(pitch)
  const s = Math.sin(pitch)
  const away = add(scale(ahead, c), scale(down, -s))
  const up = add(scale(ahead, -s), scale(down, -c))
  return { f, centre, right, away, up }
}

/** World direction of an undistorted picture point; its length is arbitrary. */
export function rayOf(eye: Eye, p: PicturePoint): Vec {
  const { f, centre, right, away, up } = eye
  const x = (p.x - centre.x) / f
  const y = (p.y - centre.y) / f
  return [
    x * right[0] + y * right[1] + right[2],
    x * away[0] + y * away[1] + away[2],
    x * up[0] + y * up[1] + up[2],
  ]
}

/** Undistorted picture point of a direction from the eye; null behind the camera. */
export function seenAt(eye: Eye, d: Vec): PicturePoint | null {
  const c = add(add(scale(eye.right, d[0]), scale(eye.away, d[1])), scale(eye.up, d[2]))
  if (!(c[2] > 0)) return null
  return { x: eye.centre.x + (eye.f * c[0]) / c[2], y: eye.centre.y + (eye.f * c[1]) / c[2] }
}

/** The unit vector to the right of the upright piece, in picture coordinates. */
export function acrossOf({ up }: { up: PicturePoint }): PicturePoint {
  return { x: -up.y, y: up.x }
}

/**
 * Picture position -> the side of the piece: where the ray comes nearest to the axis. Exact where the surface is
 * upright; elsewhere the place slides along the surface, an error of second order (see `envelope` for the whole curve).
 */
export function toPlane(view: View, p: PicturePoint): PlanePoint {
  const q = undistort(view.lens, p)
  if (view.kind === 'distant') {
    const a = acrossOf(view)
    const dx = q.x - view.origin.x
    const dy = q.y - view.origin.y
    return {
      x: (dx * a.x + dy * a.y) * view.mmPerPx,
      z: (dx * view.up.x + dy * view.up.y) * view.mmPerPx,
    }
  }
  const d = rayOf(view.eye, q)
  const level = d[0] * d[0] + d[1] * d[1]
  return {
    x: (view.distance * d[0]) / Math.sqrt(level),
    z: view.height + (view.distance * d[1] * d[2]) / level,
  }
}

/** The side of the piece -> picture position; the inverse of `toPlane`. */
export function toPicture(view: View, p: PlanePoint): PicturePoint {
  if (view.kind === 'distant') {
    const a = acrossOf(view)
    const x = p.x / view.mmPerPx
    const z = p.z / view.mmPerPx
    return distort(view.lens, {
      x: view.origin.x + x * a.x + z * view.up.x,
      y: view.origin.y + x * a.y + z * view.up.y,
    })
  }
  // The level ray that grazes the ring touches it at sin(azimuth) = r / distance, before the axis.
  const s = Math.min(0.999, Math.abs(p.x) / view.distance)
  return project(view, [p.x * Math.sqrt(1 - s * s), -Math.abs(p.x) * s, p.z])
}

/**
 * Picture position -> the upright plane square to the line of sight at `y` mm behind the axis (negative: before it).
 * At 0 it is the axis plane. A distant view sees all planes alike.
 */
export function toUprightPlane(view: View, p: PicturePoint, y: number): PlanePoint {
  if (view.kind === 'distant') return toPlane(view, p)
  const d = rayOf(view.eye, undistort(view.lens, p))
  const t = (view.distance + y) / d[1]
  return { x: t * d[0], z: view.height + t * d[2] }
}

/** Picture position of a point of the world [x y z], mm. Points beside or behind the camera stay at its border. */
export function project(view: View, [x, y, z]: Vec): PicturePoint {
  if (view.kind === 'distant') return toPicture(view, { x, z })
  const p = seenAt(view.eye, [x, Math.max(1e-6, y + view.distance), z - view.height])
  return distort(view.lens, p ?? view.eye.centre)
}

/** The ring of radius r at height z as it is seen, from its nearest point once around, as picture points. */
export function ringOutline(view: View, r: number, z: number, count = 72): PicturePoint[] {
  return Array.from({ length: count }, (_, i) => {
    const a = (2 * Math.PI * i) / count
    return project(view, [r * Math.sin(a), -r * Math.cos(a), z])
  })
}

function cross(a: Vec, b: Vec): Vec {
  return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]
}
function scale(a: Vec, k: number): Vec {
  return [a[0] * k, a[1] * k, a[2] * k]
}
function add(a: Vec, b: Vec): Vec {
  return [a[0] + b[0], a[1] + b[1], a[2] + b[2]]
}
function unit(a: Vec): Vec {
  return scale(a, 1 / Math.hypot(a[0], a[1], a[2]))
}
