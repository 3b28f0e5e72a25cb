import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { withOuterLines } from './outer-lines'
import { farOff, RADII, silhouetteOf, stripOf, vase } from './test-strips'

/** The way follows what shines within the glass over these rows. */
const shines = (row: number, [from, to]: readonly [number, number]) => row >= from && row < to
const inner = (rows: readonly [number, number], depth = 14) =>
  vase.map((half, row) => (shines(row, rows) ? half - depth : half))

describe('a notch in the silhouette', () => {
  it('is filled where a line that both sides show runs past it, however much clearer its own edge (property)', () => {
    const row = fc.integer({ min: 30, max: 100 })
    const rows = fc.integer({ min: 8, max: 25 })
    const sharp = fc.double({ min: 0.25, max: 1, noNaN: true })
    fc.assert(
      fc.property(row, rows, sharp, (from, count, faint) => {
        const notch = [from, from + count] as const
        const strip = stripOf(vase, (row) => (shines(row, notch) ? faint : 0.9))
        const way = inner(notch)
        way.forEach((half, row) => {
          if (shines(row, notch)) strip.weaker[row * (RADII + 1) + half] = 1
        })
        expect(farOff(withOuterLines(strip, silhouetteOf(strip, way)), vase)).toBeLessThan(2)
      }),
    )
  })

  it('stays where nothing is seen past it, or what is seen comes to an end', () => {
    const notch = [60, 80] as const
    const way = inner(notch)
    for (const seen of [() => false, (row: number) => row < 70]) {
      const strip = stripOf(vase, (row) => (!shines(row, notch) || seen(row) ? 0.9 : 0))
      expect(withOuterLines(strip, silhouetteOf(strip, way)).half).toEqual(Float32Array.from(way))
    }
  })

  it('is filled where one side alone shows the line for a few rows of it, not for more', () => {
    const notch = [60, 85] as const
    const way = inner(notch)
    const filled = (rows: number) => {
      const gone = (row: number) => row >= 68 && row < 68 + rows
      const strip = stripOf(vase, (row) => (gone(row) ? 0 : 0.9))
      vase.forEach((half, row) => {
        if (gone(row)) strip.both[row * (RADII + 1) + half] = 0.9
      })
      return withOuterLines(strip, silhouetteOf(strip, way))
    }
    expect(farOff(filled(6), vase)).toBeLessThan(2)
    expect(filled(9).half).toEqual(Float32Array.from(way))
  })

  it('stays where only one side shows a line past it, as a handle’s', () => {
    const notch = [60, 80] as const
    const strip = stripOf(vase, (row) => (shines(row, notch) ? 0 : 0.9))
    vase.forEach((half, row) => {
      if (shines(row, notch)) strip.both[row * (RADII + 1) + half] = 0.9
    })
    const way = inner(notch)
    expect(withOuterLines(strip, silhouetteOf(strip, way)).half).toEqual(Float32Array.from(way))
  })

  it('that isn’t there leaves the silhouette as it is', () => {
    const strip = stripOf(vase, () => 0.9)
    expect(withOuterLines(strip, silhouetteOf(strip, vase)).half).toEqual(Float32Array.from(vase))
  })
})
