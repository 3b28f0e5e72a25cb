import { GRAIN_MM, GRAIN_PX, grainPicture } from '../../core/picture/grain'
import { CanvasTexture, NoColorSpace, RepeatWrapping, SRGBColorSpace, Texture } from 'three'

export type Pattern = 'check' | 'grain'

/** Edge of a square of the check pattern, mm. */
export const CHECK_MM = 10
const PX = 256

/** A loaded picture, and where it lies: see `LaidPicture`. */
export interface ShownPicture {
  image: HTMLImageElement
  /** Laid exactly over it. */
  roughness?: HTMLImageElement
  normals?: HTMLImageElement
  matrix: readonly [number, number, number, number, number, number]
}

/** Textures of pictures by image; where one lies on several surfaces, one each. */
const laid = new WeakMap<HTMLImageElement, Map<string, Texture>>()

/** A picture as a texture over texture coordinates in mm. @param shows colours, or figures that are no colours */
export function pictureTexture(
  image: HTMLImageElement,
  matrix: ShownPicture['matrix'],
  shows: 'colour' | 'figures',
): Texture {
  const own = laid.get(image) ?? new Map<string, Texture>()
  laid.set(image, own)
  const key = `${shows} ${matrix.join()}`
  let texture = own.get(key)
  if (!texture) {
    texture = new Texture(image)
    texture.wrapS = texture.wrapT = RepeatWrapping
    texture.colorSpace = shows === 'colour' ? SRGBColorSpace : NoColorSpace
    texture.anisotropy = 4
    texture.matrixAutoUpdate = false
    const [a, b, c, d, e, f] = matrix
    texture.matrix.set(a, b, c, d, e, f, 0, 0, 1)
    texture.needsUpdate = true
    // Only the last few places: while one is dragged about, many come and go.
    if (own.size > 8) own.clear()
    own.set(key, texture)
  }
  return texture
}

const kept = new Map<Pattern, Texture>()

/** A pattern to lay on surfaces whose texture coordinates are mm, first along the grain. */
export function patternOf(pattern: Pattern): Texture {
  let texture = kept.get(pattern)
  if (!texture) kept.set(pattern, (texture = pattern === 'check' ? checkTexture() : grainTexture()))
  return texture
}

/** A canvas as a texture whose colours are the page's. */
export function paintedTexture(canvas: HTMLCanvasElement): CanvasTexture {
  const texture = new CanvasTexture(canvas)
  texture.colorSpace = SRGBColorSpace
  return texture
}

function textureOf(canvas: HTMLCanvasElement, mm: number): Texture {
  const texture = paintedTexture(canvas)
  texture.wrapS = texture.wrapT = RepeatWrapping
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

/** The grain that files carry too. */
function grainTexture(): Texture {
  const canvas = Object.assign(document.createElement('canvas'), { width: GRAIN_PX, height: GRAIN_PX })
  const c = canvas.getContext('2d')!
  const picture = c.createImageData(GRAIN_PX, GRAIN_PX)
  const rgb = grainPicture()
  for (let i = 0; i < GRAIN_PX ** 2; i++)
    picture.data.set([rgb[3 * i]!, rgb[3 * i + 1]!, rgb[3 * i + 2]!, 255], 4 * i)
  c.putImageData(picture, 0, 0)
  return textureOf(canvas, GRAIN_MM)
}
