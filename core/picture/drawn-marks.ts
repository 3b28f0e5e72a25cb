import { drawnLines, placesOf } from './drawn-lines'
import { enlarged } from './enlarge'
import { inksOf, isWithin, middleColour } from './inks'
import { ledOver } from './led-over'
import { letterRows } from './letter-rows'
import { addStrokes } from './line-strokes'
import type { Raster } from './raster'
import { halvedTo } from './reduce'
import { countAbout } from './regions'
import { addSmall } from './small-marks'
import { lightnessOf, warmthOf } from './tones'
import { addWords } from './words'

/** Marks are looked for in copies no longer than this, px. */
const LONGEST = 1600
/** In pictures smaller than this lines and letters are a px wide or less: they are looked for in copies so long, no more times as large. */
const SMALL = 600
const ENLARGED = 800
const MOST_TIMES = 3
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

/**
 * A picture without the level and upright lines that somebody drew over it, what was drawn in their colours, and the words that somebody wrote over it:
 * what lies about them is led over them. Null where there are none.
 */
export function withoutDrawnMarks(picture: Raster): Raster | null {
  // What was drawn on a cut-out is covered like the piece.
  if (picture.data[3]! < 255) return null
  const { copy, scale } = copyOf(picture)
  const inks = inksOf(copy, [lightnessOf(copy), warmthOf(copy)].flatMap(drawnLines))
  const words = letterRows(copy)
  if (inks.length + words.length === 0 || isDrawing(copy)) return null
  const drawn = new Uint8Array(copy.width * copy.height)
  const longer = Math.max(copy.width, copy.height)
  for (const ink of inks) {
    for (const line of ink.lines) for (const i of placesOf(line, copy.width)) drawn[i] = 1
    addSmall(copy, ink, drawn, { away: LABEL_AWAY * longer, high: HIGHEST * longer, long: LARGEST * longer })
    addStrokes(copy, ink, drawn)
  }
  addWords(copy, words, drawn)
  const about = (reach: number) => maskAt(countAbout(drawn, copy.width, reach), copy, picture, scale)
  return ledOver(picture, about(BLENDED), about(BLENDED + Math.ceil(HALO * scale)))
}

/** A copy that is large enough to tell thin lines and letters, and no larger than needed; and how many of its px lie along one of the picture's. */
function copyOf(picture: Raster): { copy: Raster; scale: number } {
  const longer = Math.max(picture.width, picture.height)
  if (longer < SMALL) {
    const scale = Math.min(MOST_TIMES, Math.ceil(ENLARGED / longer))
    return { copy: enlarged(picture, scale), scale }
  }
  const { copy, times } = halvedTo(picture, LONGEST)
  return { copy, scale: 1 / times }
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

/** 1 at a picture's px where a copy with so many px along one of its has some count. */
function maskAt(counts: Uint16Array, copy: Raster, { width, height }: Raster, scale: number): Uint8Array {
  const mask = new Uint8Array(width * height)
  const within = (at: number, most: number) => Math.min(most - 1, Math.floor((at + 0.5) * scale))
  for (let y = 0; y < height; y++) {
    const row = within(y, copy.height) * copy.width
    for (let x = 0; x < width; x++) if (counts[row + within(x, copy.width)]! > 0) mask[y * width + x] = 1
  }
  return mask
}
