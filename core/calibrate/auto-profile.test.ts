import { describe, expect, it } from 'vitest'
import { paint } from '../outline/test-pictures'
import { autoProfile, type AutoFacts } from './auto-profile'
import { focal35mm } from './calibrate'

/** Px: the picture's side, its middle, and the focal length. */
const [SIDE, MIDDLE, F] = [800, 400.5, 2000]
/** A ball's radius and its distance from a camera that is level with its middle, mm. */
const [RADIUS, DISTANCE] = [50, 350]
/** Its outline is as wide as the cone of rays that touch it (perspective of a sphere; any textbook of projective geometry), … */
const SEEN_PX = F * Math.tan(Math.asin(RADIUS / DISTANCE))
/** … while its ends, which lie on the axis, are seen nearer to its middle. */
const ENDS_PX = (F * RADIUS) / DISTANCE

const ball = paint(SIDE, SIDE, (x, y) => Math.hypot(x - MIDDLE, y - MIDDLE) - SEEN_PX)
const facts: AutoFacts = {
  photo: { width: SIDE, height: SIDE, quarterTurns: 0 },
  heightMm: 2 * RADIUS,
  diameterMm: null,
  view: 'distant',
  distanceMm: null,
  focalLength35mm: null,
  k1: 0,
  up: { x: 0, y: -1 },
  axis: null,
}

/** Largest ⌀ and height, mm. */
const sizesOf = (more: Partial<AutoFacts>) => {
  const { profile } = autoProfile(ball, { ...facts, ...more })
  expect(profile[0]![1]).toBeCloseTo(0, 9)
  return { diameter: 2 * Math.max(...profile.map(([r]) => r)), height: profile.at(-1)![1] }
}

describe('a ball read by parallel rays', () => {
  it('is as high as its outline where nobody knows the lens', () => {
    const { diameter, height } = sizesOf({})
    expect(height).toBeCloseTo(2 * RADIUS, 9)
    expect(diameter / height).toBeCloseTo(1, 3)
  })

  it('is as high as its ends are seen by a lens that is known', () => {
    const { diameter, height } = sizesOf({ focalLength35mm: focal35mm(F, { width: SIDE, height: SIDE }) })
    expect(height).toBeCloseTo(2 * RADIUS, 9)
    expect(SEEN_PX / ENDS_PX).toBeGreaterThan(1.01)
    expect(diameter / height).toBeCloseTo(SEEN_PX / ENDS_PX, 3)
  })

  it('tells its height by its ⌀ alike', () => {
    const { diameter, height } = sizesOf({ heightMm: null, diameterMm: 2 * RADIUS })
    expect(diameter).toBeCloseTo(2 * RADIUS, 9)
    expect(height / diameter).toBeCloseTo(1, 3)
  })

  it('through the lens is a ball again', () => {
    const known = { focalLength35mm: focal35mm(F, { width: SIDE, height: SIDE }), distanceMm: DISTANCE }
    const { diameter, height } = sizesOf({ ...known, view: 'near' })
    expect(diameter / height).toBeCloseTo(1, 3)
  })
})
