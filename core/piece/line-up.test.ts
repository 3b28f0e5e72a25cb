import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newKnownSize } from '../calibrate/known-size'
import { node } from '../profile/test-samples'
import { run, newHistory } from './history'
import { agreedWith, lineUpEntry, variantOf } from './line-up'
import { LINE_UP_COLUMNS, lineUpCells, lineUpPage } from './line-up-sheet'
import { newPiece, type PieceDocument } from './schema'

const photo = { sha256: 'c'.repeat(64), fileName: 'a.jpg', mediaType: 'image/jpeg' as const, width: 1000, height: 1000, focalLength35mm: null, quarterTurns: 0, crop: null } // prettier-ignore
/** A cup of ⌀ 60 and 100 mm, its wall 5 mm, on a photo in which a mm is two px. */
const cup: PieceDocument = {
  ...newPiece('Cup', photo),
  calibration: {
    ...newPiece('x').calibration,
    plumb: { foot: { x: 500, y: 900 }, top: { x: 500, y: 100 }, by: 'hand' },
    ground: { x: 500, y: 900 },
    knownSizes: [
      newKnownSize({
        id: 's',
        kind: 'height',
        a: { x: 500, y: 900 },
        b: { x: 500, y: 700 },
        mm: 100,
        text: '100 mm',
      }),
    ],
  },
  profile: { side: 'right', nodes: [node(0, 0), node(30, 0), node(30, 100), node(0, 100)] },
  solid: {
    sides: 32,
    material: 'stoneware',
    wall: { mm: 5, levels: [], floorMm: 10, way: 'inwards', lip: 'flat', bore: false },
  },
}

describe('a piece in the line-up', () => {
  it('has the sizes, volume, capacity and mass of its exact curve', () => {
    const entry = lineUpEntry(cup)!
    expect([entry.heightMm, entry.maxDiameterMm, entry.factor]).toEqual([100, 60, 1])
    const capacity = Math.PI * 25 ** 2 * 90
    expect(entry.capacityMm3! / capacity).toBeCloseTo(1, 9)
    expect(entry.volumeMm3 / (Math.PI * 30 ** 2 * 100 - capacity)).toBeCloseTo(1, 9)
    // Stoneware: 2.3 g/cm³.
    expect(entry.massG! / (0.0023 * entry.volumeMm3)).toBeCloseTo(1, 9)
    expect(Array.from(entry.silhouette)).toEqual([0, 0, 30, 0, 30, 100, 25, 100, 0, 100])
  })

  it('is its finished size, in all powers, and its photo goes along', () => {
    const half = lineUpEntry(
      run(newHistory(cup), { type: 'set-finish', finish: { factor: 0.5, text: '1:2' } }).document,
    )!
    const whole = lineUpEntry(cup)!
    expect([half.heightMm, half.maxDiameterMm]).toEqual([50, 30])
    expect(half.volumeMm3 / whole.volumeMm3).toBeCloseTo(1 / 8, 12)
    expect(half.massG! / whole.massG!).toBeCloseTo(1 / 8, 12)
    // A place on the photo 200 px above the ground and 60 px to the right: 100 mm up, 30 mm out, y down.
    const at = ([a, b, c, d, e, f]: readonly number[], x: number, y: number) => [
      a! * x + c! * y + e!,
      b! * x + d! * y + f!,
    ]
    expect(at(whole.photo!.matrix, 560, 700)).toEqual([expect.closeTo(30, 9), expect.closeTo(-100, 9)])
    expect(at(half.photo!.matrix, 560, 700)).toEqual([expect.closeTo(15, 9), expect.closeTo(-50, 9)])
  })

  it('is none without a scale or without a solid', () => {
    expect(lineUpEntry({ ...cup, calibration: { ...cup.calibration, knownSizes: [] } })).toBeNull()
    expect(lineUpEntry({ ...cup, profile: { side: 'right', nodes: [] } })).toBeNull()
  })

  it('agrees with any length exactly, again and again (property)', () => {
    const mm = fc.double({ min: 0.5, max: 5000, noNaN: true })
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom('height' as const, 'diameter' as const), mm), {
          minLength: 1,
          maxLength: 4,
        }),
        (steps) => {
          let document = cup
          for (const [size, target] of steps) document = agreedWith(document, size, target, 'typed')
          const [size, target] = steps.at(-1)!
          const entry = lineUpEntry(document)!
          expect((size === 'height' ? entry.heightMm : entry.maxDiameterMm) / target).toBeCloseTo(1, 12)
          // The profile stays as measured.
          expect(document.profile).toEqual(cup.profile)
        },
      ),
    )
  })

  it('has variants: another name, material, size; the same shape', () => {
    const variant = variantOf(cup, { name: ' Brass cup ', material: 'brass', factor: 2 })
    expect(variant.name).toBe('Brass cup')
    expect(lineUpEntry(variant)).toMatchObject({ material: 'Brass', heightMm: 200, factor: 2 })
    expect(variantOf(cup, { name: ' ', material: null, factor: 1 })).toEqual(cup)
  })
})

describe('the sheet of a set', () => {
  it('has a row a piece, a cell a column, in the unit asked for', () => {
    const entry = lineUpEntry(cup)!
    const cells = lineUpCells(entry, 'mm')
    expect(cells).toHaveLength(LINE_UP_COLUMNS.length)
    expect(cells.slice(0, 6)).toEqual(['100.00 mm', '60.00 mm', '106 ml', '177 ml', 'Stoneware', '244 g'])
    expect(lineUpCells(entry, 'in')[0]).toBe('3.937 in')
    const page = lineUpPage({ name: 'Cups', unit: 'mm', entries: [entry, { ...entry, name: 'Other', hasParts: true }] }, 'A4', '2026-03-14T10:00:00') // prettier-ignore
    expect([page.width, page.height]).toEqual([297, 210])
    const texts = page.marks.flatMap((m) => (m.kind === 'text' ? [m.text] : []))
    for (const words of ['Cups', 'Cup', 'Other', '⌀ 60.0', '100.0', '2026-03-14', 'Stoneware', '106 ml *'])
      expect(texts).toContain(words)
    expect(texts.filter((t) => t === '106 ml')).toHaveLength(1)
  })
})
