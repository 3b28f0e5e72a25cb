import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { flatten } from '../profile/flatten'
import { profileSegments } from '../profile/profile-segments'
import { node } from '../profile/test-samples'
import { revolve } from '../solid/revolve'
import { centroid } from './assembly-figures'
import { bodyQuantities } from './body'
import { meshArea, meshVolume } from './mesh-measures'
import { boxOfTurn } from './printing'
import { standing } from './standing'

const ball = profileSegments([node(0, 0, 'smooth', { next: 'arc', bulge: 1 }), node(0, 60)])
const tin = profileSegments([node(0, 0), node(30, 0), node(30, 50), node(0, 50)])

describe('a body revolved over a part of a turn', () => {
  it('half a ball: 2/3 π R³, 3 π R² with its flat side, its centre 3/8 R beside the axis (Archimedes)', () => {
    const half = bodyQuantities(ball, { start: 0, sweep: Math.PI })
    expect(half.volumeMm3).toBeCloseTo((2 / 3) * Math.PI * 27000, 5)
    expect(half.areaMm2).toBeCloseTo(3 * Math.PI * 900, 5)
    expect(half.centre[0]).toBeCloseTo(0, 9)
    expect(half.centre[1]).toBeCloseTo((3 / 8) * 30, 9)
    expect(half.centre[2]).toBeCloseTo(30, 9)
  })

  it('all round it is the whole body, on its axis', () => {
    const whole = bodyQuantities(ball)
    expect(whole.volumeMm3).toBeCloseTo((4 / 3) * Math.PI * 27000, 5)
    expect(whole.areaMm2).toBeCloseTo(4 * Math.PI * 900, 5)
    expect(whole.centre).toEqual([0, 0, expect.closeTo(30, 9)])
  })

  it('agrees with a fine mesh of any turned shape (property)', () => {
    const radius = fc.double({ min: 8, max: 40, noNaN: true })
    const turn = fc.record({
      start: fc.double({ min: -3, max: 3, noNaN: true }),
      sweep: fc.double({ min: 0.3, max: 6, noNaN: true }),
    })
    fc.assert(
      fc.property(fc.array(radius, { minLength: 2, maxLength: 6 }), turn, (radii, part) => {
        const nodes = [node(0, 0), ...radii.map((r, i) => node(r, 12 * i)), node(0, 12 * (radii.length - 1))]
        const segments = profileSegments(nodes)
        const mesh = revolve(flatten(segments).points, { sides: 2000, turn: part })
        const exact = bodyQuantities(segments, part)
        expect(meshVolume(mesh) / exact.volumeMm3).toBeCloseTo(1, 4)
        expect(meshArea(mesh) / exact.areaMm2).toBeCloseTo(1, 4)
        centroid(mesh).forEach((v, k) => expect(v).toBeCloseTo(exact.centre[k]!, 2))
      }),
      { numRuns: 30 },
    )
  })

  it('half a tin falls to its flat side first, a slice of it to its edges, and three quarters of it over its corner', () => {
    const tips = (sweep: number) => {
      const { centre } = bodyQuantities(tin, { start: 0, sweep })
      return Math.tan(standing(tin, centre[2], Math.hypot(centre[0], centre[1]), sweep).tippingAngle) * 25
    }
    // A half disc's centre lies 4R/3π from its straight side.
    expect(tips(Math.PI)).toBeCloseTo((4 * 30) / (3 * Math.PI), 6)
    // A sector's: 2R sin a / 3a from its tip, whose sides are that far by sin a.
    const aside = (2 * 30 * Math.sin(0.4)) / (3 * 0.4)
    expect(tips(0.8)).toBeCloseTo(aside * Math.sin(0.4), 6)
    expect(tips(2 * Math.PI - 1e-9)).toBeCloseTo(30, 4)
  })

  it('takes the room of its sector', () => {
    const quarter = boxOfTurn(30, { start: 0, sweep: Math.PI / 2 })
    expect(quarter[0]).toBeCloseTo(30, 9)
    expect(quarter[1]).toBeCloseTo(30, 9)
    expect(boxOfTurn(30, { start: -Math.PI / 2, sweep: Math.PI })[0]).toBeCloseTo(30, 9)
    expect(boxOfTurn(30, { start: -Math.PI / 2, sweep: Math.PI })[1]).toBeCloseTo(60, 9)
    const slice = boxOfTurn(30, { start: Math.PI / 4, sweep: Math.PI / 2 })
    expect(slice[0]).toBeCloseTo(30 * Math.SQRT2, 9)
    expect(slice[1]).toBeCloseTo(30, 9)
  })
})
