import { describe, expect, it } from 'vitest'
import type { AxisLine } from './axis-line'
import { resample } from './chain'
import { withLostFlanks } from './lost-flanks'
import type { OutlineSide } from './refine'
import { paint } from './test-pictures'

const AT = 250.5
const [TOP, SHOULDER, FOOT] = [90, 190, 440]
/** Half-widths of the body and of the lid on it, px; the way found runs along the lid's middle, as far as it has one. */
const [BODY, LID, WITHIN] = [110, 130, 95]
const axis: AxisLine = { at: { x: AT, y: FOOT }, up: { x: 0, y: -1 } }

const jar = (x: number, y: number) =>
  Math.max(Math.abs(x - AT) - (y < SHOULDER ? LID : BODY), TOP - y, y - FOOT)
const WALL = [0.5, 0.48, 0.44]
const LIGHT = [0.3, 0.22, 0.15]

/** Both sides along the body and its lid, but within the lid, where a side shows no edge unless it is said to. */
function passedBy(seen: readonly ('left' | 'right')[] = []): [OutlineSide, OutlineSide] {
  const sides = (['left', 'right'] as const).map((name): OutlineSide => {
    const x = (u: number) => AT + (name === 'left' ? -u : u)
    const way = [x(0), FOOT, x(BODY), FOOT, x(BODY), SHOULDER, x(WITHIN), SHOULDER, x(WITHIN), TOP, x(0), TOP]
    const points = resample(way, 2)
    const sd = Float64Array.from({ length: points.length / 2 }, (_, i) => {
      const [u, y] = [Math.abs(points[2 * i]! - AT), points[2 * i + 1]!]
      const isLost = y <= SHOULDER && y > TOP + 1 && u > WITHIN - 5
      return isLost && !seen.includes(name) ? Infinity : 0.05
    })
    return { points, sd, blur: 0.7 }
  })
  return sides as [OutlineSide, OutlineSide]
}

const look = (raster: ReturnType<typeof paint>, sides = passedBy()) =>
  withLostFlanks(raster, sides, axis, { blur: 0.7, step: 2 })

/** Half-widths of a chain where the lid stands, without its ends. */
const alongLid = (chain: Float64Array) =>
  Array.from(
    { length: chain.length / 2 },
    (_, i) => [Math.abs(chain[2 * i]! - AT), chain[2 * i + 1]!] as const,
  )
    .filter(([u, y]) => y > TOP + 10 && y < SHOULDER - 10 && u > BODY / 2)
    .map(([u]) => u)

type Colours = (x: number, y: number) => number[]
const photo = (outside: Colours = () => WALL, inside: Colours = () => LIGHT) =>
  paint(500, 500, jar, { inside, outside, grain: 1.5 })

describe('a flank that is passed by', () => {
  it('is found where both sides show it, and neither shows the way that was found', () => {
    const chains = look(photo())
    for (const chain of chains!) {
      const widths = alongLid(chain)
      expect(widths.length).toBeGreaterThan(30)
      for (const u of widths) expect(Math.abs(u - LID)).toBeLessThan(1.5)
      // The body stays, and so does what closes the ends.
      const body = Array.from(chain).filter((_, i) => i % 2 === 0 && chain[i + 1]! > SHOULDER + 5)
      expect(Math.max(...body.map((x) => Math.abs(x - AT)))).toBeCloseTo(BODY, 0)
      expect([chain[0], chain[1], chain.at(-2), chain.at(-1)]).toEqual([AT, FOOT, AT, TOP])
    }
  })

  it('is found where one side sees a painted line instead', () => {
    const painted = (x: number) => (Math.abs(x - AT) < WITHIN ? LIGHT : [0.1, 0.08, 0.06])
    const raster = photo(undefined, painted)
    // No wider than the body below it.
    const wide = passedBy(['left']).map((side) => ({
      ...side,
      points: side.points.map((c, i) =>
        i % 2 || side.points[i + 1]! <= SHOULDER ? c : AT + (c - AT) * (LID / BODY),
      ),
    })) as [OutlineSide, OutlineSide]
    for (const chain of look(raster, wide)!) {
      const widths = alongLid(chain)
      expect(widths.length).toBeGreaterThan(30)
      for (const u of widths) expect(Math.abs(u - LID)).toBeLessThan(1.5)
    }
  })

  it('is found where both sides see painted lines, if they leap to them and back without an edge', () => {
    const [from, to] = [250, 330]
    const drum = (x: number, y: number) => Math.max(Math.abs(x - AT) - BODY, TOP - y, y - FOOT)
    const painted = (x: number) => (Math.abs(x - AT) < WITHIN ? LIGHT : [0.1, 0.08, 0.06])
    const raster = paint(500, 500, drum, { inside: painted, outside: () => WALL, grain: 1.5 })
    const sides = [-1, 1].map((side): OutlineSide => {
      const way = [0, FOOT, BODY, FOOT, BODY, to, WITHIN, to, WITHIN, from, BODY, from, BODY, TOP, 0, TOP]
      const points = resample(way.map((c, i) => (i % 2 ? c : AT + side * c)), 2) // prettier-ignore
      const isLevel = (y: number) => Math.min(Math.abs(y - from), Math.abs(y - to)) < 2
      return { points, sd: Float64Array.from({ length: points.length / 2 }, (_, i) => (isLevel(points[2 * i + 1]!) ? Infinity : 0.05)), blur: 0.7 } // prettier-ignore
    }) as [OutlineSide, OutlineSide]
    for (const chain of look(raster, sides)!) {
      const notch = Array.from(chain).filter(
        (_, i) => i % 2 === 0 && chain[i + 1]! > from + 5 && chain[i + 1]! < to - 5,
      )
      expect(notch.length).toBeGreaterThan(25)
      for (const x of notch) expect(Math.abs(Math.abs(x - AT) - BODY)).toBeLessThan(1.5)
    }
    const joined = sides.map((side) => ({ ...side, sd: side.sd.map(() => 0.05) })) as [
      OutlineSide,
      OutlineSide,
    ]
    expect(look(raster, joined)).toBeNull()
  })

  it('isn’t looked for where an edge is seen on both sides', () => {
    expect(look(photo(), passedBy(['left', 'right']))).toBeNull()
  })

  it('is none where one side alone shows an edge, or where a line of the backdrop runs on beyond it', () => {
    const bare = (x: number, y: number) => Math.max(Math.abs(x - AT) - WITHIN, TOP - y, y - FOOT)
    const lines = (at: readonly number[]) => (x: number) =>
      at.some((u) => Math.abs(x - AT - u) < 6) ? [0.2, 0.2, 0.2] : WALL
    const before = (outside: (x: number, y: number) => number[]) =>
      look(paint(500, 500, bare, { outside, inside: () => WALL, grain: 1.5 }))
    const short = (at: readonly number[]) => (x: number, y: number) =>
      y > TOP && y < SHOULDER ? lines(at)(x) : WALL
    expect(before(short([LID]))).toBeNull()
    expect(before(lines([-LID, LID]))).toBeNull()
    // It is neither one side's edge nor a line that keeps these from being flanks.
    expect(before(short([-LID, LID]))).not.toBeNull()
  })
})
