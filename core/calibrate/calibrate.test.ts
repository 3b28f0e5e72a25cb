import { describe, expect, it } from 'vitest'
import { makeEye, project, toPicture, toPlane, type NearView } from '../camera/view'
import { solveCalibration } from './calibrate'
import { EMPTY_CALIBRATION as empty, type Ring } from './calibration'
import { axisFromPairs } from './edge-pairs'
import { newKnownSize, seenLength, sizeProblem, type KnownSize } from './known-size'

const photo = { width: 1500, height: 2000, quarterTurns: 0 }
const size = (change: Partial<KnownSize>): KnownSize => ({
  ...newKnownSize({ id: 's', kind: 'length', a: { x: 0, y: 0 }, b: { x: 0, y: 100 }, mm: 50, text: '50' }),
  ...change,
})
const up = { x: 0, y: -1 }
const scaleOf = (...sizes: KnownSize[]) => solveCalibration({ ...empty, knownSizes: sizes }, photo)

describe('scale from one known size', () => {
  // Common practice, no source: drawn 885.5 for a real 350 gives 0.39526, drawn 129.92 for 33 gives 0.25400.
  it.each([
    [885.5, 350, 0.39526],
    [129.92, 33, 0.254],
  ])('%f px for %f mm', (pixels, mm, expected) => {
    expect(scaleOf(size({ b: { x: 0, y: pixels }, mm })).frame.mmPerPx).toBeCloseTo(expected, 5)
  })

  it('a 24 in wheel measures 304.8 mm from axis to bead seat; its flange lies beyond', () => {
    // 1 in = 25.4 mm (1959 agreement); flange heights of 17.5 mm: common practice, no source.
    const seat = size({
      kind: 'diameter',
      lies: 'side',
      a: { x: 450, y: 900 },
      b: { x: 1050, y: 900 },
      mm: 24 * 25.4,
    })
    const { view } = scaleOf(seat)
    expect(toPlane(view, { x: 1050, y: 900 }).x).toBeCloseTo(304.8, 9)
    expect(toPlane(view, { x: 750 + 300 * (1 + 17.5 / 304.8), y: 900 }).x).toBeCloseTo(322.3, 6)
  })

  it('an egg 58 mm long on 290 px, 217 px wide, measures 43 to 44 mm across', () => {
    // Common practice, no source.
    const long = size({
      kind: 'overall',
      lies: 'axis',
      a: { x: 750, y: 1500 },
      b: { x: 750, y: 1210 },
      mm: 58,
    })
    const { view } = scaleOf(long)
    const width = toPlane(view, { x: 750 + 108.5, y: 1350 }).x - toPlane(view, { x: 750 - 108.5, y: 1350 }).x
    expect(width).toBeGreaterThan(43)
    expect(width).toBeLessThan(44)
  })

  it('measures heights along the axis and diameters across it', () => {
    const tilt = 0.1
    const view = { kind: 'distant', lens: null, origin: { x: 0, y: 0 }, up: { x: Math.sin(tilt), y: -Math.cos(tilt) }, mmPerPx: 1 } as const // prettier-ignore
    const marks = { a: { x: 0, y: 0 }, b: { x: 300, y: 400 }, lies: 'axis' as const }
    const height = seenLength({ ...marks, kind: 'height' }, view, 0)
    const across = seenLength({ ...marks, kind: 'diameter' }, view, 0)
    expect(seenLength({ ...marks, kind: 'length' }, view, 0)).toBeCloseTo(500, 9)
    expect(height).toBeCloseTo(Math.abs(300 * Math.sin(tilt) - 400 * Math.cos(tilt)), 9)
    expect(Math.hypot(height, across)).toBeCloseTo(500, 9)
  })

  it.each([
    [{ mm: null }, 'size-untyped'],
    [{ mm: 0 }, 'size-not-positive'],
    [{ mm: -4 }, 'size-not-positive'],
    [{ mm: NaN }, 'size-not-positive'],
    [{ b: { x: 0, y: 4 } }, 'marks-coincide'],
    [{ kind: 'diameter' as const }, 'marks-coincide'],
  ])('refuses %j', (change, code) => expect(sizeProblem(size(change), up)?.code).toBe(code))

  it('leaves out what is switched off, and says what is wrong with the rest', () => {
    const solved = scaleOf(size({}), size({ id: 'off', mm: 999, on: false }), size({ id: 'bad', mm: null }))
    expect(solved.scale?.sizes.map((s) => s.id)).toEqual(['s'])
    expect(solved.problems.map((p) => p.code)).toEqual(['size-untyped'])
  })
})

describe('axis, ground and frame', () => {
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
      expect(frame.origin.x).toBeCloseTo(origin.x, 9)
      expect(frame.origin.y).toBeCloseTo(origin.y, 9)
      expect(frame.up.x).toBeCloseTo(upVector.x, 12)
      expect(frame.up.y).toBeCloseTo(upVector.y, 12)
    },
  )

  it('puts the origin where the axis meets the ground line, and measures the tilt', () => {
    const t = (2 * Math.PI) / 180
    const foot = { x: 700, y: 1800 }
    const top = { x: 700 + 1500 * Math.sin(t), y: 1800 - 1500 * Math.cos(t) }
    const ground = { x: 200, y: 1850 }
    const solved = solveCalibration({ ...empty, plumb: { foot, top, by: 'hand' }, ground }, photo)
    expect(solved.tilt).toBeCloseTo(t, 12)
    expect(toPlane(solved.view, ground).z).toBeCloseTo(0, 9)
    expect(toPlane(solved.view, foot).x).toBeCloseTo(0, 9)
    expect(toPlane(solved.view, top).x).toBeCloseTo(0, 9)
  })

  it('keeps going with the assumed axis when the plumb line is too short, and says why', () => {
    const solved = solveCalibration(
      { ...empty, plumb: { foot: { x: 5, y: 5 }, top: { x: 6, y: 5 }, by: 'hand' } },
      photo,
    )
    expect(solved.known.axis).toBe(false)
    expect(solved.problems.map((p) => p.code)).toEqual(['plumb-too-short'])
  })

  it('takes the axis midway between pairs of edge points', () => {
    const lean = 0.03
    const pair = (id: string, v: number, r: number, off = 0) => {
      const m = { x: 700 + v * Math.sin(lean) + off, y: 1800 - v * Math.cos(lean) }
      return { id, left: { x: m.x - r, y: m.y }, right: { x: m.x + r, y: m.y } }
    }
    const axis = axisFromPairs([pair('a', 0, 200), pair('b', 600, 150), pair('c', 1500, 80)], up)!
    expect(Math.atan2(axis.top.x - axis.foot.x, axis.foot.y - axis.top.y)).toBeCloseTo(lean, 9)
    expect(axis.residuals.every((r) => Math.abs(r) < 1e-9)).toBe(true)
    const off = axisFromPairs([pair('a', 0, 200), pair('b', 700, 150, 6), pair('c', 1500, 80)], up)!
    expect(Math.max(...off.residuals)).toBeGreaterThan(3)
    expect(axisFromPairs([pair('a', 0, 200)], up)).toBeNull()
    expect(axisFromPairs([pair('a', 0, 200), pair('b', 3, 200)], up)).toBeNull()
  })

  it('says when the crop cuts the piece', () => {
    const plumb = { foot: { x: 700, y: 1800 }, top: { x: 700, y: 100 }, by: 'hand' as const }
    const crop = { x: 300, y: 300, width: 800, height: 1600 }
    const codes = (c: typeof crop) =>
      solveCalibration({ ...empty, plumb }, { ...photo, crop: c }).problems.map((p) => p.code)
    expect(codes(crop)).toEqual(['crop-cuts'])
    expect(codes({ ...crop, y: 50, height: 1900 })).toEqual([])
  })
})

describe('near view of a calibration', () => {
  const near = { ...empty.view, kind: 'near' as const }
  const plumb = { foot: { x: 750, y: 1800 }, top: { x: 750, y: 200 }, by: 'hand' as const }
  const height = size({ kind: 'overall', a: plumb.foot, b: plumb.top, mm: 200 })
  const base = { ...empty, plumb, ground: plumb.foot, knownSizes: [height], view: near }
  /** The height and a diameter, between two places on one level of the picture. */
  const withDiameter = (mm: number, from: number, to: number, y: number) => [
    height,
    size({ id: 'd', kind: 'diameter', a: { x: from, y }, b: { x: to, y }, mm }),
  ]

  it('puts the camera where lens and height say: f · H / h_px', () => {
    const { view } = solveCalibration(base, { ...photo, focalLength35mm: 100 })
    const f = (100 * 2500) / 43.2666
    expect(view.kind === 'near' && view.distance).toBeCloseTo((f * 200) / 1600, 6)
    expect(view.kind === 'near' && view.height).toBeCloseTo(100, 6)
    // And back: places of the piece are seen where they are read.
    const p = toPicture(view, { x: 40, z: 150 })
    expect(toPlane(view, p).x).toBeCloseTo(40, 9)
    expect(toPlane(view, p).z).toBeCloseTo(150, 9)
  })

  it.each([
    ['no lens, no tape, no rings', base, null, 'view-unknown'],
    [
      'a tape that contradicts the lens',
      { ...base, view: { ...near, distanceMm: 600 } },
      100,
      'distance-contradicts',
    ],
    [
      'a tape that is far off what the lens says',
      { ...base, view: { ...near, distanceMm: 300 } },
      100,
      'distance-far-off',
    ],
    [
      'a tape that is far off what the lens says of two sizes',
      // A tilt of 42 degrees would make up for it.
      {
        ...base,
        view: { ...near, distanceMm: 400 },
        knownSizes: withDiameter(50, 550, 950, 1500),
      },
      100,
      'distance-far-off',
    ],
    [
      'a camera inside the piece',
      {
        ...base,
        view: { ...near, distanceMm: 30 },
        knownSizes: withDiameter(80, 500, 1000, 900),
      },
      100,
      'distance-inside',
    ],
  ])('%s is said in words and loses nothing', (_what, calibration, focalLength35mm, code) => {
    const solved = solveCalibration(calibration, { ...photo, focalLength35mm })
    expect(solved.problems.map((p) => p.code)).toContain(code)
    expect(solved.problems.every((p) => p.message.length > 30)).toBe(true)
    expect(Number.isFinite(toPlane(solved.view, { x: 900, y: 900 }).x)).toBe(true)
  })

  it('sees a card leaning before the piece larger, and takes that out', () => {
    // ISO/IEC 7810 ID-1, short side 53.98 mm, 50 mm before the axis, seen from 900 mm.
    const D = 900
    const f = (100 * 2500) / 43.2666
    const px = (f * 53.98) / (D - 50)
    const card = size({
      id: 'card',
      kind: 'height',
      a: { x: 400, y: 1000 + px / 2 },
      b: { x: 400, y: 1000 - px / 2 },
      mm: 53.98,
      lies: 'off',
      beforeMm: 50,
    })
    const { view } = solveCalibration({ ...base, knownSizes: [card] }, { ...photo, focalLength35mm: 100 })
    expect(view.kind === 'near' && view.distance / D).toBeCloseTo(1, 4)
  })
})

describe('tilt by a foot that is seen from near by', () => {
  const plumb = { foot: { x: 750, y: 1700 }, top: { x: 750, y: 400 }, by: 'found' as const, sdAngle: 1e-4, sdOffset: 0.02 } // prettier-ignore
  const f = 10_000
  /** The near half of a foot seen by a camera that looks down by so much, radians. */
  const footAt = (pitch: number) => {
    const eye = makeEye(f, { x: 750, y: 1000 }, plumb, pitch)
    const view: NearView = { kind: 'near', lens: null, eye, distance: 1000, height: 222 }
    return Array.from({ length: 60 }, (_, i) => -1.5 + (3 * i) / 59).map((a) => project(view, [30 * Math.sin(a), -30 * Math.cos(a), 0])) // prettier-ignore
  }
  const solvedBy = (
    ring: Pick<Ring, 'points' | 'sdPx' | 'by' | 'foundAt'>,
    facts: Partial<typeof empty.view> = {},
  ) =>
    solveCalibration(
      {
        ...empty,
        plumb,
        rings: [{ id: 'foot', place: 'foot', rounded: true, ...ring }],
        view: { ...empty.view, kind: 'near', ...facts },
      },
      { ...photo, focalLength35mm: (f * 43.2666) / 2500 },
    )

  it('stays near the one at which the search found that the ends look like edges, where it lies in its shadow', () => {
    const pitch = (9 * Math.PI) / 180
    const foot = footAt(pitch)
    const end = foot.at(-1)!.y
    /** Degrees off the truth, of a foot that is flatter than it is by so much, as a shadow's border below it is. */
    const off = (flatter: number, foundAt?: number) => {
      const points = foot.map(({ x, y }) => ({ x, y: y - flatter * (y - end) }))
      const { near } = solvedBy({ points, sdPx: 3, by: 'found', foundAt })
      return ((near!.pitch.value - pitch) * 180) / Math.PI
    }
    expect(Math.abs(off(0))).toBeLessThan(1.5)
    expect(Math.abs(off(0.3))).toBeGreaterThan(2)
    expect(Math.abs(off(0.3, pitch + 0.004))).toBeLessThan(0.7)
  })

  describe('far off level', () => {
    const problemsAt = (degrees: number, by: Ring['by'], facts: Partial<typeof empty.view> = {}) => {
      const pitch = (degrees * Math.PI) / 180
      const foundAt = by === 'found' ? pitch : undefined
      return solvedBy({ points: footAt(pitch), sdPx: 0.3, by, foundAt }, facts).problems
    }

    it('is told where a search found it: a rounded end looks like a ring from far above', () => {
      expect(problemsAt(28, 'found')).toMatchObject([{ code: 'view-steep', received: '28°' }])
      expect(problemsAt(28, 'found')[0]!.message).toContain('looked down by 28°')
      expect(problemsAt(-25, 'found')[0]!.message).toContain('looked up by 25°')
      expect(problemsAt(15, 'found')).toEqual([])
    })

    it('is believed where a hand laid the ring, or typed the tilt', () => {
      expect(problemsAt(28, 'hand')).toEqual([])
      expect(problemsAt(28, 'found', { pitchDegrees: 28 })).toEqual([])
    })
  })
})
