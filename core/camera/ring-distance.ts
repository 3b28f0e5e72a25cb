import type { PicturePoint } from '../conventions'
import { rayOf, type Eye, type Vec } from './view'

/**
 * Distance of a picture point from the image of the ring (r, z), px, to first order (Sampson). A ray (x, y, w) from
 * (0, -1, 0) meets the level z at t = z / w and the ring when w = z (y ± √(r² (x² + y²) - x²)) / (1 - r²): plus for
 * the near half, minus for the far one. The nearer half counts. Unlike the ring's conic this stays linear in z for a
 * ring seen edge-on. Beyond the ring's sides, where there is no root, the conic takes over.
 */
export function ringDistance(eye: Eye, p: PicturePoint, r: number, z: number): number {
  const [x, y, w] = rayOf(eye, p)
  const inside = r * r * (x * x + y * y) - x * x
  if (inside < CONIC_BELOW * y * y * r * r) return conicDistance(eye, [x, y, w], r, z)
  const root = Math.sqrt(inside)
  const k = z / (1 - r * r)
  const near = w - k * (y + root)
  const far = w - k * (y - root)
  const sign = Math.abs(near) <= Math.abs(far) ? 1 : -1
  const rootX = ((r * r - 1) * x) / root
  const rootY = (r * r * y) / root
  // Written out for both picture directions: this runs a hundred thousand times a solution.
  const { right, away, up } = eye
  const slopeX = up[0] - k * (away[0] + sign * (rootX * right[0] + rootY * away[0]))
  const slopeY = up[1] - k * (away[1] + sign * (rootX * right[1] + rootY * away[1]))
  return ((sign > 0 ? near : far) * eye.f) / (Math.sqrt(slopeX * slopeX + slopeY * slopeY) + 1e-12)
}

/** Share of the squared radius within which the sides of a ring are too steep for the halves' formula. */
const CONIC_BELOW = 0.02

/** The same from the ring's conic (z x)² + (z y - w)² = (r w)². */
function conicDistance(eye: Eye, [x, y, w]: Vec, r: number, z: number): number {
  const ahead = z * y - w
  const g = z * z * x * x + ahead * ahead - r * r * w * w
  const slope = (k: 0 | 1) => {
    const dx = eye.right[k] / eye.f
    const dy = eye.away[k] / eye.f
    const dw = eye.up[k] / eye.f
    return 2 * (z * z * x * dx + ahead * (z * dy - dw) - r * r * w * dw)
  }
  return g / (Math.hypot(slope(0), slope(1)) + 1e-15)
}
