import { boundsOf, boundsOfAll, highOf, type Bounds } from './bounds'
import { partOf, type Part } from './even-borders'
import { inkTest, minus, sizeOf } from './inks'
import type { LetterRow } from './letter-rows'
import type { Raster } from './raster'
import { eachRegion } from './regions'
import { addSmall } from './small-marks'

/** Rows in colours that differ by no more codes are of one ink. */
const SAME_INK = 40
/** Letters are wide enough to show their ink: what goes less than this share of the way to it is of another colour. */
const INK_SHARE = 0.6
/** So far beyond a row of letters, of its height, its dots and tails reach; … */
const BEYOND_ROW = 0.5
/** … so far off lie single letters that go with it, which are no higher and no longer than these. */
const AWAY = 2.2
const HIGH = 1.6
const LONG = 8

/** Adds what is written in rows of letters, with what goes with them: dots, tails, single letters near them. */
export function addWords(picture: Raster, rows: readonly LetterRow[], drawn: Uint8Array): void {
  for (const block of blocksOf(rows)) {
    const beyond = Math.ceil(Math.max(...block.map((row) => (AWAY + HIGH) * highOf(row))))
    const within = partAbout(boundsOfAll(block), beyond, picture)
    const { left, top, width } = within
    const part = partOf(picture, within)
    const found = new Uint8Array(part.width * part.height)
    const inPart = block.map((row) => moved(row, -left, -top))
    for (const row of inPart) addRow(part, row, found)
    const { ink: colour, ground } = inPart[0]!
    const high = Math.min(...inPart.map(highOf))
    const lines = inPart.map((row) => ({ isLevel: true, at: (row.top + row.bottom) >> 1, from: row.left, to: row.right + 1 })) // prettier-ignore
    const size = { away: AWAY * high, high: HIGH * high, long: LONG * high, leastShare: INK_SHARE }
    addSmall(part, { colour, off: minus(colour, ground), lines }, found, {
      ...size,
      goesOn: (bounds) => goesOn(bounds, within, picture),
    })
    for (let i = 0; i < found.length; i++)
      if (found[i]) drawn[(top + Math.floor(i / width)) * picture.width + left + (i % width)] = 1
  }
}

const moved = (row: LetterRow, x: number, y: number): LetterRow => ({
  ...row,
  left: row.left + x,
  right: row.right + x,
  top: row.top + y,
  bottom: row.bottom + y,
})

/** Rows of one ink together. */
function blocksOf(rows: readonly LetterRow[]): LetterRow[][] {
  const blocks: LetterRow[][] = []
  for (const row of rows) {
    const same = blocks.find(([first]) => sizeOf(minus(first!.ink, row.ink)) <= SAME_INK)
    if (same) same.push(row)
    else blocks.push([row])
  }
  return blocks
}

/** Adds what has a row's ink and ends in its bounds, or a little beyond. */
function addRow(picture: Raster, row: LetterRow, drawn: Uint8Array): void {
  const { ink, ground } = row
  const within = partAbout(row, Math.ceil(BEYOND_ROW * highOf(row)), picture)
  const placeOf = (k: number) =>
    (within.top + Math.floor(k / within.width)) * picture.width + within.left + (k % within.width)
  const isInk = inkTest(picture.data, { colour: ink, off: minus(ink, ground) }, INK_SHARE)
  const inked = Uint8Array.from({ length: within.width * within.height }, (_, k) =>
    isInk(placeOf(k)) ? 1 : 0,
  )
  eachRegion(inked, within.width, 1, (places) => {
    // What goes on beyond them isn't the row's.
    if (!goesOn(boundsOf(places, within.width), within, picture))
      for (const k of places) drawn[placeOf(k)] = 1
  })
}

/** The part of a picture within bounds and so far about them. */
function partAbout(bounds: Bounds, beyond: number, { width, height }: Raster): Part {
  const [left, top] = [Math.max(0, bounds.left - beyond), Math.max(0, bounds.top - beyond)]
  const [right, bottom] = [
    Math.min(width - 1, bounds.right + beyond),
    Math.min(height - 1, bounds.bottom + beyond),
  ]
  return { left, top, width: right - left + 1, height: bottom - top + 1 }
}

/** Whether something in a part of a picture reaches where the part ends and the picture doesn't. */
const goesOn = (bounds: Bounds, part: Part, { width, height }: Raster) =>
  (bounds.left === 0 && part.left > 0) ||
  (bounds.top === 0 && part.top > 0) ||
  (bounds.right === part.width - 1 && part.left + part.width < width) ||
  (bounds.bottom === part.height - 1 && part.top + part.height < height)
