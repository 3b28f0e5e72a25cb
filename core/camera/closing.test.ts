import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readProfile } from '../calibrate/read-profile'
import type { OutlineSide } from '../outline/refine'
import { grazingRays, radiusAt } from './envelope'
import { endLevel, endsInBall, fitEnd, levelled, likelyPitch } from './fit-end'
import { halfOutline, type HalfOutline } from './half-outline'
import { grazingMiss } from './rounded-ring'
import { toldFocal } from './told-focal'
import { makeEye, project, type NearView, type Vec } from './view'

const centre = { x: 1000, y: 1000 }
const plumb = { foot: { x: 1010, y: 1750 }, top: { x: 1000, y: 250 } }
const viewOf = (distance: number, height: number, pitch: number): NearView => ({
  kind: 'near',
  lens: null,
  eye: makeEye(7.5 * distance, centre, plumb, pitch),
  distance,
  height,
})

/** Half-outline [X W] from directions, as a level camera sees them. */
function half(points: number[], f = 8000, sd = 0.1): HalfOutline {
  const n = points.length / 2
  return {
    points: Float64Array.from(points),
    sd: new Float64Array(n).fill(sd),
    states: new Array<'both'>(n).fill('both'),
    reasons: new Array<null>(n).fill(null),
    difference: new Float64Array(n),
    pxPerUnit: f,
  }
}

/** The visible half of a ring (r, z) in camera distances, seen from (0, -1, 0), from the axis outwards. */
function ringArc(r: number, z: number, near: boolean, count = 80): number[] {
  return Array.from({ length: count }, (_, i) => {
    const a = ((0.999 * Math.PI) / 2) * (i / (count - 1))
    const y = 1 - (near ? 1 : -1) * r * Math.cos(a)
    return [(r * Math.sin(a)) / y, z / y]
  }).flat()
}

/**
 * The outline of a ball is a circle about the direction of its middle, of half-angle asin(R / distance): closed form
 * (perspective of a sphere; any textbook of projective geometry).
 */
function ballOutline(radius: number, z: number, count = 400): number[] {
  const distance = Math.hypot(1, z)
  const open = Math.asin(radius / distance)
  const [c, s] = [Math.cos(open), Math.sin(open)]
  return Array.from({ length: count }, (_, i) => {
    const a = -Math.PI / 2 + (Math.PI * i) / (count - 1)
    // Middle direction (0, 1, z), a direction square to it in the middle plane, and the sidewards one.
    const m = [0, 1 / distance, z / distance]
    const u = [0, -z / distance, 1 / distance]
    const d = [0, 1, 2].map((k) => c * m[k]! + s * (Math.cos(a) * [1, 0, 0][k]! + Math.sin(a) * u[k]!))
    return [d[0]! / d[1]!, d[2]! / d[1]!]
  }).flat()
}

describe('ray and rounded edge', () => {
  it('every ray through a place of the visible half of a sharp ring grazes it (property)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.02, max: 0.3, noNaN: true }),
        fc.double({ min: -0.3, max: -0.02, noNaN: true }),
        fc.double({ min: -1.2, max: 1.2, noNaN: true }),
        (r, z, a) => {
          const d: Vec = [r * Math.sin(a), 1 - r * Math.cos(a), z]
          expect(Math.abs(grazingMiss(d, { r, z, rounding: 0 }, 'foot'))).toBeLessThan(5e-5)
        },
      ),
    )
  })

  it('a tube is grazed lower by its radius, as far as the eye is', () => {
    // Straight ahead the tube's lowest ray passes (rounding) below its circle, square to the ray.
    const [r, z, rounding] = [0.05, -0.1, 0.004]
    const sight = Math.hypot(1 - r, z)
    const lower = Math.atan2(z, 1 - r) - Math.asin(rounding / sight)
    expect(grazingMiss([0, Math.cos(lower), Math.sin(lower)], { r, z, rounding }, 'foot')).toBeCloseTo(0, 9)
  })
})

describe('slopes of a ray’s miss', () => {
  it('are those of difference quotients, near a tube and well off it (property)', () => {
    const share = fc.double({ min: 0, max: 1, noNaN: true })
    fc.assert(
      fc.property(share, share, share, share, share, fc.constantFrom('foot', 'top'), (p, q, s, t, u, end) => {
        const ring = { r: 0.04 + 0.2 * p, z: (q - 0.5) * 0.5, rounding: 0.002 + 0.02 * s }
        // No ray through the ring's own level, where foot and top, near and far change places.
        if (Math.abs(ring.z) < 0.02) return
        const near = end === 'foot' ? ring.z < 0 : ring.z >= 0
        const a = (t - 0.5) * 2
        const out = (end === 'foot' ? -1 : 1) * ring.rounding * (0.8 + 0.4 * u)
        const d: Vec = [ring.r * Math.sin(a), 1 - (near ? 1 : -1) * ring.r * Math.cos(a), ring.z + out]
        const slopes = [0, 0, 0]
        expect(grazingMiss(d, ring, end, slopes)).toBe(grazingMiss(d, ring, end))
        const h = 1e-6
        ;(['r', 'z', 'rounding'] as const).forEach((name, i) => {
          const at = (by: number) => grazingMiss(d, { ...ring, [name]: ring[name] + by }, end)
          expect(Math.abs((at(h) - at(-h)) / (2 * h) - slopes[i]!)).toBeLessThan(0.03)
        })
      }),
    )
  })
})

describe('ends', () => {
  it('of a foot with a chamfer the ring alone tells the tilt, though half of the closing points lie on the chamfer', () => {
    // A ring, then a chamfer at 45° that closes the outline too, then the wall; heights from the eye in camera distances.
    const [r, z] = [0.04, -0.07]
    const edge = r / Math.sqrt(1 - r * r)
    const chamfer = Array.from({ length: 70 }, (_, i) => [
      edge + 0.00006 * (i + 1),
      z + 0.00006 * (i + 1),
    ]).flat()
    const wall = Array.from({ length: 80 }, (_, i) => [edge + 0.0042, z + 0.0043 + 0.0004 * i]).flat()
    const fit = fitEnd(half([...ringArc(r, z, true), ...chamfer, ...wall]), 'foot')!
    expect(Math.abs(fit.z - z) * 8000).toBeLessThan(0.3)
    expect(fit.farPx).toBeLessThan(0.1)
    expect(fit.dome).toBe(false)
  })

  it.each([
    [0.03, -0.08],
    [0.05, -0.02],
    [0.02, -0.25],
  ])('a sharp foot of radius %d at %d is found to a thousandth of a pixel', (r, z) => {
    const arc = ringArc(r, z, true)
    const wall = Array.from({ length: 60 }, (_, i) => [r / Math.sqrt(1 - r * r), z * (1 - 0.01 * i)]).flat()
    const fit = fitEnd(half([...arc, ...wall]), 'foot')!
    expect(fit.dome).toBe(false)
    expect(Math.abs(endLevel(fit, 'foot') - z) * 8000).toBeLessThan(0.05)
    expect(fit.r + fit.rounding).toBeCloseTo(r, 3)
  })

  it('of a foot whose outline wavers farther out is still fitted there: a shorter arc knows the tilt less', () => {
    const [r, z, f] = [0.05, -0.28, 8000]
    const points = ringArc(r, z, true, 120)
    const reach = (indices: readonly number[]) => Math.max(...indices.map((i) => points[2 * i]!)) / r
    const fitWith = (waver: number) => {
      const wavering = points.map((v, i) => {
        const out = (points[i - (i % 2)]! / r - 0.6) / 0.4
        return i % 2 === 0 || out < 0 ? v : v + (waver * Math.sin(25 * out)) / f
      })
      return fitEnd(half(wavering, f), 'foot')!
    }
    // To and fro by 1.5 px beyond six tenths of the half-width: the fit itself spreads by a seventh of that.
    const fitted = fitWith(1.5)
    expect(reach(fitted.indices)).toBeGreaterThan(0.97 * reach(fitWith(0).indices))
    expect(Math.abs(fitted.r - r)).toBeLessThan(0.02 * r)
    expect(Math.abs(endLevel(fitted, 'foot') - z) * f).toBeLessThan(3)
  })

  it('the top of a ball is extrapolated from what is seen of it', () => {
    for (const z of [-0.2, -0.05, 0.05]) {
      const fit = fitEnd(half(ballOutline(0.04, z)), 'top')!
      expect(fit.dome).toBe(true)
      expect((endLevel(fit, 'top') - (z + 0.04)) * 8000).toBeCloseTo(0, 1)
    }
  })

  it('a ball ends in no ring, from wherever it is seen, and a ring in no ball', () => {
    for (const z of [-0.3, -0.1, 0.05]) {
      const ball = half(ballOutline(0.04, z))
      for (const end of ['foot', 'top'] as const) expect(endsInBall(ball, end)).toBe(true)
    }
    for (const slope of [-0.05, -0.2, -0.5]) {
      const wall = Array.from({ length: 60 }, (_, i) => [0.04, slope * (1 - 0.005 * i)]).flat()
      expect(endsInBall(half([...ringArc(0.04, slope, true), ...wall]), 'foot')).toBe(false)
    }
  })

  it('the pitch comes out of both closing arcs', () => {
    for (const pitch of [-0.03, 0.02, 0.11, 0.2]) {
      const [zf, zt] = [-0.12 + pitch, 0.06 + pitch].map((v) => v - pitch)
      const foot = ringArc(0.04, zf! - pitch, true)
      const top = ringArc(0.03, zt! - pitch, zt! - pitch >= 0).reduceRight<number[]>(
        (out, _, i, all) => (i % 2 ? out : [...out, all[i]!, all[i + 1]!]),
        [],
      )
      const side = Array.from({ length: 60 }, (_, i) => [0.04 - (0.01 * i) / 60, zf! - pitch + ((zt! - zf!) * i) / 60]).flat() // prettier-ignore
      const truth = half([...foot, ...side, ...top])
      // As the camera would see it if it took itself for level.
      const seen = levelled(truth, -pitch)
      expect(Math.abs(likelyPitch(seen).pitch - pitch)).toBeLessThan(0.0005)
    }
  })
})

describe('sharp rings of a hub from afar', () => {
  const f = 12000
  /** Stubs of a radius, px, at both ends of a hub more than twice as wide, its edges known to a tenth of a px. */
  function hub(pitch: number, radiusPx: number, [zf, zt]: readonly [number, number]): HalfOutline {
    const r = radiusPx / f
    const top = ringArc(r, zt, zt > 0)
    const upper = Array.from({ length: 80 }, (_, i) => top.slice(2 * (79 - i), 2 * (80 - i))).flat()
    const foot = ringArc(r, zf, true)
    const step = 0.1 * (zt - zf)
    const corners = [
      [r, foot.at(-1)!],
      [r, zf + step],
      [2.2 * r, zf + step],
      [2 * r, (zf + zt) / 2],
      [2.2 * r, zt - step],
      [r, zt - step],
      [r, upper[1]!],
    ] as const
    const side = corners.slice(1).flatMap(([x, w], k) =>
      Array.from({ length: 40 }, (_, i) => {
        const [x0, w0] = corners[k]!
        return [x0 + ((x - x0) * (i + 1)) / 41, w0 + ((w - w0) * (i + 1)) / 41]
      }).flat(),
    )
    const off = (i: number) => (i % 2 ? (0.1 / f) * Math.sin(0.9 * i) * Math.cos(0.23 * i) : 0)
    return levelled(
      half(
        [...foot, ...side, ...upper].map((v, i) => v + off(i)),
        f,
        0.05,
      ),
      -pitch,
    )
  }

  it('tell the pitch however narrow its valley is, between all steps first tried too', () => {
    const degree = Math.PI / 180
    const levels = [-0.02, 0.01] as const
    for (const radius of [100, 200, 300])
      for (const pitch of [-0.6, -0.4, 1, 1.2, 2.4, 2.6])
        expect(Math.abs(likelyPitch(hub(pitch * degree, radius, levels)).pitch / degree - pitch)).toBeLessThan(0.1) // prettier-ignore
  })
})

describe('focal length that no file says', () => {
  const size = { centre, lens: null, diagonalPx: 2500 }
  const axis = { at: centre, up: { x: 0, y: -1 } }
  /** Both sides, px, of a half-outline as a level camera of a focal length sees it. */
  function sidesOf(points: number[], f: number): { left: OutlineSide; right: OutlineSide } {
    const n = points.length / 2
    const side = (sign: 1 | -1): OutlineSide => ({
      points: Float64Array.from(points, (v, i) => (i % 2 ? centre.y - f * v : centre.x + sign * f * v)),
      sd: new Float64Array(n).fill(0.1),
      blur: 1,
    })
    return { left: side(-1), right: side(1) }
  }
  const upwards = (arc: number[]) =>
    Array.from({ length: arc.length / 2 }, (_, i) => arc.slice(arc.length - 2 * i - 2, arc.length - 2 * i)).flat() // prettier-ignore

  /** A frustum of 1300 px between foot and rim, the camera level with a place between them. */
  function frustum(f: number) {
    const [zf, zt] = [-800 / f, 500 / f]
    const [rf, rt] = [400 / f, 300 / f]
    const [foot, top] = [ringArc(rf, zf, true), upwards(ringArc(rt, zt, true))]
    const [x0, y0, x1, y1] = [foot.at(-2)!, foot.at(-1)!, top[0]!, top[1]!]
    const side = Array.from({ length: 649 }, (_, i) => [x0 + ((x1 - x0) * (i + 1)) / 650, y0 + ((y1 - y0) * (i + 1)) / 650]).flat() // prettier-ignore
    return { sides: sidesOf([...foot, ...side, ...top], f), height: zt - zf, diameter: 2 * rf }
  }

  it.each([2.2, 3.4, 6.5])(
    'is found by the rings for a lens of %f diagonals, with an honest error',
    (diagonals) => {
      const f = diagonals * size.diagonalPx
      const found = toldFocal(frustum(f).sides, axis, size, null, false)!
      expect(Math.abs(found.value / f - 1)).toBeLessThan(0.15)
      expect(Math.abs(found.value - f)).toBeLessThan(3 * found.sd)
    },
  )

  it('is told by a tape beside a height or a diameter', () => {
    const { sides, ...sizes } = frustum(8000)
    const byHeight = toldFocal(sides, axis, size, { times: 1 / sizes.height, size: 'height' }, false)!
    expect(byHeight.value / 8000).toBeCloseTo(1, 2)
    const byDiameter = toldFocal(sides, axis, size, { times: 1 / sizes.diameter, size: 'diameter' }, false)!
    expect(Math.abs(byDiameter.value - 8000)).toBeLessThan(2 * byDiameter.sd)
  })

  it('is left open by a ball, which looks the same from everywhere', () => {
    expect(toldFocal(sidesOf(ballOutline(0.05, -0.05), 8000), axis, size, null, false)).toBeNull()
  })
})

describe('envelope', () => {
  it('gives the radius of a ball at every height that it is seen at', () => {
    const radius = 0.05
    for (const z of [-0.1, 0, 0.15]) {
      const rays = grazingRays(Float64Array.from(ballOutline(radius, z, 1200)))
      for (const share of [-0.85, -0.4, 0, 0.3, 0.8]) {
        const { r } = radiusAt(rays, z + share * radius)
        expect(r / (radius * Math.sqrt(1 - share * share))).toBeCloseTo(1, 4)
      }
    }
  })

  /** A vase: r(z) = 40 + 12 sin(z / 25), 0 <= z <= 200. */
  const radius = (z: number) => 40 + 12 * Math.sin(z / 25)
  const slope = (z: number) => (12 / 25) * Math.cos(z / 25)
  /** Its outline: the ring point whose normal is square to the ray, sin(azimuth) = (r' (z - h) - r) / D. */
  function outline(view: NearView, side: 1 | -1): OutlineSide {
    const out: number[] = []
    const ring = (r: number, z: number, near: boolean, from: number, to: number) => {
      for (let k = 0; k <= 60; k++) {
        const a = from + ((to - from) * k) / 60
        const p = project(view, [side * r * Math.sin(a), (near ? -1 : 1) * r * Math.cos(a), z])
        out.push(p.x, p.y)
      }
    }
    ring(radius(0), 0, true, 0, 1.5)
    for (let z = 0.2; z <= 199.8; z += 0.12) {
      const r = radius(z)
      const sine = (slope(z) * (z - view.height) - r) / view.distance
      const p = project(view, [side * r * Math.sqrt(1 - sine * sine), r * sine, z])
      out.push(p.x, p.y)
    }
    ring(radius(200), 200, view.height < 200, 1.5, 0)
    const points = Float64Array.from(out)
    return { points, sd: new Float64Array(points.length / 2).fill(0.05), blur: 1 }
  }

  it.each([
    [600, 100, 0],
    [600, 220, 0.2],
    [1000, 160, 0.06],
  ])('reads the true half-profile from %d mm away and %d mm high', (distance, height, pitch) => {
    const view = viewOf(distance, height, pitch)
    const sides = { left: outline(view, -1), right: outline(view, 1) }
    const read = readProfile(view, sides)
    expect(read.foot).toBeCloseTo(0, 1)
    expect(read.top).toBeCloseTo(200, 1)
    const worst = read.points
      .filter(([r, z], i) => r > 0 && z > 2 && z < 198 && read.states[i] === 'both')
      .map(([r, z]) => Math.abs(r - radius(z)))
    expect(worst.length).toBeGreaterThan(1000)
    // A hundredth of a percent of the height; parallel rays err by 1 to 2 % here.
    expect(Math.max(...worst)).toBeLessThan(0.03)
    // Twice as large a picture of the same: the same millimetres.
    const larger: NearView = { ...view, eye: { ...view.eye, f: 2 * view.eye.f } }
    const again = readProfile(larger, { left: outline(larger, -1), right: outline(larger, 1) })
    expect(again.top).toBeCloseTo(read.top, 1)
  })
})

describe('an egg', () => {
  /** 58 × 44 mm, its broad end below: an ellipse whose width is shifted towards the foot. No part of it is a circle. */
  const radius = (z: number) => {
    const t = (z - 29) / 29
    return 22 * Math.sqrt(Math.max(0, 1 - t * t)) * (1 - 0.16 * t)
  }
  const slope = (z: number) => (radius(z + 1e-5) - radius(z - 1e-5)) / 2e-5
  /** Contour points by the same condition as the vase's, as many mm apart as 2 px are, from one crossing of the axis to the other. */
  function outline(view: NearView, side: 1 | -1): OutlineSide {
    const all: { x: number; y: number }[] = []
    for (let k = 1; k < 20_000; k++) {
      const z = 29 - 29 * Math.cos((Math.PI * k) / 20_000)
      const r = radius(z)
      const sine = (slope(z) * (z - view.height) - r) / view.distance
      // Nearer to the poles than this no ray grazes it.
      if (!(Math.abs(sine) <= 1)) continue
      const p = project(view, [side * r * Math.sqrt(1 - sine * sine), r * sine, z])
      const last = all.at(-1)
      if (!last || Math.hypot(p.x - last.x, p.y - last.y) > 2) all.push(p)
    }
    const points = Float64Array.from(all.flatMap(({ x, y }) => [x, y]))
    return { points, sd: new Float64Array(points.length / 2).fill(0.05), blur: 1 }
  }

  it.each([
    [420, 29],
    [420, 60],
    [300, 10],
  ])(
    'is read to its poles from %d mm away and %d mm high, though its ends are no circles',
    (distance, height) => {
      const view = viewOf(distance, height, 0)
      const read = readProfile(view, { left: outline(view, -1), right: outline(view, 1) })
      // Across the profile: near the poles a height that is off moves the radius much.
      const across = (z: number) => Math.hypot(1, slope(Math.max(0.01, Math.min(57.99, z))))
      const wide = read.points.filter(([r]) => r > 2)
      const off = wide.map(([r, z]) => Math.abs(r - radius(z)) / across(z))
      expect(off.length).toBeGreaterThan(1000)
      // Two hundredths of a percent of the height.
      off.sort((p, q) => p - q)
      expect(off[Math.floor(0.97 * off.length)]).toBeLessThan(0.012)
      expect(off.at(-1)).toBeLessThan(0.1)
    },
  )

  it('ends in no ring either, though in a large photo it spreads about a ball', () => {
    const view = viewOf(1400, 29, 0)
    const large = { ...view, eye: { ...view.eye, f: 40 * 1400 } }
    const egg = halfOutline(large, outline(large, -1), outline(large, 1))
    // Some waver, as edges of photos do.
    const wavering = egg.points.map((v, i) => v + ((i % 2 ? 0.7 : 0) * Math.sin(i / 9)) / egg.pxPerUnit)
    for (const end of ['foot', 'top'] as const) {
      expect(fitEnd({ ...egg, points: wavering }, end)!.spreadPx).toBeGreaterThan(0.4)
      expect(endsInBall({ ...egg, points: wavering }, end)).toBe(true)
    }
  })
})

describe('an overhang seen from above', () => {
  /** A neck between a base and a cap, mm. */
  const radius = (z: number) => (z < 60 || z > 110 ? 40 : 20)
  /** Silhouette of all its rings, row by row, so many px apart. */
  function outline(view: NearView, side: 1 | -1, apart: number): OutlineSide {
    const reach = new Map<number, number>()
    for (let z = 0; z <= 150; z += 0.05)
      for (const r of new Set([radius(z - 0.05), radius(z)]))
        for (let a = 0.9; a < 2.2; a += 0.01) {
          const p = project(view, [r * Math.sin(a), -r * Math.cos(a), z])
          const row = Math.round(p.y / apart)
          reach.set(row, Math.max(reach.get(row) ?? 0, p.x - 1000))
        }
    const rows = [...reach.keys()].sort((p, q) => q - p)
    const points = Float64Array.from(rows.flatMap((row) => [1000 + side * reach.get(row)!, row * apart]))
    return { points, sd: new Float64Array(rows.length).fill(0.05), blur: 1 }
  }

  it.each([
    [1, 2],
    [2.5, 5],
  ])(
    'is assumed where it hides the neck, and nowhere else, in a picture %d times as large with points %d px apart',
    (times, apart) => {
      const upright = { foot: { x: 1000, y: 1750 }, top: { x: 1000, y: 250 } }
      const view: NearView = { kind: 'near', lens: null, eye: makeEye(5 * 600 * times, centre, upright, 0.2), distance: 600, height: 220 } // prettier-ignore
      const read = readProfile(view, { left: outline(view, -1, apart), right: outline(view, 1, apart) })
      const rows = read.points.flatMap(([r, z], i) =>
        r > 5 && z > 5 && z < 145 ? [{ r, z, is: read.states[i] === 'assumed' }] : [],
      )
      // Where the cap's near edge, and the base's far one, cross the neck's outline: so far before and behind the axis.
      const aside = Math.sqrt(40 ** 2 - 20 ** 2)
      const hidden = [
        [60, 60 + (aside * (220 - 60)) / (600 + aside)],
        [110 - (aside * (220 - 110)) / (600 - aside), 110],
      ] as const
      const share = (of: typeof rows) => of.filter(({ is }) => is).length / of.length
      for (const [from, to] of hidden)
        expect(share(rows.filter(({ z }) => z > from + 1 && z < to - 1))).toBeGreaterThan(0.9)
      const seen = rows.filter(({ z }) => hidden.every(([from, to]) => z < from - 1 || z > to + 1))
      expect(seen.length).toBeGreaterThan(800)
      expect(share(seen)).toBeLessThan(0.02)
    },
  )
})

describe('both sides', () => {
  const view = { kind: 'distant', lens: null, origin: { x: 500, y: 900 }, up: { x: 0, y: -1 }, mmPerPx: 0.2 } as const // prettier-ignore
  const side = (
    sign: 1 | -1,
    half: (i: number) => number,
    sd: (i: number) => number = () => 0.1,
  ): OutlineSide => ({
    // prettier-ignore
    points: Float64Array.from(Array.from({ length: 300 }, (_, i) => [500 + sign * half(i), 890 - 2 * i]).flat()),
    sd: Float64Array.from({ length: 300 }, (_, i) => sd(i)),
    blur: 1,
  })
  const at = (h: HalfOutline, i: number) => h.points[2 * i]! / 0.2

  it('are averaged by their standard errors', () => {
    const mean = halfOutline(view, side(-1, () => 100.4, () => 0.1), side(1, () => 100, () => 0.2)) // prettier-ignore
    // Weights 100 : 25.
    expect(at(mean, 150)).toBeCloseTo(100.32, 3)
    expect(mean.states[150]).toBe('both')
    expect(mean.sd[150]).toBeCloseTo(0.1 * Math.sqrt(0.8), 6)
  })

  it('a handle on one side leaves the other alone, and says so', () => {
    const handle = (i: number) => 100 + (i > 100 && i < 180 ? 20 : 0)
    const mean = halfOutline(view, side(-1, handle), side(1, () => 100)) // prettier-ignore
    for (let i = 0; i < 300; i++) expect(Math.abs(at(mean, i) - 100)).toBeLessThan(0.01)
    expect(mean.states[140]).toBe('right')
    expect(mean.reasons[140]).toBe('differs')
  })

  it('what one side loses in a shadow the other gives; what both lose is bridged', () => {
    const lost = (a: number, b: number) => (i: number) => (i > a && i < b ? Infinity : 0.1)
    const mean = halfOutline(view, side(-1, () => 100, lost(80, 160)), side(1, () => 100, lost(140, 220))) // prettier-ignore
    expect([mean.states[100], mean.reasons[100]]).toEqual(['right', 'unseen'])
    expect([mean.states[190], mean.reasons[190]]).toEqual(['left', 'unseen'])
    expect(mean.states[150]).toBe('bridged')
  })

  it('a chosen side is taken where it is seen', () => {
    const choices = [{ from: 20, to: 60, side: 'left' as const }]
    const mean = halfOutline(view, side(-1, () => 101), side(1, () => 100), choices) // prettier-ignore
    const inside = Array.from(mean.states.keys()).filter((i) => mean.points[2 * i + 1]! > 22 && mean.points[2 * i + 1]! < 58) // prettier-ignore
    for (const i of inside) expect([mean.states[i], at(mean, i)]).toEqual(['left', expect.closeTo(101, 2)])
  })
})

describe('ends that are no clean rings', () => {
  /** A cylinder seen from above: its foot's near edge and its side, with lumps hung under the edge. */
  const cylinder = (lump: (k: number) => number) => {
    const [r, z] = [0.05, -0.08]
    const arc = ringArc(r, z, true)
    for (let k = 0; k < arc.length / 2; k++) arc[2 * k + 1]! -= lump(k)
    const x = r / Math.sqrt(1 - r * r)
    const side = Array.from({ length: 200 }, (_, k) => [x, z + 0.0005 * (k + 1)]).flat()
    return { r, z, outline: half([...arc, ...side]) }
  }

  it('stand within the picture of the ring that the outline’s width makes of their crossing (property)', () => {
    const bound = 0.05 * 0.08 * 1.05 + 0.06 * 0.05
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), fc.integer({ min: 3, max: 12 }), (first, length) => {
        const { outline } = cylinder((k) => (k >= first && k < first + length ? 0.002 : 0))
        const end = fitEnd(outline, 'foot')!
        expect(Math.abs(endLevel(end, 'foot') - outline.points[1]!)).toBeLessThanOrEqual(bound + 0.0025)
      }),
      { numRuns: 40 },
    )
  })

  it('are no wider than the outline beside them, however noisy their edge (property)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        let state = seed
        const random = () => (state = (state * 16807) % 2147483647) / 2147483647
        const { outline, r } = cylinder(() => (random() - 0.5) * (3 / 8000))
        const end = fitEnd(outline, 'foot')!
        expect(end.r + end.rounding).toBeLessThan(1.05 * r)
      }),
      { numRuns: 40 },
    )
  })
})
