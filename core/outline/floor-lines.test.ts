import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { reduceToLab } from '../picture/reduce'
import { withoutFloorLines } from './floor-lines'
import type { Silhouette } from './silhouette'
import { paint } from './test-pictures'

const [WIDTH, HEIGHT, MIDDLE, FOOT, HALF] = [300, 300, 150, 200, 50]
const FLOOR = [0.35, 0.33, 0.3]
const JOINT = [0.05, 0.05, 0.05]

/** How far out the joints of the boards lie in a row below the foot, which lean so much. */
const jointAt = (y: number, lean: number) => HALF + 8 + lean * (y - FOOT)

/** A pale post on a floor; beside its foot a line leads outwards on either side, or an edge does: the floor beyond has another colour. */
function post(lean: number, beyond = FLOOR, joint = JOINT) {
  const onLine = (x: number, y: number) => Math.abs(Math.abs(x - MIDDLE) - jointAt(y, lean)) < 2
  const raster = paint(WIDTH, HEIGHT, (x, y) => Math.max(Math.abs(x - MIDDLE) - HALF, y - FOOT, 40 - y), {
    inside: () => [0.75, 0.75, 0.7],
    outside: (x, y) => {
      if (y > FOOT - 8 && onLine(x, y)) return joint
      return Math.abs(x - MIDDLE) > jointAt(y, lean) ? beyond : FLOOR
    },
    grain: 0.5,
  })
  return reduceToLab(raster, 1)
}

/** What follows the post and then the joints, down to the border. */
function followed(lean: number): Silhouette {
  const half = Float32Array.from({ length: HEIGHT }, (_, y) =>
    y < 40 ? 0 : y < FOOT ? HALF : Math.min(MIDDLE, jointAt(y, lean)),
  )
  return { axis: { at: { x: MIDDLE, y: 0 }, up: { x: 0, y: -1 } }, top: 0, half, edges: 1 }
}

const lastOf = ({ half }: Silhouette) => half.findLastIndex((r) => r > 0)

describe('lines of the floor that lead on from a foot', () => {
  it('are none of the piece (property)', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.35, max: 1.4, noNaN: true }), (lean) => {
        const found = withoutFloorLines(post(lean), followed(lean))
        expect(Math.abs(lastOf(found) - FOOT)).toBeLessThan(8)
        expect(found.half.subarray(0, FOOT - 8)).toEqual(followed(lean).half.subarray(0, FOOT - 8))
      }),
      { numRuns: 25 },
    )
  })

  it('stay where they are edges: a foot that spreads', () => {
    const spread = followed(0.8)
    expect(withoutFloorLines(post(0.8, [0.7, 0.6, 0.2], FLOOR), spread)).toBe(spread)
  })

  it('stay where they run down steeply: the sides of a thin skirt', () => {
    const steep = followed(0.1)
    expect(withoutFloorLines(post(0.1), steep)).toBe(steep)
  })

  it('stay where the whole piece shows as lines: thin glass', () => {
    const glass = paint(WIDTH, HEIGHT, (x, y) => Math.abs(Math.abs(x - MIDDLE) - (y < FOOT ? HALF : jointAt(y, 0.8))) - 2, {
      inside: () => JOINT,
      outside: () => FLOOR,
    }) // prettier-ignore
    const way = followed(0.8)
    expect(withoutFloorLines(reduceToLab(glass, 1), way)).toBe(way)
  })
})
