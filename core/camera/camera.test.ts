import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ellipseHandles, ellipseOf, ellipsePoints } from './ellipse-of'
import { distort, fitLens, undistort, type Lens } from './lens'
import { closingArc } from './ring-arc'
import { solveNear, type SeenRing } from './solve-near'
import {
  makeEye,
  project,
  rayOf,
  ringOutline,
  seenAt,
  toPicture,
  toPlane,
  toUprightPlane,
  type NearView,
} from './view'
import { distantErrors, nearErrors, pitchOf } from './view-error'

/** Deterministic noise. */
function noise(seed: number) {
  let s = seed
  const random = () => (s = (s * 16807) % 2147483647) / 2147483647
  return () => Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random())
}
const centre = { x: 750, y: 1000 }
const plumb = { foot: { x: 780, y: 1750 }, top: { x: 760, y: 250 } }
const viewOf = (f: number, pitch: number, distance: number, height: number): NearView => ({
  kind: 'near',
  lens: null,
  eye: makeEye(f, centre, plumb, pitch),
  distance,
  height,
})

describe('near view', () => {
  const view = viewOf(5000, 0.12, 600, 150)

  it('sees the axis where the plumb line is', () => {
    for (const z of [-20, 0, 80, 200]) {
      const p = project(view, [0, 0, z])
      const t = (p.y - plumb.foot.y) / (plumb.top.y - plumb.foot.y)
      expect(p.x).toBeCloseTo(plumb.foot.x + t * (plumb.top.x - plumb.foot.x), 8)
    }
  })

  it('has a right-handed world and the pitch it was made with', () => {
    const { right: r, away: a, up: u } = view.eye
    const cross = [r[1] * a[2] - r[2] * a[1], r[2] * a[0] - r[0] * a[2], r[0] * a[1] - r[1] * a[0]]
    cross.forEach((v, i) => expect(v).toBeCloseTo(u[i]!, 12))
    expect(pitchOf(view)).toBeCloseTo(0.12, 12)
  })

  it('sees a sphere about its axis as wide as asin(R/D) says', () => {
    // Perspective of a sphere: angular radius asin(R / distance to its centre).
    const R = 60
    const level = viewOf(5000, 0, 600, 100)
    // The outline's widest point of a sphere centred at camera height: the grazing level ray.
    const p = toPicture(level, { x: R, z: 100 })
    const axis = project(level, [0, 0, 100])
    const a = rayOf(level.eye, p)
    const b = rayOf(level.eye, axis)
    const angle = Math.acos((a[0] * b[0] + a[1] * b[1] + a[2] * b[2]) / Math.hypot(...a) / Math.hypot(...b))
    expect(angle).toBeCloseTo(Math.asin(R / 600), 12)
  })

  it('goes from picture to piece and back (property)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -200, max: 200, noNaN: true }),
        fc.double({ min: -50, max: 300, noNaN: true }),
        fc.double({ min: -0.3, max: 0.5, noNaN: true }),
        fc.double({ min: -0.2, max: 0.2, noNaN: true }),
        (x, z, pitch, k1) => {
          const lens = { k1, k2: 0, unitPx: 5000, centre }
          const v: NearView = { ...viewOf(5000, pitch, 900, 120), lens }
          const back = toPlane(v, toPicture(v, { x, z }))
          expect(back.x).toBeCloseTo(x, 6)
          expect(back.z).toBeCloseTo(z, 6)
          const flat = toUprightPlane(v, project(v, [x, -40, z]), -40)
          expect(flat.x).toBeCloseTo(x, 6)
          expect(flat.z).toBeCloseTo(z, 6)
        },
      ),
    )
  })

  it('a level is an ellipse with axes along and across: a = f r / √k, b/a = Δ / √k', () => {
    // Image of a circle under a pinhole pitched down by T: k = (D cos T + Δ sin T)² - (r cos T)².
    const upright = { foot: { x: 750, y: 1750 }, top: { x: 750, y: 250 } }
    const [f, T, D, h, r, z] = [5000, 0.12, 600, 150, 50, 30]
    const v: NearView = {
      kind: 'near',
      lens: null,
      eye: makeEye(f, centre, upright, T),
      distance: D,
      height: h,
    }
    const e = ellipseOf(ringOutline(v, r, z), { at: centre, up: { x: 0, y: -1 } })!
    const delta = h - z
    const k = (D * Math.cos(T) + delta * Math.sin(T)) ** 2 - (r * Math.cos(T)) ** 2
    expect(e.a).toBeCloseTo((f * r) / Math.sqrt(k), 6)
    expect(e.b / e.a).toBeCloseTo(delta / Math.sqrt(k), 8)
  })
})

describe('distant and near readings', () => {
  const extent = { height: 200, footRadius: 30, largestRadius: 40, largestAt: 100, rimRadius: 20 }

  it('a distant reading of a near side errs as perspective says', () => {
    // Level with the place: the side is seen at tan(asin(r/D)) instead of r/D, scaled on the axis.
    const [error] = distantErrors({ ...extent, largestAt: 100 }, [{ distance: 1000, height: 100 }]).filter(
      (e) => e.place === 'largest',
    )
    const seen = 1000 * Math.tan(Math.asin(40 / 1000))
    expect(error!.diameterMm[0]).toBeCloseTo(2 * seen - 80, 6)
    const far = distantErrors(extent, [{ distance: 1e6, height: 100 }])
    for (const e of far) expect(Math.abs(e.diameterMm[1])).toBeLessThan(0.01)
  })

  it('a near reading errs with its tilt, and not at all without errors', () => {
    const view = viewOf(6000, 0.05, 900, 140)
    const none = nearErrors(extent, view, { pitch: 0, focal: 0, scale: 0 })
    for (const e of none) expect(e.diameterMm[1] + e.heightMm[1]).toBeLessThan(1e-6)
    const some = nearErrors(extent, view, { pitch: 0.02, focal: 60, scale: 0.002 })
    expect(some.find((e) => e.place === 'rim')!.diameterMm[1]).toBeGreaterThan(0.08)
  })
})

describe('lens', () => {
  const lens: Lens = { k1: -0.08, k2: 0.02, unitPx: 3000, centre: { x: 2000, y: 1500 } }

  it('is undone exactly (property)', () => {
    const px = fc.double({ min: 0, max: 4000, noNaN: true })
    fc.assert(
      fc.property(px, px, (x, y) => {
        const p = undistort(lens, distort(lens, { x, y }))
        expect(Math.hypot(p.x - x, p.y - y)).toBeLessThan(1e-7)
      }),
    )
  })

  it('two marked edges leave less than 0.3 px of displacement anywhere on the piece', () => {
    const truth = { ...lens, k2: 0 }
    const worst: number[] = []
    for (let run = 0; run < 40; run++) {
      const gauss = noise(1000 + run)
      const edge = (at: (t: number) => { x: number; y: number }) =>
        Array.from({ length: 40 }, (_, i) => {
          const p = distort(truth, at(i / 39))
          return { x: p.x + 0.3 * gauss(), y: p.y + 0.3 * gauss() }
        })
      const edges = [
        edge((t) => ({ x: 300 + 3400 * t, y: 400 + 20 * t })),
        edge((t) => ({ x: 3500, y: 200 + 2600 * t })),
      ]
      const { lens: found, bowPx } = fitLens(edges, truth)
      expect(bowPx).toBeGreaterThan(5)
      let most = 0
      // The piece fills the middle half of the picture.
      for (let x = 1000; x <= 3000; x += 250)
        for (let y = 400; y <= 2600; y += 250) {
          const a = undistort(found, { x, y })
          const b = undistort(truth, { x, y })
          most = Math.max(most, Math.hypot(a.x - b.x, a.y - b.y))
        }
      worst.push(most)
    }
    worst.sort((a, b) => a - b)
    expect(worst[Math.floor(0.95 * worst.length)]!).toBeLessThan(0.3)
  })

  it('refuses edges that tell nothing', () => {
    const through = Array.from({ length: 5 }, (_, i) => ({ x: 1000 + 500 * i, y: 1500 }))
    expect(() => fitLens([through], lens)).toThrow(/straight in reality/)
    expect(() =>
      fitLens(
        [
          [
            { x: 1, y: 2 },
            { x: 3, y: 4 },
          ],
        ],
        lens,
      ),
    ).toThrow(/three points/)
  })
})

describe('camera from rings', () => {
  /** The half of a ring that closes an outline, with noise. */
  const seenRing = (
    view: NearView,
    place: SeenRing['place'],
    r: number,
    z: number,
    gauss: () => number,
  ): SeenRing => {
    const above = view.height > z
    const near = place === 'foot' ? above : !above
    const points = Array.from({ length: 120 }, (_, i) => {
      const a = (i / 119 - 0.5) * 2.7 + (near ? 0 : Math.PI)
      const p = project(view, [r * Math.sin(a), -r * Math.cos(a), z])
      return { x: p.x + 0.3 * gauss(), y: p.y + 0.3 * gauss() }
    })
    return { place, points, sdPx: 0.3 }
  }
  const H = 200
  const setups = [3, 5, 8].flatMap((d) => [0.5, 1, 1.5].map((h) => [d, h] as const))
  const run = (d: number, h: number, focalKnown: boolean, rings: ('foot' | 'rim')[], seed: number) => {
    const distance = d * H
    // Aimed at mid height, the piece about 1500 px tall.
    const f = (1500 / H) * distance
    const pitch = Math.atan2(h * H - H / 2, distance)
    const view = viewOf(f, pitch, distance, h * H)
    const gauss = noise(seed)
    const solved = solveNear(
      {
        plumb,
        centre,
        rings: rings.map((place) =>
          seenRing(view, place, place === 'foot' ? 40 : 34, place === 'foot' ? 0 : H, gauss),
        ),
        focal: focalKnown ? { value: f, sd: 0.002 * f } : null,
        pitch: null,
        distance: null,
      },
      2500,
    )!
    const foot = solved.rings[0]!
    const rim = solved.rings.at(-1)!
    // The known height between the two rings gives the scale.
    const mm = H / (rim.z - foot.z)
    return { solved, view, pitch, mm, height: -foot.z * mm }
  }
  const p95 = (values: number[]) => values.sort((a, b) => a - b)[Math.ceil(0.95 * values.length) - 1]!

  it('two rings and the lens: distance, height and tilt, 95th percentiles up to eight heights away', () => {
    for (const [d, h] of setups) {
      const runs = Array.from({ length: 40 }, (_, i) => run(d, h, true, ['foot', 'rim'], 77 + i))
      expect(p95(runs.map((r) => Math.abs(r.mm / (d * H) - 1)))).toBeLessThan(0.03)
      expect(p95(runs.map((r) => Math.abs(r.height - h * H) / H))).toBeLessThan(0.03)
      expect(p95(runs.map((r) => Math.abs(r.solved.pitch.value - r.pitch)))).toBeLessThan(
        (0.15 * Math.PI) / 180,
      )
    }
  })

  it('two rings, no lens: the focal length comes out too', () => {
    const runs = Array.from({ length: 30 }, (_, i) => run(3, 1.5, false, ['foot', 'rim'], 500 + i))
    expect(p95(runs.map((r) => Math.abs(r.mm / (3 * H) - 1)))).toBeLessThan(0.03)
    expect(p95(runs.map((r) => Math.abs(r.solved.pitch.value - r.pitch)))).toBeLessThan(
      (0.15 * Math.PI) / 180,
    )
  })

  it('a foot is seen from above: one ring alone isn’t mistaken for its mirror image', () => {
    const { solved, pitch } = run(5, 0.6, true, ['foot'], 9)
    expect(solved.pitch.value).toBeCloseTo(pitch, 2)
    expect(solved.rings[0]!.z).toBeLessThan(0)
  })

  it('a rim alone is read at the pitch that it was found at, where it fits from above and from below alike', () => {
    const distance = 7 * H
    const view = viewOf((1500 / H) * distance, Math.atan2(0.8 * H, distance), distance, 1.3 * H)
    const ring = { ...seenRing(view, 'rim', 34, H, noise(31)), rounded: true }
    const solve = (foundAt?: number) =>
      solveNear(
        { plumb, centre, rings: [{ ...ring, foundAt }], focal: { value: view.eye.f, sd: 20 }, pitch: null, distance: null },
        2500,
      )!.pitch.value // prettier-ignore
    const degrees = (a: number) => (180 / Math.PI) * a
    const truth = degrees(Math.atan2(0.8 * H, distance))
    expect(Math.abs(degrees(solve(truth * (Math.PI / 180))) - truth)).toBeLessThan(1)
    // Nothing said: the camera is taken for held more level than it was.
    expect(degrees(solve())).toBeLessThan(truth - 3)
  })

  it('says that a tilt is only assumed when there are no rings, and gives up without any fact', () => {
    const base = { plumb, centre, rings: [], pitch: null, distance: null }
    expect(solveNear({ ...base, focal: { value: 5000, sd: 100 } }, 2500)!.assumed.pitch).toBe(true)
    expect(solveNear({ ...base, focal: null }, 2500)).toBeNull()
  })
})

describe('ellipses', () => {
  const axis = { at: { x: 100, y: 900 }, up: { x: Math.sin(0.02), y: -Math.cos(0.02) } }

  it('pass through their handles and are found again from their points', () => {
    const ellipse = { v0: 40, a: 200, b: 25 }
    const found = ellipseOf(ellipsePoints(ellipse, axis), axis)!
    expect([found.v0, found.a, found.b].map((v) => v.toFixed(6))).toEqual([
      '40.000000',
      '200.000000',
      '25.000000',
    ])
    const { left, right, near, far } = ellipseHandles(ellipse, axis)
    expect(Math.hypot(left.x - right.x, left.y - right.y)).toBeCloseTo(400, 9)
    expect(Math.hypot(near.x - far.x, near.y - far.y)).toBeCloseTo(50, 9)
  })

  /** Half an outline from the crossing outwards: an arc of an ellipse, then an upright side. */
  const half = (sign: number, a: number, b: number, gauss: () => number, dome = false) => {
    const out: number[] = []
    const steps = Math.round(a / 2)
    for (let i = 0; i <= steps; i++) {
      const t = (Math.PI / 2) * (i / steps)
      out.push(sign * a * Math.sin(t), -b * Math.cos(t) + 0.15 * gauss())
    }
    for (let v = 2; v < 200; v += 2)
      out.push(sign * (dome ? Math.sqrt(Math.max(1, a * a - v * v)) : a) + 0.15 * gauss(), v)
    return Float64Array.from(out)
  }

  it('a closing arc is found where the ring ends, and a dome is none', () => {
    const gauss = noise(3)
    const arc = closingArc([half(-1, 180, 20, gauss), half(1, 180, 20, gauss)])!
    // A first guess; the camera is solved from the points themselves.
    expect(Math.abs(arc.ellipse.a - 180)).toBeLessThan(1.5)
    expect(Math.abs(arc.ellipse.b - 20)).toBeLessThan(1)
    expect(arc.rms).toBeLessThan(0.25)
    expect(closingArc([half(-1, 180, 180, gauss, true), half(1, 180, 180, gauss, true)])).toBeNull()
  })

  it('the angle of a direction survives the eye', () => {
    const eye = makeEye(5000, centre, plumb, 0.2)
    const p = seenAt(eye, rayOf(eye, { x: 321, y: 654 }))!
    expect(p.x).toBeCloseTo(321, 8)
    expect(p.y).toBeCloseTo(654, 8)
    expect(seenAt(eye, [0, -1, 0])).toBeNull()
  })
})
