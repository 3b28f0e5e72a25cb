import fc from 'fast-check'
import Module from 'manifold-3d'
import { beforeAll, describe, expect, it } from 'vitest'
import { centroid } from '../measure/assembly-figures'
import { isClosedAndOriented, meshVolume } from '../measure/mesh-measures'
import type { FlatProfile } from '../profile/flatten'
import { assemble, BODY, type AssembledSolid, type PlannedPart } from './assemble'
import type { Kernel } from './kernel'
import { partMesh, type PartShape } from './part-shapes'
import { ON_AXIS, placementMatrix } from './placement'
import { revolve } from './revolve'
import { repeatsCarried, sidesARepeat, sidesCarrying } from './rhythm'
import { isoThread, threadMesh } from './thread'

let kernel: Kernel
beforeAll(async () => {
  kernel = await Module()
  kernel.setup()
})

/** A profile whose points are all corners. */
function flat(...points: number[]): FlatProfile {
  const count = points.length / 2
  return {
    points: Float64Array.from(points),
    corner: new Uint8Array(count).fill(1),
    segmentStart: Uint32Array.from({ length: count }, (_, k) => k),
  }
}
/** A post of radius 20, 60 mm tall. */
const POST = flat(0, 0, 20, 0, 20, 60, 0, 60)
const polygonArea = (r: number, n: number) => (n / 2) * r * r * Math.sin((2 * Math.PI) / n)

const part = (shape: PartShape, rest: Partial<PlannedPart> = {}): PlannedPart => ({
  id: 'p',
  name: 'Part',
  relation: 'cut',
  target: BODY,
  shape,
  place: ON_AXIS,
  copies: [0],
  surface: 1,
  ...rest,
})
const built = (parts: PlannedPart[], sides = 12, body = POST) =>
  assemble(kernel, { body: { flat: body, sides, surfaces: new Array(body.points.length / 2 - 1).fill(0) }, parts, surfaces: 2 }) // prettier-ignore
const round = (n: number) => Array.from({ length: n }, (_, k) => (2 * Math.PI * k) / n)

/**
 * Closed by its indices, and normals that look the way its faces do: all but slivers, whose faces may lie anyhow where two
 * surfaces nearly coincide.
 */
function expectSound({ mesh, buffers }: AssembledSolid): void {
  expect(isClosedAndOriented(mesh)).toBe(true)
  const { positions: p, normals: n, indices } = buffers
  let [inwards, all] = [0, 0]
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [3 * indices[i]!, 3 * indices[i + 1]!, 3 * indices[i + 2]!]
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!]
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!]
    const face = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx] as const
    const area = Math.hypot(...face)
    all += area
    const looks = (k: number) => n[k]! * face[0] + n[k + 1]! * face[1] + n[k + 2]! * face[2] >= 0.3 * area
    if (![a, b, c].every(looks)) inwards += area
  }
  expect(inwards / all).toBeLessThan(1e-3)
}

describe('rhythm', () => {
  it('two up, one down: 12 sides carry 4, 24 carry 8; 6 repeats are refused with 18 and 36 offered', () => {
    const rhythm = { up: 2, down: 1 }
    expect(repeatsCarried(12, rhythm)[0]).toBe(4)
    expect(repeatsCarried(24, rhythm)[0]).toBe(8)
    expect(sidesARepeat(4, rhythm, 12)).toEqual({ up: 2, down: 1 })
    expect(sidesARepeat(4, rhythm, 24)).toEqual({ up: 4, down: 2 })
    expect(sidesCarrying(6, rhythm, 12)).toEqual([18, 36])
    expect(() => sidesARepeat(6, rhythm, 12)).toThrow(
      '6 repeats of 2 up, 1 down need 18 or 36 sides; 12 sides carry 4.',
    )
  })

  it('two up, two down: 24 sides carry 6; sides that divide by nothing carry none', () => {
    expect(repeatsCarried(24, { up: 2, down: 2 })[0]).toBe(6)
    expect(repeatsCarried(13, { up: 2, down: 1 })).toEqual([])
    expect(sidesCarrying(6, { up: 2, down: 1 }, 64)).toEqual([54, 72])
  })

  it('what it offers always divides (property)', () => {
    const small = fc.integer({ min: 1, max: 5 })
    fc.assert(
      fc.property(
        small,
        small,
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 3, max: 500 }),
        (up, down, count, sides) => {
          for (const n of sidesCarrying(count, { up, down }, sides)) {
            const { up: u, down: d } = sidesARepeat(count, { up, down }, n)
            expect([count * (u + d), u * down]).toEqual([n, d * up])
          }
          for (const n of repeatsCarried(sides, { up, down })) sidesARepeat(n, { up, down }, sides)
        },
      ),
    )
  })
})

describe('parts against closed forms', () => {
  it('battlements of whole sides take their share of the crown', () => {
    const { up, down } = sidesARepeat(4, { up: 2, down: 1 }, 12)
    const side = Math.PI / 6
    const shape: PartShape = { kind: 'sector', fromMm: 50, toMm: 70, innerDiameterMm: 24, angle: down * side }
    const { solids, problems } = built([part(shape, { place: { ...ON_AXIS, azimuth: up * side }, copies: round(4) })]) // prettier-ignore
    expect(problems).toEqual([])
    // A third of the ring between both twelve-sided prisms, 10 mm deep.
    const ring = polygonArea(20, 12) - polygonArea(12, 12)
    expect(solids[0]!.volumeMm3).toBeCloseTo(60 * polygonArea(20, 12) - (10 * ring) / 3, 1)
    expectSound(solids[0]!)
    // As many triangles again would mean slivers along the corners of the sides.
    expect(solids[0]!.mesh.triangles.length / 3).toBeLessThan(250)
  })

  it('a slot and a flat cut plane-sided pieces away', () => {
    const slot = built([part({ kind: 'slot', widthMm: 6 }, { place: { ...ON_AXIS, z: 48 } })], 4)
    // Four sides with a corner on +x: the square's section along the slot is a strip through both corners.
    const strip = 6 * 40 - 2 * 3 * 3
    expect(slot.solids[0]!.volumeMm3).toBeCloseTo(60 * polygonArea(20, 4) - 12 * strip, 2)
    const cut = built([part({ kind: 'flat', fromMm: -1, toMm: 61 }, { place: { ...ON_AXIS, r: 15 } })], 4)
    expect(cut.solids[0]!.volumeMm3).toBeCloseTo(60 * (polygonArea(20, 4) - 25), 2)
    for (const { solids } of [slot, cut]) expectSound(solids[0]!)
  })

  it('a hole through the axis leaves two crossing cylinders less (Steinmetz, closed form)', () => {
    const hole: PartShape = { kind: 'cylinder', diameterMm: 40, topDiameterMm: 40, heightMm: 100 }
    const { solids } = built([part(hole, { place: { ...ON_AXIS, r: -50, z: 30, lean: Math.PI / 2 } })], 256, flat(0, 0, 20, 0, 20, 60, 0, 60)) // prettier-ignore
    // Two cylinders of radius r share 16/3 r³.
    expect(solids[0]!.volumeMm3 / (Math.PI * 400 * 60 - (16 / 3) * 8000)).toBeCloseTo(1, 3)
    expectSound(solids[0]!)
  })

  it('a ball has the volume of its faceted sphere and stands where it is put', () => {
    const buffers = partMesh({ kind: 'ball', diameterMm: 30 }, { sides: 128, reachMm: 100 })
    const mesh = { positions: Float64Array.from(buffers.positions), triangles: buffers.indices }
    expect(meshVolume(mesh) / ((4 / 3) * Math.PI * 15 ** 3)).toBeCloseTo(1, 2)
    const { solids } = built([part({ kind: 'ball', diameterMm: 30 }, { id: 'b', relation: 'separate', place: { ...ON_AXIS, r: 50, z: 20, azimuth: Math.PI / 2 } })]) // prettier-ignore
    expect(centroid(solids[1]!.mesh).map((v) => Math.round(1e4 * v) / 1e4 + 0)).toEqual([0, 50, 20])
    // 12 sides, a corner towards the ball: 30 - 20 less what the ball's sides leave out.
    expect(solids[1]!.gapMm).toBe(null)
  })

  it('placements turn, lean, move out and go round, in this order', () => {
    const m = placementMatrix({ z: 5, r: 10, azimuth: Math.PI / 2, lean: Math.PI / 2, turn: Math.PI / 2 })
    const at = (x: number, y: number, z: number) => [0, 1, 2].map((k) => Math.round(m[k]! * x + m[4 + k]! * y + m[8 + k]! * z + m[12 + k]!)) // prettier-ignore
    expect(at(0, 0, 0)).toEqual([0, 10, 5])
    // Its own axis points outwards, here along +y; its own x, turned a quarter, lies across.
    expect(at(0, 0, 3)).toEqual([0, 13, 5])
    expect(at(3, 0, 0)).toEqual([-3, 10, 5])
  })
})

describe('threads', () => {
  it('have the basic profile of ISO 68-1: M10 x 1.5 has a minor ⌀ of 8.376 (ISO 724, from memory)', () => {
    const { diameterMm, crestMm, rootMm } = isoThread(10, 1.5)
    expect(diameterMm).toBeCloseTo(8.376, 3)
    // Flanks of 60°: the section widens by 2 tan 30° of the depth.
    expect((rootMm - crestMm) / (10 - diameterMm)).toBeCloseTo(Math.tan(Math.PI / 6), 9)
  })

  it.each([1, 2])(
    '%d starts: the volume beyond the neck is section times way (Pappus), closed and outwards',
    (starts) => {
      const turns = 6
      const thread = { ...isoThread(40, 4), turns, starts, hand: 'right' as const, clearanceMm: 0 }
      const mesh = threadMesh(thread, 180)
      expect(isClosedAndOriented(mesh)).toBe(true)
      const { solids, problems } = built([part({ kind: 'thread', ...thread }, { relation: 'added', place: { ...ON_AXIS, z: 8 } })], 180, flat(0, 0, thread.diameterMm / 2, 0, thread.diameterMm / 2, 80, 0, 80)) // prettier-ignore
      expect(problems).toEqual([])
      const neck = 80 * polygonArea(thread.diameterMm / 2, 180)
      const area = ((thread.crestMm + thread.rootMm) / 2) * thread.depthMm
      const centre = thread.diameterMm / 2 + (thread.depthMm / 3) * ((thread.rootMm + 2 * thread.crestMm) / (thread.rootMm + thread.crestMm)) // prettier-ignore
      // Its ends fade within a quarter turn each: about half of that is missing.
      const way = 2 * Math.PI * centre * (turns - 0.25) * starts
      expect((solids[0]!.volumeMm3 - neck) / (area * way)).toBeCloseTo(1, 1)
      expectSound(solids[0]!)
    },
  )

  it('the left-handed one is the mirror image', () => {
    const right = { ...isoThread(40, 4), turns: 3, starts: 1, hand: 'right' as const, clearanceMm: 0 }
    const [a, b] = [threadMesh(right, 64), threadMesh({ ...right, hand: 'left' }, 64)]
    expect(meshVolume(b)).toBeCloseTo(meshVolume(a), 6)
    expect(isClosedAndOriented(b)).toBe(true)
    expect(Math.abs(b.positions[12 * 18 + 1]! + a.positions[12 * 18 + 1]!)).toBeLessThan(1e-9)
  })

  it('that can’t be wound is refused in words', () => {
    const good = { ...isoThread(40, 4), turns: 3, starts: 1, hand: 'right' as const, clearanceMm: 0 }
    expect(() => threadMesh({ ...good, rootMm: 5 }, 64)).toThrow(/run into each other/)
    expect(() => threadMesh({ ...good, rootMm: 0.1 }, 64)).toThrow(/overhang/)
    expect(() => threadMesh({ ...good, depthMm: 30 }, 64)).toThrow(/deeper than its cylinder/)
    expect(() => threadMesh({ ...good, pitchMm: 0 }, 64)).toThrow(/more than 0/)
  })

  // The last one's ridges, grown by so much, run into each other.
  it.each([
    [24, 4, 0.3],
    [64, 4, 0.3],
    [64, 2, 0.4],
  ])(
    'a cap with a typed clearance keeps it all round the neck and its thread (%d sides, pitch %d, %d mm)',
    (sides, pitch, clearance) => {
      const thread = { ...isoThread(40, pitch), turns: 2, starts: 1, hand: 'right' as const, clearanceMm: 0 }
      const neck = flat(0, 0, thread.diameterMm / 2, 0, thread.diameterMm / 2, 40, 0, 40)
      const cap = flat(0, 15, 26, 15, 26, 45, 0, 45)
      const { solids, problems } = built(
        [
          part({ kind: 'thread', ...thread }, { relation: 'added', place: { ...ON_AXIS, z: 20 } }),
          part({ kind: 'turned', flat: cap }, { id: 'cap', relation: 'separate', clearanceMm: clearance }),
        ],
        sides,
        neck,
      )
      expect(problems).toEqual([])
      expect(solids[1]!.overlapMm3).toBe(0)
      expect(solids[1]!.gapMm).toBeGreaterThan(clearance * 0.985)
      expect(solids[1]!.gapMm).toBeLessThan(clearance * 1.01)
      for (const solid of solids) expectSound(solid)
    },
  )
})

describe('assemblies', () => {
  const size = fc.double({ min: 2, max: 30, noNaN: true })
  const angle = fc.double({ min: -3, max: 3, noNaN: true })
  const shape: fc.Arbitrary<PartShape> = fc.oneof(
    fc.record({ kind: fc.constant('ball' as const), diameterMm: size }),
    fc.record({ kind: fc.constant('cylinder' as const), diameterMm: size, topDiameterMm: size, heightMm: size }), // prettier-ignore
    fc.record({ kind: fc.constant('block' as const), widthMm: size, depthMm: size, heightMm: size }),
  )
  const place = fc.record({
    z: fc.double({ min: -10, max: 70, noNaN: true }),
    r: fc.double({ min: -25, max: 25, noNaN: true }),
    azimuth: angle,
    lean: angle,
    turn: angle,
  })

  it('keep volumes by inclusion and exclusion within 1e-6, and are closed with true normals (property)', () => {
    fc.assert(
      fc.property(
        shape,
        place,
        fc.integer({ min: 1, max: 5 }),
        fc.integer({ min: 3, max: 40 }),
        (s, at, times, sides) => {
          const one = (relation: PlannedPart['relation']) => built([part(s, { relation, place: at, copies: round(times) })], sides) // prettier-ignore
          const [sum, difference, common, alone] = [one('added'), one('cut'), one('common'), one('separate')]
          const plain = meshVolume(sum.plain)
          const tool = alone.solids[1]!.volumeMm3
          const shared = alone.solids[1]!.overlapMm3
          const volumeOf = (a: typeof sum, when: number) => (a.problems.length > 0 ? when : a.solids[0]!.volumeMm3) // prettier-ignore
          const near = (a: number, b: number) => expect(Math.abs(a - b)).toBeLessThan(1e-6 * plain)
          near(volumeOf(sum, plain), plain + tool - shared)
          near(volumeOf(difference, shared === 0 ? plain : 0), plain - shared)
          near(volumeOf(common, shared === 0 ? 0 : plain), shared)
          for (const a of [sum, difference, common, alone]) a.solids.forEach(expectSound)
        },
      ),
      { numRuns: 30 },
    )
  })

  it('a part that fails is named, and the others are there', () => {
    const { solids, problems } = built([
      part({ kind: 'ball', diameterMm: 3 }, { id: 'far', name: 'Far away', place: { ...ON_AXIS, z: 200 } }),
      part({ kind: 'ball', diameterMm: 200 }, { id: 'all', name: 'Too large' }),
      part({ kind: 'ball', diameterMm: 0 }, { id: 'none', name: 'Nothing' }),
      part({ kind: 'ball', diameterMm: 5 }, { id: 'lost', name: 'Lost', target: 'nobody' }),
      part({ kind: 'ball', diameterMm: 10 }, { id: 'inside', name: 'Inside', relation: 'added', place: { ...ON_AXIS, z: 30 } }), // prettier-ignore
      part({ kind: 'ball', diameterMm: 20 }, { id: 'good', name: 'Good', place: { ...ON_AXIS, z: 60 } }),
    ])
    expect(problems.map((p) => p.message)).toEqual([
      '“Far away”: It cuts nothing; it lies beside the solid.',
      '“Too large”: It would leave nothing. Make it smaller or move it.',
      '“Nothing”: Its ⌀ must be more than 0.',
      '“Lost”: What it belongs to isn’t there; choose another part or the body.',
      '“Inside”: It adds nothing; it lies inside the solid.',
    ])
    expect(solids[0]!.volumeMm3).toBeLessThan(60 * polygonArea(20, 12) - 1500)
    expect(solids[0]!.runs.some((r) => r.surface === 1)).toBe(true)
  })

  it('a part can belong to another one by itself: a slot in the head of a cap', () => {
    const cap = part({ kind: 'turned', flat: flat(0, 60, 22, 60, 22, 80, 0, 80) }, { id: 'cap', relation: 'separate' }) // prettier-ignore
    const slot = part({ kind: 'slot', widthMm: 4 }, { id: 's', target: 'cap', place: { ...ON_AXIS, z: 75 } })
    const { solids, problems } = built([cap, slot])
    expect(problems).toEqual([])
    expect(solids.map((s) => s.id)).toEqual([BODY, 'cap'])
    expect(solids[0]!.volumeMm3).toBeCloseTo(60 * polygonArea(20, 12), 2)
    expect(solids[1]!.volumeMm3).toBeLessThan(20 * polygonArea(22, 12) - 4 * 5 * 40)
    // The cap stands on the post.
    expect(solids[1]!.gapMm).toBe(0)
    expect(solids[1]!.overlapMm3).toBeLessThan(1e-9)
  })

  it('says in how many pieces a body is, and tells each step', () => {
    const steps: string[] = []
    const body = { flat: POST, sides: 12, surfaces: [0, 0, 0] }
    const knobs = part({ kind: 'ball', diameterMm: 6 }, { relation: 'added', place: { ...ON_AXIS, r: 40, z: 30 }, copies: round(3) }) // prettier-ignore
    const { solids } = assemble(kernel, { body, parts: [knobs], surfaces: 2 }, (done, all) => steps.push(`${done}/${all}`)) // prettier-ignore
    expect(solids[0]!.pieces).toBe(4)
    expect(steps).toEqual(['0/1', '1/1'])
  })

  it('cut open for looking, its figures stay those of the whole', () => {
    const ball = part({ kind: 'ball', diameterMm: 20 }, { place: { ...ON_AXIS, z: 60 } })
    const plan = { body: { flat: POST, sides: 12, surfaces: [0, 0, 0] }, parts: [ball], surfaces: 2 }
    const whole = assemble(kernel, plan).solids[0]!
    const open = assemble(kernel, { ...plan, cutOpen: { start: 0, sweep: Math.PI / 2 } }).solids[0]!
    expect(meshVolume(open.mesh)).toBeCloseTo(meshVolume(whole.mesh), 3)
    const shown = { positions: Float64Array.from(open.buffers.positions), triangles: open.buffers.indices }
    expect(meshVolume(shown) / whole.volumeMm3).toBeCloseTo(0.75, 2)
    expect(new Set(open.runs.map((r) => r.surface))).toEqual(new Set([0, 1, 2]))
  })

  it('starts from the very mesh that is revolved', () => {
    const { plain } = built([part({ kind: 'ball', diameterMm: 20 }, { place: { ...ON_AXIS, z: 60 } })])
    const mesh = revolve(POST.points, { sides: 12 })
    expect(meshVolume(plain)).toBeCloseTo(meshVolume(mesh), 2)
    expect(plain.positions).toHaveLength(mesh.positions.length)
  })
})
