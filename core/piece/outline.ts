import { readProfile, type ReadProfile } from '../calibrate/read-profile'
import type { View } from '../camera/view'
import type { PicturePoint } from '../conventions'
import { CoreError } from '../errors'
import type { BrushStroke, OutlineGuides } from '../outline/guides'
import type { OutlineSide } from '../outline/refine'
import { withStroke } from '../outline/strokes'
import { MOST_BRUSH_POINTS, MOST_GUIDES, type PieceGuides, type PieceOutline } from './schema'

/** Rows suffice for drawing and for nodes; files from the command line take more. */
const ROWS = 500
/** Digits kept of picture positions: a thousandth px. */
const KEPT = 1000
const kept = (v: number) => Math.round(v * KEPT) / KEPT

/** A found side as a document keeps it. */
export function storedSide({ points, sd }: OutlineSide): PieceOutline['left'] {
  return {
    points: Array.from(points, kept),
    sd: Array.from(sd, (v) => (Number.isFinite(v) ? kept(v) : null)),
  }
}

const keptPoint = ({ x, y }: PicturePoint) => ({ x: kept(x), y: kept(y) })

/**
 * What a hand painted and marked as a document keeps it; long strokes by some of their points.
 * @throws CoreError `guides-many`
 */
export function storedGuides({ piece, backdrop, marks }: OutlineGuides): PieceGuides {
  if ([piece, backdrop, marks].some((list) => list.length > MOST_GUIDES))
    throw new CoreError({
      code: 'guides-many',
      message: `A piece keeps ${MOST_GUIDES} strokes and marks of a kind. Wipe them off, and paint with longer ones.`,
      where: 'guides',
    })
  const stroke = ({ points, radius }: BrushStroke) => {
    const stride = Math.ceil(points.length / MOST_BRUSH_POINTS)
    return { points: points.filter((_, i) => i % stride === 0).map(keptPoint), radius }
  }
  return { piece: piece.map(stroke), backdrop: backdrop.map(stroke), marks: marks.map(keptPoint) }
}

/** What was read of a found side, kept for as long as nothing that it rests on changes; the nodes' tolerance does not. */
interface Kept {
  right: PieceOutline['right']
  strokes: PieceOutline['strokes']
  sides: { left: OutlineSide; right: OutlineSide }
  read?: { choices: PieceOutline['choices']; view: View; profile: ReadProfile }
}
const keptByLeft = new WeakMap<PieceOutline['left'], Kept>()

function keptOf(outline: PieceOutline): Kept {
  const { left, right, strokes, blur } = outline
  const known = keptByLeft.get(left)
  if (known && known.right === right && sameList(known.strokes, strokes)) return known
  const side = (name: 'left' | 'right'): OutlineSide => {
    const found: OutlineSide = {
      points: Float64Array.from(outline[name].points),
      sd: Float64Array.from(outline[name].sd, (v) => v ?? Infinity),
      blur,
    }
    return strokes.filter((s) => s.side === name).reduce((s, stroke) => withStroke(s, stroke.points), found)
  }
  const fresh: Kept = { right, strokes, sides: { left: side('left'), right: side('right') } }
  keptByLeft.set(left, fresh)
  return fresh
}

/** Outlines whose boxes share less than this of the smaller one are of two pieces. */
const SHARED = 0.5

/**
 * What hands chose and drew on the outline before, and how near the nodes stay to it, as far as a newly found outline keeps it: all of
 * it where both are of one piece of the photo, nothing where they aren't.
 */
export function keptByHand(
  before: PieceOutline | null,
  found: Pick<PieceOutline, 'left' | 'right'>,
): Pick<PieceOutline, 'choices' | 'strokes' | 'fitMm'> {
  if (!before || !isOfSamePiece(before, found)) return { choices: [], strokes: [], fitMm: null }
  const { choices, strokes, fitMm } = before
  return { choices, strokes, fitMm }
}

/** Whether two outlines are of one piece, however differently they were found. */
function isOfSamePiece(a: Pick<PieceOutline, 'left' | 'right'>, b: typeof a): boolean {
  const [p, q] = [boxOf(a), boxOf(b)]
  const size = (box: typeof p) => Math.max(0, box.right - box.left) * Math.max(0, box.bottom - box.top)
  const shared = {
    left: Math.max(p.left, q.left),
    right: Math.min(p.right, q.right),
    top: Math.max(p.top, q.top),
    bottom: Math.min(p.bottom, q.bottom),
  }
  return size(shared) >= SHARED * Math.min(size(p), size(q))
}

/** The box about both sides, px. */
function boxOf({ left, right }: Pick<PieceOutline, 'left' | 'right'>) {
  const box = { left: Infinity, right: -Infinity, top: Infinity, bottom: -Infinity }
  for (const { points } of [left, right])
    for (let i = 0; i < points.length; i += 2) {
      const [x, y] = [points[i]!, points[i + 1]!]
      box.left = Math.min(box.left, x)
      box.right = Math.max(box.right, x)
      box.top = Math.min(box.top, y)
      box.bottom = Math.max(box.bottom, y)
    }
  return box
}

/** The same list, or both empty. */
const sameList = (a: readonly unknown[], b: readonly unknown[]) => a === b || a.length + b.length === 0

/** Takes over what was read elsewhere (by a worker) of the same outline through the same view. */
export function rememberRead(outline: PieceOutline, view: View, profile: ReadProfile): void {
  keptOf(outline).read = { choices: outline.choices, view, profile }
}

/** Both sides with the strokes drawn by hand laid over them. */
export function sidesOf(outline: PieceOutline): { left: OutlineSide; right: OutlineSide } {
  return keptOf(outline).sides
}

/** The half-profile that the outline of a document shows through a view. */
export function readOutline(outline: PieceOutline, view: View): ReadProfile {
  const known = keptOf(outline)
  const { choices } = outline
  if (known.read?.view !== view || !sameList(known.read.choices, choices))
    known.read = { choices, view, profile: readProfile(view, known.sides, { choices, rows: ROWS }) }
  return known.read.profile
}

/** Tolerance of the fitted curve as a share of the height, and at least so many standard errors of the edge. */
const FIT_SHARE = 0.0003
const FIT_SDS = 2

/** How near a fitted curve should stay to an outline when nobody says, mm. */
export function usualFit(read: ReadProfile): number {
  const { sd, pxPerUnit } = read.half
  const sds = [...sd].filter(Number.isFinite).sort((a, b) => a - b)
  const tall = read.top - read.foot
  const n = read.half.points.length
  const perUnit = tall / (read.half.points[n - 1]! - read.half.points[1]!)
  return Math.max(FIT_SHARE * tall, (FIT_SDS * perUnit * (sds[sds.length >> 1] ?? 0)) / pxPerUnit)
}
