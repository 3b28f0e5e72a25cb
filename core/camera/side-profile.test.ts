import { describe, expect, it } from 'vitest'
import { meanProfile, sideProfile } from './side-profile'
import { makeEye, project, type NearView } from './view'

/** A vase: r(z) = 40 + 12 sin(z / 25), 0 <= z <= 200. */
const radius = (z: number) => 40 + 12 * Math.sin(z / 25)
const slope = (z: number) => (12 / 25) * Math.cos(z / 25)

/** Its outline as a camera sees it: the ring point whose normal is square to the ray, sin(azimuth) = (r' (z-h) - r) / D. */
function outline(view: NearView): Float64Array {
  const out: number[] = []
  for (let z = 2; z <= 198; z += 0.12) {
    const r = radius(z)
    const sine = (slope(z) * (z - view.height) - r) / view.distance
    const p = project(view, [r * Math.sqrt(1 - sine * sine), r * sine, z])
    out.push(p.x, p.y)
  }
  return Float64Array.from(out)
}
const centre = { x: 1000, y: 1000 }
const plumb = { foot: { x: 1010, y: 1750 }, top: { x: 1000, y: 250 } }

describe('half-profile of an outline', () => {
  it.each([
    [600, 100, 0],
    [600, 220, 0.2],
    [1000, 160, 0.06],
  ])('is the true one, from %d mm away and %d mm high', (distance, height, pitch) => {
    const view: NearView = {
      kind: 'near',
      lens: null,
      eye: makeEye(7.5 * distance, centre, plumb, pitch),
      distance,
      height,
    }
    const profile = sideProfile(view, outline(view), { foot: 0, top: 200 })
    expect(profile.length).toBeGreaterThan(2000)
    let worst = 0
    for (let i = 40; i < profile.length - 40; i += 2)
      worst = Math.max(worst, Math.abs(profile[i]! - radius(profile[i + 1]!)))
    // A hundredth of a percent of the height; parallel rays err by 1 to 2 % here.
    expect(worst).toBeLessThan(0.02)
  })

  it('reads a distant view point by point', () => {
    const view = {
      kind: 'distant',
      lens: null,
      origin: { x: 500, y: 900 },
      up: { x: 0, y: -1 },
      mmPerPx: 0.2,
    } as const
    const side = Float64Array.from(Array.from({ length: 400 }, (_, i) => [700, 880 - 2 * i]).flat())
    const profile = sideProfile(view, side, { foot: 0, top: 164 })
    for (let i = 0; i < profile.length; i += 2) expect(profile[i]).toBeCloseTo(40, 9)
    expect(profile[1]).toBeCloseTo(4, 6)
  })

  it('averages both sides where they agree and keeps one where the other has a handle', () => {
    const side = (extra: (z: number) => number) =>
      Float64Array.from(Array.from({ length: 200 }, (_, i) => [30 + extra(i), i]).flat())
    const mean = meanProfile(
      side(() => 0.1),
      side((z) => (z > 80 && z < 120 ? 15 : -0.1)),
      1,
    )
    expect(mean[2 * 40]).toBeCloseTo(30, 9)
    expect(mean[2 * 100]).toBeCloseTo(30.1, 9)
  })
})
