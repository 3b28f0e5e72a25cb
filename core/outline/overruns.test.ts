import { describe, expect, it } from 'vitest'
import type { Evidence } from './evidence'
import { withoutOverruns } from './overruns'
import { RADII, silhouetteOf, stripOf, vase } from './test-strips'

const n = RADII + 1
const MIDDLE = 100
/** The vase ends in this row; what was found goes on to the other one. */
const [FOOT, LAST] = [139, 155]
const overrun = vase.map((half, row) => (row > FOOT && row <= LAST ? 34 : half))

interface Seen {
  /** Sharpness of the edges along the rows beyond the foot, and across it. */
  along?: number
  across?: number
  /** What the rows beyond say for the piece by the backdrop. */
  evidence?: number
  /** They have the piece's colour. */
  coloured?: boolean
  /** An edge closes the last one of them. */
  closed?: boolean
}

/** The last row of what is left. */
function lastOf({ along = 0.2, across = 0.7, evidence = -0.4, coloured = false, closed = false }: Seen) {
  const strip = stripOf(overrun, (row) => (row > FOOT ? along : 0.8))
  const level = (row: number, sharp: number) => strip.level.fill(sharp, row * n, row * n + 60)
  level(FOOT, across)
  if (closed) level(LAST, 0.3)
  const [width, height] = [2 * MIDDLE, overrun.length]
  const isIn = (i: number, halves: readonly number[]) =>
    Math.abs((i % width) + 0.5 - MIDDLE) < halves[Math.floor(i / width)]!
  const isPiece = (i: number) => isIn(i, vase)
  const isBeyond = (i: number) => !isPiece(i) && isIn(i, overrun)
  const plane = (of: (i: number) => number) => Float32Array.from({ length: width * height }, (_, i) => of(i))
  const data = plane((i) => (isPiece(i) ? 1 : isBeyond(i) ? evidence : -1))
  const light = plane((i) => (isPiece(i) || (coloured && isBeyond(i)) ? 0.3 : 0.7))
  const hue = new Float32Array(width * height)
  const picture = { factor: 4, width, height, l: light, a: hue, b: hue, alpha: null }
  const axis = { at: { x: MIDDLE, y: 0 }, up: { x: 0, y: -1 } }
  const found = silhouetteOf({ ...strip, axis }, overrun)
  const kept = withoutOverruns({ ...strip, axis }, picture, { plane: { width, height, data } } as unknown as Evidence, found) // prettier-ignore
  expect(kept.half.slice(0, FOOT - 4)).toEqual(found.half.slice(0, FOOT - 4))
  return kept.half.findLastIndex((r) => r > 0)
}

describe('a silhouette that lines of the floor led on below its foot', () => {
  it('is taken back to the edge that closes it', () => {
    expect(Math.abs(lastOf({}) - FOOT)).toBeLessThan(6)
  })

  it.each<[string, Seen]>([
    ['an edge closes it where it ends', { closed: true }],
    ['no edge closes it before', { across: 0.2 }],
    ['its edges there are as clear as elsewhere', { along: 0.7 }],
    ['it looks unlike the backdrop there', { evidence: 0.5 }],
    ['it has the piece’s colour there', { coloured: true }],
  ])('stays where %s', (_, seen) => {
    expect(lastOf(seen)).toBe(LAST)
  })
})
