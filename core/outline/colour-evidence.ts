import type { LabPicture } from '../picture/reduce'
import type { Plane } from '../picture/raster'
import { cellOfColour, colourCells } from './colour-cells'

/** Colours are told apart by so many steps a coordinate. */
export const BINS = 24
/** A colour that is never seen on one side is taken to be this share of it. */
export const NEVER = 1e-5

/** How much a colour (OKLab) speaks for the piece, -1 to 1. */
export type ColourTable = (l: number, a: number, b: number) => number

/**
 * Evidence from colours alone: how much more often a pixel's colour (and its neighbours' in colour space) is seen
 * among the pixels of the piece than among those of the backdrop.
 * @param isBackdrop pixels known as backdrop; all others count as possible piece
 */
export function colourEvidence(picture: LabPicture, isBackdrop: (i: number) => boolean): Plane {
  const cells = colourCells(picture, BINS)
  return planeOf(picture, cells, evidenceByCell(cells, isBackdrop))
}

/** The same of any colour. */
export function colourTable(picture: LabPicture, isBackdrop: (i: number) => boolean): ColourTable {
  const byCell = evidenceByCell(colourCells(picture, BINS), isBackdrop)
  return (l, a, b) => byCell[cellOfColour(l, a, b, BINS)]!
}

/** A picture's evidence by the colour cell of each px. */
export const planeOf = ({ width, height }: LabPicture, cells: Uint16Array, byCell: Float32Array): Plane => ({
  width,
  height,
  data: Float32Array.from(cells, (cell) => byCell[cell]!),
})

/** The same of each colour, by the pixels' colours. */
export function evidenceByCell(cells: Uint16Array, isBackdrop: (i: number) => boolean): Float32Array {
  const backdrop = sharesOf(cells, isBackdrop)
  return sharesOf(cells, (i) => !isBackdrop(i)).map((p, k) => {
    const told = Math.log(p / backdrop[k]!)
    return Math.max(-1, Math.min(1, beyond(told, UNSURE) / SURELY))
  })
}

/** Colours less than e^0.8, some twice, as common on one side as on the other tell nothing; so many times e more, they tell all. */
export const UNSURE = 0.8
export const SURELY = 2.5
const beyond = (value: number, limit: number) => Math.sign(value) * Math.max(0, Math.abs(value) - limit)

/** Which share of some pixels has each colour or one next to it; none is 0. */
export function sharesOf(cells: Uint16Array, isAmong: (i: number) => boolean): Float32Array {
  const counts = new Float32Array(BINS ** 3)
  let count = 0
  cells.forEach((cell, i) => {
    if (!isAmong(i)) return
    counts[cell]!++
    count++
  })
  return smoothCells(counts).map((v) => v / Math.max(1, count) + NEVER)
}

/** Spreads counts over neighbouring cells, so that a colour a little off isn't taken for unseen. */
function smoothCells(count: Float32Array): Float32Array {
  let from = count
  for (const stride of [1, BINS, BINS * BINS]) {
    const to = new Float32Array(from.length)
    for (let i = 0; i < from.length; i++) {
      const k = Math.floor(i / stride) % BINS
      to[i] =
        0.5 * from[i]! +
        0.25 * (k > 0 ? from[i - stride]! : from[i]!) +
        0.25 * (k < BINS - 1 ? from[i + stride]! : from[i]!)
    }
    from = to
  }
  return from
}
