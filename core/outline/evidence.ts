import { upperMedian } from '../upper-median'
import type { LabPicture } from '../picture/reduce'
import type { Plane } from '../picture/raster'
import { cellOfColour, colourCells, colourOfCell } from './colour-cells'
import { lineModel, lit, type Backdrop, type LineModel } from './backdrop'

/** Share of the picture's shorter side along its borders that is taken for backdrop. */
export const BORDER_SHARE = 0.05
/** A line across the picture, or columns, is believed when it foretells the borders it hasn't seen to within this. */
const PLAIN_ENOUGH = 0.035

/** How wide the borders are that are taken for backdrop, px. */
export const borderMargin = ({ width, height }: LabPicture) =>
  Math.max(2, Math.round(BORDER_SHARE * Math.min(width, height)))

/**
 * How much each pixel speaks for the piece, -1 (backdrop) to 1 (piece).
 *
 * Cut-outs: the alpha. Plain and graded backdrops: distance from the colour that the two ends of the pixel's row (or
 * column, whichever foretells the other two borders better) make expect. Textured ones: rarity of the colour among the
 * colours of the borders.
 * @param eager as in `fitLight`: the backdrop's light between its borders is fitted though it differs little
 */
export function pieceEvidence(picture: LabPicture, eager = false): Evidence {
  const { width, height, alpha } = picture
  if (alpha) {
    const plane = { width, height, data: alpha.data.map((v) => 2 * v - 1) }
    return { kind: 'cut-out', plane, loose: plane, unshadowed: null, bare: plane, backdrop: null }
  }
  const margin = borderMargin(picture)
  const rows = lineModel(picture, margin, false)
  const columns = lineModel(picture, margin, true)
  const better = (p: LineModel, q: LineModel) => (p.misfit <= q.misfit ? p : q)
  const unlit = better(rows, columns)
  const best =
    unlit.unseen < PLAIN_ENOUGH
      ? lit(picture, margin, unlit, eager)
      : better(lit(picture, margin, rows, eager), lit(picture, margin, columns, eager))
  if (best.unseen >= PLAIN_ENOUGH) return texturedEvidence(picture)
  const { evidence: plane, loose, unshadowed, backdrop } = best
  const bare = withoutShadows(plane, (i) => unshadowed.data[i]! < plane.data[i]!)
  return { kind: 'plain', plane, loose, unshadowed, bare, backdrop }
}

/** The same by the rarity of colours alone, however plain the backdrop's borders are: large bricks may look alike along lines across the picture. */
export function texturedEvidence(picture: LabPicture): Evidence {
  const cells = colourCells(picture, BINS)
  const byCell = evidenceByCell(cells, inBorder(picture, borderMargin(picture)))
  const plane = planeOf(picture, cells, byCell)
  const isDimmed = dimmedCells(cells, byCell)
  const bare = withoutShadows(plane, (i) => isDimmed[cells[i]!] === 1)
  return { kind: 'textured', plane, loose: plane, unshadowed: null, bare, backdrop: null }
}

/** What may be a shadow on the backdrop says so much for the backdrop. */
const SHADOW_AS_BACKDROP = -0.25

/** Evidence in which what may be a shadow on the backdrop counts as backdrop. */
function withoutShadows(plane: Plane, mayBeShadow: (i: number) => boolean): Plane {
  const data = plane.data.map((v, i) => (v > 0 && mayBeShadow(i) ? SHADOW_AS_BACKDROP : v))
  return { ...plane, data }
}

/** Shadows dim the backdrop by so much, at most, tried so finely; a shadow dims all three coordinates of OKLab alike. */
const DIMMED = [1.2, 1.45, 1.75, 2.1, 2.5].map((times) => 1 / times)

/** 1 for the colours that may be a shadow's: dimmed ones of the picture that don't speak for the piece. */
function dimmedCells(cells: Uint16Array, byCell: Float32Array): Uint8Array {
  const isSeen = new Uint8Array(byCell.length)
  for (const cell of cells) isSeen[cell] = 1
  const isDimmed = new Uint8Array(byCell.length)
  isSeen.forEach((seen, cell) => {
    if (!seen || byCell[cell]! > 0) return
    const [l, a, b] = colourOfCell(cell, BINS)
    for (const dim of DIMMED) isDimmed[cellOfColour(dim * l, dim * a, dim * b, BINS)] = 1
  })
  return isDimmed
}

export interface Evidence {
  /** What the backdrop is like. */
  kind: 'cut-out' | 'plain' | 'textured'
  /** -1 (backdrop) to 1 (piece). */
  plane: Plane
  /** The same, less sure where the backdrop's light is known: what is seen through a clear piece is a little unlike it. */
  loose: Plane
  /** The same with what may be a shadow held back, before a plain backdrop: grey pieces are held back too. */
  unshadowed: Plane | null
  /** The same with what may be a shadow taken for the backdrop. */
  bare: Plane
  /** What a plain backdrop looks like behind the piece. */
  backdrop: Backdrop | null
}

/** A plain backdrop within which colours differ by more than this, OKLab units, is as good as textured. */
const WAVERS = 0.035

/** Whether too little is known of a backdrop to tell along its borders what covers it. */
export const wavers = ({ kind, backdrop }: Evidence) =>
  kind === 'textured' || (backdrop !== null && upperMedian(backdrop.limits.slice()) > WAVERS)

/** Along so many lines a plain backdrop is foretold less well by so much than along those where it is best: there it may be no plain one. */
const UNEVEN_FROM = 0.75
const BEST_TO = 0.05
const UNEVEN = 1.15

/** Whether a backdrop that was taken for plain may be a textured one whose borders look alike, as large bricks do. */
export function mayBeTextured({ backdrop }: Evidence): boolean {
  const limits = backdrop?.limits.slice().sort() ?? []
  const at = (share: number) => limits[Math.floor(share * limits.length)] ?? 0
  return at(UNEVEN_FROM) > UNEVEN * at(BEST_TO)
}

function inBorder({ width, height }: LabPicture, margin: number): (i: number) => boolean {
  return (i) => {
    const x = i % width
    const y = (i - x) / width
    return x < margin || y < margin || x >= width - margin || y >= height - margin
  }
}

/** Colours are told apart by so many steps a coordinate. */
const BINS = 24

/**
 * Evidence from colours alone: how much more often a pixel's colour (and its neighbours' in colour space) is seen
 * among the pixels of the piece than among those of the backdrop.
 * @param isBackdrop pixels known as backdrop; all others count as possible piece
 */
export function colourEvidence(picture: LabPicture, isBackdrop: (i: number) => boolean): Plane {
  const cells = colourCells(picture, BINS)
  return planeOf(picture, cells, evidenceByCell(cells, isBackdrop))
}

const planeOf = ({ width, height }: LabPicture, cells: Uint16Array, byCell: Float32Array): Plane => ({
  width,
  height,
  data: Float32Array.from(cells, (cell) => byCell[cell]!),
})

/** The same of each colour, by the pixels' colours. */
function evidenceByCell(cell: Uint16Array, isBackdrop: (i: number) => boolean): Float32Array {
  const n = cell.length
  const backdrop = new Float32Array(BINS ** 3)
  const other = new Float32Array(BINS ** 3)
  let backdrops = 0
  for (let i = 0; i < n; i++) {
    if (isBackdrop(i)) {
      backdrop[cell[i]!]!++
      backdrops++
    } else other[cell[i]!]!++
  }
  const smoothBackdrop = smoothCells(backdrop)
  const smoothOther = smoothCells(other)
  const even = 1e-5
  return smoothOther.map((others, k) => {
    const p = others / Math.max(1, n - backdrops) + even
    const q = smoothBackdrop[k]! / Math.max(1, backdrops) + even
    return Math.max(-1, Math.min(1, beyond(Math.log(p / q), UNSURE) / 2.5))
  })
}

/** Colours less than e^0.8, some twice, as common on one side as on the other tell nothing. */
const UNSURE = 0.8
const beyond = (value: number, limit: number) => Math.sign(value) * Math.max(0, Math.abs(value) - limit)

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
