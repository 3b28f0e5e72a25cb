import { describe, expect, it } from 'vitest'
import { reduceToLab } from '../picture/reduce'
import { paint } from './test-pictures'
import { texturedEvidence, firmlyTexturedEvidence } from './textured-evidence'

const [WIDTH, HEIGHT, HORIZON] = [200, 240, 150]
const STRIPES = [
  [0.5, 0.42, 0.2],
  [0.3, 0.3, 0.35],
] as const
const FLOOR = [0.16, 0.3, 0.14]
const PIECE = { x: 100, y: 110, r: 42 }

/** A ball of some colour before striped paper, on a floor of another colour. */
const room = (colour: readonly number[]) =>
  reduceToLab(
    paint(WIDTH, HEIGHT, (x, y) => Math.hypot(x - PIECE.x, y - PIECE.y) - PIECE.r, {
      inside: () => [...colour],
      outside: (x, y) => [...(y < HORIZON ? STRIPES[(x >> 3) & 1]! : FLOOR)],
      grain: 2,
    }),
    1,
  )

/** Mean evidence of the ball, the wall and the floor, a few px from their edges. */
function means(data: Float32Array) {
  const sums = { piece: [0, 0], wall: [0, 0], floor: [0, 0] }
  data.forEach((v, i) => {
    const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)]
    const far = Math.hypot(x - PIECE.x, y - PIECE.y) - PIECE.r
    if (Math.abs(far) < 4 || Math.abs(y - HORIZON) < 4) return
    const of = far < 0 ? sums.piece : y < HORIZON ? sums.wall : sums.floor
    of[0]! += v
    of[1]!++
  })
  const [piece, wall, floor] = Object.values(sums).map(([sum, count]) => sum! / count!)
  return { piece: piece!, wall: wall!, floor: floor! }
}

describe('a backdrop of many colours', () => {
  it('speaks against the piece, though its colours are as common within the picture as along its borders', () => {
    const { plane } = firmlyTexturedEvidence(room([0.4, 0.03, 0.03]))
    const { piece, wall, floor } = means(plane.data)
    expect(piece).toBeGreaterThan(0.9)
    expect(wall).toBeLessThan(-0.5)
    expect(floor).toBeLessThan(-0.5)
  })

  it('is told by its colours at the same height: a piece as green as the floor isn’t taken for backdrop before the wall', () => {
    const { plane } = firmlyTexturedEvidence(room(FLOOR))
    const { piece, wall, floor } = means(plane.data)
    expect(piece).toBeGreaterThan(-0.1)
    expect(wall).toBeLessThan(-0.5)
    expect(floor).toBeLessThan(-0.5)
  })

  it('tells nothing by what is as common on both sides to who doubts it', () => {
    const { plane } = texturedEvidence(room([0.4, 0.03, 0.03]))
    const { piece, wall } = means(plane.data)
    expect(piece).toBeGreaterThan(0.9)
    expect(Math.abs(wall)).toBeLessThan(0.1)
  })
})
