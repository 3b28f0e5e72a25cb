import { describe, expect, it } from 'vitest'
import { hollowOut } from '../profile/hollow'
import { profileSegments } from '../profile/profile-segments'
import { node } from '../profile/test-samples'
import { flatten } from '../profile/flatten'
import { revolve } from '../solid/revolve'
import { meshPrinting } from './mesh-printing'
import { boxFitsBed, fitsBed, overhangs } from './printing'

const degrees = (d: number) => (d * Math.PI) / 180

describe('overhangs of a piece printed upright', () => {
  it('a cone that widens by exactly 45 degrees is none at 45, but one at 44', () => {
    const cone = profileSegments([node(0, 0), node(10, 0), node(40, 30), node(0, 30)])
    expect(overhangs(cone, degrees(45))).toEqual([])
    const [found, ...more] = overhangs(cone, degrees(44))
    expect(more).toEqual([])
    expect(found).toMatchObject({ from: 0, to: 30, inside: false })
    expect(found!.most).toBeCloseTo(degrees(45), 9)
  })

  it('a ball overhangs below, up to where its side leans by the limit', () => {
    const ball = profileSegments([node(0, 0, 'smooth', { next: 'arc', bulge: 1 }), node(0, 100)])
    const [found] = overhangs(ball, degrees(60))
    // From upright by 60 degrees it leans at 50 (1 - sin 60°) above the plate.
    expect(found!.to).toBeCloseTo(50 * (1 - Math.sin(degrees(60))), 0)
    expect(found!.from).toBeLessThan(0.2)
  })

  it('ledges outside and shoulders within a bottle are found on their sides; foot and floor are none', () => {
    const bottle = profileSegments([node(0, 0), node(30, 0), node(30, 20), node(40, 20), node(40, 60), node(15, 60), node(15, 90), node(0, 90)]) // prettier-ignore
    const { segments, outside } = hollowOut(bottle, { mm: 2, levels: [], floorMm: 3, way: 'inwards', lip: 'flat', bore: false }) // prettier-ignore
    const found = overhangs(segments, degrees(45), outside.length + 1)
    expect(found.map((o) => o.inside)).toEqual([false, true])
    expect(found[0]).toMatchObject({ from: 20, to: 20 })
    expect(found[0]!.most).toBeCloseTo(degrees(90), 9)
    expect(found[1]!.from).toBeCloseTo(58, 1)
  })
})

describe('a printer’s room', () => {
  it.each([
    [60, 180, 'standing'],
    [60, 230, 'lying'],
    [60, 260, 'not'],
    [230, 100, 'not'],
  ] as const)('⌀ %d, %d tall: %s', (diameter, height, how) =>
    expect(fitsBed(diameter, height, { width: 250, depth: 210, height: 200 })).toBe(how),
  )
})

describe('overhangs of a mesh', () => {
  const ball = (r: number, sides: number) => {
    const points = flatten(profileSegments([node(0, 0, 'smooth', { next: 'arc', bulge: 1 }), node(0, 2 * r)]), { toleranceMm: r / 20_000 }).points // prettier-ignore
    return revolve(points, { sides })
  }

  it('of a ball: the cap below the latitude of the limit, 2πr²(1 - sin θ)', () => {
    const { box, hangingMm2 } = meshPrinting(ball(30, 512))
    for (const limit of [30, 45, 60]) {
      const cap = 2 * Math.PI * 30 ** 2 * (1 - Math.sin((limit * Math.PI) / 180))
      // Rows of the mesh stand about a degree apart.
      expect(Math.abs(hangingMm2[limit]! / cap - 1)).toBeLessThan(0.03)
    }
    expect(box[2]).toBeCloseTo(60, 6)
    expect(box[0]).toBeCloseTo(60, 2)
    expect(hangingMm2.every((v, k) => k === 0 || v <= hangingMm2[k - 1]!)).toBe(true)
  })

  it('of a mushroom: the ring under its cap, and nothing of its foot', () => {
    const mushroom = revolve(Float64Array.from([0, 0, 10, 0, 10, 20, 30, 20, 30, 30, 0, 30]), { sides: 256 })
    const { hangingMm2 } = meshPrinting(mushroom)
    const faceted = (256 / (2 * Math.PI)) * Math.sin((2 * Math.PI) / 256)
    expect(hangingMm2[45]! / (Math.PI * (30 ** 2 - 10 ** 2) * faceted)).toBeCloseTo(1, 9)
  })

  it('a box fits standing, lying, or not, turned on the plate', () => {
    const bed = { width: 200, depth: 100, height: 150 }
    expect(boxFitsBed([90, 190, 140], bed)).toBe('standing')
    expect(boxFitsBed([90, 90, 190], bed)).toBe('lying')
    expect(boxFitsBed([110, 110, 110], bed)).toBe('not')
  })
})
