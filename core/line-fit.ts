import type { PicturePoint } from './conventions'

/** The line with the least sum of squared distances (total least squares): a point of it and its angle, radians. */
export function bestLine(points: readonly PicturePoint[]): { x: number; y: number; angle: number } {
  const n = points.length
  const x = points.reduce((s, p) => s + p.x, 0) / n
  const y = points.reduce((s, p) => s + p.y, 0) / n
  let xx = 0
  let xy = 0
  let yy = 0
  for (const p of points) {
    xx += (p.x - x) ** 2
    xy += (p.x - x) * (p.y - y)
    yy += (p.y - y) ** 2
  }
  return { x, y, angle: 0.5 * Math.atan2(2 * xy, xx - yy) }
}
