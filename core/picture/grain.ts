/** Edge of the grain's picture, px, and what it covers, mm. */
export const GRAIN_PX = 256
export const GRAIN_MM = 80

/**
 * A grain to multiply a wood's colour by: fibres along x, light and dark, made of waves whose periods fit the picture, so that it
 * repeats without a seam. Three bytes a pixel (sRGB), row by row.
 */
export function grainPicture(): Uint8Array {
  const out = new Uint8Array(3 * GRAIN_PX * GRAIN_PX)
  for (let y = 0; y < GRAIN_PX; y++)
    for (let x = 0; x < GRAIN_PX; x++) {
      const [u, v] = [(2 * Math.PI * x) / GRAIN_PX, (2 * Math.PI * y) / GRAIN_PX]
      const sway = 0.5 * Math.sin(u) + 0.3 * Math.sin(2 * u + v)
      const rings = Math.sin(5 * v + 2.2 * sway + 1.3 * Math.sin(2 * v + u))
      const fibres = Math.sin(37 * v + 1.7 * Math.sin(3 * u + 5 * v)) + 0.6 * Math.sin(83 * v + Math.sin(u))
      const light = 0.84 + 0.11 * rings + 0.035 * fibres
      out.set([255 * light, 255 * light * 0.985, 255 * light * 0.96], 3 * (y * GRAIN_PX + x))
    }
  return out
}
