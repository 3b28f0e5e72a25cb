import { boundsOf, type Bounds } from './bounds'
import { partOf } from './even-borders'
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
    const within = windowAbout(block, picture)
    const { left, top, width } = within
    const part = partOf(picture, within)
    const found = new Uint8Array(part.width * part.height)
    const goesOn = (bounds: Bounds) =>
      (bounds.left === 0 && left > 0) ||
      (bounds.top === 0 && top > 0) ||
      (bounds.right === part.width - 1 && left + width < picture.width) ||
      (bounds.bottom === part.height - 1 && top + part.height < picture.height)
    const inPart = block.map((row) => moved(row, -left, -top))
    for (const row of inPart) addRow(part, row, found)
    const { ink: colour, ground } = inPart[0]!
    const high = Math.min(...inPart.map(highOf))
    const lines = inPart.map((row) => ({ isLevel: true, at: (row.top + row.bottom) >> 1, from: row.left, to: row.right + 1 })) // prettier-ignore
    const size = { away: AWAY * high, high: HIGH * high, long: LONG * high, goesOn, leastShare: INK_SHARE }
    addSmall(part, { colour, off: minus(colour, ground), lines }, found, size)
    for (let i = 0; i < found.length; i++)
      if (found[i]) drawn[(top + Math.floor(i / width)) * picture.width + left + (i % width)] = 1
  }
}

const highOf = ({ top, bottom }: Bounds) => bottom - top + 1

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

/** The part of a picture that rows and all that goes with them lie in. */
function windowAbout(rows: readonly LetterRow[], { width, height }: Raster) {
  const beyond = Math.ceil(Math.max(...rows.map((row) => (AWAY + HIGH) * highOf(row))))
  const left = Math.max(0, Math.min(...rows.map((row) => row.left)) - beyond)
  const top = Math.max(0, Math.min(...rows.map((row) => row.top)) - beyond)
  const right = Math.min(width - 1, Math.max(...rows.map((row) => row.right)) + beyond)
  const bottom = Math.min(height - 1, Math.max(...rows.map((row) => row.bottom)) + beyond)
  return { left, top, width: right - left + 1, height: bottom - top + 1 }
}

/** Adds what has a row's ink and ends in its bounds, or a little beyond. */
function addRow(picture: Raster, row: LetterRow, drawn: Uint8Array): void {
  const { ink, ground } = row
  const { width, height } = picture
  const beyond = Math.ceil(BEYOND_ROW * highOf(row))
  const [x0, y0] = [Math.max(0, row.left - beyond), Math.max(0, row.top - beyond)]
  const [x1, y1] = [Math.min(width - 1, row.right + beyond), Math.min(height - 1, row.bottom + beyond)]
  const wide = x1 - x0 + 1
  const placeOf = (k: number) => (y0 + Math.floor(k / wide)) * width + x0 + (k % wide)
  const isInk = inkTest(picture.data, { colour: ink, off: minus(ink, ground) }, INK_SHARE)
  const inked = Uint8Array.from({ length: wide * (y1 - y0 + 1) }, (_, k) => (isInk(placeOf(k)) ? 1 : 0))
  eachRegion(inked, wide, 1, (places) => {
    const bounds = boundsOf(places, wide)
    // What goes on beyond them isn't the row's.
    const goesOn =
      (bounds.left === 0 && x0 > 0) ||
      (bounds.top === 0 && y0 > 0) ||
      (bounds.right === x1 - x0 && x1 < width - 1) ||
      (bounds.bottom === y1 - y0 && y1 < height - 1)
    if (!goesOn) for (const k of places) drawn[placeOf(k)] = 1
  })
}
