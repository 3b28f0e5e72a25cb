import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sharpness } from '../picture/sharpness'
import { withoutBareBulges } from './bulges'
import { withoutLoops } from './chain'
import { smoothBetweenCorners, cornersOf } from './corners'
import { edgeBand } from './edge-band'
import { edgeMiddleAxes } from './edge-middles'
import { edgePath } from './edge-pen'
import { withoutBareNotches } from './notches'
import { withStroke } from './strokes'
import { stripAbout } from './silhouette'
import { paint, skittle } from './test-pictures'

describe('sharpness', () => {
  it('answers a step, and hardly a slope of the same height', () => {
    const step = sharpness(
      paint(240, 240, (x) => x - 120),
      4,
    )
    const slope = sharpness(
      paint(240, 240, () => 50, { outside: (x) => { const v = 0.1 + 0.4 * Math.min(1, Math.max(0, (x - 60) / 120)); return [v, v, v] } }), // prettier-ignore
      4,
    )
    const most = (plane: { data: Float32Array }) => Math.max(...plane.data)
    expect(most(step.x)).toBe(1)
    expect(most(slope.x)).toBeLessThan(0.3)
    expect(most(step.y)).toBeLessThan(0.3)
  })

  it('finds the middles of edge pairs on the axis of a leaning piece', () => {
    const lean = 0.05
    const shape = skittle(300, 820, 90, lean)
    const [axis] = edgeMiddleAxes(sharpness(paint(600, 900, shape.distance), 3), { x: 0, y: -1 })
    expect(Math.abs(Math.atan2(axis!.up.x, -axis!.up.y) - lean)).toBeLessThan(0.006)
  })
})

describe('edge band', () => {
  it('prefers the step to the stronger soft shadow beside it', () => {
    // A dark body, a floor that brightens over 12 px beside it: the slope is four times as high as the step.
    const picture = paint(80, 80, (x) => x - 40, {
      inside: () => [0.05, 0.05, 0.05],
      outside: (x) => { const v = 0.11 + 0.24 * Math.min(1, Math.max(0, (x - 42) / 12)); return [v, v, v] }, // prettier-ignore
      grain: 0.5,
    })
    const points = Float64Array.from(Array.from({ length: 20 }, (_, i) => [44, 30 + i]).flat())
    const normals = Float64Array.from(Array.from({ length: 20 }, () => [1, 0]).flat())
    const { strength, places, step } = edgeBand(picture, points, normals, { reach: 12, blur: 0.9, step: 0.5 })
    for (let i = 5; i < 15; i++) {
      const row = Array.from(strength.subarray(i * places, (i + 1) * places))
      const at = 44 + (row.indexOf(Math.max(...row)) - (places - 1) / 2) * step
      expect(Math.abs(at - 40)).toBeLessThan(1)
    }
  })
})

describe('edge pen', () => {
  it('follows an arc between two clicks beside it, to a tenth of a pixel', () => {
    const picture = paint(400, 400, (x, y) => Math.hypot(x - 200, y - 200) - 120)
    const path = edgePath(picture, { x: 200 + 118, y: 196 }, { x: 203, y: 200 - 122 })
    const off: number[] = []
    for (let i = 0; i < path.length; i += 2)
      off.push(Math.abs(Math.hypot(path[i]! - 200, path[i + 1]! - 200) - 120))
    off.sort((a, b) => a - b)
    expect(off[off.length >> 1]).toBeLessThan(0.1)
    expect(off[Math.floor(0.9 * off.length)]).toBeLessThan(0.6)
  })
})

describe('strokes', () => {
  const side = {
    points: Float64Array.from(Array.from({ length: 50 }, (_, i) => [100, 500 - 10 * i]).flat()),
    sd: new Float64Array(50).fill(0.1),
    blur: 1,
  }
  it('replace what was found between their ends, drawn either way', () => {
    for (const stroke of [
      [112, 400, 112, 350, 112, 300],
      [112, 300, 112, 350, 112, 400],
    ]) {
      const { points, sd, hand } = withStroke(side, stroke)
      const xs = Array.from(sd.keys()).filter((i) => hand![i])
      expect(xs.map((i) => points[2 * i])).toEqual([112, 112, 112])
      expect(xs.map((i) => points[2 * i + 1])).toEqual([400, 350, 300])
      expect(points.length / 2).toBe(50 - 11 + 3)
      expect(sd.length).toBe(points.length / 2)
    }
  })
})

describe('corners', () => {
  it('stay where they are while the rest is smoothed (property)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 10_000 }), (seed) => {
        let s = seed
        const wobble = () => ((s = (s * 16807) % 2147483647) / 2147483647 - 0.5) * 0.4
        const chain = Float64Array.from([
          ...Array.from({ length: 40 }, (_, i) => [2 * i, wobble()]).flat(),
          ...Array.from({ length: 40 }, (_, i) => [80 + wobble(), 2 * i]).flat(),
        ])
        const corner = cornersOf(chain).find((i) => i > 30 && i < 50)!
        const smooth = smoothBetweenCorners(chain, 3)
        expect(smooth[2 * corner]).toBe(chain[2 * corner])
        const rough = (c: Float64Array) => { let sum = 0; for (let i = 5; i < 35; i++) sum += Math.abs(c[2 * i + 1]!); return sum } // prettier-ignore
        expect(rough(smooth)).toBeLessThan(rough(chain))
      }),
      { numRuns: 30 },
    )
  })
})

describe('bulges', () => {
  const shape = skittle(300, 820, 90, 0)
  const stripOf = (distance: typeof shape.distance, outside?: (x: number, y: number) => number[]) =>
    stripAbout(sharpness(paint(600, 900, distance, outside && { outside }), 3), { at: { x: 100, y: 150 }, up: { x: 0, y: -1 } }) // prettier-ignore
  const strip = stripOf(shape.distance)
  const silhouette = (extra: (row: number) => number) => {
    const half = new Float32Array(strip.rows)
    for (let row = 0; row < strip.rows; row++) {
      const t = (820 - 3 * (150 - (strip.top - row))) / 730
      if (t > 0 && t < 1) half[row] = Math.round(shape.half(t) / 3) + extra(row)
    }
    return { axis: strip.axis, top: strip.top, half, edges: 0 }
  }
  const clean = silhouette(() => 0)
  const flanged = silhouette((row) => (row > 150 && row < 160 ? 25 : 0))
  const off = (half: Float32Array) => Math.max(...half.map((r, row) => Math.abs(r - clean.half[row]!)))

  it('fall off where no edge bounds them', () => {
    expect(off(withoutBareBulges(strip, flanged, false).half)).toBeLessThanOrEqual(3)
    for (const busy of [false, true]) expect(withoutBareBulges(strip, clean, busy).half).toEqual(clean.half)
  })

  // A board of the wall reaches the piece on both sides at the height of the bulge.
  const board = (x: number, y: number) => {
    const row = strip.top + (y - 450) / 3
    const inside = row > 150 && row < 160 && Math.abs(x - 300) < shape.half(0.5) + 75
    return inside ? [0.25, 0.24, 0.22] : [0.5, 0.48, 0.44]
  }
  it('bounded by lines of the backdrop fall off when the edge of the piece runs past them', () => {
    const lined = stripOf(shape.distance, board)
    for (const busy of [false, true])
      expect(off(withoutBareBulges(lined, flanged, busy).half)).toBeLessThanOrEqual(3)
  })

  it('stay where they are flanges of the piece, before any backdrop', () => {
    const { distance } = shape
    const flange = (x: number, y: number) => {
      const row = strip.top + (y - 450) / 3
      return Math.max(
        Math.abs(x - 300) - shape.half((820 - y) / 730) - 75,
        3 * (150.5 - row),
        3 * (row - 159.5),
      )
    }
    const flangedStrip = stripOf((x, y) => Math.min(distance(x, y), flange(x, y)))
    for (const busy of [false, true])
      expect(withoutBareBulges(flangedStrip, flanged, busy).half).toEqual(flanged.half)
  })
})

describe('notches', () => {
  const shape = skittle(300, 820, 90, 0)
  const axis = { at: { x: 100, y: 150 }, up: { x: 0, y: -1 } }
  const heightOf = (row: number, top: number) => (820 - 3 * (150 - (top - row))) / 730
  /** The true half-widths, but for a band of rows taken in by so much. */
  const notched = (strip: ReturnType<typeof stripAbout>, depth: number) => {
    const half = new Float32Array(strip.rows)
    for (let row = 0; row < strip.rows; row++) {
      const t = heightOf(row, strip.top)
      if (t > 0 && t < 1) half[row] = Math.round(shape.half(t) / 3) - (row > 170 && row < 190 ? depth : 0)
    }
    return { axis, top: strip.top, half, edges: 0 }
  }

  it('along which no edge is seen are bridged', () => {
    // Between two levels the piece has the backdrop's own colour, so that its edges are lost.
    const wall = [0.5, 0.48, 0.44]
    const raster = paint(600, 900, shape.distance, {
      outside: () => wall,
      inside: (_x, y) => (y > 505 && y < 575 ? wall : [0.12, 0.07, 0.04]),
    })
    const strip = stripAbout(sharpness(raster, 3), axis)
    const { half } = withoutBareNotches(strip, notched(strip, 12))
    const true_ = notched(strip, 0).half
    expect(Math.max(...half.map((r, row) => Math.abs(r - true_[row]!)))).toBeLessThanOrEqual(1.5)
  })

  it('stay where the piece shows their edges', () => {
    const necked = (x: number, y: number) => {
      const band = Math.max(520 - y, y - 560)
      // Taken in by 36 px between two levels.
      return Math.max(
        shape.distance(x, y),
        Math.min(-band, Math.abs(x - 300) - shape.half((820 - y) / 730) + 36),
      )
    }
    const strip = stripAbout(sharpness(paint(600, 900, necked), 3), axis)
    const found = notched(strip, 12)
    expect(withoutBareNotches(strip, found).half).toEqual(found.half)
  })
})

describe('loops', () => {
  const crosses = (chain: Float64Array) => {
    const side = (a: number, b: number, c: number) => (chain[2 * b]! - chain[2 * a]!) * (chain[2 * c + 1]! - chain[2 * a + 1]!) - (chain[2 * b + 1]! - chain[2 * a + 1]!) * (chain[2 * c]! - chain[2 * a]!) // prettier-ignore
    const n = chain.length / 2
    for (let a = 0; a + 3 < n; a++)
      for (let b = a + 2; b + 1 < n; b++)
        if (side(a, a + 1, b) * side(a, a + 1, b + 1) < 0 && side(b, b + 1, a) * side(b, b + 1, a + 1) < 0)
          return true
    return false
  }

  it('are cut where the chain comes back to itself (property)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 12 }), fc.double({ min: 2, max: 9, noNaN: true }), (at, size) => {
        const way = Array.from({ length: 30 }, (_, i) => [4 * i, 0.1 * i])
        const [x, y] = way[at]!
        // Past the crossing, round, and back over the way.
        const loop = [[x! + size, y! - 1], [x! + size, y! + size], [x! + 1, y! + size], [x! + 1.5, y! - 3]] // prettier-ignore
        const chain = Float64Array.from([...way.slice(0, at + 1), ...loop, ...way.slice(at + 4)].flat())
        const out = withoutLoops(chain)
        expect(crosses(out)).toBe(false)
        expect([...out.subarray(0, 2), ...out.subarray(-2)]).toEqual([
          ...chain.subarray(0, 2),
          ...chain.subarray(-2),
        ])
      }),
    )
  })

  it('that aren’t there leave the chain as it is', () => {
    const chain = Float64Array.from(
      Array.from({ length: 60 }, (_, i) => [2 * i, 20 * Math.sin(i / 6)]).flat(),
    )
    expect(withoutLoops(chain)).toEqual(chain)
  })
})
