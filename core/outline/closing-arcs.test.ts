import { describe, expect, it } from 'vitest'
import { reduceToLab } from '../picture/reduce'
import { withClosingArcs } from './closing-arcs'
import { edgeBand } from './edge-band'
import { pieceEvidence } from './evidence'
import { findOutline } from './find-outline'
import { fitMirror } from './mirror'
import { openEnds, openEndWords } from './open-ends'
import { seen, type OutlineSide } from './refine'
import { leaveShadow } from './region-worth'
import { requireLikeness } from './require-piece'
import { paint } from './test-pictures'

/** A clear tumbler: dark down to the edge of its inner bottom, and below that hardly darker than the backdrop. */
const [cx, wide, foot, rise] = [250, 120, 400, 24]
const under = (y0: number, a: number, b: number) => (x: number, y: number) => {
  const u = Math.min(1, Math.abs(x - cx) / a)
  return (y - y0 - b * Math.sqrt(1 - u * u)) / Math.hypot(1, (b / a) * (u / Math.sqrt(1.02 - u * u)))
}
const outer = under(foot, wide, rise)
const inner = under(foot - 14, wide - 2, rise - 2)
const glass = (x: number, y: number) => Math.max(Math.abs(x - cx) - wide, outer(x, y))

function tumbler(faint: number) {
  const grey = (v: number) => [v, v, v]
  return paint(500, 500, glass, {
    inside: (x, y) => grey(inner(x, y) > 0 ? 0.5 - faint : 0.3),
    outside: () => grey(0.5),
    grain: 1.2,
  })
}

/** A side that takes the clearest arc, the inner bottom's, for the foot. */
function along(side: -1 | 1): Float64Array {
  const out: number[] = []
  for (let t = 0; t < 1; t += 0.02)
    out.push(cx + side * (wide - 2) * t, foot - 14 + (rise - 2) * Math.sqrt(1 - t * t))
  for (let y = foot - 16; y > 60; y -= 2) out.push(cx + side * wide, y)
  out.push(cx, 60)
  return Float64Array.from(out)
}
const axis = { at: { x: cx, y: 250 }, up: { x: 0, y: -1 } }
const asClear = { blur: 0.7, step: 2, clear: true, backdrop: null }
const tipOf = (side: Float64Array) => side[1]!

describe('closing arcs of clear pieces', () => {
  it('lead the outline from the clear edge of the inner bottom out to the faint one of the foot', () => {
    const { sides } = withClosingArcs(tumbler(0.035), [along(-1), along(1)], axis, asClear)
    for (const [k, side] of sides.entries()) {
      expect(Math.abs(tipOf(side) - (foot + rise))).toBeLessThan(2)
      for (let i = 0; i < side.length; i += 2) {
        const u = (k === 0 ? -1 : 1) * (side[i]! - cx)
        if (u > 0.85 * wide) break
        expect(Math.abs(side[i + 1]! - foot - rise * Math.sqrt(1 - (u / wide) ** 2))).toBeLessThan(2.5)
      }
    }
  })

  it('leave an outline alone that nothing clear closes elsewhere', () => {
    const blank = paint(500, 500, () => 50, { outside: () => [0.5, 0.5, 0.5] })
    const before = along(1)
    const { sides: [, right] } = withClosingArcs(blank, [along(-1), before], axis, asClear) // prettier-ignore
    expect(tipOf(right)).toBeCloseTo(tipOf(before), 6)
    expect(right.length / before.length).toBeGreaterThan(0.9)
  })

  it('believe no line that goes on beyond the piece', () => {
    const line = paint(500, 500, (_, y) => y - (foot + 8), {
      inside: () => [0.5, 0.5, 0.5],
      outside: () => [0.4, 0.4, 0.4],
    })
    const { sides: [, right] } = withClosingArcs(line, [along(-1), along(1)], axis, asClear) // prettier-ignore
    expect(Math.abs(tipOf(right) - tipOf(along(1)))).toBeLessThan(1)
  })
})

describe('between an arc and a side', () => {
  /** A tumbler whose way cuts off the corner above its foot, inwards along a reflection. */
  const shade = (x: number) => (Math.abs(Math.abs(x - cx) - (wide - 16)) < 3 ? 0.42 : 0.3)
  const raster = paint(500, 500, glass, { inside: (x) => [shade(x), shade(x), shade(x)], outside: () => [0.5, 0.5, 0.5] }) // prettier-ignore
  const jumping = (side: -1 | 1): Float64Array => {
    const out: number[] = []
    for (let t = 0; t < 0.8; t += 0.02) out.push(cx + side * wide * t, foot + rise * Math.sqrt(1 - t * t))
    const [u, v] = [0.8 * wide, foot + 0.6 * rise]
    for (let k = 0; k < 1; k += 0.06) out.push(cx + side * (u + k * (wide - u)), v - k * (v - foot + 14))
    for (let y = foot - 14; y > 60; y -= 2) out.push(cx + side * wide, y)
    return Float64Array.from([...out, cx, 60])
  }

  it('the side is led straight on where that shows more edge than a way that jumps', () => {
    const ways = [jumping(-1), jumping(1)] as const
    const farOff = (side: Float64Array) => {
      let most = 0
      for (let i = 0; i < side.length && side[i + 1]! > 100; i += 2)
        most = Math.max(most, Math.abs(glass(side[i]!, side[i + 1]!)))
      return most
    }
    expect(farOff(ways[0])).toBeGreaterThan(8)
    // Of a clear piece an arc may lie a few px beside the edge, which is looked for from there.
    for (const side of withClosingArcs(raster, ways, axis, asClear).sides)
      expect(farOff(side)).toBeLessThan(5)
  })
})

describe('closing arcs of opaque pieces', () => {
  const asOpaque = { ...asClear, clear: false }
  /** Where a ring of a half-width, whose ends lie at a level, is lowest. */
  const ringAt = (x: number, a: number, y0: number) =>
    y0 + (rise * a * Math.sqrt(1 - Math.min(1, Math.abs(x - cx) / a) ** 2)) / wide
  /** A dark piece on its foot's ring, before a light backdrop. */
  const solid = paint(500, 500, (x, y) => {
    const u = Math.min(1, Math.abs(x - cx) / wide)
    return Math.max(Math.abs(x - cx) - wide, y - foot - rise * Math.sqrt(1 - u * u))
  }, { inside: () => [0.08, 0.08, 0.08], outside: () => [0.6, 0.6, 0.6] }) // prettier-ignore
  /** A side whose foot lies so far off its ring, by how far out it is. */
  const found = (side: 1 | -1, off: (u: number) => number) => {
    const out: number[] = []
    for (let t = 0; t < 1; t += 0.02)
      out.push(cx + side * wide * t, foot + rise * Math.sqrt(1 - t * t) + off(t))
    for (let y = foot - 4; y > 60; y -= 2) out.push(cx + side * wide, y)
    out.push(cx, 60)
    return Float64Array.from(out)
  }

  it('take the place of a way that wanders about the ring', () => {
    const lumpy = (u: number) => (u < 0.7 ? -7 - 2 * Math.sin(20 * u) : 0)
    const { sides } = withClosingArcs(solid, [found(-1, lumpy), found(1, lumpy)], axis, asOpaque)
    for (const side of sides) expect(Math.abs(tipOf(side) - (foot + rise))).toBeLessThan(1)
  })

  it('leave a way as it is that follows the ring itself', () => {
    const exact = [found(-1, () => 0), found(1, () => 0)] as const
    const { sides } = withClosingArcs(solid, exact, axis, asOpaque)
    sides.forEach((side, k) => expect(side).toBe(exact[k]))
  })

  describe('with a chamfer in its own shade above the ring', () => {
    const chamfer = 14
    const end = wide - 10
    /** The chamfer is seen between its edge, the ring, and what touches both, hardly steeper than its flank. */
    const lower = (x: number) =>
      Math.max(ringAt(x, wide, foot - chamfer), Math.abs(x - cx) < end ? ringAt(x, end, foot) : -Infinity)
    const shaded = paint(500, 500, (x, y) => Math.max(Math.abs(x - cx) - wide, y - lower(x)), {
      inside: (x, y) => (y < ringAt(x, wide, foot - chamfer) ? [0.6, 0.6, 0.6] : [0.167, 0.167, 0.167]),
      outside: () => [0.24, 0.147, 0.23],
    })
    const tip = foot + (rise * end) / wide
    const byEdge = (side: 1 | -1) => found(side, () => -chamfer)

    it('are found at the ring, however much clearer the chamfer’s edge', () => {
      const { sides } = withClosingArcs(shaded, [byEdge(-1), byEdge(1)], axis, asOpaque)
      for (const side of sides) {
        expect(Math.abs(tipOf(side) - tip)).toBeLessThan(1.5)
        // From there the way goes straight to the flank, and not by the edge.
        for (let i = 0; i < side.length; i += 2) {
          const [x, y] = [side[i]!, side[i + 1]!]
          if (y > foot - 60 && Math.abs(x - cx) < 0.85 * end)
            expect(Math.abs(y - ringAt(x, end, foot))).toBeLessThan(2)
          expect(Math.abs(x - cx)).toBeLessThan(wide + 1)
        }
      }
    })

    it('stay at an edge below which nothing is seen', () => {
      const plain = paint(500, 500, (x, y) => Math.max(Math.abs(x - cx) - wide, y - ringAt(x, wide, foot - chamfer)), { inside: () => [0.6, 0.6, 0.6], outside: () => [0.19, 0.19, 0.19] }) // prettier-ignore
      const before = [byEdge(-1), byEdge(1)] as const
      const { sides } = withClosingArcs(plain, before, axis, asOpaque)
      for (const side of sides) expect(Math.abs(tipOf(side) - (foot - chamfer + rise))).toBeLessThan(1)
    })
  })

  it('aren’t lines in the backdrop beyond the piece, as wide as it is, that compressing left there', () => {
    const light = (v: number) => [v, v, v]
    // Three codes lighter within a block's height of the foot.
    const blocky = paint(500, 500, (x, y) => Math.max(Math.abs(x - cx) - wide, y - ringAt(x, wide, foot)), {
      inside: () => light(0.08),
      outside: (x, y) => light(Math.abs(x - cx) < wide && y < foot + rise + 9 ? 0.522 : 0.5),
      grain: 0,
    })
    const exact = [found(-1, () => 0), found(1, () => 0)] as const
    const blank = paint(500, 500, () => 50, { outside: () => light(0.5), grain: 0 })
    const { backdrop } = pieceEvidence(reduceToLab(blank, 2))
    expect(backdrop).not.toBeNull()
    const { sides } = withClosingArcs(blocky, exact, axis, { ...asOpaque, backdrop })
    for (const side of sides) expect(Math.abs(tipOf(side) - (foot + rise))).toBeLessThan(1)
    // Who doesn't know the backdrop can't tell.
    const blind = withClosingArcs(blocky, exact, axis, asOpaque)
    for (const side of blind.sides) expect(tipOf(side)).toBeGreaterThan(foot + rise + 5)
  })

  it('don’t take a crease above the foot for it, where the backdrop’s colour begins only below', () => {
    const crease = 14
    const soft = 6
    const grey = (x: number, y: number) => [1, 1, 1].map((v) => v * (y < ringAt(x, wide, foot - crease) ? 0.6 : 0.17)) // prettier-ignore
    const piece = paint(
      500,
      500,
      (x, y) => Math.max(Math.abs(x - cx) - wide, (y - ringAt(x, wide, foot)) / soft),
      {
        inside: grey,
        // Nearly as light as what lies below the crease, of another hue, and its border is soft.
        outside: () => [0.24, 0.147, 0.23],
      },
    )
    const { backdrop } = pieceEvidence(reduceToLab(piece, 1))
    const ways = [found(-1, () => 0), found(1, () => 0)] as const
    const tipsBy = (known: typeof backdrop) =>
      withClosingArcs(piece, ways, axis, { ...asOpaque, backdrop: known }).sides.map(tipOf)
    for (const tip of tipsBy(backdrop)) expect(Math.abs(tip - (foot + rise))).toBeLessThan(0.5)
    // By lightness alone it looks like the end.
    for (const tip of tipsBy(null)) expect(Math.abs(tip - (foot - crease + rise))).toBeLessThan(1)
  })

  it('don’t take a shade’s soft border below the foot for it', () => {
    const below = 12
    const ring = (x: number) => ringAt(x, wide, foot)
    const grey = (v: number) => [v, v, v]
    const shaded = paint(500, 500, (x, y) => Math.max(Math.abs(x - cx) - wide, y - ring(x)), {
      inside: () => grey(0.2),
      // About as wide as the piece, and much darker than the floor.
      outside: (x, y) => {
        const off = Math.max(Math.abs(x - cx) - wide, y - ring(x) - below, foot - 40 - y)
        return grey(0.5 * (1 - 0.85 / (1 + Math.exp(off / 2))))
      },
    })
    const { backdrop } = pieceEvidence(reduceToLab(shaded, 2))
    // Beside the corners the way is the piece's.
    const off = (u: number) => (u < 0.9 ? below : 0)
    const asShade = [found(-1, off), found(1, off)] as const
    for (const known of [backdrop, null]) {
      const { sides } = withClosingArcs(shaded, asShade, axis, { ...asOpaque, backdrop: known })
      for (const side of sides) expect(Math.abs(tipOf(side) - (foot + rise))).toBeLessThan(1)
    }
  })

  describe('in a shadow as dark as they are', () => {
    const red = [0.08, 0.03, 0.025]
    const shadow = [0.045, 0.045, 0.045]
    const floor = [0.45, 0.45, 0.45]
    const ring = (x: number) => ringAt(x, wide, foot)
    /** How far below the ring the shadow reaches: lumpy. */
    const lumps = (x: number) => 6 + 3 * Math.sin(x / 9) + 2 * Math.sin(x / 23)
    const piece = paint(500, 500, (x, y) => Math.max(Math.abs(x - cx) - wide, y - ring(x)), {
      inside: () => red,
      outside: (x, y) =>
        Math.abs(x - cx) < wide && y - ring(x) < lumps(x) && y > foot - 20 ? shadow : floor,
    })
    const { backdrop } = pieceEvidence(reduceToLab(piece, 1))
    const way = (side: 1 | -1) => found(side, (u) => lumps(cx + side * wide * u))

    it('are told by their colour where their edge wanders', () => {
      const closed = withClosingArcs(piece, [way(-1), way(1)], axis, { ...asOpaque, backdrop })
      for (const side of closed.sides) expect(Math.abs(tipOf(side) - (foot + rise))).toBeLessThan(1.5)
      expect(closed.parts({ x: cx + 20, y: ring(cx + 20) })).toBe(true)
      expect(closed.parts({ x: cx + 20, y: ring(cx + 20) - 40 })).toBe(false)
    })

    it('stay where they are found when nobody knows the backdrop', () => {
      const before = [way(-1), way(1)] as const
      const closed = withClosingArcs(piece, before, axis, asOpaque)
      closed.sides.forEach((side, k) => expect(side).toBe(before[k]))
    })

    it('keep the outline off the shadow’s border beside them', () => {
      const points = Float64Array.from({ length: 40 }, (_, i) =>
        i % 2 ? foot + rise : cx + 2 * (i >> 1) - 20,
      )
      const normals = Float64Array.from({ length: 40 }, (_, i) => i % 2)
      const band = edgeBand(piece, points, normals, { reach: 8, blur: 0.7, step: 0.5 })
      const worth = new Float32Array(band.count * band.places)
      const only = (i: number) => i < 10
      leaveShadow(worth, piece, { points, normals, band }, { backdrop: backdrop!, blur: 0.7, parted: only })
      const at = (row: number, px: number) =>
        worth[row * band.places + (band.places - 1) / 2 + px / band.step]!
      expect(at(5, 4)).toBeLessThan(at(5, 0) - 5)
      expect(at(5, 0)).toBeGreaterThan(-3)
      expect(at(15, 4)).toBe(0)
    })
  })

  it('a step answers once, with no twin on either side', () => {
    const points = Float64Array.of(cx, foot + rise, cx + 4, foot + rise)
    const options = { reach: 12, blur: 0.7, step: 0.5 }
    const normals = Float64Array.of(0, 1, 0, 1)
    const strongest = (alone: boolean, from: number) => {
      const { strength, places } = edgeBand(solid, points, normals, { ...options, alone })
      const middle = (places - 1) / 2
      const beside = Array.from(strength.subarray(0, places)).filter((_, k) => Math.abs(k - middle) >= from)
      return Math.max(...beside) / strength[middle]!
    }
    // Within the filter's window, 3 px aside, it answers with half of it.
    expect(strongest(false, 4)).toBeGreaterThan(0.4)
    expect(strongest(true, 4)).toBeLessThan(0.1)
  })
})

describe('ends of the outline', () => {
  const side = (open: boolean): OutlineSide => ({
    points: new Float64Array(400),
    sd: new Float64Array(200).map((_, i) => (open && i < 16 ? Infinity : 0.05)),
    blur: 1,
  })

  it('are guesses where hardly an edge closes them, on the two sides together', () => {
    expect(openEnds([side(true), side(true)])).toEqual(['foot'])
    expect(openEnds([side(true), side(false)])).toEqual([])
    expect(openEndWords('foot')).toContain('at its foot')
  })

  it('that are open are led on straight to a ring that lies beyond, corners and all', () => {
    // A tumbler that widens downwards by 2 %, and ways that were closed by a line 14 px short of its corners.
    const halfAt = (y: number) => wide + 0.02 * (y - foot)
    const cup = (x: number, y: number) => Math.max(Math.abs(x - cx) - halfAt(y), outer(x, y))
    const raster = paint(500, 500, cup, { outside: () => [0.5, 0.5, 0.5] })
    const short = (side: -1 | 1): Float64Array => {
      const out: number[] = []
      for (let u = 0; u < halfAt(foot - 14) - 4; u += 2) out.push(cx + side * u, foot - 14)
      for (let y = foot - 20; y > 60; y -= 2) out.push(cx + side * halfAt(y), y)
      return Float64Array.from([...out, cx, 60])
    }
    const options = { blur: 0.7, step: 2, clear: false, backdrop: null }
    const ways = [short(-1), short(1)] as const
    const { sides } = withClosingArcs(raster, ways, axis, { ...options, open: ['foot'] })
    for (const side of sides) {
      expect(Math.abs(tipOf(side) - (foot + rise))).toBeLessThan(1.5)
      // Down to its corners, and up its side; over the top the line is as it was.
      for (let i = 0; side[i + 1]! > foot - 300; i += 2)
        expect(Math.abs(cup(side[i]!, side[i + 1]!))).toBeLessThan(2)
    }
    expect(withClosingArcs(raster, ways, axis, { ...options, open: ['top'] }).sides).toEqual([...ways])
  })

  it('that are open aren’t led on to a ring that no side leads to', () => {
    // A post whose foot is lost in the floor, and farther down an arc in the floor's grain, clearer than the foot.
    const grain = under(foot + 34, wide - 6, 3)
    const post = (x: number, y: number) => Math.max(Math.abs(x - cx) - wide, outer(x, y))
    const raster = paint(500, 500, post, {
      inside: (_, y) => (y < foot - 30 ? [0.2, 0.2, 0.2] : [0.45, 0.45, 0.45]),
      outside: (x, y) => (grain(x, y) > 0 && Math.abs(x - cx) < wide ? [0.2, 0.2, 0.2] : [0.5, 0.5, 0.5]),
      grain: 0.3,
    })
    const half = (side: -1 | 1): Float64Array => {
      const out: number[] = []
      for (let u = 0; u < wide; u += 2) out.push(cx + side * u, foot - 4)
      for (let y = foot - 6; y > 60; y -= 2) out.push(cx + side * wide, y)
      return Float64Array.from([...out, cx, 60])
    }
    const options = { blur: 0.7, step: 2, clear: false, backdrop: null, open: ['foot' as const] }
    const { sides } = withClosingArcs(raster, [half(-1), half(1)], axis, options)
    for (const side of sides) expect(Math.abs(tipOf(side) - (foot + rise))).toBeLessThan(2)
  })

  it('one open is refused where much of the sides shows no edge either', () => {
    const half = (edge: number): OutlineSide => {
      const n = 200
      // Up a straight side and over a flat top; the lower part is a guess.
      const points = Float64Array.from({ length: 2 * n }, (_, i) => (i % 2 ? 900 - 4 * (i >> 1) : edge))
      return { points, sd: new Float64Array(n).map((_, i) => (i < 70 ? Infinity : 0.05)), blur: 1 }
    }
    const sides = [half(200), half(300)] as [OutlineSide, OutlineSide]
    const mirror = fitMirror(seen(sides[0]), seen(sides[1]), { at: { x: 250, y: 450 }, up: { x: 0, y: -1 } })!
    expect(() => requireLikeness(sides, mirror)).toThrow(/Only 65 % .* hardly one closes it at its foot/)
    const fewer = sides.map((s) => ({ ...s, sd: s.sd.map((v, i) => (i < 30 ? v : 0.05)) }))
    expect(() => requireLikeness(fewer as [OutlineSide, OutlineSide], mirror)).not.toThrow()
  })

  it('both open are refused: what was found may be a part of the piece', () => {
    // A grey post that fades into the backdrop above and below: two sides, and nothing that closes them.
    const post = paint(500, 900, (x) => Math.abs(x - 250) - 60, {
      inside: (_, y) => {
        const v = 0.5 - 0.35 * Math.min(1, Math.max(0, (Math.min(y, 900 - y) - 150) / 150))
        return [v, v, v]
      },
      outside: () => [0.5, 0.5, 0.5],
    })
    expect(() => findOutline(post)).toThrow(/foot or at the top|doesn’t look like one round piece/)
  })
})
