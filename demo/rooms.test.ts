import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { profileError } from './bench/judge'
import { readPhoto, seenBy } from './bench/read-photo'
import { makeRoomPhoto, roomPhoto, type RoomPhoto } from './bench/room-photo'
import { WALLS } from './bench/rooms/room'
import { truthOf } from './maker/photo'

const ALL = Array.from({ length: 48 }, (_, i) => roomPhoto(i))

/** The same photo of a room by a camera with other px. */
const takenAt = (photo: RoomPhoto, width: number, height: number): RoomPhoto => ({
  ...photo,
  spec: { ...photo.spec, camera: { ...photo.spec.camera, width, height } },
})

/** A photo of a room, small enough to be computed at once. */
const smallCopy = async (photo: RoomPhoto) => sharp(await makeRoomPhoto(takenAt(photo, 60, 80)))

/** Light of a small copy's upper corners and of its middle, mean codes. */
async function lights(photo: RoomPhoto) {
  const { data, info } = await (await smallCopy(photo)).raw().toBuffer({ resolveWithObject: true }) // prettier-ignore
  const at = (x: number, y: number) => {
    const i = info.channels * (y * info.width + x)
    return (data[i]! + data[i + 1]! + data[i + 2]!) / 3
  }
  return { corners: [at(1, 1), at(58, 1)], middle: at(30, 40) }
}
const upright = (wall: (typeof WALLS)[number]) => ALL.find((p) => p.room.wall === wall && !p.lying)!

/** How far off a photo is read by a camera near by, %. */
async function errorOf(photo: RoomPhoto) {
  const truth = truthOf(photo.spec)
  const { profile } = await readPhoto(await makeRoomPhoto(photo), truth, photo.lying, 'near')
  return profileError(truth.profile, seenBy(photo.spec, truth), profile)
}

describe('photos in rooms', () => {
  it('are the same for the same index, and show every wall as often', () => {
    expect(JSON.stringify(roomPhoto(5))).toBe(JSON.stringify(ALL[5]))
    for (const wall of WALLS) expect(ALL.filter(({ room }) => room.wall === wall)).toHaveLength(4)
    expect(new Set(ALL.map(({ skin }) => skin)).size).toBeGreaterThan(8)
    expect(new Set(ALL.map(({ room }) => room.floor)).size).toBeGreaterThan(6)
  })

  it('have the light of their room: an overexposed box is white, velvet is black, and the piece is neither', async () => {
    const [box, velvet] = await Promise.all([lights(upright('lightbox')), lights(upright('velvet'))])
    for (const corner of box.corners) expect(corner).toBeGreaterThan(225)
    for (const corner of velvet.corners) expect(corner).toBeLessThan(25)
    expect(box.middle).toBeLessThan(220)
    expect(velvet.middle).toBeGreaterThan(25)
  })

  it('are patterned: a window has panes much lighter than its frame', async () => {
    const { data } = await (
      await smallCopy(upright('window'))
    )
      .extract({ left: 0, top: 0, width: 60, height: 30 })
      .greyscale()
      .raw()
      .toBuffer({ resolveWithObject: true })
    const sorted = [...data].sort((a, b) => a - b)
    expect(
      sorted[Math.floor(0.95 * sorted.length)]! - sorted[Math.floor(0.05 * sorted.length)]!,
    ).toBeGreaterThan(60)
  })

  it('are read past a lid in the colours of the wall’s ornaments, which the outline led over at first', async () => {
    const jar = takenAt(roomPhoto(45), 600, 800)
    expect([jar.family, jar.room.wall]).toEqual(['jar', 'ornaments'])
    const error = await errorOf(jar)
    // Led over its lid it is 6.5 % off, and 15 % by its ⌀.
    expect(error.rms).toBeLessThan(0.6)
    expect(Math.abs(error.diameter)).toBeLessThan(0.5)
  })

  it('are read by what their colours tell firmly, where the piece has none of the backdrop’s', async () => {
    const hub = takenAt(roomPhoto(87), 1000, 750)
    expect(hub.family).toBe('hub')
    const error = await errorOf(hub)
    // Led along the backdrop's lines it is 0.7 % off, and 4 % by its ⌀.
    expect(error.rms).toBeLessThan(0.3)
    expect(Math.abs(error.diameter)).toBeLessThan(1)
  })
})
