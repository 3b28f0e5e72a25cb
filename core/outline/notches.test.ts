import { describe, expect, it } from 'vitest'
import { withoutBareNotches, withoutRaggedNotches } from './notches'
import type { Strip } from './silhouette'
import { farOff, RADII, silhouetteOf, stripOf, vase } from './test-strips'

describe('notches of a silhouette', () => {
  it('a notch with nothing along it is led past, one with edges stays', () => {
    const notched = vase.map((half, row) => (row >= 70 && row < 90 ? 20 : half))
    const strip = stripOf(vase, (row) => (row >= 70 && row < 90 ? 0 : 0.8))
    expect(farOff(withoutBareNotches(strip, silhouetteOf(strip, notched)), vase)).toBeLessThan(3)
    const real = stripOf(notched, () => 0.8)
    expect(withoutBareNotches(real, silhouetteOf(real, notched)).half).toEqual(Float32Array.from(notched))
  })

  it('a notch is led past to its very edge, over a landing on the way out', () => {
    // Down at once, back in steps that rest for a row or two.
    const out = (row: number) => 18 + 8 * Math.floor((row - 80) / 2)
    const notched = vase.map((half, row) =>
      row >= 66 && row < 80 ? 18 : row >= 80 && row < 92 ? Math.min(half, out(row)) : half,
    )
    const strip = stripOf(vase, (row) => (row >= 66 && row < 92 ? 0 : 0.8))
    expect(farOff(silhouetteOf(strip, notched), vase)).toBeGreaterThan(35)
    expect(farOff(withoutBareNotches(strip, silhouetteOf(strip, notched)), vase)).toBeLessThan(3)
  })

  describe('a notch', () => {
    const n = RADII + 1
    /** The vase with a notch of so many rows, and the edges of that. */
    const notched = (rows: number, sharp: number) => {
      const half = vase.map((r, row) => (row >= 70 && row < 70 + rows ? 30 : r))
      return { half, strip: stripOf(half, (row) => (row >= 70 && row < 70 + rows ? sharp : 0.8)) }
    }
    /** Edges across the axis in a row, from the notch out to the vase. */
    const withStep = (strip: Strip, row: number): Strip => {
      const level = strip.level.slice()
      level.fill(0.6, row * n + 31, row * n + vase[row]! + 1)
      return { ...strip, level }
    }
    const led = ({ half, strip }: ReturnType<typeof notched>) =>
      farOff(withoutBareNotches(strip, silhouetteOf(strip, half)), vase) < 3

    it('goes that begins with no step: specks that lie evenly about the axis lead there', () => {
      const { half, strip } = notched(12, 0.7)
      expect(led({ half, strip })).toBe(true)
      expect(led({ half, strip: withStep(strip, 70) })).toBe(false)
      // Of an upright piece, seen from above, the step is at the upper end; of a lying one it may be at either.
      const below = withStep(strip, 82)
      expect(led({ half, strip: below })).toBe(true)
      expect(led({ half, strip: { ...below, axis: { ...below.axis, up: { x: 1, y: 0 } } } })).toBe(false)
    })

    it('goes as well on a shoulder, which flares: a highlight leads there', () => {
      const shoulder = vase.map((_, row) =>
        row < 20 || row >= 140 ? 0 : Math.round(30 + Math.max(0, Math.min(30, row - 70))),
      )
      const half = shoulder.map((r, row) => (row >= 72 && row < 82 ? 12 : r))
      const strip = stripOf(half, (row) => (row >= 72 && row < 82 ? 0.7 : 0.8))
      const far = (strip: Strip) => farOff(withoutBareNotches(strip, silhouetteOf(strip, half)), shoulder)
      expect(far(strip)).toBeLessThan(3)
      const level = strip.level.slice()
      level.fill(0.6, 72 * n + 13, 72 * n + 34)
      expect(far({ ...strip, level })).toBeGreaterThan(15)
    })

    it('stays that is taller than specks are, or leads to something else', () => {
      expect(led(notched(24, 0.7))).toBe(false)
      const { half, strip } = notched(12, 0.7)
      const wider = half.map((r, row) => (row >= 82 && row < 140 ? r + 25 : r))
      expect(withoutBareNotches(strip, silhouetteOf(strip, wider)).half).toEqual(Float32Array.from(wider))
    })
  })

  it('a ragged notch from speckle to speckle is led past; a turned one with edges stays, and so does a plain one', () => {
    const ragged = (row: number) => 30 + [0, 12, 3, 15, -4, 10, 2, 14][row % 8]!
    const speckled = vase.map((half, row) => (row >= 70 && row < 94 ? Math.min(half, ragged(row)) : half))
    const strip = stripOf(vase, (row) => (row >= 70 && row < 94 ? 0 : 0.8))
    const n = RADII + 1
    // Speckles show an edge here and there.
    for (let row = 70; row < 94; row += 3) strip.weaker[row * n + speckled[row]!] = 0.7
    expect(farOff(withoutRaggedNotches(strip, silhouetteOf(strip, speckled)), vase)).toBeLessThan(3)
    const turned = stripOf(speckled, () => 0.8)
    expect(withoutRaggedNotches(turned, silhouetteOf(turned, speckled)).half).toEqual(Float32Array.from(speckled)) // prettier-ignore
    const plain = vase.map((half, row) => (row >= 70 && row < 94 ? 30 : half))
    expect(withoutRaggedNotches(strip, silhouetteOf(strip, plain)).half).toEqual(Float32Array.from(plain))
  })

  it('a plain notch is led past in a piece full of specks, if no edge shows where it leads in', () => {
    const n = RADII + 1
    const notched = vase.map((half, row) => (row >= 70 && row < 94 ? 30 : half))
    /** The vase with so many of its places on specks, which show in the notch, too. */
    const speckled = (every: number, sharp: number) => {
      const strip = stripOf(notched, (row) => (row >= 70 && row < 94 ? sharp : 0.8))
      vase.forEach((half, row) => {
        for (let r = 3; r < half - 4; r++) if ((r + 3 * row) % every === 0) strip.both[row * n + r] = 0.7
      })
      return strip
    }
    const far = (strip: Strip) => farOff(withoutRaggedNotches(strip, silhouetteOf(strip, notched)), vase)
    expect(far(speckled(2, 0.5))).toBeLessThan(3)
    expect(far(speckled(12, 0.5))).toBeGreaterThan(20)
    // A groove's own edge is clear all along, and so is the step into it.
    expect(far(speckled(2, 0.9))).toBeGreaterThan(20)
    const stepped = speckled(2, 0.5)
    stepped.level.fill(0.6, 70 * n + 31, 70 * n + vase[70]! + 1)
    expect(far(stepped)).toBeGreaterThan(20)
  })

  describe('of which one side shows an edge', () => {
    const n = RADII + 1
    const notched = vase.map((half, row) => (row >= 70 && row < 92 ? half - 18 : half))
    /** The vase, whose edges only one side shows in the notch's rows, beside as clear an edge of one side along the notch. */
    const strip = (past: number, along: number) => {
      const made = stripOf(vase, (row) => (row >= 70 && row < 92 ? 0 : 0.8))
      for (let row = 70; row < 92; row++) {
        made.both[row * n + vase[row]!] = past
        made.both[row * n + notched[row]!] = along
      }
      made.level.fill(0.5, 70 * n + notched[70]!, 70 * n + vase[70]! + 1)
      return made
    }

    it('none is left where the straight way past it shows as much', () => {
      const made = strip(0.9, 0.9)
      expect(farOff(withoutBareNotches(made, silhouetteOf(made, notched)), vase)).toBeLessThan(2)
    })

    it('it stays where it shows more, and where it shows an edge on both sides', () => {
      const more = strip(0.5, 0.9)
      expect(withoutBareNotches(more, silhouetteOf(more, notched)).half).toEqual(Float32Array.from(notched))
      const both = strip(0.9, 0.9)
      for (let row = 70; row < 92; row++) both.weaker[row * n + notched[row]!] = 0.5
      expect(withoutBareNotches(both, silhouetteOf(both, notched)).half).toEqual(Float32Array.from(notched))
    })
  })
})
