import type { PicturePoint } from '../conventions'
import { inAxis, placeAt, type AxisLine } from '../outline/axis-line'
import { fitArc, type AxisEllipse } from './ring-arc'

/** The ellipse with its axes along and across a plumb line that fits points best, or null when none does. */
export function ellipseOf(points: readonly PicturePoint[], axis: AxisLine): AxisEllipse | null {
  const flat = Float64Array.from(points.flatMap((p) => [p.x, p.y]))
  return fitArc(inAxis(flat, axis))?.ellipse ?? null
}

/** Left, right, near and far point of an ellipse about a plumb line; `near` is the lower one on the upright picture. */
export function ellipseHandles(
  { v0, a, b }: AxisEllipse,
  axis: AxisLine,
): { left: PicturePoint; right: PicturePoint; near: PicturePoint; far: PicturePoint } {
  return {
    left: placeAt(axis, -a, v0),
    right: placeAt(axis, a, v0),
    near: placeAt(axis, 0, v0 - b),
    far: placeAt(axis, 0, v0 + b),
  }
}

/** Points around an ellipse laid by hand, as a ring keeps them. */
export function ellipsePoints(ellipse: AxisEllipse, axis: AxisLine, count = 24): PicturePoint[] {
  return Array.from({ length: count }, (_, i) => {
    const t = (2 * Math.PI * (i + 0.5)) / count
    const u = ellipse.a * Math.cos(t)
    const v = ellipse.v0 + ellipse.b * Math.sin(t)
    return placeAt(axis, u, v)
  })
}
