import { describe, expect, it } from 'vitest'
import type { AxisLine } from './axis-line'
import { resample } from './chain'
import { withFaintRings } from './faint-rings'
import { findOutline } from './find-outline'
import type { OutlineSide } from './refine'
import { paint } from './test-pictures'

/** A drum whose rim is chamfered: the ring on top of it, the crease below the chamfer, and its foot; all seen a little from above. */
const AT = 200.5
const FOOT = 420
const RING = { y: 84, a: 84, b: 8 }
const CREASE = { y: 94, a: 90, b: 8 }
const fallOf = (ring: typeof RING, u: number) => ring.b * (1 - Math.sqrt(Math.max(0, 1 - (u / ring.a) ** 2)))
const levelOf = (ring: typeof RING, u: number) => ring.y + fallOf(ring, u)

const halfAt = (y: number) => Math.min(CREASE.a, RING.a + ((y - RING.y - RING.b) * (CREASE.a - RING.a)) / 10)
const drum = (x: number, y: number) => {
  const u = Math.abs(x - AT)
  return Math.max(u - halfAt(y), levelOf(RING, Math.min(u, RING.a)) - y, y - FOOT)
}
const isChamfer = (x: number, y: number) => y < levelOf(CREASE, Math.min(CREASE.a, Math.abs(x - AT)))

type Colour = number[]
const WALL: Colour = [0.5, 0.48, 0.44]
const BODY: Colour = [0.34, 0.31, 0.28]
/** Five codes darker than the wall: three times the noise of each px, and a fifth of the step at the crease. */
const FAINT: Colour = [0.47, 0.45, 0.412]

const photo = (chamfer: Colour, wall: (x: number, y: number) => Colour = () => WALL) =>
  paint(400, 500, drum, {
    inside: (x, y) => (isChamfer(x, y) ? chamfer : BODY),
    outside: wall,
    grain: 1.5,
  })

const axis: AxisLine = { at: { x: AT, y: FOOT }, up: { x: 0, y: -1 } }

/** Both sides along the body only: up its flank and over the crease. */
function alongCrease(crease = CREASE): [OutlineSide, OutlineSide] {
  const sides = [-1, 1].map((side): OutlineSide => {
    const way = [AT, FOOT, AT + side * crease.a, FOOT]
    for (let u = crease.a; u >= 0; u -= 1) way.push(AT + side * u, levelOf(crease, u))
    const points = resample(way, 2)
    return { points, sd: new Float64Array(points.length / 2).fill(0.05), blur: 0.7 }
  })
  return sides as [OutlineSide, OutlineSide]
}

const look = (raster: ReturnType<typeof photo>, sides = alongCrease()) =>
  withFaintRings(raster, sides, axis, { blur: 0.7, step: 2, ends: ['foot', 'top'] })

/** The heights of a side's points near the axis over those of the true ring, px. */
const offRing = (points: ArrayLike<number>) =>
  Array.from({ length: points.length / 2 }, (_, i): [number, number] => [
    Math.abs(points[2 * i]! - AT),
    points[2 * i + 1]!,
  ])
    .filter(([u, y]) => u < 70 && y < 200)
    .map(([u, y]) => y - levelOf(RING, u))

describe('rings too faint to be seen at their places', () => {
  it('a chamfer about as light as the wall is part of the piece', () => {
    const ringed = look(photo(FAINT))
    expect(ringed).not.toBeNull()
    for (const chain of ringed!.chains) {
      const off = offRing(chain)
      expect(off.length).toBeGreaterThan(25)
      for (const d of off) expect(Math.abs(d)).toBeLessThan(0.8)
    }
    // The ring is told from all else.
    expect(ringed!.rings({ x: AT + 40, y: levelOf(RING, 40) })).toBe(true)
    expect(ringed!.rings({ x: AT + 40, y: levelOf(CREASE, 40) })).toBe(false)
    expect(ringed!.rings({ x: AT + 40, y: FOOT })).toBe(false)
  })

  it('a lighter one too, and so does the whole outline of the photo end', () => {
    const light: Colour = [0.53, 0.51, 0.468]
    expect(look(photo(light))).not.toBeNull()
    const { left, right } = findOutline(photo(light))
    for (const { points } of [left, right])
      for (const d of offRing(points)) expect(Math.abs(d)).toBeLessThan(1.6)
  })

  it('where nothing lies beyond the crease it closes the piece', () => {
    expect(look(photo(WALL))).toBeNull()
  })

  it('a soft shade behind the piece is no ring', () => {
    const shaded = (_x: number, y: number) => {
      const share = 0.93 + 0.07 / (1 + Math.exp((y - 82) / 7))
      return WALL.map((v) => v * share)
    }
    const raster = paint(400, 500, (x, y) => Math.max(drum(x, y), isChamfer(x, y) ? 1e3 : -1e3), {
      outside: shaded,
      grain: 1.5,
    })
    expect(look(raster)).toBeNull()
  })

  it('the edge of a ruler that goes on beside the piece is no ring', () => {
    const ruled = (_x: number, y: number) => WALL.map((v) => v * (y < 84 ? 1 : 0.88))
    const raster = paint(400, 500, (x, y) => Math.max(drum(x, y), isChamfer(x, y) ? 1e3 : -1e3), {
      outside: ruled,
      grain: 1.5,
    })
    expect(look(raster)).toBeNull()
  })

  it('level lines that go on beside the piece are no ring', () => {
    const lined = (_x: number, y: number) => WALL.map((v) => v * (Math.floor(y / 9) % 2 ? 0.97 : 1))
    const raster = paint(400, 500, (x, y) => Math.max(drum(x, y), isChamfer(x, y) ? 1e3 : -1e3), {
      outside: lined,
      grain: 1.5,
    })
    expect(look(raster)).toBeNull()
  })

  it('neither is one that leans, as a floor does in a photo taken askew', () => {
    const edge = (x: number) => 84 + 0.03 * (x - AT)
    const ruled = (x: number, y: number) => WALL.map((v) => v * (y < edge(x) ? 1 : 0.88))
    const raster = paint(400, 500, (x, y) => Math.max(drum(x, y), isChamfer(x, y) ? 1e3 : -1e3), {
      outside: ruled,
      grain: 1.5,
    })
    expect(look(raster)).toBeNull()
  })

  it('a straight streak of the wall beyond an end that is seen from far above is no ring', () => {
    const crease = { y: 96, a: 90, b: 16 }
    const pot = (x: number, y: number) => {
      const u = Math.abs(x - AT)
      return Math.max(u - crease.a, levelOf(crease, Math.min(u, crease.a)) - y, y - FOOT)
    }
    // It goes on beside the piece on neither side.
    const streaked = (x: number, y: number) =>
      WALL.map((v) => v * (y < 89 || Math.abs(x - AT) > crease.a ? 1 : 0.88))
    const raster = paint(400, 500, pot, { inside: () => BODY, outside: streaked, grain: 1.5 })
    expect(look(raster, alongCrease(crease))).toBeNull()
  })
})
