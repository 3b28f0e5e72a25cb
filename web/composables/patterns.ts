import { CanvasTexture, RepeatWrapping, SRGBColorSpace, type Texture } from 'three'

export type Pattern = 'check' | 'grain'

/** Edge of a square of the check pattern, and length of the grain's picture, mm. */
export const CHECK_MM = 10
const GRAIN_MM = 80
const PX = 256

const kept = new Map<Pattern, Texture>()

/** A pattern to lay on surfaces whose texture coordinates are mm, first along the grain. */
export function patternOf(pattern: Pattern): Texture {
  let texture = kept.get(pattern)
  if (!texture) kept.set(pattern, (texture = pattern === 'check' ? checkTexture() : grainTexture()))
  return texture
}

function textureOf(canvas: HTMLCanvasElement, mm: number): Texture {
  const texture = new CanvasTexture(canvas)
  texture.wrapS = texture.wrapT = RepeatWrapping
  texture.colorSpace = SRGBColorSpace
  texture.repeat.set(1 / mm, 1 / mm)
  texture.anisotropy = 4
  return texture
}

/** Squares of 10 mm; a stroke in every light one runs along the grain. */
function checkTexture(): Texture {
  const canvas = Object.assign(document.createElement('canvas'), { width: PX, height: PX })
  const c = canvas.getContext('2d')!
  c.fillStyle = '#efe6d6'
  c.fillRect(0, 0, PX, PX)
  c.fillStyle = '#7d8f8c'
  const half = PX / 2
  c.fillRect(0, 0, half, half)
  c.fillRect(half, half, half, half)
  c.fillStyle = '#a8532f'
  for (const [x, y] of [
    [half, 0],
    [0, half],
  ] as const)
    c.fillRect(x + 0.2 * half, y + 0.46 * half, 0.6 * half, 0.08 * half)
  return textureOf(canvas, 2 * CHECK_MM)
}

/** Fibres along the grain, light and dark, made of waves whose periods fit the picture, so that it repeats without a seam. */
function grainTexture(): Texture {
  const canvas = Object.assign(document.createElement('canvas'), { width: PX, height: PX })
  const c = canvas.getContext('2d')!
  const picture = c.createImageData(PX, PX)
  for (let y = 0; y < PX; y++)
    for (let x = 0; x < PX; x++) {
      const [u, v] = [(2 * Math.PI * x) / PX, (2 * Math.PI * y) / PX]
      const sway = 0.5 * Math.sin(u) + 0.3 * Math.sin(2 * u + v)
      const rings = Math.sin(5 * v + 2.2 * sway + 1.3 * Math.sin(2 * v + u))
      const fibres = Math.sin(37 * v + 1.7 * Math.sin(3 * u + 5 * v)) + 0.6 * Math.sin(83 * v + Math.sin(u))
      const light = 0.84 + 0.11 * rings + 0.035 * fibres
      picture.data.set([255 * light, 255 * light * 0.985, 255 * light * 0.96, 255], 4 * (y * PX + x))
    }
  c.putImageData(picture, 0, 0)
  return textureOf(canvas, GRAIN_MM)
}
