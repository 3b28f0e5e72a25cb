import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { solveCalibration, type Calibration } from './calibrate'
import { toPicture, toPlane } from './frame'
import { scaleFromKnownSize, type KnownSize } from './known-size'

const photo = { width: 1500, height: 2000, quarterTurns: 0 }
const empty: Calibration = { plumb: null, ground: null, knownSizes: [] }
const size = (change: Partial<KnownSize>): KnownSize => ({
  id: 's',
  kind: 'length',
  a: { x: 0, y: 0 },
  b: { x: 0, y: 100 },
  mm: 50,
  text: '50',
  ...change,
})
const up = { x: 0, y: -1 }

describe('scale from a known size', () => {
  // Common practice, no source: drawn 885.5 for a real 350 gives 0.39526, drawn 129.92 for 33 gives 0.25400.
  it.each([
    [885.5, 350, 0.39526],
    [129.92, 33, 0.254],
  ])('%f px for %f mm', (pixels, mm, expected) => {
    const scale = scaleFromKnownSize(size({ b: { x: 0, y: pixels }, mm }), up)
    expect(scale.ok && scale.mmPerPx).toBeCloseTo(expected, 5)
  })

  it('measures heights along the axis and diameters across it', () => {
    const tilted = { x: Math.sin(0.1), y: -Math.cos(0.1) }
    const marks = { a: { x: 0, y: 0 }, b: { x: 300, y: 400 } }
    const length = scaleFromKnownSize(size({ ...marks, kind: 'length' }), tilted)
    const height = scaleFromKnownSize(size({ ...marks, kind: 'height' }), tilted)
    const diameter = scaleFromKnownSize(size({ ...marks, kind: 'diameter' }), tilted)
    const px = [length, height, diameter].map((s) => (s.ok ? s.pixels : NaN))
    expect(px[0]).toBeCloseTo(500, 9)
    expect(px[1]).toBeCloseTo(Math.abs(300 * Math.sin(0.1) - 400 * Math.cos(0.1)), 9)
    expect(Math.hypot(px[1]!, px[2]!)).toBeCloseTo(500, 9)
  })

  it.each([
    [{ mm: null }, 'size-untyped'],
    [{ mm: 0 }, 'size-not-positive'],
    [{ mm: -4 }, 'size-not-positive'],
    [{ mm: NaN }, 'size-not-positive'],
    [{ b: { x: 0, y: 4 } }, 'marks-coincide'],
    [{ kind: 'diameter' as const }, 'marks-coincide'],
  ])('refuses %j', (change, code) => {
    const scale = scaleFromKnownSize(size(change), up)
    expect(scale.ok ? 'accepted' : scale.problem.code).toBe(code)
  })
})

describe('solveCalibration', () => {
  it('assumes what is unknown and says so', () => {
    const solved = solveCalibration(empty, photo)
    expect(solved.frame).toEqual({ origin: { x: 750, y: 2000 }, up: { x: 0, y: -1 }, mmPerPx: 1 })
    expect(solved.known).toEqual({ axis: false, ground: false, scale: false })
  })

  it.each([
    [0, { x: 750, y: 2000 }, { x: 0, y: -1 }],
    [1, { x: 1500, y: 1000 }, { x: -1, y: 0 }],
    [2, { x: 750, y: 0 }, { x: 0, y: 1 }],
    [3, { x: 0, y: 1000 }, { x: 1, y: 0 }],
  ])(
    'after %d clockwise quarter turns the assumed foot is the side that comes to the bottom',
    (quarterTurns, origin, upVector) => {
      const { frame } = solveCalibration(empty, { ...photo, quarterTurns })
      expect(frame.origin).toEqual(origin)
      expect(frame.up).toEqual(upVector)
    },
  )

  it('puts the origin where the axis meets the ground line, and measures the tilt', () => {
    const t = (2 * Math.PI) / 180
    const foot = { x: 700, y: 1800 }
    const top = { x: 700 + 1500 * Math.sin(t), y: 1800 - 1500 * Math.cos(t) }
    const ground = { x: 200, y: 1850 }
    const solved = solveCalibration({ plumb: { foot, top }, ground, knownSizes: [] }, photo)
    expect(solved.tilt).toBeCloseTo(t, 12)
    expect(toPlane(solved.frame, ground).z).toBeCloseTo(0, 9)
    expect(toPlane(solved.frame, foot).x).toBeCloseTo(0, 9)
    expect(toPlane(solved.frame, top).x).toBeCloseTo(0, 9)
  })

  it('keeps going with the assumed axis when the plumb line is too short, and says why', () => {
    const solved = solveCalibration({ ...empty, plumb: { foot: { x: 5, y: 5 }, top: { x: 6, y: 5 } } }, photo)
    expect(solved.known.axis).toBe(false)
    expect(solved.problems.map((p) => p.code)).toEqual(['plumb-too-short'])
  })

  it('goes from picture to plane and back (property)', () => {
    const px = fc.double({ min: -3000, max: 3000, noNaN: true })
    fc.assert(
      fc.property(px, px, fc.double({ min: 0, max: 6.28, noNaN: true }), px, px, (x, y, angle, px0, py0) => {
        const frame = { origin: { x, y }, up: { x: Math.sin(angle), y: -Math.cos(angle) }, mmPerPx: 0.086 }
        const plane = toPlane(frame, { x: px0, y: py0 })
        const back = toPicture(frame, plane)
        expect(Math.hypot(back.x - px0, back.y - py0)).toBeLessThan(1e-8)
        // A similarity: distances scale by mm per pixel, and right of the axis stays right.
        expect(Math.hypot(plane.x, plane.z)).toBeCloseTo(0.086 * Math.hypot(px0 - x, py0 - y), 8)
      }),
    )
    expect(toPlane({ origin: { x: 0, y: 0 }, up, mmPerPx: 1 }, { x: 5, y: -7 })).toEqual({ x: 5, z: 7 })
  })
})
