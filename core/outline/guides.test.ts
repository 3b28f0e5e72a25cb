import { describe, expect, it } from 'vitest'
import { findOutline } from './find-outline'
import { NO_GUIDES, withoutPaintedEdges, type OutlineGuides } from './guides'
import { paint } from './test-pictures'

const AXIS = 400
/** Where the piece's foot and its top are level with the axis, px. */
const [FOOT, TOP] = [760, 150]
/** Half-axes of an ellipse: a ring seen from above. */
const [A, B] = [130, 26]
/** Of the flat disc that it stands on. */
const [MAT_A, MAT_B, MAT_DOWN] = [175, 35, 5]

/** A pot that widens upwards and stands on a disc about as dark as it is, of which more than its foot is seen. */
function potOnMat(size = 1) {
  const half = (y: number) => A + 0.1 * (FOOT - y)
  const ellipse = (x: number, y: number, a: number, b: number) =>
    (Math.hypot((x - AXIS) / a, y / b) - 1) * Math.min(a, b)
  const pot = (x: number, y: number) => {
    if (y > FOOT) return ellipse(x, y - FOOT, A, B)
    return Math.max(Math.abs(x - AXIS) - half(y), TOP - y)
  }
  const mat = (x: number, y: number) => ellipse(x, y - FOOT - MAT_DOWN, MAT_A, MAT_B)
  return paint(
    800 * size,
    1000 * size,
    (x, y) => size * Math.min(pot(x / size, y / size), mat(x / size, y / size)),
    {
      inside: (x, y) => {
        const cover = 1 / (1 + Math.exp(2.4 * size * pot(x / size, y / size)))
        return [0.12, 0.07, 0.04].map((v, k) => cover * v + (1 - cover) * [0.2, 0.13, 0.1][k]!)
      },
    },
  )
}

const NEAR_EDGE = FOOT + MAT_DOWN + MAT_B
/** Strokes along what shows of the disc before and beside the foot, with a brush so wide that it covers it for the most part. */
function paintedMat(size: number): OutlineGuides {
  const arc = Array.from({ length: 41 }, (_, i) => {
    const a = Math.PI * (i / 40)
    const [ra, rb] = [MAT_A - 6, MAT_B - 2]
    return { x: size * (AXIS + ra * Math.cos(a)), y: size * (FOOT + MAT_DOWN + rb * Math.sin(a)) }
  })
  return { ...NO_GUIDES, backdrop: [{ points: arc, radius: 9 * size }] }
}

const lowest = (guides: OutlineGuides | null, size = 1) => {
  const { left, right } = findOutline(potOnMat(size), { guides })
  return Math.max(left.points[1]!, right.points[1]!) / size
}

describe('what is painted', () => {
  it('binds the last fits as well: the edge of a disc under the foot that was painted as backdrop doesn’t close it', () => {
    expect(Math.abs(lowest(null) - NEAR_EDGE)).toBeLessThan(1)
    expect(Math.abs(lowest(paintedMat(1)) - (FOOT + B))).toBeLessThan(1)
  })

  it('binds them in a picture that is looked through enlarged, too', () => {
    expect(Math.abs(lowest(paintedMat(0.75), 0.75) - (FOOT + B))).toBeLessThan(1)
  })

  it('takes no edges away but within its strokes, by more than a hand is off', () => {
    const raster = potOnMat()
    expect(withoutPaintedEdges(raster, null)).toBe(raster)
    expect(withoutPaintedEdges(raster, { ...NO_GUIDES, marks: [{ x: 400, y: 700 }] })).toBe(raster)
    const stroke = { points: [{ x: 200, y: 500 }, { x: 240, y: 500 }], radius: 9 } // prettier-ignore
    for (const what of ['piece', 'backdrop'] as const) {
      const { edgeless } = withoutPaintedEdges(raster, { ...NO_GUIDES, [what]: [stroke] })
      const at = (x: number, y: number) => edgeless![y * raster.width + x]
      expect([at(220, 500), at(220, 505), at(220, 507), at(260, 500)]).toEqual([1, 1, 0, 0])
    }
  })
})
