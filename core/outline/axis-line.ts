import type { PicturePoint } from '../conventions'

/** A line in a picture: a point of it and its unit direction upwards along the piece. */
export interface AxisLine {
  at: PicturePoint
  up: PicturePoint
}

/** Picture place of (u, v) about a line: u across to the right, v along it upwards, px. */
export function placeAt({ at, up }: AxisLine, u: number, v: number): PicturePoint {
  return { x: at.x + v * up.x - u * up.y, y: at.y + v * up.y + u * up.x }
}

/** Picture points [x y ...] as [u v ...] about a line; with `mirrored` u grows to the left. */
export function inAxis(points: Float64Array, { at, up }: AxisLine, mirrored = false): Float64Array {
  const sign = mirrored ? -1 : 1
  const out = new Float64Array(points.length)
  for (let i = 0; i < points.length; i += 2) {
    const dx = points[i]! - at.x
    const dy = points[i + 1]! - at.y
    out[i] = sign * (-dx * up.y + dy * up.x)
    out[i + 1] = dx * up.x + dy * up.y
  }
  return out
}

/** A line moved to its right, px, and turned about its point there, clockwise in the picture, radians. */
export function movedAxis({ at, up }: AxisLine, c: number, a: number): AxisLine {
  const x = at.x - c * up.y
  const y = at.y + c * up.x
  const cos = Math.cos(a)
  const sin = Math.sin(a)
  return { at: { x, y }, up: { x: cos * up.x - sin * up.y, y: sin * up.x + cos * up.y } }
}

/** How far along a line a picture place lies, px. */
export function alongAxis({ at, up }: AxisLine, p: PicturePoint): number {
  return (p.x - at.x) * up.x + (p.y - at.y) * up.y
}

/** How far a picture place lies off a line, to its right, px. */
export function acrossAxis({ at, up }: AxisLine, p: PicturePoint): number {
  return (p.y - at.y) * up.x - (p.x - at.x) * up.y
}

/** How far picture points [x y ...] reach along a line, px. */
export function reachAlong(points: Float64Array, axis: AxisLine): { low: number; high: number } {
  const sides = inAxis(points, axis)
  let low = Infinity
  let high = -Infinity
  for (let i = 1; i < sides.length; i += 2) {
    low = Math.min(low, sides[i]!)
    high = Math.max(high, sides[i]!)
  }
  return { low, high }
}
