import { describe, expect, it } from 'vitest'
import { hollowOut } from '../profile/hollow'
import { profileSegments } from '../profile/profile-segments'
import { node } from '../profile/test-samples'
import { filledTo, fillRange, levelOf } from './capacity'
import { moments } from './moments'
import { profileMeasures } from './profile-measures'
import { bodyOf, standing, together } from './standing'
import { thinnest, wallAlong } from './wall-thickness'

const wall = { mm: 2, levels: [], floorMm: 4, way: 'inwards', lip: 'flat', bore: false } as const
const tumbler = profileSegments([node(0, 0), node(30, 0), node(30, 100), node(0, 100)])
const cup = hollowOut(tumbler, wall)
const quarter = Math.tan(Math.PI / 8)

describe('what a vessel holds', () => {
  it('a cylinder by its height; level to volume and back', () => {
    expect(fillRange(cup.inside)).toEqual({ bottomMm: 4, brimMm: 100 })
    const half = filledTo(cup.inside, 54)
    expect(half.volumeMm3).toBeCloseTo(Math.PI * 784 * 50, 6)
    expect(half.momentMm4 / half.volumeMm3).toBeCloseTo(29, 9)
    expect(levelOf(cup.inside, Math.PI * 784 * 10).levelMm).toBeCloseTo(14, 9)
    expect(filledTo(cup.inside, 4).volumeMm3).toBeCloseTo(0, 9)
    expect(() => levelOf(cup.inside, 1e6)).toThrow(/Brim-full it holds 236.4\d* ml; 1000 ml would run over/)
  })

  it('a ball’s cap: π h² (3R - h) / 3', () => {
    const bowl = hollowOut(profileSegments([node(0, 0, 'smooth', { next: 'arc', bulge: quarter }), node(50, 50), node(0, 50)]), { ...wall, floorMm: 2 }) // prettier-ignore
    for (const h of [5, 20, 48]) {
      const { volumeMm3 } = filledTo(bowl.inside, 2 + h)
      expect(volumeMm3).toBeCloseTo((Math.PI * h * h * (3 * 48 - h)) / 3, 4)
      expect(levelOf(bowl.inside, volumeMm3).levelMm).toBeCloseTo(2 + h, 6)
    }
  })

  it('fills undercut shoulders from below only', () => {
    const bottle = hollowOut(profileSegments([node(0, 0), node(40, 0), node(40, 60), node(15, 60), node(15, 90), node(0, 90)]), wall) // prettier-ignore
    const below = filledTo(bottle.inside, 58)
    expect(below.volumeMm3).toBeCloseTo(Math.PI * 38 ** 2 * 54, 5)
    const brim = filledTo(bottle.inside, 90)
    // From there a neck of ⌀ 26, after the ring about the corner (Pappus: a quarter of a circle of radius 2).
    const ring = Math.PI * 15 ** 2 * 2 - 2 * Math.PI * (15 - 8 / (3 * Math.PI)) * Math.PI
    expect(brim.volumeMm3 - below.volumeMm3).toBeCloseTo(ring + Math.PI * 13 ** 2 * 30, 5)
  })

  it('an egg of 58 by 44 mm has the volume of Hoyt’s rule, 0.51 L B² (The Auk 96, 1979), within 3 %', () => {
    // Nodes on Hügelschäffer's egg curve (1948, from memory), its widest place 2 mm off the middle.
    const [L, B, w] = [58, 44, 2]
    const r = (x: number) => (B / 2) * Math.sqrt((L * L - 4 * x * x) / (L * L + 8 * w * x + 4 * w * w))
    const places = [-29, -28, -24, -16, -6, 4, 14, 22, 27, 29]
    const egg = profileSegments(places.map((x) => node(Math.abs(x) === 29 ? 0 : r(x), x + 29, 'smooth', { next: 'curve' }))) // prettier-ignore
    const { volumeMm3, heightMm, maxRadiusMm } = profileMeasures(egg)
    expect(heightMm).toBeCloseTo(58, 2)
    expect(Math.abs(volumeMm3 / (0.51 * heightMm * (2 * maxRadiusMm) ** 2) - 1)).toBeLessThan(0.03)
  })

  it('a tasting glass of the sizes of ISO 3591 holds about what the standard says', () => {
    // Sizes from memory: height 155, bowl ⌀ 65, rim ⌀ 46, wall 0.8, capacity about 215 ml; the bowl is 100 tall. The standard
    // draws the bowl between straight sides and the fullest egg: half-way between them is taken.
    const round = 0.5523
    const fullness = (share: number) => {
      const mix = (full: number, straight: number) => share * full + (1 - share) * straight
      const [lower, upper] = [[28, 35], [-9.5, 65]] as const // prettier-ignore
      const glass = profileSegments([
        node(0, 0),
        node(32.5, 0),
        node(4.5, 5),
        node(4.5, 55, 'corner', {
          next: 'curve',
          handles: [mix(28 * round, lower[0] / 3), mix(0, lower[1] / 3), mix(0, -lower[0] / 3), mix(-35 * round, -lower[1] / 3)], // prettier-ignore
        }),
        node(32.5, 90, 'corner', {
          next: 'curve',
          handles: [mix(0, upper[0] / 3), upper[1] / 3, -upper[0] / 3, -upper[1] / 3],
        }),
        node(23, 155),
        node(0, 155),
      ])
      expect(profileMeasures(glass)).toMatchObject({ heightMm: 155, maxRadiusMm: 32.5 })
      const { inside } = hollowOut(glass, { ...wall, mm: 0.8, floorMm: 56 })
      return filledTo(inside, 155).volumeMm3 / 1000
    }
    expect(fullness(0)).toBeLessThan(215)
    expect(fullness(1)).toBeGreaterThan(215)
    expect(Math.abs(fullness(0.5) - 215)).toBeLessThan(10)
  })
})

describe('mass and standing', () => {
  it('moments of cylinder, cone and ball by closed form', () => {
    const cylinder = moments(tumbler)
    expect(cylinder.volumeMm3).toBeCloseTo(profileMeasures(tumbler).volumeMm3, 6)
    expect(cylinder.momentMm4 / cylinder.volumeMm3).toBeCloseTo(50, 9)
    const cone = moments(profileSegments([node(0, 0), node(20, 0), node(0, 60)]))
    expect(cone.momentMm4 / cone.volumeMm3).toBeCloseTo(15, 9)
    const ball = moments(profileSegments([node(0, 0, 'smooth', { next: 'arc', bulge: 1 }), node(0, 80)]))
    expect(ball.volumeMm3).toBeCloseTo((4 / 3) * Math.PI * 40 ** 3, 4)
    expect(ball.momentMm4 / ball.volumeMm3).toBeCloseTo(40, 9)
  })

  it('a steel cylinder of ⌀ 60, 100 tall weighs 2219.5 g and tips at atan(30/50)', () => {
    const body = bodyOf(tumbler, 7.85)
    expect(body.massG).toBeCloseTo(2219.53, 1)
    expect(standing(tumbler, body.centreMm)).toMatchObject({ footMm: 30 })
    expect(standing(tumbler, body.centreMm).tippingAngle).toBeCloseTo(Math.atan(0.6), 6)
    // A ball stands on a point.
    const ball = profileSegments([node(0, 0, 'smooth', { next: 'arc', bulge: 1 }), node(0, 80)])
    expect(standing(ball, 40).tippingAngle).toBeLessThan(0.05)
  })

  it('two bodies balance where their masses say', () => {
    expect(together({ massG: 100, centreMm: 40 }, { massG: 300, centreMm: 20 })).toEqual({ massG: 400, centreMm: 25 }) // prettier-ignore
  })

  it('the wall is as thick as asked for along all of it, and its floor as thick as that', () => {
    const places = wallAlong(cup.outside, cup.inside)
    expect(thinnest(places)!.mm).toBeCloseTo(2, 6)
    expect(places.at(-1)!).toMatchObject({ r: 0, z: 4 })
    expect(places.at(-1)!.mm).toBeCloseTo(4, 6)
  })
})
