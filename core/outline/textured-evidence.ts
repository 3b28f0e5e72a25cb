import type { LabPicture } from '../picture/reduce'
import { upperMedian } from '../upper-median'
import { inBorder } from './border-margin'
import { cellOfColour, colourCells, colourOfCell } from './colour-cells'
import { BINS, evidenceByCell, planeOf, sharesOf, SURELY, UNSURE } from './colour-evidence'
import type { Evidence } from './evidence'
import { withoutShadows } from './without-shadows'

/**
 * What speaks for the piece before a backdrop of many colours: those that are rare along the borders. A colour that is as common within as
 * along them tells nothing, since a piece may have the backdrop's own colours.
 */
export function texturedEvidence(picture: LabPicture): Evidence {
  const cells = colourCells(picture, BINS)
  const { data } = planeOf(picture, cells, evidenceByCell(cells, inBorder(picture)))
  return textured(picture, cells, { data, firm: firmlyTold(picture, cells) })
}

/** The same where a colour that is no more common within than the backdrop makes expect speaks against the piece. */
export function firmlyTexturedEvidence(picture: LabPicture): Evidence {
  const cells = colourCells(picture, BINS)
  const firm = firmlyTold(picture, cells)
  return textured(picture, cells, { data: firm, firm })
}

/** Whether a backdrop of many colours is told firmly. */
export const isFirm = ({ plane, firm }: Evidence) => firm?.data === plane.data

function textured(
  picture: LabPicture,
  cells: Uint16Array,
  { data, firm }: { data: Float32Array; firm: Float32Array },
): Evidence {
  const { width, height } = picture
  const plane = { width, height, data }
  const isDimmed = dimmedCells(cells, data)
  const bare = withoutShadows(plane, (i) => isDimmed[cells[i]!] === 1)
  return { kind: 'textured', plane, loose: plane, unshadowed: null, bare, firm: { ...plane, data: firm }, backdrop: null } // prettier-ignore
}

/**
 * What lies within the borders is piece and backdrop mixed, so that the backdrop's colours are about as much rarer there as the piece takes
 * up: what is no more common than so speaks for the backdrop. A colour is the likelier the backdrop's where the borders show it at the same
 * height: a floor has other colours than a wall, and a shelf than a window.
 */
function firmlyTold(picture: LabPicture, cells: Uint16Array): Float32Array {
  const isBorder = inBorder(picture)
  const inner = sharesOf(cells, (i) => !isBorder(i))
  const border = sharesOf(cells, isBorder)
  const mixed = Math.log(shareOfBackdrop(cells, isBorder, inner, border))
  const data = new Float32Array(cells.length)
  for (const { from, to, shares } of bandsOf(picture, cells))
    for (let i = from * picture.width; i < to * picture.width; i++) {
      const k = cells[i]!
      const told = Math.log(inner[k]! / (AT_HEIGHT * shares[k]! + (1 - AT_HEIGHT) * border[k]!))
      const against = (told - mixed - AS_LIKELY) / FOR_SURE
      data[i] = against < 0 ? Math.max(-1, against) : Math.max(0, Math.min(1, (told - UNSURE) / SURELY))
    }
  return data
}

/** What the borders at a place's own height count against all borders. */
const AT_HEIGHT = 0.5
/** A colour so many e-folds more common within than the backdrop makes expect is as likely the piece's (e^0.7 is 2), so many fewer surely not. */
const AS_LIKELY = 0.7
const FOR_SURE = 1

/** The picture is cut into so many bands, and the borders beside one are read so many bands higher and lower, so wide, as a share of the picture's width. */
const BANDS = 16
const BEYOND_BAND = 0.75
const BESIDE = 0.08

/** Bands of rows, with the share that each colour has in the borders left and right of them. */
function bandsOf({ width, height }: LabPicture, cells: Uint16Array) {
  const wide = Math.max(2, Math.round(BESIDE * width))
  const tall = height / BANDS
  return Array.from({ length: BANDS }, (_, band) => {
    const rows = (k: number) => Math.max(0, Math.min(height, Math.round(k * tall)))
    const first = rows(band - BEYOND_BAND) * width
    const beside = cells.subarray(first, rows(band + 1 + BEYOND_BAND) * width)
    const shares = sharesOf(beside, (i) => {
      const x = i % width
      return x < wide || x >= width - wide
    })
    return { from: rows(band), to: rows(band + 1), shares }
  })
}

/** The share of what lies within the borders that is backdrop: by how much rarer its colours are there, at the median. */
function shareOfBackdrop(
  cells: Uint16Array,
  isBorder: (i: number) => boolean,
  inner: Float32Array,
  border: Float32Array,
): number {
  const times: number[] = []
  cells.forEach((cell, i) => {
    if (isBorder(i)) times.push(inner[cell]! / border[cell]!)
  })
  return Math.min(1, upperMedian(Float32Array.from(times)))
}

/** Shadows dim the backdrop by so much, at most, tried so finely; a shadow dims all three coordinates of OKLab alike. */
const DIMMED = [1.2, 1.45, 1.75, 2.1, 2.5].map((times) => 1 / times)

/** 1 for the colours that may be a shadow's: dimmed ones of the picture that somewhere don't speak for the piece. */
function dimmedCells(cells: Uint16Array, evidence: Float32Array): Uint8Array {
  const isBackdrop = new Uint8Array(BINS ** 3)
  cells.forEach((cell, i) => {
    if (evidence[i]! <= 0) isBackdrop[cell] = 1
  })
  const isDimmed = new Uint8Array(BINS ** 3)
  isBackdrop.forEach((is, cell) => {
    if (!is) return
    const [l, a, b] = colourOfCell(cell, BINS)
    for (const dim of DIMMED) isDimmed[cellOfColour(dim * l, dim * a, dim * b, BINS)] = 1
  })
  return isDimmed
}
