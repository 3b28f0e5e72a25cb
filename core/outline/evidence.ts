import { upperMedian } from '../upper-median'
import type { LabPicture } from '../picture/reduce'
import type { Plane } from '../picture/raster'
import { borderMargin } from './border-margin'
import { lineModel, lit, type Backdrop, type LineModel } from './backdrop'
import { opened } from './opened'
import { texturedEvidence } from './textured-evidence'
import { withoutShadows } from './without-shadows'

/** A line across the picture, or columns, is believed when it foretells the borders it hasn't seen to within this. */
const PLAIN_ENOUGH = 0.035

/**
 * How much each pixel speaks for the piece, -1 (backdrop) to 1 (piece).
 *
 * Cut-outs: the alpha. Plain and graded backdrops: distance from the colour that the two ends of the pixel's row (or
 * column, whichever foretells the other two borders better) make expect. Textured ones: rarity of the colour among the
 * colours of the borders (`textured-evidence.ts`).
 * @param eager as in `fitLight`: the backdrop's light between its borders is fitted though it differs little
 */
export function pieceEvidence(picture: LabPicture, eager = false): Evidence {
  const { width, height, alpha } = picture
  if (alpha) {
    const plane = { width, height, data: alpha.data.map((v) => 2 * v - 1) }
    return { kind: 'cut-out', plane, loose: plane, unshadowed: null, bare: plane, firm: null, backdrop: null }
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
  return { kind: 'plain', plane, loose, unshadowed, bare, firm: null, backdrop }
}

/** Lines narrower than this, px on either side of their middle, are the backdrop's. */
const LINE_REACH = 2

/** The same where it is given that nothing is seen through the piece, so that lines with backdrop on both sides are none of its edges. */
export function opaqueEvidence(picture: LabPicture): Evidence {
  const evidence = pieceEvidence(picture)
  const without = (plane: Plane) => opened(plane, LINE_REACH)
  const { plane, loose, unshadowed, bare } = evidence
  return {
    ...evidence,
    isOpaque: true,
    plane: without(plane),
    loose: without(loose),
    unshadowed: unshadowed && without(unshadowed),
    bare: without(bare),
  }
}

export interface Evidence {
  /** What the backdrop is like. */
  kind: 'cut-out' | 'plain' | 'textured'
  /** True where it is given that nothing is seen through the piece; otherwise it may be clear. */
  isOpaque?: boolean
  /** -1 (backdrop) to 1 (piece). */
  plane: Plane
  /** The same, less sure where the backdrop's light is known: what is seen through a clear piece is a little unlike it. */
  loose: Plane
  /** The same with what may be a shadow held back, before a plain backdrop: grey pieces are held back too. */
  unshadowed: Plane | null
  /** The same with what may be a shadow taken for the backdrop. */
  bare: Plane
  /** The same before a textured backdrop, where colours that are no more common within than the backdrop makes expect speak against the piece. */
  firm: Plane | null
  /** What a plain backdrop looks like behind the piece. */
  backdrop: Backdrop | null
}

/** A plain backdrop within which colours differ by more than this, OKLab units, is as good as textured. */
const WAVERS = 0.035

/** Whether too little is known of a backdrop to tell along its borders what covers it. */
export const wavers = ({ kind, backdrop }: Evidence) =>
  kind === 'textured' || (backdrop !== null && upperMedian(backdrop.limits.slice()) > WAVERS)

/** Lines that cover more than this share of the picture are no print and no ruler, but joints, boards or grain. */
const LINED = 0.025

/** Whether a plain backdrop has lines all over. */
export function isLined({ plane }: Evidence): boolean {
  const wide = opened(plane, LINE_REACH).data
  const lines = plane.data.reduce((sum, v, i) => sum + Math.max(0, v) - Math.max(0, wide[i]!), 0)
  return lines > LINED * plane.data.length
}

/** Whether the piece may be a clear one, through which a plain backdrop shows. */
export const mayBeClear = ({ kind, isOpaque }: Evidence) => kind === 'plain' && !isOpaque

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
