import { describe, expect, it } from 'vitest'
import { hollowOut } from '../profile/hollow'
import { profileSegments } from '../profile/profile-segments'
import { node } from '../profile/test-samples'
import { fitsBed, overhangs } from './printing'

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
