import { ASIDE, drawnLines, placesOf, type DrawnRun, type Tones } from './drawn-lines'
import {
  colourAt,
  dot,
  inksOf,
  inkTest,
  isWithin,
  meanOf,
  middleColour,
  minus,
  sizeOf,
  type Ink,
} from './inks'
import { ledOver } from './led-over'
import type { Raster } from './raster'
import { halved } from './reduce'
import { countAbout, eachRegion } from './regions'

/** Marks are looked for in copies no longer than this, px. */
const LONGEST = 1600
/** In pictures smaller than this lines and figures are blended too much to be told. */
const SMALLEST = 600
/** So many px of such a copy about a mark may be blended with it, and compression leaves traces so many px of the picture farther out: it takes blocks of so many. */
const BLENDED = 4
const HALO = 16
/** Of a photo at least so much differs by more codes than these from its border's middle colour, over more than a line's width: paper doesn't. */
const EVEN_PAPER = 12
const LEAST_WIDE = 0.01
/** Arrowheads and figures are no larger and no higher than these shares of the copy's longer side, and no farther from a line than the third. */
const LARGEST = 0.14
const HIGHEST = 0.045
const LABEL_AWAY = 0.1
/** So many px lie between the letters of a word. */
const LETTERS_APART = 3
/** They stand before what is alike nearly all round, to so many codes, and differs from the ink by so much of what its lines' ground does. */
const EVEN_GROUND = 20
const MOSTLY = 0.7
const OFF_GROUND = 0.5
/** Strokes differ from their ground by so much of what the ink does, about in the same way, by so many codes at least; it is alike on both sides to this share of it. */
const BLEND = 0.25
const BLEND_WAY = 0.8
const LEAST_OFF = 20
const ALIKE = 0.35
/** Strokes go on from a line, or cross one, to so many px. */
const TOUCHES = 8
/** Along a stroke it is as strong, to this share, over that share of its length. */
const STROKE_SPREAD = 0.3
const STROKE_EVEN = 0.8

/**
 * A picture without the level and upright lines that somebody drew over it, and without what was drawn in their colours: what lies about them is
 * led over them. Null where there are none.
 */
export function withoutDrawnMarks(picture: Raster): Raster | null {
  // What was drawn on a cut-out is covered like the piece.
  if (Math.max(picture.width, picture.height) < SMALLEST || picture.data[3]! < 255) return null
  let copy = picture
  let times = 1
  for (; Math.max(copy.width, copy.height) > LONGEST; times *= 2) copy = halved(copy)
  const lines = [lightnessOf(copy), warmthOf(copy)].flatMap(drawnLines)
  const inks = inksOf(copy, lines)
  if (inks.length === 0 || isDrawing(copy)) return null
  const drawn = new Uint8Array(copy.width * copy.height)
  for (const ink of inks) {
    for (const line of ink.lines) for (const i of placesOf(line, copy.width)) drawn[i] = 1
    addSmall(copy, ink, drawn)
    addStrokes(copy, ink, drawn)
  }
  const about = (reach: number) => maskAt(countAbout(drawn, copy.width, reach), copy, picture, times)
  return ledOver(picture, about(BLENDED), about(BLENDED + Math.ceil(HALO / times)))
}

/** Whether a picture shows nothing but thin lines on even ground: then what is level and upright in it may be the piece. */
function isDrawing({ width, height, data }: Raster): boolean {
  const border = Array.from({ length: width }, (_, x) => [x, (height - 1) * width + x]).flat()
  const ground = middleColour(data, border)
  const other = new Uint8Array(width * height)
  for (let i = 0; i < other.length; i++) if (!isWithin(data, i, ground, EVEN_PAPER)) other[i] = 1
  const full = (2 * BLENDED + 1) ** 2
  const wide = countAbout(other, width, BLENDED).reduce((sum, count) => sum + (count === full ? 1 : 0), 0)
  return wide < LEAST_WIDE * other.length
}

/** 1 at a picture's px where a copy so many times smaller has some count. */
function maskAt(counts: Uint16Array, copy: Raster, { width, height }: Raster, times: number): Uint8Array {
  const mask = new Uint8Array(width * height)
  for (let y = 0; y < Math.min(height, copy.height * times); y++)
    for (let x = 0; x < Math.min(width, copy.width * times); x++)
      if (counts[Math.floor(y / times) * copy.width + Math.floor(x / times)]! > 0) mask[y * width + x] = 1
  return mask
}

/** Lightness as the eye weighs it (ITU-R BT.601), of bytes. */
function lightnessOf({ width, height, data }: Raster): Tones {
  const tones = new Uint8Array(width * height)
  for (let i = 0; i < tones.length; i++)
    tones[i] = (77 * data[4 * i]! + 150 * data[4 * i + 1]! + 29 * data[4 * i + 2]!) >> 8
  return { width, height, data: tones }
}

/** By how much red outweighs blue: coloured lines may be as light as what they are drawn over. */
function warmthOf({ width, height, data }: Raster): Tones {
  const tones = new Uint8Array(width * height)
  for (let i = 0; i < tones.length; i++) tones[i] = 128 + ((data[4 * i]! - data[4 * i + 2]!) >> 1)
  return { width, height, data: tones }
}

/** Adds what has an ink's colour, is small, and stands free near its lines: arrowheads, figures. */
function addSmall(picture: Raster, { colour, off, lines }: Ink, drawn: Uint8Array): void {
  const { width, height, data } = picture
  const besideLines = countAbout(drawn, width, 1)
  const inked = new Uint8Array(drawn.length)
  const isInk = inkTest(data, { colour, off })
  for (let i = 0; i < inked.length; i++) if (besideLines[i] === 0 && isInk(i)) inked[i] = 1
  // The letters of a word are one thing.
  const joined = Uint8Array.from(countAbout(inked, width, LETTERS_APART), Math.sign)
  const longer = Math.max(width, height)
  eachRegion(joined, width, 1, (places) => {
    const bounds = boundsOf(places, width)
    const [w, h] = [bounds.right - bounds.left, bounds.bottom - bounds.top]
    if (Math.max(w, h) > LARGEST * longer || Math.min(w, h) > HIGHEST * longer) return
    if (!lines.some((line) => awayFrom(line, bounds) <= LABEL_AWAY * longer)) return
    if (!standsFree(picture, bounds, inked, { colour, off })) return
    for (const i of places) if (inked[i]) drawn[i] = 1
  })
}

/** How far bounds lie from a line, px. */
function awayFrom({ isLevel, at, from, to }: DrawnRun, { left, right, top, bottom }: Bounds): number {
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

/** Adds level and upright strokes of the ink, blended with any ground that is alike on both sides of them. */
function addStrokes(picture: Raster, ink: Ink, drawn: Uint8Array): void {
  const { width, height, data } = picture
  const strokes = new Uint8Array(width * height)
  const isStroke = (i: number, across: number) => {
    // Most px differ from neither side.
    const [before, after] = [i - ASIDE * across, i + ASIDE * across]
    if (offFrom(data, i, before, after) < LEAST_OFF) return false
    const [p, q] = [colourAt(data, before), colourAt(data, after)]
    const ground = meanOf([p, q])
    const off = minus(colourAt(data, i), ground)
    const whole = minus(ink.colour, ground)
    const size = sizeOf(off)
    return (
      size >= BLEND * sizeOf(whole) &&
      size >= LEAST_OFF &&
      sizeOf(minus(p, q)) <= ALIKE * size &&
      dot(off, whole) >= BLEND_WAY * size * sizeOf(whole)
    )
  }
  // Upright ones and level ones for themselves, since they cross.
  for (const across of [1, width]) {
    strokes.fill(0)
    for (let y = ASIDE; y < height - ASIDE; y++)
      for (let x = ASIDE; x < width - ASIDE; x++)
        if (isStroke(y * width + x, across)) strokes[y * width + x] = 1
    eachRegion(strokes, width, 1, (places) => {
      const bounds = boundsOf(places, width)
      const [w, h] = [bounds.right - bounds.left + 1, bounds.bottom - bounds.top + 1]
      const [wide, long] = across === 1 ? [w, h] : [h, w]
      if (wide > 2 * ASIDE || long < 3 * ASIDE || !isEvenStroke(picture, places, across)) return
      // A piece's own dark lines, under its foot, stand apart.
      if (ink.lines.some((line) => awayFrom(line, bounds) <= TOUCHES)) for (const i of places) drawn[i] = 1
    })
  }
}

/** By how many codes, of red and green together, a px differs from the nearer of two others in colour; quick to see. */
function offFrom(data: Raster['data'], i: number, p: number, q: number): number {
  const differ = (j: number) =>
    Math.abs(data[4 * i + 1]! - data[4 * j + 1]!) + Math.abs(data[4 * i]! - data[4 * j]!)
  return Math.min(differ(p), differ(q))
}

/** Whether a stroke is about as strong all along: how much its strongest px differs from what lies to its sides. */
function isEvenStroke({ width, data }: Raster, places: Int32Array, across: number): boolean {
  const strongest = new Map<number, number>()
  for (const i of places) {
    const along = across === 1 ? Math.floor(i / width) : i % width
    const off = offFrom(data, i, i - ASIDE * across, i + ASIDE * across)
    strongest.set(along, Math.max(off, strongest.get(along) ?? 0))
  }
  const offs = [...strongest.values()].sort((p, q) => p - q)
  const middle = offs[offs.length >> 1]!
  return (
    offs.filter((off) => Math.abs(off - middle) <= STROKE_SPREAD * middle).length >= STROKE_EVEN * offs.length
  )
}

interface Bounds {
  left: number
  right: number
  top: number
  bottom: number
}

/** How far px reach, the last ones included. */
function boundsOf(places: Int32Array, width: number): Bounds {
  const bounds = { left: Infinity, right: -Infinity, top: Infinity, bottom: -Infinity }
  for (const i of places) {
    const [x, y] = [i % width, Math.floor(i / width)]
    bounds.left = Math.min(bounds.left, x)
    bounds.right = Math.max(bounds.right, x)
    bounds.top = Math.min(bounds.top, y)
    bounds.bottom = Math.max(bounds.bottom, y)
  }
  return bounds
}
