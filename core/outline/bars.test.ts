import { describe, expect, it } from 'vitest'
import { besideOf, isBar, standsBeside } from './bars'
import { silhouetteOf, stripOf, vase } from './test-strips'

const strip = stripOf(vase, () => 0.8)
/** 20 rows of air, 120 of a thing, 20 of air. */
const thing = (half: (row: number) => number) =>
  silhouetteOf(
    strip,
    vase.map((_, row) => (row < 20 || row >= 140 ? 0 : half(row - 20))),
  )

describe('a straight bar', () => {
  it('is as slender as a ruler, and as straight', () => {
    expect(isBar(thing(() => 12))).toBe(true)
    // Seen from above it tapers a little; its ends may be ragged.
    expect(isBar(thing((row) => 12 + row / 120))).toBe(true)
    expect(isBar(thing((row) => (row < 5 ? 7 : 12)))).toBe(true)
  })

  it('is none of a vase, a beaker, a cone, or a post with a head', () => {
    expect(isBar(silhouetteOf(strip, vase))).toBe(false)
    expect(isBar(thing(() => 30))).toBe(false)
    expect(isBar(thing((row) => 8 + row / 20))).toBe(false)
    expect(isBar(thing((row) => (row < 25 ? 19 : 12)))).toBe(false)
    expect(isBar(thing(() => 0))).toBe(false)
  })

  it('takes what lies beyond its inner side with it', () => {
    // The strip's axis is at 100: left of the middle of a picture 300 px wide.
    const { line, inwards, low, high } = besideOf(thing(() => 12), { width: 300, height: 400, data: new Float32Array(0) }) // prettier-ignore
    expect(inwards).toBe(1)
    expect(line.at.x).toBeGreaterThan(112)
    expect(line.at.x).toBeLessThan(115)
    expect(high - low).toBeGreaterThan(119)
    expect(high - low).toBeLessThan(124)
  })

  it('stands beside what is larger and nearer to the middle', () => {
    const picture = { width: 300, height: 400, data: new Float32Array(0) }
    const bar = thing(() => 12)
    const at = (x: number) => ({ ...silhouetteOf(strip, vase), axis: { at: { x, y: 100 }, up: { x: 0, y: -1 } } }) // prettier-ignore
    expect(standsBeside(bar, at(160), picture)).toBe(true)
    expect(standsBeside(bar, at(260), picture)).toBe(false)
    // A goblet's stem stands on its axis.
    expect(standsBeside(bar, at(101), picture)).toBe(false)
    expect(standsBeside(bar, { ...thing(() => 10), axis: at(160).axis }, picture)).toBe(false)
  })
})
