import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { closedHalf, closedOutside, fallOf, levelOf, openClosedBy } from './close-half'
import { crossingAt, fromEnd, inPicture, outermost, straightSide } from './end-view'
import { widthNear } from './end-width'
import { paint } from './test-pictures'

/** A post seen from its foot: its end is a ring of half-width 100 that rises by 20, its tip at 300 px along the axis. */
const [cx, wide, tip, rise] = [200, 100, 300, 20]
const axis = { at: { x: cx, y: 20 }, up: { x: 0, y: -1 } }
const ring = { tip, a: wide, b: rise }
const levelAt = (u: number) => levelOf(ring, Math.min(wide, u))
const grey = (v: number) => [v, v, v]
const post = (x: number, y: number) => Math.max(Math.abs(x - cx) - wide, y - 20 - levelAt(Math.abs(x - cx)))
const raster = paint(400, 400, post, { inside: () => grey(0.1), outside: () => grey(0.5) })
const view = { axis, blur: 0.7, down: true, left: false }

/** A half from the axis over its end, a little inwards of the ring by what is said, and up its side. */
function half(off: (u: number) => number, side = wide): Float64Array {
  const out: number[] = []
  for (let u = 0; u < wide; u += 2) out.push(u, levelAt(u) - off(u))
  for (let v = tip - rise - 2; v > 60; v -= 2) out.push(side, v)
  return Float64Array.from(out)
}
const farOff = (points: Float64Array) => {
  let most = 0
  for (let i = 0; i < points.length; i += 2)
    if (points[i + 1]! > 100) most = Math.max(most, Math.abs(post(cx + points[i]!, 20 + points[i + 1]!)))
  return most
}

describe('a ring as half an ellipse', () => {
  it('falls from its tip to its ends as sin and cos do (property)', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: Math.PI / 2, noNaN: true }), (angle) => {
        expect(fallOf(Math.sin(angle))).toBeCloseTo(1 - Math.cos(angle), 9)
        expect(levelOf(ring, wide * Math.sin(angle))).toBeCloseTo(tip - rise + rise * Math.cos(angle), 6)
      }),
    )
  })
})

describe('halves as seen from an end', () => {
  it('begin there, and come back as they were', () => {
    const up = Float64Array.of(0, -5, 30, -4, 30, 80, 0, 82)
    for (const down of [true, false]) {
      const seen = fromEnd(up, down)
      expect(fromEnd(seen, down)).toEqual(up)
      expect(outermost(seen)).toBe(down ? 5 : 82)
      expect(seen[0]).toBe(0)
    }
  })

  it('lie on their own side of the axis in the picture', () => {
    const places = Float64Array.of(0, 10, 30, 4)
    expect(Array.from(inPicture(places, axis, false, true))).toEqual([cx, 30, cx + 30, 24])
    expect(Array.from(inPicture(places, axis, true, false))).toEqual([cx, 10, cx - 30, 16])
  })

  it('are crossed where they first come so far out', () => {
    const places = Float64Array.of(0, 10, 30, 4, 30, -50)
    expect(crossingAt(places, 15)).toBeCloseTo(7, 12)
    expect(crossingAt(places, 31)).toBe(-Infinity)
  })

  it('lead straight on beyond a corner that isn’t believed; a half without a side doesn’t', () => {
    const leaning = Float64Array.from(
      Array.from({ length: 80 }, (_, k) => [wide - k / 4, tip - 2 * k]).flat(),
    )
    const side = straightSide(leaning, wide)!
    expect(side.sideAt(tip + 10)).toBeCloseTo(wide + 10 / 8, 6)
    expect(straightSide(Float64Array.of(0, tip, 50, tip, 100, tip), wide)).toBeNull()
  })
})

describe('how wide an end is', () => {
  const about = { ...view, end: tip }

  it('is where its side first runs upright', () => {
    const { wide: found, jumps } = widthNear(raster, half(() => 0), about) // prettier-ignore
    expect(found).toBeGreaterThan(0.93 * wide)
    expect(jumps).toBe(false)
  })

  it('a jump from line to line without an edge is no side, an edge that runs upright is one', () => {
    // The way keeps to a line 24 px farther in but in the middle, where it lies on the ring.
    const jumping = half((u) => (u < 30 ? 0 : 24))
    const places: number[] = []
    for (let i = 0; i < jumping.length; i += 2) {
      const [u, v] = [jumping[i]!, jumping[i + 1]!]
      if (u === 30) for (let k = 1; k < 12; k++) places.push(29, levelAt(29) - 2 * k)
      places.push(u, v)
    }
    const way = Float64Array.from(places)
    const { wide: over, jumps } = widthNear(raster, way, about)
    expect(over).toBeGreaterThan(0.93 * wide)
    expect(jumps).toBe(true)
    // The same way about a stub of 29 px, whose side the picture shows.
    const stub = paint(400, 400, (x, y) => Math.min(Math.max(Math.abs(x - cx) - wide, y - 20 - levelAt(Math.abs(x - cx)) + 24), Math.max(Math.abs(x - cx) - 29, y - 20 - tip)), { inside: () => grey(0.1), outside: () => grey(0.5) }) // prettier-ignore
    const found = widthNear(stub, way, about)
    expect(found.wide).toBeLessThan(31)
    expect(found.jumps).toBe(false)
  })
})

describe('a half that an arc closes', () => {
  const options = { view, step: 2 }

  it('follows the arc, and its own side from there', () => {
    const lumpy = half((u) => (u < 80 ? 5 + 3 * Math.sin(u / 6) : 0))
    expect(farOff(lumpy)).toBeGreaterThan(6)
    expect(farOff(closedHalf(raster, lumpy, ring, options))).toBeLessThan(1)
  })

  it('stays as it was where the arc would leave out a clear edge', () => {
    // A cone that stands on its narrow end: a ring as wide as it is farther up would cut off its side.
    const widthAt = (v: number) => 40 + 0.3 * (tip - v)
    const cone = paint(400, 400, (x, y) => Math.max((Math.abs(x - cx) - widthAt(y - 20)) / Math.hypot(1, 0.3), y - 20 - tip), { inside: () => grey(0.1), outside: () => grey(0.5) }) // prettier-ignore
    const places: number[] = []
    for (let u = 0; u < 40; u += 2) places.push(u, tip)
    for (let v = tip; v > 60; v -= 2) places.push(widthAt(v), v)
    const way = Float64Array.from(places)
    expect(closedHalf(cone, way, { tip, a: 90, b: 10 }, options)).toBe(way)
  })

  it('is led straight on up to the arc where that shows more than a way that jumps', () => {
    const places: number[] = []
    for (let u = 0; u < 80; u += 2) places.push(u, levelAt(u) - 2)
    for (let k = 0; k < 1; k += 0.06) places.push(80 + 20 * k, levelAt(80) - 2 - 45 * k)
    for (let v = levelAt(80) - 47; v > 60; v -= 2) places.push(wide, v)
    const way = Float64Array.from(places)
    expect(farOff(way)).toBeGreaterThan(8)
    expect(farOff(closedHalf(raster, way, ring, options))).toBeLessThan(2)
  })

  it('that nothing closed is led on to the arc, corners and all; without a side it stays', () => {
    const open: number[] = []
    for (let u = 0; u < wide; u += 2) open.push(u, tip - rise - 30)
    for (let v = tip - rise - 32; v > 60; v -= 2) open.push(wide, v)
    const way = Float64Array.from(open)
    expect(farOff(openClosedBy(way, ring))).toBeLessThan(3.5)
    const flat = Float64Array.of(0, tip, 50, tip, 100, tip)
    expect(openClosedBy(flat, ring)).toBe(flat)
  })
})

describe('a half that runs inside of the ring', () => {
  /** Along an inner edge, and from there by a jump to the side. */
  const inner = (side: (v: number) => number) => {
    const places: number[] = []
    for (let u = 0; u < 70; u += 2) places.push(u, levelAt(u) - 9)
    for (let k = 0; k < 1; k += 0.1) places.push(70 + 4 * k, levelAt(70) - 9 - 6 * k)
    for (let u = 74; u < wide; u += 2) places.push(u, levelAt(70) - 15)
    for (let v = levelAt(70) - 17; v > 60; v -= 2) places.push(side(v), v)
    return Float64Array.from(places)
  }

  it('is closed by ring and side where these meet', () => {
    const way = inner(() => wide)
    expect(farOff(way)).toBeGreaterThan(8)
    // The side begins a few px above the ring's end, and the ring reaches it a px inwards.
    expect(farOff(closedOutside(way, ring))).toBeLessThan(1.5)
  })

  it('goes straight from a narrower ring to its corner, as a chamfer does, and then on by its own side (property)', () => {
    const across = fc.double({ min: 0.8, max: 0.97, noNaN: true })
    fc.assert(
      fc.property(across, fc.double({ min: -0.5, max: 0.15, noNaN: true }), (share, lean) => {
        const side = (v: number) => wide + lean * (v - levelAt(70) + 17)
        const way = inner(side)
        const arc = { tip, a: share * wide, b: share * rise }
        const closed = closedOutside(way, arc)
        expect(closed.subarray(-120)).toEqual(way.subarray(-120))
        let straight = 0
        for (let i = 0; closed[i + 1]! > 200; i += 2) {
          const [u, v, u2, v2, u3, v3] = closed.subarray(i, i + 6) as unknown as number[]
          // It bends to the piece alone, and nothing of the ring or of the way found lies beyond.
          expect((u2! - u!) * (v3! - v2!) - (v2! - v!) * (u3! - u2!)).toBeLessThan(1e-6)
          straight = Math.max(straight, Math.hypot(u2! - u!, v2! - v!))
        }
        // Points of the ring and of the side lie 1 to 2 px apart.
        expect(straight).toBeGreaterThan(5)
        for (let u = 0; u < 0.9 * arc.a; u += 3)
          expect(crossingAt(closed, u)).toBeGreaterThan(levelOf(arc, u) - 0.1)
      }),
    )
  })

  it('stays as it is where none of it lies beyond the ring’s end', () => {
    const short = Float64Array.of(0, tip - 9, 40, tip - 12, 60, 200, 60, 60)
    expect(closedOutside(short, ring)).toBe(short)
  })
})
