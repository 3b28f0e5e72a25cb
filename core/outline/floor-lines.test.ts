import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { reduceToLab } from '../picture/reduce'
import { findOutline } from './find-outline'
import { floorLinesOf, withoutJointAbove, withoutMiddleJoint } from './floor-lines'
import type { Silhouette } from './silhouette'
import { paint } from './test-pictures'

const [WIDTH, HEIGHT, MIDDLE, FOOT, HALF] = [300, 300, 150, 200, 50]
const FLOOR = [0.35, 0.33, 0.3]
const JOINT = [0.05, 0.05, 0.05]

/** How far out the joints of the boards lie in a row below the foot, which lean so much. */
const jointAt = (y: number, lean: number) => HALF + 8 + lean * (y - FOOT)

/** A pale post on a floor; beside its foot a line leads outwards on either side, or an edge does: the floor beyond has another colour. */
function post(lean: number, beyond = FLOOR, joint = JOINT, wide = 2) {
  const onLine = (x: number, y: number) => Math.abs(Math.abs(x - MIDDLE) - jointAt(y, lean)) < wide
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

describe('lines of the floor that lead on from a foot', () => {
  it('are told, and where they lie (property)', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.12, max: 2.2, noNaN: true }), (lean) => {
        const lines = floorLinesOf(post(lean), followed(lean))
        expect(Math.abs(lines!.from - FOOT)).toBeLessThan(10)
        for (const y of [FOOT + 10, FOOT + 40])
          expect(Math.abs(lines!.halfAt(y) - jointAt(y, lean))).toBeLessThan(1)
      }),
      { numRuns: 25 },
    )
  })

  it('are told where a silhouette follows them over a part of its height only', () => {
    const lean = 0.5
    const through = (y: number) => (y > FOOT + 15 && y < FOOT + 60 ? jointAt(y, lean) : HALF)
    const half = followed(lean).half.map((r, y) => (r > 0 && y > FOOT ? through(y) : r))
    const lines = floorLinesOf(post(lean), { ...followed(lean), half })
    // Down from where they are seen, above those rows.
    expect(Math.abs(lines!.from - FOOT)).toBeLessThan(12)
    expect(Math.abs(lines!.halfAt(FOOT + 40) - jointAt(FOOT + 40, lean))).toBeLessThan(1)
  })

  it('are told though other joints were followed before, farther out', () => {
    const [inner, outer] = [0.3, 0.6]
    const outerAt = (y: number) => 60 + outer * (y - 120)
    const isOuter = (x: number, y: number) => y > 120 && Math.abs(Math.abs(x - MIDDLE) - outerAt(y)) < 2
    const isInner = (x: number, y: number) =>
      y > FOOT - 8 && Math.abs(Math.abs(x - MIDDLE) - jointAt(y, inner)) < 2
    const post = paint(WIDTH, HEIGHT, (x, y) => Math.max(Math.abs(x - MIDDLE) - HALF, y - FOOT, 40 - y), {
      inside: () => [0.75, 0.75, 0.7],
      outside: (x, y) => (isOuter(x, y) || isInner(x, y) ? JOINT : FLOOR),
      grain: 0.5,
    }) // prettier-ignore
    const half = followed(inner).half.map((r, y) => (y > 140 && y < FOOT - 4 ? outerAt(y) : r))
    const lines = floorLinesOf(reduceToLab(post, 1), { ...followed(inner), half })
    expect(Math.abs(lines!.halfAt(FOOT + 40) - jointAt(FOOT + 40, inner))).toBeLessThan(1)
  })

  it('are told where they run almost level, which silhouettes follow by steps', () => {
    const lean = 1.8
    const half = followed(lean).half.map((r, y) =>
      y > FOOT ? Math.min(MIDDLE, jointAt(y - (y % 2), lean)) : r,
    )
    const lines = floorLinesOf(post(lean), { ...followed(lean), half })
    expect(Math.abs(lines!.halfAt(FOOT + 20) - jointAt(FOOT + 20, lean))).toBeLessThan(3)
  })

  it('are told where they are wide, too (property)', () => {
    fc.assert(
      fc.property(fc.double({ min: 2, max: 4.5, noNaN: true }), (wide) => {
        const lines = floorLinesOf(post(1, FLOOR, JOINT, wide), followed(1))
        expect(Math.abs(lines!.halfAt(FOOT + 20) - jointAt(FOOT + 20, 1))).toBeLessThan(1)
      }),
      { numRuns: 25 },
    )
  })

  it('aren’t where they are edges: a foot that spreads', () => {
    expect(floorLinesOf(post(0.8, [0.7, 0.6, 0.2], FLOOR), followed(0.8))).toBeNull()
  })

  it('aren’t where they run down steeply: the sides of a thin skirt', () => {
    expect(floorLinesOf(post(0.04), followed(0.04))).toBeNull()
    // One that leans more ends before the border.
    const skirt = followed(0.18)
    expect(floorLinesOf(post(0.18), { ...skirt, half: skirt.half.fill(0, HEIGHT - 40) })).toBeNull()
  })

  it('aren’t where the whole piece shows as lines: thin glass', () => {
    const glass = paint(WIDTH, HEIGHT, (x, y) => Math.abs(Math.abs(x - MIDDLE) - (y < FOOT ? HALF : jointAt(y, 0.8))) - 2, {
      inside: () => JOINT,
      outside: () => FLOOR,
    }) // prettier-ignore
    expect(floorLinesOf(reduceToLab(glass, 1), followed(0.8))).toBeNull()
  })
})

describe('a joint behind the middle of a foot', () => {
  const axis = { at: { x: MIDDLE, y: 0 }, up: { x: 0, y: -1 } }
  /** What is 40 px wide down to row 100, and so wide on to row 130. */
  const ending = (below: (row: number) => number, up = axis.up): Silhouette => ({
    axis: { ...axis, up },
    top: 0,
    half: Float32Array.from({ length: 160 }, (_, row) => (row < 20 ? 0 : row < 100 ? 40 : row < 130 ? below(row) : 0)),
    edges: 1,
  }) // prettier-ignore
  const lastOf = ({ half }: Silhouette) => half.findLastIndex((r) => r > 0)

  it('isn’t the foot’s needle', () => {
    expect(lastOf(withoutMiddleJoint(ending(() => 3)))).toBe(99)
    // Seen from above the foot narrows over a few rows; a drop's tip, whose needle is short, narrows so too.
    const closing = (row: number) => [25, 14][row - 100] ?? 3
    expect(lastOf(withoutMiddleJoint(ending(closing)))).toBe(101)
    const drop = ending((row) => (row < 104 ? closing(row) : 0))
    expect(withoutMiddleJoint(drop)).toBe(drop)
  })

  it('isn’t the foot’s needle either where that narrows to it along other lines', () => {
    const needle = [10, 10, 7, 7, 3, 3]
    expect(lastOf(withoutMiddleJoint(ending((row) => needle[row - 100] ?? 0)))).toBe(99)
    // Rows of a foot that closes aren’t so much narrower than those before.
    const foot = [36, 31, 25, 17, 4]
    const closed = ending((row) => foot[row - 100] ?? 0)
    expect(withoutMiddleJoint(closed)).toBe(closed)
  })

  it('leaves what tapers, what is wider, what lies on its side, and what ends there', () => {
    for (const kept of [ending((row) => Math.max(1, 40 - (row - 100) * 1.3)), ending(() => 9), ending(() => 3, { x: 1, y: 0 }), ending(() => 0)])
      expect(withoutMiddleJoint(kept)).toBe(kept)
  }) // prettier-ignore
})

describe('a joint of the wall above a dome’s middle', () => {
  const dome = (at: (row: number) => number): Silhouette => ({
    axis: { at: { x: MIDDLE, y: 0 }, up: { x: 0, y: -1 } },
    top: 0,
    half: Float32Array.from({ length: HEIGHT }, (_, row) => (row < 40 ? 0 : row < 60 ? at(row) : row < 200 ? 12 * Math.sqrt(row - 58) : 0)),
    edges: 1,
  }) // prettier-ignore
  const led = dome(() => 3)
  const evidence = (ofJoint: number) => ({
    width: WIDTH,
    height: HEIGHT,
    data: new Float32Array(WIDTH * HEIGHT).fill(ofJoint),
  })
  const firstOf = ({ half }: Silhouette) => half.findIndex((r) => r > 0)

  it('isn’t its needle, unless that looks unlike the backdrop', () => {
    expect(firstOf(withoutJointAbove(led, evidence(-0.4)))).toBe(60)
    expect(withoutJointAbove(led, evidence(0.8))).toBe(led)
  })

  it('leaves what tapers, and what is wider', () => {
    for (const kept of [dome((row) => 0.8 * (row - 38)), dome(() => 9)])
      expect(withoutJointAbove(kept, evidence(-0.4))).toBe(kept)
  })
})

describe('joints of boards on both sides of a piece, clearer than its foot', () => {
  const [width, height, middle, horizon, foot] = [600, 800, 300, 430, 660]
  const post = (x: number, y: number, half: number, top: number) =>
    Math.max(Math.abs(x - middle) - half, top - y, y - foot)
  const isMortar = (x: number, y: number) =>
    (y >> 4) % 5 === 0 || ((x + 37 * Math.floor(y / 80)) >> 4) % 8 === 0
  /** A stem on a drum, before bricks; joints of the floor pass the drum on both sides. */
  const drum = (colour: number[]) =>
    paint(width, height, (x, y) => Math.min(post(x, y, 45, 120), post(x, y, 110, 560)), {
      inside: () => colour,
      outside: (x, y) => {
        if (y < horizon) return isMortar(x, y) ? [0.3, 0.2, 0.16] : [0.4, 0.27, 0.2]
        const aside = Math.abs(x - middle) / (y - horizon + 260)
        return Math.abs(aside - 0.34) < 0.003 ? [0.2, 0.2, 0.2] : [0.7, 0.7, 0.69]
      },
      grain: 3,
    })

  it.each([
    ['lighter than the floor', [0.9, 0.9, 0.85]],
    ['darker', [0.5, 0.49, 0.48]],
  ])('don’t lead its outline away: %s', (_, colour) => {
    const { left, right } = findOutline(drum(colour))
    for (const { points } of [left, right]) {
      let [lowest, widest] = [0, 0]
      for (let i = 0; i < points.length; i += 2) {
        const [x, y] = [points[i]!, points[i + 1]!]
        lowest = Math.max(lowest, y)
        if (y > horizon) widest = Math.max(widest, Math.abs(x - middle))
      }
      expect(Math.abs(lowest - foot)).toBeLessThan(1)
      expect(Math.abs(widest - 110)).toBeLessThan(1)
    }
  })
})
