import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { makeRoomPhoto, roomPhoto, type RoomPhoto } from './bench/room-photo'
import { WALLS } from './bench/rooms/room'

const ALL = Array.from({ length: 48 }, (_, i) => roomPhoto(i))

/** A photo of a room, small enough to be computed at once. */
async function smallCopy(photo: RoomPhoto) {
  const camera = { ...photo.spec.camera, width: 60, height: 80 }
  return sharp(await makeRoomPhoto({ ...photo, spec: { ...photo.spec, camera } }))
}

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
})
