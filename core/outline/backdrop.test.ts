import { describe, expect, it } from 'vitest'
import type { PicturePoint } from '../conventions'
import { reduceToLab } from '../picture/reduce'
import { sharpness } from '../picture/sharpness'
import { speaksForPiece } from './backdrop'
import { pieceEvidence } from './evidence'
import { findOutline } from './find-outline'
import { outerEdges } from './outer-edges'
import { misses, paint, skittle } from './test-pictures'

/** Distance of a place from the straight ways between points. */
function distanceToWay(points: Float64Array, { x, y }: PicturePoint): number {
  let least = Infinity
  for (let i = 2; i < points.length; i += 2) {
    const [ax, ay, bx, by] = points.subarray(i - 2, i + 2) as unknown as [number, number, number, number]
    const [dx, dy] = [bx - ax, by - ay]
    const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)))
    least = Math.min(least, Math.hypot(ax + t * dx - x, ay + t * dy - y))
  }
  return least
}

const grey = (_x: number, y: number) => [0.36 + y / 12000, 0.35, 0.33]

describe('hues before a backdrop', () => {
  const shape = skittle(300, 820, 90, 0)
  /** Shares of the piece and of the wall, by evidence. */
  const told = (inside: () => number[], wall: (x: number, y: number) => number[]) => {
    const picture = paint(600, 900, shape.distance, { inside, outside: wall, grain: 1.5 })
    const { plane } = pieceEvidence(reduceToLab(picture, 3))
    const counts = { piece: [0, 0], wall: [0, 0] }
    plane.data.forEach((v, i) => {
      const d = shape.distance(3 * ((i % plane.width) + 0.5), 3 * (Math.floor(i / plane.width) + 0.5))
      if (Math.abs(d) < 6) return
      const count = d < 0 ? counts.piece : counts.wall
      count[1]!++
      if (d < 0 ? v > 0.3 : v < 0) count[0]!++
    })
    return { piece: counts.piece[0]! / counts.piece[1]!, wall: counts.wall[0]! / counts.wall[1]! }
  }

  it('a lilac piece no lighter than the grey wall is told by its hue', () => {
    const { piece, wall } = told(
      () => [0.36, 0.29, 0.38],
      (_x, y) => { const v = 0.31 + y / 30000; return [v, v, 0.98 * v] }, // prettier-ignore
    )
    expect(piece).toBeGreaterThan(0.95)
    expect(wall).toBeGreaterThan(0.95)
  })

  it('a wall that is blotched light and dark has one hue, which a teal piece hasn’t', () => {
    const blotches = (x: number, y: number) => {
      const v = 0.3 * (1 + 0.2 * Math.sin(x / 11 + 2 * Math.sin(y / 17)) * Math.sin(y / 13 + x / 31))
      return [v, 0.99 * v, 0.97 * v]
    }
    const { piece, wall } = told(() => [0.2, 0.33, 0.34], blotches)
    expect(piece).toBeGreaterThan(0.95)
    expect(wall).toBeGreaterThan(0.9)
  })
})

describe('before a plain backdrop', () => {
  const shape = skittle(300, 820, 90, 0.01)

  it('grain along the edge is not taken for it, though the edge is as bright on both sides', () => {
    // Wood about as light as the wall, with dark rings that run along the side a dozen px inside of the edge.
    const wood = (x: number, y: number) => {
      const depth = -shape.distance(x, y)
      const ring = Math.exp(-(((depth % 30) - 11) ** 2) / 3)
      return [0.5 - 0.3 * ring, 0.34 - 0.22 * ring, 0.2 - 0.13 * ring]
    }
    const { left, right } = findOutline(paint(600, 900, shape.distance, { inside: wood, outside: grey }))
    const off = misses([left, right], shape.distance)
    expect(off.length).toBeGreaterThan(300)
    expect(off[off.length >> 1]).toBeLessThan(0.15)
    expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(0.6)
  })

  it('corners of a sharp-edged piece are found where they are', () => {
    // A hub: a narrow and a wide cylinder, seen so far away that its ends are straight.
    const box = (x: number, y: number, half: number, top: number, foot: number) =>
      Math.max(Math.abs(x - 300) - half, top - y, y - foot)
    const hub = (x: number, y: number) => Math.min(box(x, y, 80, 150, 750), box(x, y, 200, 320, 560))
    const raster = paint(600, 900, hub, { outside: grey })
    const { left, right } = findOutline(raster)
    for (const [corner, side] of [
      [{ x: 500, y: 320 }, right],
      [{ x: 500, y: 560 }, right],
      [{ x: 100, y: 320 }, left],
      [{ x: 380, y: 150 }, right],
      [{ x: 220, y: 750 }, left],
    ] as const) {
      // Points lie 2 px apart, so that the way between them cuts a corner.
      expect(distanceToWay(side.points, corner)).toBeLessThan(1.5)
    }
    expect(misses([left, right], hub).at(-1)).toBeLessThan(1)
  })

  it('what crosses a border foretells nothing along its lines', () => {
    // A handle runs from the piece out of the picture.
    const handled = (x: number, y: number) =>
      Math.min(shape.distance(x, y), Math.max(x - 300, Math.abs(y - 400) - 25))
    const picture = reduceToLab(paint(600, 900, handled, { outside: grey }), 3)
    const { kind, plane } = pieceEvidence(picture)
    expect(kind).toBe('plain')
    const at = (x: number, y: number) => plane.data[Math.floor(y / 3) * plane.width + Math.floor(x / 3)]!
    expect(at(60, 400)).toBeGreaterThan(0.9)
    for (let x = 460; x < 595; x += 15) expect(at(x, 400)).toBeLessThan(0)
  })

  it('shadows speak neither for the piece nor against it', () => {
    const picture = reduceToLab(paint(600, 900, shape.distance, { outside: grey }), 3)
    const { backdrop } = pieceEvidence(picture)
    const i = 100 * picture.width + 20
    const [l, a, b] = [picture.l[i]!, picture.a[i]!, picture.b[i]!]
    const speaks = (share: number, hue = 0) =>
      speaksForPiece(backdrop!, 60, 300, share * l, share * a + hue, share * b)
    expect(speaks(1)).toBeLessThan(-0.5)
    for (const dim of [0.8, 0.5, 0.1]) expect(speaks(dim)).toBe(0)
    expect(speaks(0.8, 0.1)).toBe(1)
    expect(speaks(1.4)).toBe(1)
  })

  it('lines within the piece count less, and its end at the backdrop counts though it is faint', () => {
    const stripes = (x: number) => (Math.floor(x / 20) % 2 ? [0.5, 0.2, 0.1] : [0.2, 0.4, 0.1])
    const raster = paint(600, 900, shape.distance, { inside: stripes, outside: grey })
    const bare = sharpness(raster, 3)
    const outer = outerEdges(bare, pieceEvidence(reduceToLab(raster, 3)).unshadowed!)
    const row = 150 * bare.x.width
    const middle = 104
    const most = (data: Float32Array, from: number, to: number) =>
      Math.max(...data.subarray(row + from, row + to))
    const half = Math.round(shape.half((820 - 450) / 730) / 3)
    // A stripe in the middle of the piece, and its left edge.
    expect(most(outer.x.data, middle - 10, middle + 10)).toBeLessThan(
      0.5 * most(bare.x.data, middle - 10, middle + 10),
    )
    expect(most(outer.x.data, middle - half - 3, middle - half + 4)).toBeGreaterThanOrEqual(0.7)
  })
})
