import type { PhotoSpec } from '../maker/photo'
import { metal, opal, stoneware, wood, type Material } from '../maker/surface'
import type { Vec } from '../maker/vector'
import { diceOf, type Dice } from './dice'
import { benchPhoto, flat, type BenchPhoto } from './random-photo'

/** Photos of the bench that these are made of begin here, so that none is met twice. */
const FIRST = 1100
/** Chances: that the next stretch of the half-profile has another colour, and that the room has a light of its own. */
const OTHER_COLOUR = 0.4
const OTHER_LIGHT = 0.8
const GREY_LIGHT = 0.6

/**
 * A photo of the bench as nobody would take it for a catalogue: the piece has two to four colours, some of them the wall's; walls and
 * floors have any light; the picture is up to three times as soft, noisy, and compressed more. The same index always gives the same photo.
 */
export function colouredPhoto(index: number): BenchPhoto {
  const base = benchPhoto(FIRST + index)
  const dice = diceOf(77 + 31 * (FIRST + index))
  const { between, pick } = dice
  const scene = lit(base.spec.scene, dice)
  const seed = 5000 + index
  const material = () =>
    pick<() => Material>([
      () => flat(anyColour(dice), 0.04, 0.3),
      () => flat(scaled([1, 1, 1], between(0.02, 0.7)), 0.04, 0.1),
      () => flat(scaled(scene.wallBottom, 0.9), 0.03, 0.4),
      () => metal([0.62, 0.42, 0.14], [0.3, 0.18, 0.06], 0.2, seed),
      () => metal([0.6, 0.6, 0.6], [0.5, 0.5, 0.5], 0.05, seed),
      () => wood([0.52, 0.31, 0.15], [0.24, 0.12, 0.05], seed),
      () => stoneware(90, seed),
      () => opal(seed),
    ])()
  const spec: PhotoSpec = {
    ...base.spec,
    scene,
    lens: { blur: between(0.6, 2), noise: between(0.8, 4.5) },
    jpegQuality: Math.round(between(70, 95)),
    camera: {
      ...base.spec.camera,
      roll: (base.spec.camera.roll ?? 0) + between(-0.04, 0.04),
      k1: between(-0.06, 0.04),
    },
  }
  const coloured = spec.materials[0]!.kind === 'glass' ? spec : withColours(spec, material, dice)
  return { ...base, id: `c${String(index).padStart(2, '0')}`, spec: coloured }
}

const anyColour = ({ between }: Dice): Vec => [between(0.02, 0.7), between(0.02, 0.7), between(0.02, 0.7)]

/** The scene in another light, mostly. */
function lit(scene: PhotoSpec['scene'], dice: Dice): PhotoSpec['scene'] {
  const { next, between, pick } = dice
  const grey = scaled([1, 0.98, 0.95], between(0.1, 0.75))
  const wall = next() < GREY_LIGHT ? grey : anyColour(dice)
  const [high, floor] = [between(0.4, 1.3), between(0.3, 1.4)]
  if (next() >= OTHER_LIGHT) return scene
  return {
    ...scene,
    backdrop: pick(['plain', 'plain', 'graded', 'graded', 'graded', 'bricks', 'mottled'] as const),
    wallBottom: wall,
    wallTop: scaled(wall, high),
    floor: scaled(wall, floor),
  }
}

/** The same piece in two to four colours, stretch by stretch of its half-profile. */
function withColours(spec: PhotoSpec, material: () => Material, { next }: Dice): PhotoSpec {
  const materials = Array.from({ length: 2 + Math.floor(3 * next()) }, material)
  let now = 0
  const ops = spec.shape.ops.map((op) => {
    if (next() < OTHER_COLOUR) now = Math.floor(materials.length * next())
    return { ...op, material: now }
  })
  return { ...spec, materials, shape: { ...spec.shape, ops } }
}

/** So much of a light; no surface sends back more than eight tenths. */
const scaled = (light: Vec, share: number): Vec => light.map((v) => Math.min(0.8, share * v)) as Vec
