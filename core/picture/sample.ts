import { LINEAR, type Plane, type Raster } from './raster'

/**
 * Linear-light colour at a picture position, bilinear between pixel centres (at +0.5), edges repeated.
 * Light adds up in linear light, so that only there an edge pixel's value tells how much of it is covered.
 * @param out receives r, g, b, each 0..1
 */
export function sampleLinear(raster: Raster, x: number, y: number, out: Float32Array | number[]): void {
  const { width, height, data } = raster
  const px = Math.min(width - 1, Math.max(0, x - 0.5))
  const py = Math.min(height - 1, Math.max(0, y - 0.5))
  const x0 = Math.floor(px)
  const y0 = Math.floor(py)
  const fx = px - x0
  const fy = py - y0
  const a = 4 * (y0 * width + x0)
  const b = x0 + 1 < width ? a + 4 : a
  const down = y0 + 1 < height ? 4 * width : 0
  const wa = (1 - fx) * (1 - fy)
  const wb = fx * (1 - fy)
  const wc = (1 - fx) * fy
  const wd = fx * fy
  for (let k = 0; k < 3; k++) {
    out[k] =
      wa * LINEAR[data[a + k]!]! +
      wb * LINEAR[data[b + k]!]! +
      wc * LINEAR[data[a + down + k]!]! +
      wd * LINEAR[data[b + down + k]!]!
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
