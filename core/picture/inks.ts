import { upperMedian } from '../upper-median'
import { ASIDE, isBeside, isMet, placesOf, type DrawnRun } from './drawn-lines'
import type { Raster } from './raster'

/** So near a line, and so far beyond its ends, its ink may be seen purer, px: colours that go the same way from the ground's, by the cosine; … */
const NEAR = 8
const PURE = 20
const SAME_WAY = 0.96
/** … so many px show a stronger one, or this share of them: those are overshoots of the compression. */
const FEW = 6
const FEW_SHARE = 0.04
/** Inks that go the same way from their grounds' colours are one. */
const SAME_INK_WAY = 0.9
/** A real one's lines are so long together, px and as a share of the picture's longer side, and both level and upright, long ones or ones that meet: boards are of one kind, wood’s grain and a horizon don’t meet. */
const INK_LENGTH = 0.15
const INK_PX = 120
const LONG_LINE = 0.2
/** A px has an ink's colour to so many codes; where that is so far from its ground's, what goes this share of the way, and so little aside of it, counts as well. */
const SAME_INK = 50
const STRONG = 110
const LEAST_SHARE = 0.45
const MOST_ASIDE = 0.35

/** Red, green and blue, as bytes encode them. */
export type Colour = readonly [number, number, number]

/** An ink as it is seen beside a line: its colour, and how it differs from the ground's. */
export interface Ink {
  colour: Colour
  off: Colour
  /** What is drawn in it. */
  lines: DrawnRun[]
}

/** The colours that lines are drawn in; those that are blended of another one and the ground don't count. */
export function inksOf(picture: Raster, lines: readonly DrawnRun[]): Ink[] {
  const inks: Ink[] = []
  const seen = lines.map((line) => inkOf(picture, line)).sort((p, q) => sizeOf(q.off) - sizeOf(p.off))
  for (const ink of seen) {
    const goesSameWay = ({ off }: Ink) => dot(off, ink.off) >= SAME_INK_WAY * sizeOf(off) * sizeOf(ink.off)
    // Compression tints what lies beside a coloured line.
    const isTint = ({ lines: strong }: Ink) => strong.some((line) => isBeside(line, ink.lines[0]!))
    const same = inks.find((other) => goesSameWay(other) || isTint(other))
    if (same) same.lines.push(...ink.lines)
    else inks.push(ink)
  }
  const longer = Math.max(picture.width, picture.height)
  const least = Math.max(INK_PX, INK_LENGTH * longer)
  const lengthOf = (runs: readonly DrawnRun[]) => runs.reduce((sum, { from, to }) => sum + to - from, 0)
  return inks.filter(({ lines: all }) => {
    const hasLong = (isLevel: boolean) =>
      all.some((line) => line.isLevel === isLevel && line.to - line.from >= LONG_LINE * longer)
    const meet = () => all.some((line) => all.some((other) => isMet(line, other)))
    return lengthOf(all) >= least && ((hasLong(true) && hasLong(false)) || meet())
  })
}

/** The ink of a line. A thin one is blended with what lies beside it all along; at arrowheads and where lines meet it is seen pure. */
function inkOf({ width, height, data }: Raster, line: DrawnRun): Ink {
  const places = placesOf(line, width)
  const across = line.isLevel ? width : 1
  const ground = meanOf(
    places.flatMap((i) => [colourAt(data, i - ASIDE * across), colourAt(data, i + ASIDE * across)]),
  )
  const colour = meanOf(places.map((i) => colourAt(data, i)))
  const way = minus(colour, ground)
  const pure = [{ colour, off: way }]
  const length = line.isLevel ? width : height
  const longer = { ...line, from: Math.max(0, line.from - PURE), to: Math.min(length, line.to + PURE) }
  for (const i of placesOf(longer, width))
    for (let j = i - NEAR * across; j <= i + NEAR * across; j += across) {
      if (j < 0 || j >= width * height) continue
      const off = minus(colourAt(data, j), ground)
      const size = sizeOf(off)
      if (size >= sizeOf(way) && dot(off, way) >= SAME_WAY * size * sizeOf(way))
        pure.push({ colour: colourAt(data, j), off })
    }
  pure.sort((p, q) => sizeOf(q.off) - sizeOf(p.off))
  const rank = Math.min(pure.length - 1, Math.max(FEW, Math.round(FEW_SHARE * pure.length)))
  return { ...pure[rank]!, lines: [line] }
}

export const meanOf = (colours: readonly Colour[]): Colour => {
  const mean = (c: 0 | 1 | 2) => colours.reduce((sum, colour) => sum + colour[c], 0) / colours.length
  return [mean(0), mean(1), mean(2)]
}
export const minus = (p: Colour, q: Colour): Colour => [p[0] - q[0], p[1] - q[1], p[2] - q[2]]
export const dot = (p: Colour, q: Colour) => p[0] * q[0] + p[1] * q[1] + p[2] * q[2]
export const sizeOf = (p: Colour) => Math.sqrt(dot(p, p))

export const colourAt = (data: Raster['data'], i: number): Colour => [
  data[4 * i]!,
  data[4 * i + 1]!,
  data[4 * i + 2]!,
]

/** The colour in the middle of those of px, each of red, green and blue by itself. */
export function middleColour(data: Raster['data'], places: readonly number[]): Colour {
  const middle = (c: 0 | 1 | 2) => upperMedian(Float32Array.from(places, (i) => data[4 * i + c]!))
  return [middle(0), middle(1), middle(2)]
}

/** Tells px that have an ink's colour, or go as far from its ground's in about the same way: compression changes how strong a colour is. */
export function inkTest(
  data: Raster['data'],
  { colour, off }: Pick<Ink, 'colour' | 'off'>,
  leastShare = LEAST_SHARE,
): (i: number) => boolean {
  const ground = minus(colour, off)
  const square = dot(off, off)
  const isStrong = square >= STRONG ** 2
  return (i) => {
    if (isWithin(data, i, colour, SAME_INK)) return true
    if (!isStrong) return false
    const r = data[4 * i]! - ground[0]
    const g = data[4 * i + 1]! - ground[1]
    const b = data[4 * i + 2]! - ground[2]
    const share = (r * off[0] + g * off[1] + b * off[2]) / square
    return share >= leastShare && r * r + g * g + b * b - share * share * square <= MOST_ASIDE ** 2 * square
  }
}

export const isWithin = (data: Raster['data'], i: number, [r, g, b]: Colour, codes: number) =>
  Math.abs(data[4 * i]! - r) <= codes &&
  Math.abs(data[4 * i + 1]! - g) <= codes &&
  Math.abs(data[4 * i + 2]! - b) <= codes
