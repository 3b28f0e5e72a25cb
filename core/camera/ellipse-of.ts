import type { PicturePoint } from '../conventions'
import type { AxisLine } from '../outline/symmetry'
import { fitArc, type AxisEllipse } from './ring-arc'

/** The ellipse with its axes along and across a plumb line that fits points best, or null when none does. */
export function ellipseOf(points: readonly PicturePoint[], { at, up }: AxisLine): AxisEllipse | null {
  const uv = new Float64Array(2 * points.length)
  points.forEach((p, i) => {
    const dx = p.x - at.x
    const dy = p.y - at.y
    uv[2 * i] = -dx * up.y + dy * up.x
    uv[2 * i + 1] = dx * up.x + dy * up.y
  })
  return fitArc(uv)?.ellipse ?? null
}

/** Left, right, near and far point of an ellipse about a plumb line; `near` is the lower one on the upright picture. */
export function ellipseHandles(
  { v0, a, b }: AxisEllipse,
  { at, up }: AxisLine,
): { left: PicturePoint; right: PicturePoint; near: PicturePoint; far: PicturePoint } {
  const place = (u: number, v: number): PicturePoint => ({
    x: at.x + v * up.x - u * up.y,
    y: at.y + v * up.y + u * up.x,
  })
  return { left: place(-a, v0), right: place(a, v0), near: place(0, v0 - b), far: place(0, v0 + b) }
}

/** Points around an ellipse laid by hand, as a ring keeps them. */
export function ellipsePoints(ellipse: AxisEllipse, axis: AxisLine, count = 24): PicturePoint[] {
  const { at, up } = axis
  return Array.from({ length: count }, (_, i) => {
    const t = (2 * Math.PI * (i + 0.5)) / count
    const u = ellipse.a * Math.cos(t)
    const v = ellipse.v0 + ellipse.b * Math.sin(t)
    return { x: at.x + v * up.x - u * up.y, y: at.y + v * up.y + u * up.x }
  })
}
