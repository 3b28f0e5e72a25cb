import type { Raster } from '../picture/raster'
import { toOklab } from '../picture/reduce'
import { addLight } from '../picture/sample'
import { movedAxis, placeAt, type AxisLine } from './axis-line'

/** A strip is no deeper than this, px, touches the edge to within that, and the floor is looked at over so many px beside it. */
const DEEPEST_PX = 12
const TOUCHES_PX = 2
const FLOOR_PX = 3
/** It stands out from the floor on either side by this much more than they do from each other (OKLab). */
const LEAST_CONTRAST = 0.012
const MORE_THAN_FLOOR = 1
/** … at its first and last px too, where so much of what differs most does, and so much of that within a few px: a shadow's border is soft. */
const OF_MOST = 0.1
const SHARP = 0.6
/** What is as deep as this share of what is looked at goes on beyond: a shadow. */
const GOES_ON = 0.9
/** Its edges are soft over so many px of the picture itself. */
export const SOFT_PX = 2

/** A straight strip across a picture, px. */
export interface Strip {
  line: AxisLine
  /** It lies between so far inwards of the line, towards the piece, negative outwards. */
  ends: number
  starts: number
  /** How much it differs from the floor on either side, summed over the px across it. */
  excess: number
}

/** From and to along a line, px. */
export type Way = readonly [from: number, to: number]
/** OKLab, and how much the light changes along the way (rms, as if its root). */
type Colour = readonly [number, number, number, number]

/** The line is told to half a step of its lean; such ones are tried about it. */
const LEANS = [-0.003, -0.002, -0.001, 0, 0.001, 0.002, 0.003]

/** The clearest strip that touches a line, which may lean a little more or less. Full px. */
export function clearestStrip(
  raster: Raster,
  line: AxisLine,
  inwards: 1 | -1,
  ways: readonly Way[],
  factor: number,
): Strip | null {
  let best: Strip | null = null
  if (ways.length === 0) return best
  for (const lean of LEANS) {
    const leaning = movedAxis(line, 0, lean)
    const strip = stripAt(raster, leaning, inwards, ways, factor)
    if (strip && strip.excess > (best?.excess ?? 0)) best = { ...strip, line: leaning }
  }
  return best
}

/** A strip is followed in steps of so many px; it ends where it differs from the floor by less than this share of what it does elsewhere … */
const FOLLOW_PX = 8
const STILL = 0.4
/** … in so many steps one after another. */
const MISSES = 2

/** How far along its line a strip goes on from a place beside the piece, towards the lower or higher end, as far as the picture goes. Full px. */
export function endOfStrip(
  raster: Raster,
  { line, ends, starts, excess }: Strip,
  inwards: 1 | -1,
  [from, towards]: readonly [number, 1 | -1],
  factor: number,
): number {
  const floor = Math.round(FLOOR_PX * factor)
  const reach = Math.max(-ends, starts) + SOFT_PX + floor + 1
  const inPicture = (v: number) => {
    const { x, y } = placeAt(line, (inwards * (ends + starts)) / 2, v)
    return x >= 0 && y >= 0 && x < raster.width && y < raster.height
  }
  const offs: number[] = []
  for (let v = from; inPicture(v + towards * FOLLOW_PX); v += towards * FOLLOW_PX) {
    const next = v + towards * FOLLOW_PX
    const colours = lightAcross(raster, line, inwards, [Math.min(v, next), Math.max(v, next)], reach)
    const bar = meanOf(colours, ends + reach, starts + reach)
    const before = meanOf(colours, ends + reach - SOFT_PX - floor, ends + reach - SOFT_PX)
    offs.push(distance(bar, before))
  }
  const usual = excess / (starts - ends)
  const isOver = (k: number) => offs.slice(k, k + MISSES).every((off) => off < STILL * usual)
  const steps = offs.findIndex((_, k) => k + MISSES <= offs.length && isOver(k))
  return from + towards * FOLLOW_PX * (steps < 0 ? offs.length + 1 : steps)
}

/** Mean colours (OKLab) along a way, at each px from so far outwards of a line to so far inwards. */
function lightAcross(
  raster: Raster,
  line: AxisLine,
  inwards: 1 | -1,
  [from, to]: Way,
  reach: number,
): Colour[] {
  const count = 2 * reach + 1
  const light = new Float32Array(3 * count)
  const one = new Float32Array(3 * count)
  const roots = new Float64Array(count)
  const squares = new Float64Array(count)
  const [dx, dy] = [-inwards * line.up.y, inwards * line.up.x]
  const rows = Math.max(1, Math.min(160, Math.round((to - from) / 2)))
  for (let k = 0; k < rows; k++) {
    const { x, y } = placeAt(line, -inwards * reach, from + ((k + 0.5) / rows) * (to - from))
    one.fill(0)
    addLight(raster, { x, y, dx, dy, count }, one)
    for (let i = 0; i < one.length; i++) light[i]! += one[i]!
    for (let i = 0; i < count; i++) {
      const root = Math.cbrt(one[count + i]!)
      roots[i]! += root
      squares[i]! += root * root
    }
  }
  const [l, a, b] = [new Float32Array(1), new Float32Array(1), new Float32Array(1)]
  return Array.from({ length: count }, (_, k): Colour => {
    toOklab(light[k]! / rows, light[count + k]! / rows, light[2 * count + k]! / rows, 0, l, a, b)
    return [l[0]!, a[0]!, b[0]!, Math.sqrt(Math.max(0, squares[k]! / rows - (roots[k]! / rows) ** 2))]
  })
}

/**
 * Where the strip begins and ends that touches a line, px inwards of it; null where what lies beside the line on the ways
 * isn't a strip before one floor, but where two grounds meet.
 */
function stripAt(
  raster: Raster,
  line: AxisLine,
  inwards: 1 | -1,
  ways: readonly Way[],
  factor: number,
): Omit<Strip, 'line'> | null {
  const [deepest, touches, floor] = [DEEPEST_PX, TOUCHES_PX, FLOOR_PX].map((px) =>
    Math.round(px * factor),
  ) as [number, number, number]
  const reach = deepest + touches + floor + SOFT_PX + 1
  const each = ways.map((way) => lightAcross(raster, line, inwards, way, reach))
  const at = (u: number) => u + reach
  let best = { ends: 0, starts: 0, excess: 0 }
  for (let ends = -deepest; ends <= touches; ends++)
    for (let starts = Math.max(ends + 2, -touches); starts <= Math.min(ends + deepest, deepest); starts++) {
      const excess = Math.min(
        ...each.map((colours) => excessOf(colours, { ends: at(ends), starts: at(starts), floor })),
      )
      if (excess > best.excess) best = { ends, starts, excess }
    }
  return best.excess > 0 && best.starts - best.ends < GOES_ON * deepest ? best : null
}

/**
 * How much what lies between two places of a profile differs from the floor, summed over its px, beyond what the floor on its two sides
 * differs itself; its own first and last px must.
 */
function excessOf(
  colours: readonly Colour[],
  { ends, starts, floor }: { ends: number; starts: number; floor: number },
): number {
  const inner = meanOf(colours, starts + SOFT_PX, starts + SOFT_PX + floor)
  const outer = meanOf(colours, ends - SOFT_PX - floor, ends - SOFT_PX)
  const least = Math.max(LEAST_CONTRAST, MORE_THAN_FLOOR * distance(inner, outer))
  const ground = inner.map((v, c) => (v + outer[c]!) / 2) as unknown as Colour
  const off = (k: number) => distance(colours[k]!, ground)
  const border = Math.min(off(ends), off(starts - 1))
  if (border < least) return 0
  const stepAt = (k: number) => distance(colours[k + SOFT_PX]!, colours[k - SOFT_PX - 1]!)
  if (stepAt(ends) < SHARP * off(ends + 1) || stepAt(starts) < SHARP * off(starts - 2)) return 0
  let sum = 0
  for (let k = ends; k < starts; k++) {
    const here = off(k)
    if (border < OF_MOST * here) return 0
    sum += here - least
  }
  return sum
}

function meanOf(colours: readonly Colour[], from: number, to: number): Colour {
  const sum: [number, number, number, number] = [0, 0, 0, 0]
  for (let k = from; k < to; k++) colours[k]!.forEach((v, c) => (sum[c]! += v / (to - from)))
  return sum
}

const distance = (p: Colour, q: Colour) => Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2], p[3] - q[3])
