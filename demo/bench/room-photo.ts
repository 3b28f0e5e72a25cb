import sharp from 'sharp'
import { Body } from '../maker/body'
import { makeCamera } from '../maker/camera'
import { render } from '../maker/render'
import { chainOf } from '../maker/shape'
import { clearGlass } from '../maker/surface'
import { diceOf } from './dice'
import { benchPhoto, type BenchPhoto } from './random-photo'
import { roomOf, type Room } from './rooms/room'
import { RoomScene, WALL_Y } from './rooms/room-scene'
import { SKINS, skinOf, type Skin } from './rooms/skins'

/** Photos of the bench that these are made of begin here, so that none is met twice. */
const FIRST = 3000

/** A photo of the bench, taken in a room. */
export interface RoomPhoto extends BenchPhoto {
  room: Room
  skin: Skin | 'glass'
}

/** Photo number `index` of those in rooms; the same index always gives the same photo. */
export function roomPhoto(index: number): RoomPhoto {
  const base = benchPhoto(FIRST + index)
  const { spec, lying } = base
  const body = new Body(chainOf(spec.shape, true))
  const { f, distance, width, height } = makeCamera(spec.camera)
  const room = roomOf(index, {
    field: (Math.max(width, height) / f) * (distance + WALL_Y),
    size: Math.max(body.high - body.low, 2 * body.radius),
    footRadius: body.footRadius,
    lying,
  })
  const dice = diceOf(911 + 23 * index)
  const skin = spec.materials[0]!.kind === 'glass' ? 'glass' : dice.pick(SKINS)
  const material = skin === 'glass' ? clearGlass() : skinOf(skin, body.high, dice, room.seed)
  return {
    ...base,
    id: `r${String(index).padStart(2, '0')}`,
    handle: null,
    room,
    skin,
    spec: {
      ...spec,
      name: `${room.wall}, ${room.floor}, ${skin}`,
      materials: [material],
      lens: { blur: dice.between(0.6, 1.2), noise: dice.between(0.8, 2.5) },
    },
  }
}

/** Computes the picture as a JPEG. */
export async function makeRoomPhoto({ spec, room }: RoomPhoto): Promise<Buffer> {
  const camera = makeCamera(spec.camera)
  const body = new Body(chainOf(spec.shape))
  const scene = new RoomScene(spec.scene, body, room)
  const pixels = render(camera, body, spec.materials, scene, { ...spec.lens, seed: spec.scene.seed })
  const { width, height } = camera
  return sharp(pixels, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: spec.jpegQuality })
    .toBuffer()
}
