import { dot, sub, unit, type Vec } from './vector'

/** Pinhole with radial distortion, at (0, -distance, height), looking at the axis. */
export interface CameraSpec {
  width: number
  height: number
  /** 35 mm equivalent focal length by the diagonal: f_px = f35 · diagonal_px / 43.27 mm. */
  focalLength35mm: number
  /** From the axis to the camera, mm. */
  distance: number
  /** Of the camera above the foot plane, mm. */
  cameraHeight: number
  /** Looking down by this, radians. */
  pitch: number
  /** To the side, radians. */
  yaw?: number
  /** About the line of sight, radians; -π/2 shows an upright axis lying, its top to the right. */
  roll?: number
  /** Brown-Conrady: distorted = undistorted · (1 + k1 ρ²), ρ in focal lengths. */
  k1?: number
}

export interface Camera extends CameraSpec {
  f: number
  position: Vec
  forward: Vec
  right: Vec
  down: Vec
}

const FILM_DIAGONAL_MM = 43.27

export function makeCamera(spec: CameraSpec): Camera {
  const { pitch, yaw = 0, roll = 0 } = spec
  const forward: Vec = [Math.sin(yaw) * Math.cos(pitch), Math.cos(yaw) * Math.cos(pitch), -Math.sin(pitch)]
  const right0: Vec = [Math.cos(yaw), -Math.sin(yaw), 0]
  const down0: Vec = [
    forward[1] * right0[2] - forward[2] * right0[1],
    forward[2] * right0[0] - forward[0] * right0[2],
    forward[0] * right0[1] - forward[1] * right0[0],
  ]
  const c = Math.cos(roll)
  const s = Math.sin(roll)
  const turn = (a: Vec, b: Vec, p: number, q: number): Vec => [
    p * a[0] + q * b[0],
    p * a[1] + q * b[1],
    p * a[2] + q * b[2],
  ]
  return {
    ...spec,
    f: (spec.focalLength35mm * Math.hypot(spec.width, spec.height)) / FILM_DIAGONAL_MM,
    position: [0, -spec.distance, spec.cameraHeight],
    forward,
    right: turn(right0, down0, c, s),
    down: turn(right0, down0, -s, c),
  }
}

/** Unit direction of the ray through picture position (x, y), pixel centres at +0.5. */
export function rayThrough(camera: Camera, x: number, y: number): Vec {
  const xd = (x - camera.width / 2) / camera.f
  const yd = (y - camera.height / 2) / camera.f
  const k = undistort(Math.hypot(xd, yd), camera.k1 ?? 0)
  const u = xd * k
  const v = yd * k
  const { forward: f, right: r, down: d } = camera
  return unit([f[0] + u * r[0] + v * d[0], f[1] + u * r[1] + v * d[1], f[2] + u * r[2] + v * d[2]])
}

/** Factor from distorted to undistorted radius, by Newton on ρ + k1 ρ³ = ρ_d. */
function undistort(distorted: number, k1: number): number {
  if (k1 === 0 || distorted === 0) return 1
  let rho = distorted
  for (let i = 0; i < 8; i++) rho -= (rho + k1 * rho ** 3 - distorted) / (1 + 3 * k1 * rho * rho)
  return rho / distorted
}

/** Picture position of a point in the world. */
export function project(camera: Camera, p: Vec): { x: number; y: number } {
  const q = sub(p, camera.position)
  const depth = dot(q, camera.forward)
  const u = dot(q, camera.right) / depth
  const v = dot(q, camera.down) / depth
  const k = 1 + (camera.k1 ?? 0) * (u * u + v * v)
  return { x: camera.width / 2 + camera.f * u * k, y: camera.height / 2 + camera.f * v * k }
}

/**
 * Where a ring of the surface touches the outline: the point of the ring at height z, radius r, whose normal
 * (nr, nz in the profile plane) is square to the line of sight. n·(X - C) = 0 with X = (r cos φ, r sin φ, z).
 * @param side +1 for the side to the right of an upright picture, -1 for the left
 * @returns null when the ring has no point on the outline from here
 */
export function contourPoint(
  camera: Camera,
  ring: { r: number; z: number; nr: number; nz: number },
  side: 1 | -1,
): Vec | null {
  const { r, z, nr, nz } = ring
  const sine = -(nr * r + nz * (z - camera.cameraHeight)) / (nr * camera.distance)
  if (!(Math.abs(sine) <= 1)) return null
  return [side * r * Math.sqrt(1 - sine * sine), r * sine, z]
}
