import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { reduceToLab } from '../picture/reduce'
import { sharpness } from '../picture/sharpness'
import { findOutline } from './find-outline'
import { withoutReflection } from './reflections'
import { stripAbout, type Silhouette } from './silhouette'
import { paint } from './test-pictures'

const [WIDTH, HEIGHT, MIDDLE, TOP, FOOT] = [300, 320, 150, 40, 230]
const PIECE = [0.1, 0.05, 0.04]
const FLOOR = [0.45, 0.44, 0.42]
const axis = { at: { x: MIDDLE, y: 0 }, up: { x: 0, y: -1 } }

/** Half-width of the piece so many rows above its foot. */
const halfAt = (above: number) => 45 + 12 * Math.sin(above / 22)
const mixed = (share: number, over: readonly number[]) => FLOOR.map((v, k) => v + share * (over[k]! - v))

interface Below {
  /** What is painted so many rows below the foot, of this half-width and colour. */
  half?: (below: number) => number
  colour?: (x: number, below: number) => number[]
  /** The lowest row of it. */
  end?: number
}

/** A piece on a floor, and below its foot what is asked for; by default nothing but floor. */
function scene({ half = () => 0, colour = () => FLOOR, end = HEIGHT + 10 }: Below = {}) {
  const width = (y: number) => (y < FOOT ? halfAt(FOOT - y) : half(y - FOOT))
  return paint(WIDTH, HEIGHT, (x, y) => Math.max(Math.abs(x - MIDDLE) - width(y), TOP - y, y - end), {
    inside: (x = 0, y = 0) => (y < FOOT ? PIECE : colour(x, y - FOOT)),
    outside: () => FLOOR,
    grain: 0.5,
  })
}

/** The silhouette of rows from the top to one before another. */
function silhouette(to: number, half = halfAt): Silhouette {
  const rows = Float32Array.from({ length: HEIGHT }, (_, y) =>
    y < TOP || y >= to ? 0 : Math.round(y < FOOT ? halfAt(FOOT - y) : half(y - FOOT)),
  )
  return { axis, top: 0, half: rows, edges: 1 }
}

function look(raster: ReturnType<typeof scene>, found: Silhouette, clear = false) {
  return withoutReflection(reduceToLab(raster, 1), stripAbout(sharpness(raster, 1), axis), found, clear)
}
const lastOf = ({ half }: Silhouette) => half.findLastIndex((r) => r > 0)

describe('the mirror image of a piece in a glossy floor', () => {
  it('is none of it, however strong it is, and though it fades (property)', () => {
    const strength = fc.double({ min: 0.12, max: 0.7, noNaN: true })
    fc.assert(
      fc.property(strength, fc.double({ min: 0, max: 1, noNaN: true }), (strong, fades) => {
        const colour = (_: number, below: number) => mixed(strong * (1 - (fades * below) / 150), PIECE)
        const found = silhouette(HEIGHT)
        const standing = look(scene({ half: halfAt, colour }), found)
        expect(standing.isMirrored).toBe(true)
        expect(Math.abs(lastOf(standing.silhouette) - (FOOT - 1))).toBeLessThanOrEqual(1)
        expect(standing.silhouette.half.subarray(0, FOOT - 2)).toEqual(found.half.subarray(0, FOOT - 2))
      }),
      { numRuns: 15 },
    )
  })

  it('is seen below a silhouette that ends at the foot', () => {
    const colour = () => mixed(0.3, PIECE)
    const { silhouette: standing, isMirrored } = look(scene({ half: halfAt, colour }), silhouette(FOOT))
    expect(isMirrored).toBe(true)
    expect(Math.abs(lastOf(standing) - (FOOT - 1))).toBeLessThanOrEqual(1)
  })

  it('is told from a spool, which is as strong below as above', () => {
    const found = silhouette(HEIGHT)
    const standing = look(scene({ half: halfAt, colour: () => PIECE }), found)
    expect(standing).toEqual({ silhouette: found, isMirrored: false })
  })

  it('is told from a lower half of another colour', () => {
    const found = silhouette(HEIGHT)
    const standing = look(scene({ half: halfAt, colour: () => [0.05, 0.2, 0.45] }), found)
    expect(standing).toEqual({ silhouette: found, isMirrored: false })
  })

  it('is told from a paler part that ends sooner, with an edge', () => {
    const found = silhouette(FOOT + 60)
    const raster = scene({ half: halfAt, colour: () => mixed(0.4, PIECE), end: FOOT + 60 })
    expect(look(raster, found)).toEqual({ silhouette: found, isMirrored: false })
  })

  it('is told from a part that narrows where the piece widens', () => {
    const narrows = (below: number) => 45 - 12 * Math.sin(below / 22)
    const found = silhouette(HEIGHT, narrows)
    const raster = scene({ half: narrows, colour: () => mixed(0.4, PIECE) })
    expect(look(raster, found)).toEqual({ silhouette: found, isMirrored: false })
  })

  it('is known of a clear piece by its fainter edges, whatever is seen in it', () => {
    // What shines through the image is as light as the floor in every other stripe.
    const striped = (_: number, below: number) => mixed(below % 12 < 6 ? 0.03 : 0.12, PIECE)
    const raster = scene({ half: halfAt, colour: striped })
    const found = silhouette(HEIGHT)
    expect(look(raster, found).isMirrored).toBe(false)
    const standing = look(raster, found, true)
    expect(standing.isMirrored).toBe(true)
    expect(Math.abs(lastOf(standing.silhouette) - (FOOT - 1))).toBeLessThanOrEqual(1)
    const spool = scene({ half: halfAt, colour: () => PIECE })
    expect(look(spool, found, true)).toEqual({ silhouette: found, isMirrored: false })
  })

  it('is told from a soft shadow in front of the piece', () => {
    const colour = (x: number, below: number) =>
      mixed(0.5 * Math.exp(-(((x - MIDDLE) / 38) ** 4)) * Math.exp(-below / 60), PIECE)
    const raster = scene({ half: () => 140, colour })
    const found = silhouette(FOOT)
    expect(look(raster, found)).toEqual({ silhouette: found, isMirrored: false })
  })

  it('leaves the outline its foot', () => {
    const colour = (_: number, below: number) => mixed(0.35 * (1 - below / 150), PIECE)
    const { left, right, mirrored } = findOutline(scene({ half: halfAt, colour }))
    expect(mirrored).toBe(true)
    for (const { points } of [left, right])
      expect(Math.abs(Math.max(...points.filter((_, i) => i % 2)) - FOOT)).toBeLessThan(0.5)
    expect(findOutline(scene()).mirrored).toBe(false)
  })

  it('is piece where somebody says so', () => {
    const colour = (_: number, below: number) => mixed(0.35 * (1 - below / 150), PIECE)
    const stroke = { points: [{ x: MIDDLE, y: FOOT + 30 }, { x: MIDDLE, y: FOOT + 50 }], radius: 8 } // prettier-ignore
    const guides = { piece: [stroke], backdrop: [], marks: [] }
    // … and then it goes on to the picture's border.
    expect(() => findOutline(scene({ half: halfAt, colour }), { guides })).toThrow(/reaches the border/)
    const above = { ...guides, piece: [{ ...stroke, points: [{ x: MIDDLE, y: FOOT - 60 }] }] }
    expect(findOutline(scene({ half: halfAt, colour }), { guides: above }).mirrored).toBe(true)
  })
})
