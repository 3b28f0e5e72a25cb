import type { PhotoSpec } from '../maker/photo'
import { clearGlass, metal, opal, stoneware, wood, type Material } from '../maker/surface'
import type { Vec } from '../maker/vector'
import { chainOf } from '../maker/shape'
import { diceOf } from './dice'
import { FAMILIES, hollowed, randomShape, type Family } from './random-shape'

/** What makes a photo of the bench hard. */
export const DIFFICULTIES = [
  'clean',
  'low contrast',
  'shadow',
  'busy',
  'glass',
  'near',
  'high',
  'lying',
  'handle',
  'small',
] as const
export type Difficulty = (typeof DIFFICULTIES)[number]

/** A photo of the bench: the piece, and what is drawn over it afterwards. */
export interface BenchPhoto {
  id: string
  difficulty: Difficulty
  family: Family
  spec: PhotoSpec
  lying: boolean
  /** Side of the handle that is drawn over the picture, if any. */
  handle: 1 | -1 | null
}

/** One colour all over. */
export const flat = (colour: Vec, gloss: number, roughness: number): Material => ({
  kind: 'opaque',
  look: () => ({ colour, gloss, metal: false, roughness }),
})

/** Photo number `index` of the bench; the same index always gives the same photo. */
export function benchPhoto(index: number): BenchPhoto {
  const difficulty = DIFFICULTIES[index % DIFFICULTIES.length]!
  const { next, between, pick } = diceOf(9001 + 131 * index)
  const lying = difficulty === 'lying'
  const family =
    difficulty === 'glass'
      ? pick(['tumbler', 'vase', 'bottle'] as const)
      : lying
        ? pick(['hub', 'turned', 'bottle', 'vase'] as const)
        : pick(FAMILIES.filter((f) => f !== 'hub'))
  const h = between(60, 260)
  const made = randomShape(family, h, next)
  const chain = chainOf(made)
  const widest = Math.max(...chain.r)
  const seed = 100 + index
  const wood1 = wood([0.52, 0.31, 0.15], [0.24, 0.12, 0.05], seed)
  const white = flat([0.72, 0.71, 0.68], 0.04, 0.4)
  const black = flat([0.03, 0.03, 0.035], 0.04, 0.2)
  const opaque = pick([
    stoneware(0.6 * h, seed),
    wood1,
    metal([0.62, 0.42, 0.14], [0.3, 0.18, 0.06], 0.2, seed),
    opal(seed),
    flat([0.4, 0.06, 0.05], 0.04, 0.25),
    flat([0.06, 0.14, 0.3], 0.04, 0.3),
    black,
  ])
  let material = opaque
  let light: Vec = scaled([1, 0.96, 0.9], between(0.3, 0.66))
  let backdrop: PhotoSpec['scene']['backdrop'] = pick(['plain', 'graded'] as const)
  if (difficulty === 'low contrast') {
    const dark = next() < 0.5
    material = dark ? black : white
    light = dark ? [0.045, 0.045, 0.05] : [0.6, 0.59, 0.56]
    backdrop = 'plain'
  } else if (difficulty === 'glass') {
    material = clearGlass()
    light = scaled([0.95, 1, 1], between(0.35, 0.6))
    backdrop = 'graded'
  } else if (difficulty === 'busy') backdrop = pick(['bricks', 'mottled'] as const)
  const small = difficulty === 'small'
  const [long, wide] = small ? [320, 240] : [1600, 1200]
  const [width, height] = lying ? [long, wide] : [wide, long]
  const near = difficulty === 'near'
  const high = difficulty === 'high'
  const size = Math.max(h, 2 * widest)
  const distance = size * (near ? between(2.8, 4) : high ? between(4, 8) : between(5, 14))
  const cameraHeight = h * (high ? between(1, 1.5) : between(0.15, 0.85))
  const looks = h * between(0.45, 0.55)
  const pitch = Math.atan2(cameraHeight - looks, distance)
  const share = between(0.62, 0.85)
  // Focal length so that the piece fills its share of the picture.
  const f = Math.min((share * long) / h, (share * wide) / (2 * widest)) * distance
  const focalLength35mm = (f * 43.27) / Math.hypot(width, height)
  const shadow = difficulty === 'shadow'
  const vessel = difficulty === 'glass' && index % 20 === 4
  const spec: PhotoSpec = {
    name: `${difficulty} ${family} ${index}`,
    // Every other glass is hollow; the others are solid lumps, which bend the light more.
    shape: vessel ? hollowed(made, 0.03 * widest + 0.6, 0.04 * h) : made,
    materials: [material],
    camera: {
      width,
      height,
      focalLength35mm: Math.round(focalLength35mm),
      distance,
      cameraHeight,
      pitch,
      yaw: between(-0.006, 0.006),
      roll: between(-0.03, 0.03) + (lying ? -Math.PI / 2 : 0),
      k1: difficulty === 'clean' ? 0 : between(-0.03, 0.01),
    },
    scene: {
      backdrop,
      wallTop: backdrop === 'graded' ? scaled(light, between(0.35, 0.8)) : light,
      wallBottom: light,
      floor: scaled(light, between(0.75, 1)),
      stand: lying ? 'rim' : 'foot',
      key: shadow
        ? [between(-1, 1), between(0.35, 0.6), between(0.1, 0.5)]
        : [between(-0.8, 0.8), between(0.6, 0.9), between(0.4, 0.7)],
      shadowThrough: difficulty === 'glass' ? 0.72 : 0,
      seed,
    },
    lens: { blur: between(0.6, 1.1), noise: between(1, 2.4) },
    jpegQuality: small ? 82 : 91,
  }
  return {
    id: String(index).padStart(3, '0'),
    difficulty,
    family,
    spec,
    lying,
    handle: difficulty === 'handle' ? (next() < 0.5 ? 1 : -1) : null,
  }
}

function scaled(v: Vec, k: number): Vec {
  return [v[0] * k, v[1] * k, v[2] * k]
}
