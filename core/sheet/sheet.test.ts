import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { profileSegments } from '../profile/profile-segments'
import { node } from '../profile/test-samples'
import { spread } from './dimensions'
import type { Mark, Page, TextMark } from './drawing'
import { halfSectionSheet } from './half-section'
import { hatching } from './hatch'
import { scaleThatFits } from './paper'
import type { SheetPiece } from './section-piece'
import { sidesOf } from '../profile/sides'
import { templatePage, templateSheets } from './template'
import { CHECK_BAR } from './tiles'
import { writeSheetSvg } from './to-svg'

/** A jar of straight lines: outside ⌀ 60, inside ⌀ 52, floor 6, neck ⌀ 40 outside and 32 inside. */
const JAR = profileSegments([
  node(0, 0), node(30, 0), node(30, 70), node(20, 80), node(20, 100), node(16, 100), node(16, 78), node(26, 68), node(26, 6), node(0, 6),
]) // prettier-ignore
/** A bell, open below. */
const BELL = profileSegments([node(0, 30), node(20, 30), node(35, 0), node(40, 0), node(22, 36), node(0, 36)])
const SOLID = profileSegments([node(0, 0), node(10, 0), node(12, 40), node(0, 40)])

const piece = (segments = JAR, name = 'Jar & lid'): SheetPiece => ({
  name,
  solids: [{ name, segments }],
  stations: [{ name: 'neck', z: 90 }],
  lengthText: (mm) => mm.toFixed(1),
  unit: 'mm',
  timeStamp: '2026-03-14T10:00:00',
  material: 'Stoneware',
  notes: ['Sizes come from a photo.'],
})

const everyMark = (marks: readonly Mark[]): Mark[] => marks.flatMap((m) => (m.kind === 'window' ? everyMark(m.marks) : [m])) // prettier-ignore
const textsOf = ({ marks }: Page) => everyMark(marks).filter((m): m is TextMark => m.kind === 'text').map((m) => m.text) // prettier-ignore

describe('scales', () => {
  it('are those of ISO 5455, the largest that fits', () => {
    expect(scaleThatFits(100, 100, 100, 100).name).toBe('1:1')
    expect(scaleThatFits(101, 100, 100, 100).name).toBe('1:2')
    expect(scaleThatFits(10, 9, 55, 100).name).toBe('5:1')
    expect(scaleThatFits(3000, 100, 100, 100).name).toBe('1:50')
  })
})

describe('hatching', () => {
  it('covers the area: length of its lines times their distance (property)', () => {
    const radius = fc.double({ min: 5, max: 40, noNaN: true })
    fc.assert(
      fc.property(fc.array(radius, { minLength: 3, maxLength: 9 }), fc.boolean(), (radii, falling) => {
        const corners = radii.map((r, i) => [100 + r * Math.cos((2 * Math.PI * i) / radii.length), 100 + r * Math.sin((2 * Math.PI * i) / radii.length)]) // prettier-ignore
        const area = corners.reduce((sum, [x, y], i) => {
          const [u, v] = corners[(i + 1) % corners.length]!
          return sum + (x! * v! - u! * y!) / 2
        }, 0)
        const spacing = 0.05
        const { steps } = hatching([Float64Array.from(corners.flat())], spacing, falling)
        let length = 0
        for (let i = 0; i < steps.length; i += 2) {
          const [, x0, y0] = steps[i] as ['M', number, number]
          const [, x1, y1] = steps[i + 1] as ['L', number, number]
          length += Math.hypot(x1 - x0, y1 - y0)
          expect(Math.abs(Math.abs(x1 - x0) - Math.abs(y1 - y0))).toBeLessThan(1e-9)
          if (Math.abs(x1 - x0) > 1e-6) expect(Math.sign((x1 - x0) * (y1 - y0))).toBe(falling ? 1 : -1)
        }
        expect(Math.abs((length * spacing) / area - 1)).toBeLessThan(0.02)
      }),
      { numRuns: 40 },
    )
  })
})

describe('figures in a column', () => {
  it('keep a row apart, in order, below the least place, and where they want to be when there is room (property)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 100, noNaN: true }), { minLength: 1, maxLength: 20 }),
        (places) => {
          const wanted = [...places].sort((a, b) => a - b)
          const got = spread(wanted, 3)
          got.forEach((y, i) => {
            expect(y).toBeGreaterThanOrEqual(3 + i * 5.2 - 1e-9)
            if (i > 0) expect(y - got[i - 1]!).toBeGreaterThanOrEqual(5.2 - 1e-9)
          })
          const roomy = wanted.map((y, i) => 10 + 6 * i + y / 1000)
          expect(spread(roomy, 3)).toEqual(roomy)
        },
      ),
    )
  })
})

describe('the sides of a closed half-profile', () => {
  const z = (segments: ReturnType<typeof profileSegments>) =>
    segments.map((s) => (s.kind === 'line' ? s.cubic[7] : NaN))
  it('are parted where it stands and at its rim', () => {
    const jar = sidesOf(JAR)
    expect([jar.under, z(jar.outer), z(jar.inside)]).toEqual([[], [70, 80, 100, 100], [78, 68, 6, 6]])
    const bell = sidesOf(BELL)
    expect([z(bell.under), z(bell.outer), bell.inside]).toEqual([[30, 0], [36, 36], []])
    expect([sidesOf(SOLID).under, sidesOf(SOLID).inside]).toEqual([[], []])
  })
})

describe('the half-section', () => {
  it('says all sizes of the jar, its scale, name, material and where the sizes come from', () => {
    const texts = textsOf(halfSectionSheet(piece(), 'A4'))
    for (const words of [
      '⌀ 60.0',
      '⌀ 52.0',
      'neck ⌀ 40.0',
      '⌀ 32.0',
      '70.0',
      '80.0',
      '100.0',
      '6.0',
      '1:1',
      'Jar & lid',
      'Stoneware',
      '2026-03-14',
      'Sizes come from a photo.',
    ])
      // prettier-ignore
      expect(texts).toContain(words)
  })

  it('draws to scale: the view is as wide and tall as the piece', () => {
    for (const [factor, scale] of [
      [1, 1],
      [7, 0.2],
      [0.11, 10],
    ] as const) {
      const grown = JAR.map((s) => ({ ...s, cubic: s.kind === 'line' ? (s.cubic.map((v) => v * factor) as never) : undefined! })) // prettier-ignore
      const { marks } = halfSectionSheet(piece(grown), 'A4')
      const cut = marks.filter((m) => m.kind === 'path').filter((m) => m.fill === 'paper' && !m.line).at(-1)! // prettier-ignore
      const at = cut.steps.flatMap((s) => (s[0] === 'M' || s[0] === 'L' ? [[s[1], s[2]] as const] : []))
      const [xs, ys] = [at.map(([x]) => x), at.map(([, y]) => y)]
      expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(30 * factor * scale, 6)
      expect(Math.max(...ys) - Math.min(...ys)).toBeCloseTo(100 * factor * scale, 6)
    }
  })

  it('keeps on every paper inside the frame', () => {
    for (const paper of ['A4', 'A3', 'Letter'] as const) {
      const page = halfSectionSheet(piece(), paper)
      for (const mark of page.marks) {
        if (mark.kind !== 'path') continue
        for (const step of mark.steps.filter((s) => s[0] === 'M' || s[0] === 'L')) {
          expect(step[1]).toBeGreaterThanOrEqual(9)
          expect(step[1]).toBeLessThanOrEqual(page.width - 9)
          expect(step[2]).toBeGreaterThanOrEqual(9)
          expect(step[2]).toBeLessThanOrEqual(page.height - 9)
        }
      }
    }
  })
})

describe('the template', () => {
  it('has cards of profile, counter-profile and inside; of a bell its underside', () => {
    expect(textsOf(templatePage(piece()))).toEqual(
      expect.arrayContaining(['Profile', 'Counter-profile', 'Inside']),
    )
    expect(textsOf(templatePage(piece(BELL)))).toContain('Underside')
    expect(textsOf(templatePage(piece(SOLID)))).not.toContain('Inside')
  })

  it('of a large piece is spread over pages that together show all of it, with crosses at the same places', () => {
    const large = profileSegments([node(0, 0), node(150, 0), node(90, 420), node(0, 420)])
    const pages = templateSheets(piece(large), 'A4')
    const whole = templatePage(piece(large))
    expect(pages.length).toBeGreaterThan(3)
    const windows = pages.map((p) => p.marks.find((m) => m.kind === 'window')!)
    const own = windows.map(({ box, by }) => ({ x: box.x - by[0], y: box.y - by[1], width: box.width, height: box.height })) // prettier-ignore
    for (let x = 1; x < whole.width; x += 20)
      for (let y = 1; y < whole.height; y += 20) {
        const on = own.filter((b) => x >= b.x && x <= b.x + b.width && y >= b.y && y <= b.y + b.height)
        expect(on.length).toBeGreaterThan(0)
      }
    // Every cross of a page, in the drawing's own coordinates, is on at least one other page too.
    const crosses = pages.map((page, k) => {
      const { by } = windows[k]!
      return page.marks.flatMap((m) => {
        if (m.kind !== 'path' || m.line !== 'narrow' || m.steps.length !== 2) return []
        const [a, b] = m.steps as [['M', number, number], ['L', number, number]]
        const level = a[2] === b[2] && Math.abs(b[1] - a[1] - 8) < 1e-9
        return level ? [`${(a[1] + 4 - by[0]).toFixed(3)} ${(a[2] - by[1]).toFixed(3)}`] : []
      })
    })
    const all = crosses.flat()
    expect(all.length).toBeGreaterThan(4)
    for (const cross of all) expect(all.filter((c) => c === cross).length).toBeGreaterThan(1)
  })

  it('carries the check bar on every page', () => {
    for (const page of templateSheets(piece(), 'Letter')) {
      const bar = page.marks.find((m) => m.kind === 'path' && m.fill === 'ink') as unknown as { steps: [['M', number, number], ['L', number, number]] } // prettier-ignore
      expect(bar.steps[1][1] - bar.steps[0][1]).toBe(CHECK_BAR)
    }
  })
})

describe('a sheet as SVG', () => {
  it('is in real millimetres, with text as text and names escaped', () => {
    const page = halfSectionSheet(piece(), 'A3')
    const svg = new TextDecoder().decode(writeSheetSvg(page, 'Jar & lid'))
    expect(svg).toContain('width="297mm" height="420mm" viewBox="0 0 297 420"')
    expect(svg).toContain('>Jar &amp; lid</text>')
    expect(svg).not.toMatch(/NaN|undefined/)
  })
})
