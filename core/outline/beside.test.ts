import { describe, expect, it } from 'vitest'
import { saysPieceBeyond, withoutBeside, type Beside } from './beside'

const [width, height] = [120, 100]
/** A wall that gets lighter downwards and a little to the right, a piece in the middle, and a ruler at the left border. */
const wall = (x: number, y: number) => 0.4 + y / 500 + x / 4000
const piece = (x: number, y: number, from: number) => x >= from && x < 90 && y >= 30 && y < 80
const RULER = 18
function sceneOf(pieceFrom: number) {
  const l = Float32Array.from({ length: width * height }, (_, i) => {
    const [x, y] = [i % width, Math.floor(i / width)]
    return x < RULER ? 0.9 : piece(x, y, pieceFrom) ? 0.15 : wall(x, y)
  })
  const flat = new Float32Array(l.length)
  const sharp = { width, height, data: new Float32Array(l.length).fill(0.5) }
  return {
    picture: { factor: 1, width, height, l, a: flat, b: flat, alpha: null },
    sharp: { x: sharp, y: sharp },
  }
}
const beside: Beside = {
  line: { at: { x: RULER, y: height / 2 }, up: { x: 0, y: -1 } },
  inwards: 1,
  low: -50,
  high: 50,
}

describe('a picture without what stands beside the piece', () => {
  it.each([
    ['some way off', 50],
    ['next to the piece', RULER + 2],
  ])('has its wall there, and no edge: %s', (_, pieceFrom) => {
    const scene = sceneOf(pieceFrom)
    const { picture, sharp } = withoutBeside(scene, beside)
    for (let y = 1; y < height - 1; y++)
      for (let x = 0; x < width; x++) {
        const i = y * width + x
        if (x < RULER) expect(Math.abs(picture.l[i]! - wall(x, y))).toBeLessThan(0.02)
        else if (x > RULER) expect(picture.l[i]).toBe(scene.picture.l[i])
        expect([sharp.x.data[i], sharp.y.data[i]]).toEqual(x < RULER ? [0, 0] : x > RULER ? [0.5, 0.5] : [sharp.x.data[i], sharp.y.data[i]]) // prettier-ignore
      }
    expect(scene.picture.l[0]).toBeCloseTo(0.9, 6)
  })

  it('is as it was above and below it', () => {
    const scene = sceneOf(50)
    const { picture } = withoutBeside(scene, { ...beside, low: -10, high: 10 })
    expect(picture.l[20 * width]).toBe(scene.picture.l[20 * width])
    expect(picture.l[50 * width]).toBeCloseTo(wall(0, 50), 1)
  })

  it('is asked for only where nobody says that piece, or its axis, stands there', () => {
    const said = (x: number, y: number) => ({
      axis: null,
      guides: { piece: [{ points: [{ x, y }], radius: 3 }], backdrop: [], marks: [] },
    })
    expect(saysPieceBeyond(beside, said(5, 50))).toBe(true)
    expect(saysPieceBeyond(beside, said(60, 50))).toBe(false)
    expect(saysPieceBeyond({ ...beside, low: -10, high: 10 }, said(5, 90))).toBe(false)
    const axis = { at: { x: 8, y: 50 }, up: { x: 0, y: -1 } }
    expect(saysPieceBeyond(beside, { axis, guides: null })).toBe(true)
    expect(saysPieceBeyond(beside, { axis: null, guides: null })).toBe(false)
  })
})
