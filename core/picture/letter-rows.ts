import { upperMedian } from '../upper-median'
import { boundsOf, boundsOfAll, highOf, wideOf, type Bounds } from './bounds'
import { colourAt, isWithin, middleColour, minus, sizeOf, type Colour } from './inks'
import type { Raster } from './raster'
import { halved, halvedTo } from './reduce'
import { eachRegion } from './regions'
import { lightnessOf } from './tones'

/** Letters are looked for in copies no longer than this, px, and larger ones in copies half as long. */
const LONGEST = 800
/** Their strokes are narrower than seven px of such a copy, and differ from what lies about them by so many codes. */
const CONTRAST = 32
/** Letters, or a few that touch, are so high and so many times as wide at most. */
const LEAST_HIGH = 6
const MOST_HIGH = 26
const MOST_WIDE = 6
/** A picture with more things of that size is of nothing else: a pattern, foliage. */
const MOST_GLYPHS = 3000
/** Every so many rows of px are asked for letters; a row of px through some goes dark or light so often, each time within so many px. Whole letters lie within so many. */
const SCANNED = 3
const SWINGS = 7
const SWINGS_APART = 24
const BAND = 36
/** Letters of a row lie so far apart, of their height, overlap by so much of it, and are no more unlike in height than this. */
const GAP = 1.3
const OVERLAP = 0.6
const UNLIKE = 2.2
/** A row has so many at least, is so many times as wide as high, and so many of them stand on one line, to this share of their height. */
const LEAST_GLYPHS = 4
const LEAST_LONG = 2.5
const BASE = 0.18
const MOSTLY = 0.6
/** Ticks and bars are narrower or fuller than letters: so many letters in a row are wider than this share of their height and not full. */
const NARROW = 0.3
const FULL = 0.85
const REAL = 0.5
/** A scale's steps are even to this share of them, or a px, in this share of a row that has so many at least. */
const SAME_STEP = 0.15
const EVEN_STEPS = 0.75
const LEAST_STEPS = 3
/** … asked at these shares of its height. */
const HEIGHTS = [1 / 6, 1 / 2, 5 / 6]
/** Letters differ from their ground by so many codes, in all three colours together. */
const LEAST_OFF = 60
/** Letters of a row are of one ink to this share of its contrast. */
const SAME_INK = 0.3
/** Their ground is even to so many codes, or so much of the contrast, for so much of what lies about them. */
const EVEN = 20
const EVEN_SHARE = 0.35
const EVENLY = 0.8
/** So far about a row, of its height, lie parts of letters that were not seen as such. */
const ABOUT = 0.6

/** What may be a letter: how far it reaches, and how many px it has. */
interface Glyph extends Bounds {
  count: number
}

/** A row of letters: where it lies in the picture it was looked for in, and what it is drawn in. */
export interface LetterRow extends Bounds {
  ink: Colour
  ground: Colour
}

/** Rows of letters that somebody wrote over a picture's ground, in px of the picture. */
export function letterRows(picture: Raster): LetterRow[] {
  const { copy, times } = halvedTo(picture, LONGEST)
  return [
    { copy, times },
    { copy: halved(copy), times: 2 * times },
  ].flatMap(({ copy, times }) =>
    rowsIn(copy).map((row) => ({
      ...row,
      left: row.left * times,
      right: (row.right + 1) * times - 1,
      top: row.top * times,
      bottom: (row.bottom + 1) * times - 1,
    })),
  )
}

function rowsIn(copy: Raster): LetterRow[] {
  const { width, height } = copy
  const { data: tones } = lightnessOf(copy)
  return bandsOf(tones, width, height).flatMap(({ top, bottom }) =>
    [true, false].flatMap((isDark) => {
      const marks = hat(tones.subarray(top * width, bottom * width), width, isDark)
      const glyphs = glyphsIn(marks, width)
      if (glyphs.length > MOST_GLYPHS) return []
      return linked(glyphs).flatMap((row) => {
        const inCopy = row.map((glyph) => ({ ...glyph, top: glyph.top + top, bottom: glyph.bottom + top }))
        const found = asRow(copy, inCopy)
        return found ? [found] : []
      })
    }),
  )
}

/** Where letters may be, from one row of px to before another: few rows of most photos go dark and light so often, which is quick to see. */
function bandsOf(tones: Uint8Array, width: number, height: number): { top: number; bottom: number }[] {
  const bands: { top: number; bottom: number }[] = []
  for (let y = 0; y < height; y += SCANNED) {
    if (!swingsOften(tones.subarray(y * width, (y + 1) * width))) continue
    const [top, bottom] = [Math.max(0, y - BAND), Math.min(height, y + BAND)]
    const last = bands.at(-1)
    if (last && top <= last.bottom) last.bottom = bottom
    else bands.push({ top, bottom })
  }
  return bands
}

/** Whether a row of px goes dark and light again, as far as letters do, often enough in short. */
function swingsOften(row: Uint8Array): boolean {
  let [low, high, swings, last] = [row[0]!, row[0]!, 0, 0]
  // Down or up; before the first swing neither.
  let isUp: boolean | null = null
  for (let x = 1; x < row.length; x++) {
    const v = row[x]!
    if (v < low) low = v
    if (v > high) high = v
    const turned: boolean | null =
      isUp !== true && v >= low + CONTRAST ? true : isUp !== false && v <= high - CONTRAST ? false : null
    if (turned === null) continue
    swings = x - last <= SWINGS_APART ? swings + 1 : 1
    if (swings >= SWINGS) return true
    ;[isUp, last, low, high] = [turned, x, v, v]
  }
  return false
}

/** 1 where a px is darker, or lighter, than anything as wide as strokes can be about it (a closing's or opening's rest; J. Serra 1982). */
function hat(tones: Uint8Array, width: number, isDark: boolean): Uint8Array {
  const filled = extreme(extreme(tones, width, isDark), width, !isDark)
  const out = new Uint8Array(tones.length)
  const sign = isDark ? 1 : -1
  for (let i = 0; i < out.length; i++) if (sign * (filled[i]! - tones[i]!) >= CONTRAST) out[i] = 1
  return out
}

/** The lightest, or darkest, px in a square about each. */
const extreme = (tones: Uint8Array, width: number, isLightest: boolean) =>
  extremeAlong(extremeAlong(tones, 1, isLightest), width, isLightest)

/** The lightest, or darkest, of the seven px about each that lie so far apart: of two, of four, of all. A row goes on in the next one, where the borders lie. */
function extremeAlong(tones: Uint8Array, step: number, isLightest: boolean): Uint8Array {
  const count = tones.length
  let of = tones
  for (const away of [step, 2 * step, 3 * step]) {
    const out = of.slice()
    for (let i = 0; i < count - away; i++) {
      const v = of[i + away]!
      if (isLightest ? v > out[i]! : v < out[i]!) out[i] = v
    }
    of = out
  }
  const centred = of.slice()
  centred.set(of.subarray(0, count - 3 * step), 3 * step)
  return centred
}

function glyphsIn(marks: Uint8Array, width: number): Glyph[] {
  const glyphs: Glyph[] = []
  eachRegion(marks, width, 1, (places) => {
    if (places.length < LEAST_HIGH) return
    const glyph = { ...boundsOf(places, width), count: places.length }
    const high = highOf(glyph)
    if (high >= LEAST_HIGH && high <= MOST_HIGH && wideOf(glyph) <= MOST_WIDE * high) glyphs.push(glyph)
  })
  return glyphs
}

/** Glyphs that lie side by side, as far as they go on. */
function linked(glyphs: readonly Glyph[]): Glyph[][] {
  const inOrder = glyphs.toSorted((p, q) => p.left - q.left)
  const rowOf = inOrder.map((_, i) => i)
  const find = (i: number): number => (rowOf[i] === i ? i : (rowOf[i] = find(rowOf[i]!)))
  inOrder.forEach((p, i) => {
    for (let j = i + 1; j < inOrder.length && inOrder[j]!.left - p.right <= GAP * UNLIKE * highOf(p); j++)
      if (goesOn(p, inOrder[j]!)) rowOf[find(j)] = find(i)
  })
  const rows = new Map<number, Glyph[]>()
  inOrder.forEach((glyph, i) => {
    const row = find(i)
    rows.set(row, [...(rows.get(row) ?? []), glyph])
  })
  return [...rows.values()]
}

function goesOn(p: Glyph, q: Glyph): boolean {
  const [low, high] = [Math.min(highOf(p), highOf(q)), Math.max(highOf(p), highOf(q))]
  const overlap = Math.min(p.bottom, q.bottom) - Math.max(p.top, q.top) + 1
  return high <= UNLIKE * low && overlap >= OVERLAP * low && q.left - p.right <= GAP * high
}

/** A row of glyphs as one of letters; null where it isn't. */
function asRow(copy: Raster, glyphs: readonly Glyph[]): LetterRow | null {
  if (glyphs.length < LEAST_GLYPHS) return null
  const high = middleOf(glyphs.map(highOf))
  const base = middleOf(glyphs.map(({ bottom }) => bottom))
  const onBase = glyphs.filter(({ bottom }) => Math.abs(bottom - base) <= Math.max(1, BASE * high))
  if (onBase.length < MOSTLY * glyphs.length) return null
  const row = boundsOfAll(glyphs)
  if (wideOf(row) < LEAST_LONG * high) return null
  const real = glyphs.filter(
    (glyph) => wideOf(glyph) >= NARROW * highOf(glyph) && glyph.count <= FULL * wideOf(glyph) * highOf(glyph),
  )
  if (real.length < REAL * glyphs.length) return null
  const found = withInk(copy, row, glyphs)
  return found && !isScale(copy, found, glyphs) ? found : null
}

const middleOf = (values: readonly number[]) => upperMedian(Float32Array.from(values))

/** Whether a row is a scale's ticks: wherever they are many the ink comes at even steps. */
function isScale(
  { width, data }: Raster,
  { left, right, ink, ground }: LetterRow,
  glyphs: readonly Glyph[],
): boolean {
  const top = middleOf(glyphs.map((glyph) => glyph.top))
  const high = middleOf(glyphs.map(highOf))
  const areEven = HEIGHTS.flatMap((share) => {
    const y = Math.round(top + share * (high - 1))
    const starts: number[] = []
    let was = false
    for (let x = left; x <= right; x++) {
      const colour = colourAt(data, y * width + x)
      const isInk = sizeOf(minus(colour, ground)) > sizeOf(minus(colour, ink))
      if (isInk && !was) starts.push(x)
      was = isInk
    }
    const steps = starts.slice(1).map((x, k) => x - starts[k]!)
    if (steps.length < LEAST_STEPS) return []
    const middle = middleOf(steps)
    const even = steps.filter((step) => Math.abs(step - middle) <= Math.max(1, SAME_STEP * middle))
    return [even.length >= EVEN_STEPS * steps.length]
  })
  return areEven.length > 0 && areEven.every((isEven) => isEven)
}

/** A row with the colours it is drawn in and on; null where its letters are of several inks or its ground isn't even. */
function withInk({ width, height, data }: Raster, row: Bounds, glyphs: readonly Glyph[]): LetterRow | null {
  const about = Math.ceil(ABOUT * highOf(row))
  const round: number[] = []
  const [left, right] = [Math.max(0, row.left - about), Math.min(width - 1, row.right + about)]
  for (const y of [row.top - 2, row.bottom + 2])
    if (y >= 0 && y < height) for (let x = left; x <= right; x++) round.push(y * width + x)
  if (round.length === 0) return null
  const ground = middleColour(data, round)
  const farthest = glyphs.map((glyph) => farthestIn(data, width, glyph, ground))
  const ink = middleColour(data, farthest)
  const contrast = sizeOf(minus(ink, ground))
  if (contrast < LEAST_OFF) return null
  const same = farthest.filter((i) => sizeOf(minus(colourAt(data, i), ink)) <= SAME_INK * contrast)
  if (same.length < MOSTLY * glyphs.length) return null
  const even = round.filter((i) => isWithin(data, i, ground, Math.max(EVEN, EVEN_SHARE * contrast)))
  if (even.length < EVENLY * round.length) return null
  return { ...row, ink, ground }
}

/** The px in a glyph's bounds whose colour is farthest from the ground's. */
function farthestIn(data: Raster['data'], width: number, glyph: Glyph, ground: Colour): number {
  let [most, farthest] = [-1, 0]
  for (let y = glyph.top; y <= glyph.bottom; y++)
    for (let x = glyph.left; x <= glyph.right; x++) {
      const i = y * width + x
      const far = sizeOf(minus(colourAt(data, i), ground))
      if (far > most) [most, farthest] = [far, i]
    }
  return farthest
}
