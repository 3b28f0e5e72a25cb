import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ledOn, ledToLip } from './led-on'
import type { Silhouette, Strip } from './silhouette'
import { farOff, RADII, silhouetteOf, stripOf, vase } from './test-strips'

const n = RADII + 1
/** The vase whose edges both sides show above a row; below it one side alone does, as clear as is said, down to another. */
function fading(from: number, to: number, one: number): Strip {
  const strip = stripOf(vase, (row) => (row < from ? 0.8 : 0))
  for (let row = from; row < to; row++) strip.both[row * n + vase[row]!] = one
  return strip
}
/** What was found of it: the rows above. */
const above = (strip: Strip, from: number): Silhouette =>
  silhouetteOf(strip, vase.map((half, row) => (row < from ? half : 0))) // prettier-ignore
const lastOf = ({ half }: Silhouette) => half.findLastIndex((r) => r > 0)
/** An edge across the axis over the width of the piece in a row. */
function closed(strip: Strip, row: number): Strip {
  strip.level.fill(0.8, row * n, row * n + vase[row]!)
  return strip
}

describe('an end that nothing closes', () => {
  it('is led on as far as one side shows its edge (property)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 60, max: 110 }), fc.integer({ min: 15, max: 40 }), (from, rows) => {
        const to = Math.min(140, from + rows)
        const strip = fading(from, to, 0.6)
        const found = ledOn(strip, above(strip, from))
        expect(lastOf(found)).toBe(to - 1)
        expect(farOff(found, vase.map((half, row) => (row < to ? half : 0)))).toBeLessThan(3) // prettier-ignore
      }),
    )
  })

  it('is led on upwards as well', () => {
    const strip = stripOf(vase, (row) => (row >= 80 ? 0.8 : 0))
    for (let row = 40; row < 80; row++) strip.both[row * n + vase[row]!] = 0.6
    const found = ledOn(strip, silhouetteOf(strip, vase.map((half, row) => (row >= 80 ? half : 0)))) // prettier-ignore
    expect(found.half.findIndex((r) => r > 0)).toBe(40)
  })

  it('is led over a few rows without an edge, but not over many', () => {
    const strip = fading(80, 120, 0.6)
    const gap = (from: number, to: number) => {
      const made = { ...strip, both: strip.both.slice() }
      made.both.fill(0, from * n, to * n)
      return lastOf(ledOn(made, above(made, 80)))
    }
    expect(gap(96, 102)).toBe(119)
    expect(gap(96, 112)).toBe(95)
  })

  it('stays where an edge across the axis closes it, and where no side goes on', () => {
    const ended = closed(fading(80, 120, 0.6), 79)
    expect(lastOf(ledOn(ended, above(ended, 80)))).toBe(79)
    const nothing = fading(80, 80, 0)
    expect(ledOn(nothing, above(nothing, 80)).half).toEqual(above(nothing, 80).half)
  })

  it('stays where only a few rows or a few places beyond it show something', () => {
    const few = fading(80, 89, 0.6)
    expect(lastOf(ledOn(few, above(few, 80)))).toBe(79)
    const speckled = fading(80, 120, 0)
    for (let row = 82; row < 120; row += 3) speckled.both[row * n + vase[row]!] = 0.6
    expect(lastOf(ledOn(speckled, above(speckled, 80)))).toBe(79)
  })

  it('of nothing is nothing', () => {
    const strip = fading(80, 120, 0.6)
    const none = silhouetteOf(strip, vase.map(() => 0)) // prettier-ignore
    expect(ledOn(strip, none)).toBe(none)
  })
})

describe('a lip of another colour above the line at which a silhouette ends', () => {
  const tube = Array.from({ length: 160 }, (_, row) => (row < 20 || row >= 140 ? 0 : 40))
  /** A tube that shows its edges faintly from row 20 to 32, clearly below, and an edge across in these rows. */
  const strip = (faint: number, across: readonly number[]) => {
    const made = stripOf(tube, (row) => (row < 32 ? faint : 0.9))
    for (const row of across) made.level.fill(0.8, row * n, row * n + 40)
    return made
  }
  const below = (made: Strip) => silhouetteOf(made, tube.map((half, row) => (row < 32 ? 0 : half))) // prettier-ignore

  it('belongs to the piece where both sides go on to an edge that closes them, however clear the line below it', () => {
    for (const faint of [0.25, 0.9]) {
      const made = strip(faint, [20, 32])
      expect(farOff(ledToLip(made, below(made)), tube)).toBe(0)
    }
  })

  it('is none where the sides show no edge, nothing closes them, or they are no taller than a bead', () => {
    for (const made of [strip(0.1, [20, 32]), strip(0.5, [32])])
      expect(ledToLip(made, below(made)).half).toEqual(below(made).half)
    const low = stripOf(tube, (row) => (row < 28 ? 0 : 0.9))
    low.level.fill(0.8, 28 * n, 28 * n + 40)
    expect(ledToLip(low, below(low)).half).toEqual(below(low).half)
  })

  it('and below a foot nothing is looked for', () => {
    const made = strip(0.9, [20, 100])
    const upper = silhouetteOf(made, tube.map((half, row) => (row > 100 ? 0 : half))) // prettier-ignore
    expect(ledToLip(made, upper).half).toEqual(upper.half)
  })
})
