import { boundsOf, type Bounds } from './bounds'
import type { DrawnRun } from './drawn-lines'
import { inkTest, isWithin, middleColour, minus, sizeOf, type Ink } from './inks'
import type { Raster } from './raster'
import { countAbout, eachRegion } from './regions'

/** So many px lie between the letters of a word. */
const LETTERS_APART = 3
/** Small marks stand before what is alike nearly all round, to so many codes, and differs from the ink by so much of what its lines' ground does. */
const EVEN_GROUND = 20
const MOSTLY = 0.7
const OFF_GROUND = 0.5

/** How large what goes with an ink's lines may be, px: how far off, how high, how long; and where a thing goes on out of sight. */
export interface SmallAs {
  away: number
  high: number
  long: number
  goesOn?: (bounds: Bounds) => boolean
  /** So far it goes from its ground's colour to the ink's, at least; as `inkTest` has it where nothing is said. */
  leastShare?: number
}

/** Adds what has an ink's colour, is small, and stands free near its lines: arrowheads, figures, single letters. */
export function addSmall(
  picture: Raster,
  { colour, off, lines }: Ink,
  drawn: Uint8Array,
  { away, high, long, goesOn = () => false, leastShare }: SmallAs,
): void {
  const { width, data } = picture
  const besideLines = countAbout(drawn, width, 1)
  const inked = new Uint8Array(drawn.length)
  const isInk = inkTest(data, { colour, off }, leastShare)
  for (let i = 0; i < inked.length; i++) if (besideLines[i] === 0 && isInk(i)) inked[i] = 1
  // The letters of a word are one thing.
  const joined = Uint8Array.from(countAbout(inked, width, LETTERS_APART), Math.sign)
  eachRegion(joined, width, 1, (places) => {
    const bounds = boundsOf(places, width)
    const [w, h] = [bounds.right - bounds.left, bounds.bottom - bounds.top]
    if (Math.max(w, h) > long || Math.min(w, h) > high || goesOn(bounds)) return
    if (!lines.some((line) => awayFrom(line, bounds) <= away)) return
    if (!standsFree(picture, bounds, inked, { colour, off })) return
    for (const i of places) if (inked[i]) drawn[i] = 1
  })
}

/** How far bounds lie from a line, px. */
export function awayFrom({ isLevel, at, from, to }: DrawnRun, { left, right, top, bottom }: Bounds): number {
  const gap = (low: number, high: number, first: number, last: number) =>
    Math.max(0, first - high, low - last)
  return isLevel
    ? Math.hypot(gap(left, right, from, to), gap(top, bottom, at, at))
    : Math.hypot(gap(left, right, at, at), gap(top, bottom, from, to))
}

/** Whether most of what lies all round bounds is of one colour, which isn't the ink's: the piece's own parts lie beside the piece. */
function standsFree(
  { width, height, data }: Raster,
  { left, right, top, bottom }: Bounds,
  inked: Uint8Array,
  { colour, off }: Pick<Ink, 'colour' | 'off'>,
): boolean {
  const round: number[] = []
  const look = (x: number, y: number) => {
    const i = y * width + x
    if (x >= 0 && y >= 0 && x < width && y < height && !inked[i]) round.push(i)
  }
  for (let x = left - 1; x <= right + 1; x++) {
    look(x, top - 1)
    look(x, bottom + 1)
  }
  for (let y = top; y <= bottom; y++) {
    look(left - 1, y)
    look(right + 1, y)
  }
  if (round.length === 0) return false
  const ground = middleColour(data, round)
  const even = round.filter((i) => isWithin(data, i, ground, EVEN_GROUND))
  return even.length >= MOSTLY * round.length && sizeOf(minus(colour, ground)) >= OFF_GROUND * sizeOf(off)
}
