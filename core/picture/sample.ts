import { LINEAR, pixelsOf, type Plane, type Raster } from './raster'

/** Evenly spaced places on a straight line through a picture: the first, px, and the way from each to the next. */
export interface SampleLine {
  x: number
  y: number
  dx: number
  dy: number
  count: number
}

/**
 * Adds the linear-light colours along a line of picture positions, bilinear between pixel centres (at +0.5), edges repeated.
 * Light adds up in linear light, so that only there an edge pixel's value tells how much of it is covered.
 * @param out all reds, then all greens, then all blues, each 0..1
 */
export function addLight(raster: Raster, { x, y, dx, dy, count }: SampleLine, out: Float32Array): void {
  const { width, height } = raster
  const pixels = pixelsOf(raster.data)
  const right = width - 1
  const bottom = height - 1
  for (let k = 0; k < count; k++) {
    let px = x + k * dx - 0.5
    let py = y + k * dy - 0.5
    // Written out: this runs some millions of times a picture.
    px = px > 0 ? (px < right ? px : right) : 0
    py = py > 0 ? (py < bottom ? py : bottom) : 0
    const x0 = px | 0
    const y0 = py | 0
    const fx = px - x0
    const fy = py - y0
    const at = y0 * width + x0
    const beside = x0 < right ? 1 : 0
    const below = y0 < bottom ? width : 0
    const a = pixels[at]!
    const b = pixels[at + beside]!
    const c = pixels[at + below]!
    const d = pixels[at + below + beside]!
    const wd = fx * fy
    const wb = fx - wd
    const wc = fy - wd
    const wa = 1 - fx - wc
    out[k]! += wa * LINEAR[a & 255]! + wb * LINEAR[b & 255]! + wc * LINEAR[c & 255]! + wd * LINEAR[d & 255]!
    out[count + k]! +=
      wa * LINEAR[(a >> 8) & 255]! +
      wb * LINEAR[(b >> 8) & 255]! +
      wc * LINEAR[(c >> 8) & 255]! +
      wd * LINEAR[(d >> 8) & 255]!
    out[2 * count + k]! +=
      wa * LINEAR[(a >> 16) & 255]! +
      wb * LINEAR[(b >> 16) & 255]! +
      wc * LINEAR[(c >> 16) & 255]! +
      wd * LINEAR[(d >> 16) & 255]!
  }
}

/** Value of a plane at a position, bilinear between pixel centres (at +0.5); `outside` beyond its edges. */
export function samplePlane(plane: Plane, x: number, y: number, outside: number): number {
  const { width, height, data } = plane
  const px = x - 0.5
  const py = y - 0.5
  if (px < -0.5 || py < -0.5 || px > width - 0.5 || py > height - 0.5) return outside
  const x0 = Math.max(0, Math.min(width - 2, Math.floor(px)))
  const y0 = Math.max(0, Math.min(height - 2, Math.floor(py)))
  const fx = Math.min(1, Math.max(0, px - x0))
  const fy = Math.min(1, Math.max(0, py - y0))
  const i = y0 * width + x0
  return (
    (1 - fy) * ((1 - fx) * data[i]! + fx * data[i + 1]!) +
    fy * ((1 - fx) * data[i + width]! + fx * data[i + width + 1]!)
  )
}
