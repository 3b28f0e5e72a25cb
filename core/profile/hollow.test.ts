import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { profileMeasures } from '../measure/profile-measures'
import { revolve } from '../solid/revolve'
import { isClosedAndOriented, meshVolume } from '../measure/mesh-measures'
import { firstCrossing, profileFaults } from './check'
import { flatten } from './flatten'
import { hollowOut, type Wall } from './hollow'
import type { ProfileNode } from './profile'
import { profileSegments } from './profile-segments'
import { hollowByHand } from './inside-by-hand'
import { backwards, endOf, lineSegment, pointOn, startOf, type Segment } from './segments'
import { node } from './test-samples'

const WALL: Wall = { mm: 2, levels: [], floorMm: 3, way: 'inwards', lip: 'flat', bore: false }
const hollow = (nodes: ProfileNode[], wall: Partial<Wall> = {}) =>
  hollowOut(profileSegments(nodes), { ...WALL, ...wall })
const volume = (segments: readonly Segment[]) => profileMeasures(segments).volumeMm3
/** What the inside holds, closed level at the rim. */
const capacity = (inside: readonly Segment[]) => {
  const [r, z] = startOf(inside[0]!)
  return -volume([lineSegment([0, z], [r, z], 0), ...inside])
}
const tumbler = [node(0, 0), node(30, 0), node(30, 100), node(0, 100)]

/** Smallest distance of the inside from the outside, mm, both by fine chords. */
function thinnest(outside: readonly Segment[], inside: readonly Segment[], from = 0): number {
  const chords = flatten(outside, { toleranceMm: 1e-4 }).points
  const { points } = flatten(inside, { toleranceMm: 1e-3 })
  let least = Infinity
  for (let i = 0; i < points.length; i += 2)
    for (let k = 0; k + 3 < chords.length; k += 2) {
      const [a, b] = [chords[k]!, chords[k + 1]!]
      if (b < from && chords[k + 3]! < from) continue
      const [dr, dz] = [chords[k + 2]! - a, chords[k + 3]! - b]
      const t = Math.max(0, Math.min(1, ((points[i]! - a) * dr + (points[i + 1]! - b) * dz) / (dr * dr + dz * dz || 1))) // prettier-ignore
      least = Math.min(least, Math.hypot(points[i]! - a - t * dr, points[i + 1]! - b - t * dz))
    }
  return least
}

describe('a hollow piece by rule', () => {
  it('a tumbler: inside a cylinder less by the wall, above the floor', () => {
    const { segments, inside, notes } = hollow(tumbler)
    expect(notes).toEqual([])
    expect(capacity(inside)).toBeCloseTo(Math.PI * 28 ** 2 * 97, 6)
    expect(volume(segments)).toBeCloseTo(Math.PI * (900 * 100 - 784 * 97), 6)
    expect(segments.map((s) => startOf(s))).toEqual([[0, 0], [30, 0], [30, 100], [28, 100], [28, 3]]) // prettier-ignore
  })

  it('a bowl: a half ball gives a half ball, and rounded outer corners rounded inner ones', () => {
    const quarter = Math.tan(Math.PI / 8)
    const bowl = [node(0, 0, 'smooth', { next: 'arc', bulge: quarter }), node(50, 50), node(0, 50)]
    const { inside } = hollow(bowl, { mm: 4, floorMm: 4 })
    // Cut level at the rim's height, 50: a half ball of radius 46 about the same centre.
    expect(capacity(inside)).toBeCloseTo((2 / 3) * Math.PI * 46 ** 3, 5)
    const pan = [node(0, 0), node(40, 0, 'smooth', { next: 'arc', bulge: quarter }), node(50, 10), node(50, 30), node(0, 30)] // prettier-ignore
    const made = hollow(pan, { mm: 3, floorMm: 3 })
    const arc = made.inside.find((s) => s.kind === 'arc')!
    expect(arc.kind === 'arc' && arc.arc.radius).toBeCloseTo(7, 9)
  })

  it('concave corners get an arc of the thickness about them, and shoulders are cut where the parallels cross', () => {
    const bottle = [node(0, 0), node(40, 0), node(40, 60), node(15, 60), node(15, 90), node(0, 90)]
    const { inside } = hollow(bottle, { mm: 5 })
    const arc = inside.find((s) => s.kind === 'arc')!
    expect(arc.kind === 'arc' && [arc.arc.radius, ...arc.arc.centre]).toEqual([5, 15, 60])
    // Body ⌀ 70 from 3 to 55, neck ⌀ 20 from 60 up, and between the quarter of a torus' hollow: Pappus.
    const quarterArea = (Math.PI * 25) / 4
    // Region under the neck between z 55 and 60: r from 0 to the arc about (15, 60).
    const discs = Math.PI * 15 ** 2 * 5
    const quarterCentre = 15 - (4 * 5) / (3 * Math.PI)
    const expected =
      Math.PI * 35 ** 2 * 52 + Math.PI * 100 * 30 + discs - 2 * Math.PI * quarterCentre * quarterArea
    expect(capacity(inside)).toBeCloseTo(expected, 5)
  })

  it('thickness given at levels is met there and blended straight between them', () => {
    const levels = [{ z: 20, mm: 6 }, { z: 80, mm: 2 }] // prettier-ignore
    const { inside } = hollow(tumbler, { levels })
    // From ⌀ 48 below 20 to ⌀ 56 above 80: a cylinder, a cone and a cylinder.
    const cone = (Math.PI * 60 * (24 ** 2 + 24 * 28 + 28 ** 2)) / 3
    expect(capacity(inside)).toBeCloseTo(Math.PI * 24 ** 2 * 17 + cone + Math.PI * 28 ** 2 * 20, 5)
  })

  it('around a drawn inside the wall lies outwards, with its floor below', () => {
    const { segments, outside, inside } = hollow(tumbler, { way: 'outwards' })
    expect(capacity(inside)).toBeCloseTo(Math.PI * 900 * 100, 6)
    expect(volume(segments)).toBeCloseTo(Math.PI * (32 ** 2 * 103 - 90_000), 6)
    expect(startOf(outside[0]!)).toEqual([0, -3])
  })

  it('a stem too narrow for two walls is solid, and that is said with the height', () => {
    const goblet = [node(0, 0), node(30, 0), node(30, 3), node(1.5, 10), node(1.5, 60), node(30, 90), node(30, 140), node(0, 140)] // prettier-ignore
    const { inside, notes, segments } = hollow(goblet)
    expect(notes[0]!.message).toMatch(/Below a height of 6\d(\.\d+)? mm .* solid there/)
    expect(pointOn(inside.at(-1)!, 1)[0]).toBe(0)
    expect(firstCrossing(flatten(segments).points)).toBeNull()
    // With a thick floor the bowl begins where it is asked to.
    expect(hollow(goblet, { floorMm: 75 }).notes).toEqual([])
  })

  it('a lip is rounded by nearly half its breadth; a bore runs straight from the neck to the rim', () => {
    const flat = hollow(tumbler, { mm: 4 })
    const round = hollow(tumbler, { mm: 4, lip: 'round' })
    // Two fillets of radius r in right angles take r² (1 - π/4) each, turned about the axis.
    const r = 0.49 * 4
    const lost = r * r * (1 - Math.PI / 4)
    expect(volume(flat.segments) - volume(round.segments)).toBeCloseTo(2 * Math.PI * 28 * 2 * lost, 0)
    const lipped = [node(0, 0), node(30, 0), node(30, 60), node(12, 70), node(12, 90), node(16, 92), node(16, 100), node(0, 100)] // prettier-ignore
    const bored = hollow(lipped, { bore: true })
    const top = startOf(bored.inside[0]!)
    expect(top[0]).toBeCloseTo(10, 2)
    expect(hollow(lipped).inside[0] && startOf(hollow(lipped).inside[0]!)[0]).toBeCloseTo(14, 6)
  })

  it('a lid that isn’t quite level, as outlines of rims show it, is taken for the mouth, and that is said', () => {
    const seen = [node(0, 0), node(30, 0), node(34, 98), node(29, 99.2), node(6, 100), node(0, 100)]
    const { inside, notes } = hollow(seen)
    expect(startOf(inside[0]!)[1]).toBe(98)
    expect(startOf(inside[0]!)[0]).toBeCloseTo(32, 1)
    expect(notes[0]!.message).toMatch(/level at the rim, at 98 mm; what is drawn above it is left away/)
    // A dome is no lid.
    const dome = [node(0, 0), node(30, 0), node(30, 60, 'smooth', { next: 'arc', bulge: Math.tan(Math.PI / 8) }), node(0, 90)] // prettier-ignore
    expect(() => hollow(dome)).toThrow(/needs a mouth/)
  })

  it('refuses what has no mouth, no room at the rim or no height, in words', () => {
    expect(() => hollow([node(0, 0), node(30, 0), node(0, 50)])).toThrow(/needs a mouth/)
    expect(() => hollow(tumbler, { mm: 31 })).toThrow(/no room for a wall of 31 mm/)
    expect(() => hollow(tumbler, { floorMm: 100 })).toThrow(/as thick as the piece is tall/)
  })

  it('never crosses the outside nor gets thinner than asked for; its mesh is closed (property)', () => {
    let hollowed = 0
    const radius = fc.double({ min: 6, max: 45, noNaN: true })
    fc.assert(
      fc.property(
        fc.array(fc.tuple(radius, fc.constantFrom('smooth' as const, 'corner' as const)), { minLength: 3, maxLength: 7 }), // prettier-ignore
        fc.double({ min: 0.5, max: 4, noNaN: true }),
        fc.double({ min: 1, max: 10, noNaN: true }),
        fc.constantFrom('flat' as const, 'round' as const),
        (rings, mm, floorMm, lip) => {
          const side = rings.map(([r, joint], i) => node(r, 22 * i, i === 0 ? 'corner' : joint, { next: 'curve' })) // prettier-ignore
          side[side.length - 1] = { ...side.at(-1)!, next: 'line', joint: 'corner' }
          const nodes = [node(0, 0), ...side, node(0, 22 * (rings.length - 1))]
          const outer = profileSegments(nodes)
          // A curve through far and near rings may cross itself or the axis; the profile's check says so before any wall.
          if (profileFaults(nodes, flatten(outer)).length > 0) return
          let made: ReturnType<typeof hollowOut>
          try {
            made = hollowOut(outer, { ...WALL, mm, floorMm, lip })
          } catch (error) {
            // A slanting rim may have no room for its wall; nothing else may be refused.
            expect(error).toMatchObject({ code: 'wall-too-thick' })
            return
          }
          const { segments, inside, outside } = made
          hollowed++
          expect(thinnest(outside, inside, 0.001)).toBeGreaterThan(mm * 0.999)
          const flat = flatten(segments)
          expect(firstCrossing(flat.points)).toBeNull()
          const mesh = revolve(flat.points, { sides: 24 })
          expect(isClosedAndOriented(mesh)).toBe(true)
          expect(meshVolume(mesh)).toBeGreaterThan(0)
        },
      ),
      { numRuns: 80 },
    )
    expect(hollowed).toBeGreaterThan(40)
  })
})

/** 60 mm wide, 80 mm tall. */
const cup = [node(0, 0), node(30, 0), node(30, 80), node(0, 80)]

describe('a rim rolled to a bead', () => {
  const bead = (mm: number) => hollow(cup, { mm: 2, lip: 'bead', beadMm: mm })

  it('keeps the height, and adds what a torus has beyond the wall (Pappus and Guldinus)', () => {
    const made = bead(5)
    expect(made.notes).toEqual([])
    const heights = flatten(made.segments, { toleranceMm: 1e-4 }).points.filter((_, i) => i % 2 === 1)
    expect(Math.max(...heights)).toBeCloseTo(80, 4)
    const flat = hollow(cup, { mm: 2 })
    // The wall of 29 mm mean radius up to the circle, and the circle of 2.5 mm: centred above the wall's middle.
    const start = endOf(made.outside.at(-1)!)[1]
    expect(start).toBeCloseTo(80 - 2.5 - Math.sqrt(2.5 ** 2 - 1), 9)
    const cut = 2 * Math.PI * 29 * 2 * (80 - start)
    const segment = 2.5 ** 2 * Math.asin(1 / 2.5) - Math.sqrt(2.5 ** 2 - 1)
    const torus = 2 * Math.PI * 29 * (Math.PI * 2.5 ** 2 - segment)
    const gained = volume(made.segments) - volume(flat.segments)
    expect(gained).toBeCloseTo(torus - cut, 6)
    expect(firstCrossing(flatten(made.segments).points)).toBeNull()
  })

  it('that is no thicker than the wall, or closes the mouth, is left away and said', () => {
    for (const [mm, words] of [
      [1.9, /no thicker than the wall/],
      [70, /closes the mouth/],
    ] as const) {
      const made = bead(mm)
      expect(made.notes[0]!.message).toMatch(words)
      expect(volume(made.segments)).toBeCloseTo(volume(hollow(cup, { mm: 2 }).segments), 6) // prettier-ignore
    }
  })
})

describe('a punt', () => {
  const punted = (diameterMm: number, heightMm: number) => hollow(cup, { mm: 2, floorMm: 3, punt: { diameterMm, heightMm } }) // prettier-ignore
  const capVolume = (a: number, h: number) => ((Math.PI * h) / 6) * (3 * a * a + h * h)

  it('takes the cap of a sphere from below and gives the concentric one inside (closed form)', () => {
    const made = punted(40, 8)
    expect(made.notes).toEqual([])
    const flat = hollow(cup, { mm: 2, floorMm: 3 })
    // Below: a cap of 20 mm and 8 mm. Inside: the sphere 3 mm larger, where it rises over the floor at 3 mm.
    const R = (20 * 20 + 8 * 8) / 16
    const rise = 8 + 3 - 3
    const inner = (Math.PI * rise * rise * (3 * (R + 3) - rise)) / 3
    const change = volume(made.segments) - volume(flat.segments)
    expect(change).toBeCloseTo(inner - capVolume(20, 8), 6)
    expect(startOf(made.outside[0]!)).toEqual([0, 8])
    expect(endOf(made.inside.at(-1)!)[0]).toBe(0)
    expect(endOf(made.inside.at(-1)!)[1]).toBeCloseTo(11, 9)
    // Nowhere thinner than the floor.
    expect(thinnest(made.outside, made.inside)).toBeGreaterThan(1.999)
  })

  it('without room is left away and said', () => {
    expect(punted(70, 8).notes[0]!.message).toMatch(/level foot is 60 mm wide/)
    expect(punted(20, 12).notes[0]!.message).toMatch(/10 mm high at most/)
    expect(punted(59, 20).notes[0]!.message).toMatch(/reach the wall/)
  })
})

describe('an inside drawn by hand', () => {
  const inside = (...list: [number, number][]) => profileSegments(list.map(([r, z]) => node(r, z)))

  it('is taken either way round, and holds what it encloses', () => {
    const up = inside([0, 5], [20, 5], [27, 80])
    for (const drawn of [up, backwards(up)]) {
      const made = hollowByHand(profileSegments(cup), drawn)
      const cone = (Math.PI * 75 * (400 + 20 * 27 + 729)) / 3
      expect(volume(made.segments)).toBeCloseTo(Math.PI * 900 * 80 - cone, 6)
      expect(made.outside).toHaveLength(2)
    }
  })

  it('may end below the rim: the lip slopes', () => {
    const made = hollowByHand(profileSegments(cup), inside([0, 5], [25, 5], [25, 76]))
    expect(firstCrossing(flatten(made.segments).points)).toBeNull()
    expect(startOf(made.inside[0]!)).toEqual([25, 76])
  })

  it('that crosses the outside is refused with the place; so are open and empty ones', () => {
    expect(() => hollowByHand(profileSegments(cup), inside([0, 5], [25, 5], [33, 40], [25, 80]))).toThrow(/cross at ⌀ 60 mm, height (2|3|5)\d/) // prettier-ignore
    expect(() => hollowByHand(profileSegments(cup), inside([5, 5], [25, 5], [25, 80]))).toThrow(
      /lower end must lie on the axis/,
    )
    expect(() => hollowByHand(profileSegments(cup), inside([0, 5], [25, 5], [0, 60]))).toThrow(
      /upper one belongs at the rim/,
    )
    expect(() => hollowByHand(profileSegments(cup), [])).toThrow(/no points yet/)
  })
})
