import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { writeCsv } from '../formats/csv'
import { writeDxf } from '../formats/dxf'
import { writeProfileSvg } from '../formats/svg'
import { profileMeasures } from '../measure/profile-measures'
import { profileSegments } from '../profile/profile-segments'
import type { ProfileNode } from '../profile/profile'
import { endOf, pointOn, startOf, type Segment } from '../profile/segments'
import { node } from '../profile/test-samples'
import { bezierPieces } from './bspline'
import { chainsOf } from './chain'
import { likelyAxis, placeProfile, type AxisPlace } from './half-profile'
import { readDrawing } from './read-drawing'

const text = (bytes: Uint8Array) => new TextDecoder().decode(bytes)
let count = 0
const newId = () => `n${count++}`
/** A glass of lines, arcs either way and a curve. */
const GLASS = [
  node(0, 0),
  node(30, 0, 'corner', { next: 'arc', bulge: 0.3 }),
  node(33, 8),
  node(34, 40, 'corner', { next: 'curve', handles: [2, 12, 0, -14] }),
  node(28, 90, 'corner', { next: 'arc', bulge: -0.2 }),
  node(26, 96),
  node(0, 96),
]
const taken = (name: string, source: string, options: { axis?: AxisPlace; mmPerUnit?: number } = {}) => {
  const drawn = readDrawing(name, source)
  return placeProfile(drawn, { mmPerUnit: options.mmPerUnit ?? drawn.mmPerUnit ?? 1, axis: options.axis ?? likelyAxis(drawn), newId }) // prettier-ignore
}
const bare = (nodes: readonly ProfileNode[]) => nodes.map(({ r, z, next, bulge, handles }) => [r, z, next, bulge ?? 0, ...(handles ?? [])] as const) // prettier-ignore
const close = (a: readonly ProfileNode[], b: readonly ProfileNode[], digits: number) => {
  expect(a.length).toBe(b.length)
  const [p, q] = [bare(a), bare(b)]
  p.forEach((own, i) => own.forEach((v, k) => (typeof v === 'number' ? expect(v).toBeCloseTo(q[i]![k] as number, digits) : i < p.length - 1 && expect(v).toBe(q[i]![k])))) // prettier-ignore
}
const refused = (name: string, source: string) => {
  const started = performance.now()
  try {
    taken(name, source)
  } catch (error) {
    expect(performance.now() - started).toBeLessThan(1000)
    expect((error as Error).message.length).toBeGreaterThan(20)
    return (error as { code?: string }).code
  }
  return 'taken'
}

describe('what this app writes, it reads back', () => {
  it('SVG and DXF: the same lines, arcs and curves', () => {
    const segments = profileSegments(GLASS)
    close(taken('a.dxf', text(writeDxf(segments))).nodes, GLASS, 7)
    // SVG is written to a tenth of a micrometre.
    close(taken('a.svg', text(writeProfileSvg(segments))).nodes, GLASS, 3)
  })

  it('any profile of lines, arcs and curves keeps its nodes (property)', () => {
    const step = fc.record({ dr: fc.double({ min: -6, max: 6, noNaN: true }), dz: fc.double({ min: 1, max: 20, noNaN: true }), next: fc.constantFrom('line', 'arc', 'curve'), bulge: fc.double({ min: -0.6, max: 0.6, noNaN: true }).filter((b) => Math.abs(b) > 0.01) }) // prettier-ignore
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 12 }), (steps) => {
        let [r, z] = [40, 0]
        const nodes = [node(0, 0)]
        for (const { dr, dz, next, bulge } of steps) {
          const handles: ProfileNode['handles'] = [0.5, dz / 3, -0.5, -dz / 3]
          nodes.push(
            node(
              r,
              z,
              'corner',
              next === 'arc' ? { next, bulge } : next === 'curve' ? { next, handles } : {},
            ),
          )
          ;[r, z] = [Math.max(20, r + dr), z + dz]
        }
        nodes.push(node(r, z), node(0, z))
        const segments = profileSegments(nodes)
        const back = taken('a.dxf', text(writeDxf(segments)))
        close(back.nodes, nodes, 6)
        const [own, other] = [profileMeasures(segments), profileMeasures(profileSegments(taken('a.svg', text(writeProfileSvg(segments))).nodes))] // prettier-ignore
        expect(Math.abs(other.volumeMm3 / own.volumeMm3 - 1)).toBeLessThan(1e-4)
      }),
      { numRuns: 60 },
    )
  })

  it('CSV: a curve of few elements within a five-thousandth of the height', () => {
    const straight = profileSegments([node(0, 0), node(30, 0), node(20, 60), node(20, 80), node(0, 80)])
    const { nodes } = taken('a.csv', text(writeCsv({ outside: straight, inside: null })))
    expect(nodes.length).toBeLessThan(12)
    const volume = profileMeasures(profileSegments(nodes)).volumeMm3
    expect(Math.abs(volume / profileMeasures(straight).volumeMm3 - 1)).toBeLessThan(2e-3)
  })
})

describe('SVG from elsewhere', () => {
  const page = (d: string, attributes = 'width="100mm" height="200mm" viewBox="0 0 100 200"', around = ['', '']) => `<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${around[0]}<path d="${d}"/>${around[1]}</svg>` // prettier-ignore

  it('stands on its lowest point, with the axis along the edge where both ends lie', () => {
    const { nodes } = taken('a.svg', page('M10 110h30v-80l-10 -20h-20'))
    expect(nodes.map((n) => [n.r, n.z])).toEqual([[0, 0], [30, 0], [30, 80], [20, 100], [0, 100]]) // prettier-ignore
    // Drawn on the left of its axis, and from the top down: the same.
    const left = taken('a.svg', page('M40 10h-20l-10 20v80h30'))
    expect(left.nodes.map((n) => [n.r, n.z])).toEqual(nodes.map((n) => [n.r, n.z]))
  })

  it('honours units, viewBox and all transformations about a path', () => {
    const around = ['<g transform="translate(5 5)"><g transform="scale(2)">', '</g></g>']
    const moved = taken(
      'a.svg',
      page('M0 50h10v-50h-10', 'width="10in" viewBox="0 0 254 100"', around as [string, string]),
    )
    expect(moved.nodes.map((n) => [Math.round(n.r * 1e6) / 1e6, Math.round(n.z * 1e6) / 1e6])).toEqual([[0, 0], [20, 0], [20, 100], [0, 100]]) // prettier-ignore
    // Pixels say nothing of the piece.
    expect(readDrawing('a.svg', page('M0 50h10v-50h-10', 'width="500" height="500"')).mmPerUnit).toBeNull()
  })

  it('takes exact arcs as arcs, ellipses as close curves, and of a whole outline the right half', () => {
    const sphere = taken('a.svg', page('M50 120a40 40 0 1 1 0.0001 0z'))
    const { volumeMm3 } = profileMeasures(profileSegments(sphere.nodes))
    // A ball: 4/3 π r³.
    expect(volumeMm3 / ((4 / 3) * Math.PI * 40 ** 3)).toBeCloseTo(1, 3)
    expect(sphere.nodes.some((n) => n.next === 'arc')).toBe(true)
    const egg = taken('a.svg', page('M50 120a30 40 0 1 1 0.0001 0z'))
    // An ellipsoid of revolution: 4/3 π a² b.
    expect(
      profileMeasures(profileSegments(egg.nodes)).volumeMm3 / ((4 / 3) * Math.PI * 30 ** 2 * 40),
    ).toBeCloseTo(1, 3)
    const vase = taken('a.svg', page('M30 100L70 100L60 20L40 20Z'))
    expect(vase.nodes.map((n) => [n.r, n.z])).toEqual([[0, 0], [20, 0], [10, 80], [0, 80]]) // prettier-ignore
    expect(vase.notes.join()).toContain('right half')
  })

  it('refuses in words, within a second, what is no drawing or means harm', () => {
    expect(refused('a.svg', '')).toBe('empty-file')
    expect(refused('a.svg', '<svg><path d="M0 0L1 1"')).toBe('bad-svg')
    expect(refused('a.svg', '<html></html>')).toBe('bad-svg')
    expect(refused('a.svg', '<svg></svg>')).toBe('no-path')
    expect(refused('a.svg', page('M0 0L1'))).toBe('bad-svg')
    expect(refused('a.svg', page('M0 0L1e999 5'))).not.toBe('taken')
    const bomb = `<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa">${Array.from({ length: 20 }, (_, k) => `<!ENTITY a${k} "${`&a${k - 1};`.repeat(10)}">`).join('')}]><svg>&a19;</svg>` // prettier-ignore
    expect(refused('a.svg', bomb)).toBe('bad-svg')
    expect(refused('a.svg', '<svg>' + '<g>'.repeat(100_000))).toBe('too-much')
    expect(refused('a.svg', page(`M0 0${'L1 1L2 5'.repeat(200_000)}`))).toBe('too-much')
    expect(refused('a.pdf', '%PDF')).toBe('wrong-type')
    expect(refused('a.__proto__', 'x')).toBe('wrong-type')
  })

  it('never gives anything but finite nodes, whatever the text (property)', () => {
    const data = fc.string({ maxLength: 60, unit: fc.constantFrom(...'MLHVCSQTAZmlhvcsqtaz0123456789.-e, ') })
    fc.assert(
      fc.property(data, (d) => {
        try {
          const { nodes } = taken('a.svg', page(`M0 0${d}`))
          for (const n of nodes) for (const v of [n.r, n.z, n.bulge ?? 0, ...(n.handles ?? [])]) expect(Number.isFinite(v)).toBe(true) // prettier-ignore
        } catch (error) {
          expect((error as { code?: string }).code, String(error)).toBeTypeOf('string')
        }
      }),
      { numRuns: 400 },
    )
  })
})

describe('DXF from elsewhere', () => {
  const file = (entities: string, unit = 4) => `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n${unit}\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n` // prettier-ignore
  const line = (x0: number, y0: number, x1: number, y1: number) =>
    `0\nLINE\n8\n0\n10\n${x0}\n20\n${y0}\n11\n${x1}\n21\n${y1}\n`

  it('joins lines in any order and direction, in the unit it says', () => {
    const drawn = file(line(30, 80, 20, 100) + line(30, 80, 30, 0) + line(0, 0, 30, 0) + line(0, 100, 20, 100) + line(0, 0, 0, 100), 5) // prettier-ignore
    const { nodes } = taken('a.dxf', drawn)
    expect(nodes.map((n) => [n.r, n.z])).toEqual([[0, 0], [300, 0], [300, 800], [200, 1000], [0, 1000]]) // prettier-ignore
  })

  it('reads polylines with bulges, circles, and says what it left out', () => {
    // A half circle by its bulge of 1: a ball.
    const bulged = `0\nLWPOLYLINE\n8\n0\n90\n2\n70\n0\n10\n0\n20\n0\n42\n1\n10\n0\n20\n80\n`
    const ball = taken('a.dxf', file(`${bulged}0\nTEXT\n8\n0\n10\n1\n20\n1\n40\n2\n1\nhello\n`))
    expect(
      profileMeasures(profileSegments(ball.nodes)).volumeMm3 / ((4 / 3) * Math.PI * 40 ** 3),
    ).toBeCloseTo(1, 9)
    expect(ball.notes.join()).toContain('1 × TEXT')
    const circle = taken('a.dxf', file('0\nCIRCLE\n8\n0\n10\n100\n20\n50\n40\n40\n'))
    expect(
      profileMeasures(profileSegments(circle.nodes)).volumeMm3 / ((4 / 3) * Math.PI * 40 ** 3),
    ).toBeCloseTo(1, 3)
  })

  it('refuses in words what it can’t read', () => {
    expect(refused('a.dxf', 'hello')).not.toBe('taken')
    expect(refused('a.dxf', 'AutoCAD Binary DXF\r\n\x1a')).toBe('bad-dxf')
    expect(refused('a.dxf', file('0\nTEXT\n8\n0\n10\n1\n20\n1\n40\n2\n1\nhello\n'))).toBe('nothing-drawn')
    expect(refused('a.dxf', file('0\nSPLINE\n8\n0\n70\n4\n71\n3\n10\n0\n20\n0\n'))).toBe('bad-spline')
    expect(refused('a.dxf', file(line(0, 0, 30, 5) + line(30, 5, 30, 10)).slice(0, 120))).not.toBe('taken')
    expect(refused('a.dxf', file(line(NaN, 0, 30, 0)))).not.toBe('taken')
  })
})

describe('tables', () => {
  it('are read by their header, in its unit, with commas, semicolons or tabs', () => {
    const wanted = [[0, 0], [20, 0], [15, 50], [0, 50]] // prettier-ignore
    for (const source of [
      'height_mm,diameter_mm\n0,40\n50,30',
      'Höhe (cm);Durchmesser (cm)\n0;4,0\n5;3,0',
      'z\tr\n50\t15\n0\t20',
      '0,40\n50,30',
    ])
      // prettier-ignore
      expect(taken('a.csv', source).nodes.map((n) => [n.r, n.z])).toEqual(wanted)
    const hollow = taken('a.csv', 'height,diameter,inner diameter\n0,40,\n5,40,30\n50,40,30')
    expect(hollow.nodes.map((n) => [n.r, n.z])).toEqual([[0, 0], [20, 0], [20, 5], [20, 50], [15, 50], [15, 5], [0, 5]]) // prettier-ignore
  })

  it('say which row is wrong', () => {
    expect(() => taken('a.csv', 'height,diameter\n0,40\n5,x')).toThrow(/Row 3: “x”/)
    expect(() => taken('a.csv', 'height,diameter\n0,40\n5,-3')).toThrow(/Row 3/)
    expect(() => taken('a.csv', 'name,price\na,b')).toThrow(/a column “height”/)
    expect(refused('a.csv', '1,2')).toBe('bad-csv')
  })
})

describe('B-splines', () => {
  /** de Boor's algorithm, by the textbook. */
  const deBoor = (
    degree: number,
    p: readonly (readonly [number, number])[],
    u: readonly number[],
    t: number,
  ) => {
    let k = degree
    while (k < p.length - 1 && t >= u[k + 1]!) k++
    const d = Array.from({ length: degree + 1 }, (_, j) => [...p[j + k - degree]!] as [number, number])
    for (let r = 1; r <= degree; r++)
      for (let j = degree; j >= r; j--) {
        const a = (t - u[j + k - degree]!) / (u[j + 1 + k - r]! - u[j + k - degree]!)
        d[j] = [(1 - a) * d[j - 1]![0] + a * d[j]![0], (1 - a) * d[j - 1]![1] + a * d[j]![1]]
      }
    return d[degree]!
  }
  it('become cubics of the same curve, clamped or not, of degree 1 to 3 (property)', () => {
    const point = fc.tuple(
      fc.double({ min: -50, max: 50, noNaN: true }),
      fc.double({ min: -50, max: 50, noNaN: true }),
    )
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 3 }),
        fc.array(point, { minLength: 4, maxLength: 9 }),
        fc.boolean(),
        (degree, points, clamped) => {
          const inner = points.length - degree
          const knots = clamped
            ? [...Array<number>(degree + 1).fill(0), ...Array.from({ length: inner - 1 }, (_, i) => i + 1), ...Array<number>(degree + 1).fill(inner)] // prettier-ignore
            : Array.from({ length: points.length + degree + 1 }, (_, i) => i)
          const cubics = bezierPieces(degree, points, knots)
          expect(cubics.length).toBe(inner)
          const first = knots[degree]!
          cubics.forEach((cubic, k) => {
            const s: Segment = { kind: 'cubic', index: 0, cubic }
            for (const t of [0, 0.3, 0.8]) {
              const [x, y] = pointOn(s, t)
              const [a, b] = deBoor(degree, points, knots, first + k + t)
              expect(Math.hypot(x - a, y - b)).toBeLessThan(1e-9)
            }
          })
        },
      ),
      { numRuns: 80 },
    )
  })
})

describe('chains', () => {
  it('come out whole, however their segments are shuffled and turned (property)', () => {
    const segments = profileSegments(GLASS)
    fc.assert(
      fc.property(
        fc.shuffledSubarray(segments, { minLength: segments.length }),
        fc.array(fc.boolean(), { minLength: segments.length, maxLength: segments.length }),
        (list, turns) => {
          const turned = list.map((s, i): Segment => (turns[i] && s.kind === 'line' ? { ...s, cubic: [s.cubic[6], s.cubic[7], s.cubic[4], s.cubic[5], s.cubic[2], s.cubic[3], s.cubic[0], s.cubic[1]] } : s)) // prettier-ignore
          const [chain, ...rest] = chainsOf(turned)
          expect(rest).toEqual([])
          const ends = [startOf(chain![0]!), endOf(chain!.at(-1)!)].sort((a, b) => a[1] - b[1])
          expect(ends).toEqual([[0, 0], [0, 96]]) // prettier-ignore
        },
      ),
    )
  })
})
