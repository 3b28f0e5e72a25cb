import { upperMedian } from '../upper-median'
import type { LabPicture } from '../picture/reduce'
import type { Plane } from '../picture/raster'
import { colourCells } from './colour-cells'
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
    return { kind: 'cut-out', plane, loose: plane, unshadowed: null, backdrop: null }
  }
  const margin = borderMargin(picture)
  const rows = lineModel(picture, margin, false)
  const columns = lineModel(picture, margin, true)
  const better = (p: LineModel, q: LineModel) => (p.misfit <= q.misfit ? p : q)
  const bare = better(rows, columns)
  const best =
    bare.unseen < PLAIN_ENOUGH
      ? lit(picture, margin, bare, eager)
      : better(lit(picture, margin, rows, eager), lit(picture, margin, columns, eager))
  if (best.unseen < PLAIN_ENOUGH)
    return {
      kind: 'plain',
      plane: best.evidence,
      loose: best.loose,
      unshadowed: best.unshadowed,
      backdrop: best.backdrop,
    }
  return texturedEvidence(picture)
}

/** The same by the rarity of colours alone, however plain the backdrop's borders are: large bricks may look alike along lines across the picture. */
export function texturedEvidence(picture: LabPicture): Evidence {
  const plane = colourEvidence(picture, inBorder(picture, borderMargin(picture)))
  return { kind: 'textured', plane, loose: plane, unshadowed: null, backdrop: null }
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
  const { width, height } = picture
  const n = width * height
  const cell = colourCells(picture, BINS)
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
  const data = new Float32Array(n)
  const even = 1e-5
  for (let i = 0; i < n; i++) {
    const p = smoothOther[cell[i]!]! / Math.max(1, n - backdrops) + even
    const q = smoothBackdrop[cell[i]!]! / Math.max(1, backdrops) + even
    data[i] = Math.max(-1, Math.min(1, beyond(Math.log(p / q), UNSURE) / 2.5))
  }
  return { width, height, data }
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
