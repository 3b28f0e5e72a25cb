import { describe, expect, it } from 'vitest'
import type { AxisLine } from './axis-line'
import { resample } from './chain'
import { withClosingArcs } from './closing-arcs'
import type { OutlineSide } from './refine'
import { steppedEnd } from './stepped-ends'
import { paint } from './test-pictures'

/** A tumbler seen from above, so that a ring closes it. */
const [AT, HALF, FOOT, RISE, TOP] = [250.5, 120, 400, 24, 60]
const axis: AxisLine = { at: { x: AT, y: 250 }, up: { x: 0, y: -1 } }
const ring = (u: number) => FOOT + RISE * Math.sqrt(Math.max(0, 1 - (u / HALF) ** 2))

type Way = readonly (readonly [u: number, y: number])[]
const RING: Way = Array.from({ length: 61 }, (_, k) => [(k / 60) * HALF, ring((k / 60) * HALF)])
/** Along two lines of a cloth, and back to the side along a third. */
const [LINE, NEXT_LINE] = [436, 418]
const STEPS: Way = [[0, LINE], [85, LINE], [85, NEXT_LINE], [140, NEXT_LINE], [HALF, 380]] // prettier-ignore

/** Both sides along a way that closes the foot. */
const sidesBy = (way: Way, { isSeen = true, top = TOP } = {}) =>
  ([-1, 1] as const).map((side): OutlineSide => {
    const whole = [...way, [HALF, top], [0, top]].flatMap(([u, y]) => [AT + side * u!, y!])
    const points = resample(whole, 2)
    const sd = Float64Array.from({ length: points.length / 2 }, (_, i) =>
      isSeen || points[2 * i + 1]! < NEXT_LINE - 5 ? 0.05 : Infinity,
    )
    return { points, sd, blur: 0.7 }
  })

describe('an end that jumps from line to line', () => {
  it('is told from one that a ring closes, seen from however far above, or whose corner is cut', () => {
    expect(steppedEnd(sidesBy(RING), axis, 'foot')).toBeNull()
    expect(steppedEnd(sidesBy([[0, FOOT], [HALF, FOOT]]), axis, 'foot')).toBeNull() // prettier-ignore
    expect(steppedEnd(sidesBy([[0, FOOT], [HALF - 15, FOOT], [HALF, FOOT - 15]]), axis, 'foot')).toBeNull() // prettier-ignore
    expect(steppedEnd(sidesBy(STEPS), axis, 'top')).toBeNull()
    expect(steppedEnd(sidesBy(STEPS), axis, 'foot')!.wide).toBeCloseTo(140, -1)
  })

  it('says how much of it shows an edge', () => {
    expect(steppedEnd(sidesBy(STEPS), axis, 'foot')!.seen).toBe(1)
    expect(steppedEnd(sidesBy(STEPS, { isSeen: false }), axis, 'foot')!.seen).toBe(0)
  })
})

describe('a foot that jumps along lines of the floor', () => {
  const tumbler = (x: number, y: number) =>
    Math.max(Math.abs(x - AT) - HALF, TOP - y, y - ring(Math.abs(x - AT)))
  /** A cloth, on whose lines the way lies; or a floor without any. */
  const cloth = (x: number, y: number) => {
    const isDark = [Math.floor((y - LINE) / 18), Math.floor((x - AT) / 40 + 100)].map((k) => k & 1)
    const light = [0.62, 0.4, 0.2][isDark[0]! + isDark[1]!]!
    return [light, 0.9 * light, light]
  }
  const plain = () => [0.6, 0.58, 0.55]
  const photo = (floor: (x: number, y: number) => number[]) =>
    paint(500, 500, tumbler, {
      inside: () => [0.12, 0.12, 0.13],
      outside: (x, y) => (y > 330 ? floor(x, y) : plain()),
    })
  const closed = (raster: ReturnType<typeof photo>, sides: OutlineSide[]) =>
    withClosingArcs(raster, sides.map(({ points }) => points) as [Float64Array, Float64Array], axis, {
      blur: 0.7,
      step: 2,
      clear: false,
      backdrop: null,
      open: [],
      stepped: steppedEnd(sides, axis, 'foot'),
    }).sides
  /** How far places of the foot lie off the tumbler, px, at most; in its flat part, and anywhere below the floor's far end. */
  const offBy = (sides: readonly Float64Array[], reach = Infinity) =>
    Math.max(
      ...sides.flatMap((side) =>
        Array.from({ length: side.length / 2 }, (_, i) => [side[2 * i]!, side[2 * i + 1]!] as const)
          .filter(([x, y]) => y > 340 && Math.abs(x - AT) < reach)
          .map(([x, y]) => Math.abs(tumbler(x, y))),
      ),
    )

  it('follows the ring that closes it, without what the lines tore off', () => {
    const stepping = sidesBy(STEPS)
    expect(offBy(stepping.map(({ points }) => points))).toBeGreaterThan(15)
    const found = closed(photo(cloth), stepping)
    expect(offBy(found, 0.9 * HALF)).toBeLessThan(1.5)
    expect(offBy(found)).toBeLessThan(5)
  })

  it('stays where no line goes on beside it: the steps are the piece’s own', () => {
    const stepping = sidesBy(STEPS)
    const found = closed(photo(plain), stepping)
    expect(offBy(found)).toBeCloseTo(offBy(stepping.map(({ points }) => points)), 0)
    // … unless hardly any of it shows an edge.
    expect(offBy(closed(photo(plain), sidesBy(STEPS, { isSeen: false })), 0.9 * HALF)).toBeLessThan(1.5)
  })
})
