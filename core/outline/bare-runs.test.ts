import { describe, expect, it } from 'vitest'
import { reduceToLab } from '../picture/reduce'
import { bridgeBareRuns } from './bare-runs'
import { pieceEvidence } from './evidence'
import type { OutlineSide } from './refine'
import { paint } from './test-pictures'

const [cx, cy, radius] = [300, 320, 220]
const ball = (x: number, y: number) => Math.hypot(x - cx, y - cy) - radius
const grey = [0.2, 0.2, 0.2]
const wall = [0.5, 0.48, 0.44]

/** The right side from the foot upwards, 2 px apart, bulged by `away` px between two angles from the foot, where no edge was found. */
function side(away: (degrees: number) => number): OutlineSide {
  const points: number[] = []
  const sd: number[] = []
  for (let d = 0; d <= 180; d += 0.5) {
    const a = (d * Math.PI) / 180
    const out = away(d)
    points.push(cx + (radius + out) * Math.sin(a), cy + (radius + out) * Math.cos(a))
    sd.push(out === 0 ? 0.05 : Infinity)
  }
  return { points: Float64Array.from(points), sd: Float64Array.from(sd), blur: 0.7 }
}
const bulge = (most: number) => (d: number) =>
  d > 20 && d < 35 ? most * Math.sin(((d - 20) / 15) * Math.PI) : 0
const farthest = ({ points }: OutlineSide) =>
  Math.max(...Array.from({ length: points.length / 2 }, (_, i) => Math.abs(ball(points[2 * i]!, points[2 * i + 1]!)))) // prettier-ignore

describe('stretches along which no edge is seen', () => {
  /** Beside the ball a soft shadow as dark as the ball is, so that its edge is lost between 20° and 35°. */
  const shadow = (x: number, y: number) => {
    const angle = (Math.atan2(Math.abs(x - cx), y - cy) * 180) / Math.PI
    const share = Math.min(1, Math.max(0, (9 - Math.abs(angle - 27.5)) / 2)) * Math.min(1, Math.max(0, (40 - ball(x, y)) / 30)) // prettier-ignore
    return wall.map((v, k) => v + share * (grey[k]! - v))
  }
  const inShadow = paint(600, 600, ball, { inside: () => grey, outside: shadow })
  const options = { turn: 1 as const, blur: 0.7, step: 2, backdrop: null }

  it.each([8, -8])('are bridged between the edges beside them, off by %d px though they were', (most) => {
    const bulged = side(bulge(most))
    expect(farthest(bulged)).toBeGreaterThan(7)
    const out = bridgeBareRuns(inShadow, bulged, options)
    expect(farthest(out)).toBeLessThan(1.5)
    // The ends of the chain, and what was seen, are as they were; the bridge stands as unseen where nothing is.
    expect([...out.points.subarray(0, 40)]).toEqual([...bulged.points.subarray(0, 40)])
    expect(out.sd.filter((v) => !Number.isFinite(v)).length).toBeGreaterThan(10)
    const { backdrop } = pieceEvidence(reduceToLab(inShadow, 3))
    expect(farthest(bridgeBareRuns(inShadow, bulged, { ...options, backdrop }))).toBeLessThan(1.5)
  })

  it('are bridged where the way meanders far into the piece along what shows as well as the edge', () => {
    const stain = (x: number, y: number) => {
      const angle = (Math.atan2(x - cx, y - cy) * 180) / Math.PI
      const v = Math.abs(angle - 28) < 6 && ball(x, y) > -130 ? 0.33 : 0.3
      return [v, v, v]
    }
    const picture = paint(600, 600, ball, { inside: stain, outside: () => [0.355, 0.355, 0.355] })
    const whole = side(() => 0)
    const at = (d: number, away: number) => {
      const a = (d * Math.PI) / 180
      return [cx + (radius + away) * Math.sin(a), cy + (radius + away) * Math.cos(a)]
    }
    const way: number[] = []
    for (let deep = 0; deep < 130; deep += 2) way.push(...at(22, -deep))
    for (let d = 22; d < 34; d += 0.9) way.push(...at(d, -130))
    for (let deep = 130; deep > 0; deep -= 2) way.push(...at(34, -deep))
    const [from, to] = [44, 69]
    const points = Float64Array.from([
      ...whole.points.subarray(0, 2 * from),
      ...way,
      ...whole.points.subarray(2 * to),
    ])
    const sd = Float64Array.from({ length: points.length / 2 }, (_, i) => (i < from || i >= from + way.length / 2 ? 0.05 : Infinity)) // prettier-ignore
    expect(farthest(bridgeBareRuns(picture, { points, sd, blur: 0.7 }, options))).toBeLessThan(1.5)
  })

  it('follow the clear edge that their own side shows, round a corner too, which the other side led them past', () => {
    // Two roofs, one upside down below the other: their eaves reach as far out as the ball, nearly.
    const [eaves, lean] = [190, 0.5]
    const roof = (x: number, y: number) =>
      (Math.abs(x - cx) + lean * Math.abs(y - cy) - eaves) / Math.hypot(1, lean)
    const picture = paint(600, 600, roof, { inside: () => grey, outside: () => wall })
    const points: number[] = []
    const sd: number[] = []
    for (let s = -150; s <= 150; s += 2) {
      const isBare = Math.abs(s) < 30
      points.push(cx + eaves - lean * Math.abs(s) + (isBare ? 9 : 0), cy - s)
      sd.push(isBare ? Infinity : 0.05)
    }
    const bare = { points: Float64Array.from(points), sd: Float64Array.from(sd), blur: 0.7 }
    const off = ({ points: at }: OutlineSide) =>
      Math.max(...Array.from({ length: at.length / 2 }, (_, i) => Math.abs(roof(at[2 * i]!, at[2 * i + 1]!))))
    expect(off(bare)).toBeGreaterThan(6)
    const found = bridgeBareRuns(picture, bare, options)
    expect(off(found)).toBeLessThan(2)
    expect(found.sd.filter((v) => !Number.isFinite(v)).length).toBeLessThan(8)
  })

  it('are bridged over a few points that a shadow’s border shows, where the edge itself is clearer', () => {
    const plain = paint(600, 600, ball, { inside: () => grey, outside: () => wall })
    const bulged = side(bulge(8))
    for (let i = 51; i < 60; i++) bulged.sd[i] = 0.1
    expect(farthest(bridgeBareRuns(plain, bulged, options))).toBeLessThan(0.5)
    // Where no edge is seen anywhere, nothing says that these points are wrong; nor do many of them go.
    expect(farthest(bridgeBareRuns(inShadow, bulged, options))).toBeGreaterThan(7)
    for (let i = 47; i < 64; i++) bulged.sd[i] = 0.1
    expect(farthest(bridgeBareRuns(plain, bulged, options))).toBeGreaterThan(7)
  })

  it('stay where the picture shows an edge along them', () => {
    const bossed = (x: number, y: number) => {
      const angle = (Math.atan2(Math.abs(x - cx), y - cy) * 180) / Math.PI
      return ball(x, y) - (x > cx ? bulge(8)(angle) : 0)
    }
    const raster = paint(600, 600, bossed, { inside: () => grey, outside: () => wall })
    const found = side(bulge(8))
    expect(bridgeBareRuns(raster, found, options)).toEqual(found)
  })

  it('stay where the bridge would leave out what is clearly piece', () => {
    // A boss without a clear edge: it fades out into the wall, in a colour that no shadow has.
    const red = [0.4, 0.05, 0.03]
    const faded = (x: number, y: number) => {
      const angle = (Math.atan2(Math.abs(x - cx), y - cy) * 180) / Math.PI
      const over = ball(x, y) - (x > cx ? bulge(14)(angle) : 0)
      const share = ball(x, y) <= 0 ? 1 : Math.min(1, Math.max(0, (4 - over) / 8))
      return wall.map((v, k) => v + share * (red[k]! - v))
    }
    const raster = paint(600, 600, () => 1e3, { inside: () => red, outside: faded })
    const found = side(bulge(14))
    const { backdrop } = pieceEvidence(reduceToLab(raster, 3))
    expect(farthest(bridgeBareRuns(raster, found, { ...options, backdrop }))).toBeGreaterThan(12)
  })

  it('are left alone where the way is as good, where the ends turn into a corner, and where they are long', () => {
    for (const away of [bulge(2), (d: number) => (d > 40 && d < 120 ? 9 : 0), (d: number) => (d > 5 && d < 90 ? 9 : 0)]) {
      const found = side(away)
      expect(bridgeBareRuns(inShadow, found, options)).toEqual(found)
    } // prettier-ignore
  })
})
