import { describe, expect, it } from 'vitest'
import { hollowOut } from '../profile/hollow'
import { profileSegments } from '../profile/profile-segments'
import { node } from '../profile/test-samples'
import { deviationOf, paintValues, thicknessOf } from './paint'

const cup = profileSegments([node(0, 0), node(30, 0), node(30, 80), node(0, 80)])

describe('figures of the surface', () => {
  it('thickness: wall and floor, from either side', () => {
    const { outside, inside } = hollowOut(cup, { mm: 2, levels: [{ z: 0, mm: 2 }, { z: 80, mm: 4 }], floorMm: 5, way: 'inwards', lip: 'flat', bore: false }) // prettier-ignore
    const thick = thicknessOf(outside, inside)
    // From the outside to the slanting inside, by its angle of 2 in 80.
    expect(thick(30, 40)).toBeCloseTo(3 / Math.hypot(1, 1 / 40), 3)
    expect(thick(27, 40)).toBeCloseTo(3, 3)
    expect(thick(0, 0)).toBeCloseTo(5, 6)
    const values = paintValues(Float32Array.of(30, 0, 40, 0, 30, 40, -30, 0, 40), thick)
    expect(values[0]).toBe(values[1])
    expect(values[2]).toBe(values[0])
  })

  it('deviation: how much fatter than the photo, only where it was seen and outside', () => {
    const seenPoints = Float64Array.from([29.5, 0, 29.5, 40, 30.2, 40.001, 30.2, 80])
    const deviation = deviationOf(cup.slice(0, 2), { points: seenPoints, seen: (i) => i < 3 })
    expect(deviation(30, 20)).toBeCloseTo(0.5, 6)
    expect(deviation(30, 39.9)).toBeGreaterThan(0)
    // The last stretch was only assumed; the inside of a wall isn't the outside.
    expect(deviation(30, 60)).toBeNaN()
    expect(deviation(25, 20)).toBeNaN()
  })
})
