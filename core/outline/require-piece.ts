import { CoreError } from '../errors'
import type { Plane, Raster } from '../picture/raster'
import type { Sharpness } from '../picture/sharpness'
import { inAxis, type AxisLine } from './axis-line'
import type { MirrorFit } from './mirror'
import { closingSeen, OUTLINE_ENDS, openEnds, type OutlineEnd } from './open-ends'
import { LEAST_BOTH as DOUBTED_BELOW } from './outline-doubts'
import { pictureBlur } from './picture-blur'
import type { OutlineSide } from './refine'
import { seenByBoth, edgeShare } from './seen-by-both'
import { outsideOf, type Silhouette } from './silhouette'

/** Fewer rows than this are no piece. */
const LEAST_ROWS = 12

/** @throws CoreError `outline-not-found` when a silhouette is too small for a piece */
export function requirePiece({ half }: Silhouette): void {
  if (half.filter((r) => r > 0).length < LEAST_ROWS) throw notFound()
}

/** So near to the picture's border, reduced px, the piece touches it. */
const BORDER_PX = 1.5
/** A piece that touches the border over more than this share of its rows or width is cut by it. */
const CUT_SHARE = 0.06

/** @throws CoreError `piece-cut` when the picture's border cuts through the piece */
export function requireWhole(silhouette: Silhouette, picture: Plane): void {
  if (!isWhole(silhouette, picture)) throw pieceCut()
}

/** True when the picture's border doesn't cut through a silhouette. */
export function isWhole({ axis, top, half }: Silhouette, { width, height }: Plane): boolean {
  const { at, up } = axis
  const touches = (x: number, y: number) =>
    x < BORDER_PX || y < BORDER_PX || x > width - BORDER_PX || y > height - BORDER_PX
  const place = (row: number, r: number): [number, number] => {
    const v = top - row
    return [at.x + v * up.x - r * up.y, at.y + v * up.y + r * up.x]
  }
  const rows = Array.from(half.keys()).filter((row) => half[row]! > 0)
  const widest = Math.max(...half)
  const atSides = rows.filter(
    (row) => touches(...place(row, half[row]!)) || touches(...place(row, -half[row]!)),
  )
  const ends = [rows[0]!, rows[rows.length - 1]!].map((row) =>
    touches(...place(row, 0)) ? half[row]! / widest : 0,
  )
  return atSides.length / rows.length <= CUT_SHARE && Math.max(...ends) <= CUT_SHARE
}

/** True when a silhouette ends so near to the picture's border that it may be cut off there. */
export function endsNearBorder(
  { axis: { at, up }, top, half }: Silhouette,
  { width, height }: Plane,
): boolean {
  const rows = Array.from(half.keys()).filter((row) => half[row]! > 0)
  return [rows[0]!, rows[rows.length - 1]!].some((row) =>
    isNearBorder((at.x + (top - row) * up.x) / width, (at.y + (top - row) * up.y) / height),
  )
}

export const PIECE_CUT = 'piece-cut'

export function pieceCut(): CoreError {
  return new CoreError({
    code: PIECE_CUT,
    message:
      'The piece reaches the border of the picture, which cuts it off or leaves no backdrop beside it. Take a photo with some air around the piece, make the crop wider, or draw the half-profile by hand.',
    where: 'photo',
  })
}

/** An end this near to the border, as a share of the picture, of which less than the other share shows an edge, is cut off. */
const NEAR_BORDER = 0.05
const LEAST_CLOSED = 0.3

/** @param x share of the picture's width, and y of its height */
const isNearBorder = (x: number, y: number) => Math.min(x, y, 1 - x, 1 - y) < NEAR_BORDER

/** @throws CoreError `piece-cut` when an end of the outline lies near the border and shows no edge */
export function requireClosing(sides: readonly OutlineSide[], { width, height }: Raster): void {
  for (const end of openEnds(sides, LEAST_CLOSED)) {
    const near = sides.some(({ points }) => {
      const i = end === 'foot' ? 0 : points.length - 2
      return isNearBorder(points[i]! / width, points[i + 1]! / height)
    })
    // A foot in its own shadow shows no edge in its middle, but on its way there.
    const { seen, all } = closingSeen(sides, end)
    if (near && seen < LEAST_CLOSED * Math.max(1, all)) throw pieceCut()
  }
}

/** Less of both edges than this, while they also disagree, is no outline, nor is a little more that disagrees by more; less than the least is none anyway. */
const LIKELY_SEEN = 0.72
const LEAST_SEEN = 0.4
/** With an end that nothing closes so much of the whole must be seen; of a piece that isn't seen through more, … */
const SEEN_OF_OPEN = 0.8
const SEEN_OF_OPAQUE = 0.84
/** … and its end is hardly closed where less than this of it shows an edge. */
const HARDLY_CLOSED = 0.6
/** Left and right of pieces differ by no more than this, px, where half of them, or most of them, shows an edge. */
const LIKELY_SPREAD_PX = 0.5
const MOST_SPREAD_PX = 1.5

/**
 * @param clear the piece is seen through, so that less of it shows an edge
 * @throws CoreError `outline-unsure` when what was found isn't the outline of one round piece
 */
export function requireLikeness(
  sides: readonly [OutlineSide, OutlineSide],
  mirror: MirrorFit,
  clear = false,
): void {
  const share = edgeShare(sides)
  const mostSpread =
    share >= SEEN_OF_OPAQUE ? Infinity : share >= LIKELY_SEEN ? MOST_SPREAD_PX : LIKELY_SPREAD_PX
  const likely = share >= LEAST_SEEN && mirror.spread < mostSpread
  const seenShare = `${Math.round(100 * share)} %`
  if (!likely)
    throw unsure(
      `What was found doesn’t look like one round piece: only ${seenShare} of it shows an edge, and left and right differ by ${mirror.spread.toFixed(1)} px. If there are several things in the picture, crop it to one; else paint what is piece and what is not, mark places on its edge, or set the plumb line by hand.`,
    )
  const open = openEnds(sides)
  if (open.length === 2)
    throw unsure(
      'Two sides were found, but no edge that closes them at the foot or at the top, so that it may be a part of the piece. Paint what is piece and what is not, or mark places on its edge.',
    )
  const hardly = OUTLINE_ENDS.find((end) => open.includes(end) || (!clear && isHardlyClosed(sides, end)))
  if (hardly && share < (clear ? SEEN_OF_OPEN : SEEN_OF_OPAQUE))
    throw unsure(
      `Only ${seenShare} of what was found shows an edge, and hardly one closes it at its ${hardly}, so that it may be a part of the piece, or more than it. Paint what is piece and what is not, or mark places on its edge.`,
    )
}

/**
 * Both sides show an edge at the same height over this share of it at least. Where as clear edges stand elsewhere before the backdrop,
 * what would be doubted is refused: they may be the rest of the piece.
 */
export const LEAST_BOTH = 0.45

/**
 * @param others about as clear edges stand elsewhere
 * @throws CoreError `outline-unsure` when left and right hardly ever show an edge at the same height, so that they follow other things
 */
export function requireBothSides(
  sides: readonly [OutlineSide, OutlineSide],
  axis: AxisLine,
  others = false,
): void {
  const both = seenByBoth(sides, axis)
  if (both < (others ? DOUBTED_BELOW : LEAST_BOTH))
    throw unsure(
      `What was found doesn’t look like one round piece: left and right both show an edge over only ${Math.round(100 * both)} % of its height. Paint what is piece and what is not, mark places on its edge, or take a photo before a plain backdrop.`,
    )
}

function isHardlyClosed(sides: readonly OutlineSide[], end: OutlineEnd): boolean {
  const { seen, all } = closingSeen(sides, end)
  return seen < HARDLY_CLOSED * all
}

/** @throws CoreError `outline-unsure` when the edges of both sides go on beyond an end */
export function requireEnds([end]: readonly OutlineEnd[]): void {
  if (end)
    throw unsure(
      `No edge closes what was found at its ${end}, and both sides go on beyond it, so that it is only a part of the piece. Paint what is piece and what is not, or mark places on its edge.`,
    )
}

/** What is no wider than this, px and a share of the picture's longer side, is a line or the border of a shadow. */
const LEAST_WIDE_PX = 8
const LEAST_WIDE = 0.006

/** @throws CoreError `outline-unsure` when an outline is too thin for a piece */
export function requireWide(sides: readonly OutlineSide[], axis: AxisLine, { width, height }: Raster): void {
  const halves = sides.map(({ points }, k) =>
    inAxis(points, axis, k === 0).reduce((most, v, i) => (i % 2 ? most : Math.max(most, v)), 0),
  )
  const wide = halves.reduce((p, q) => p + q)
  if (wide > Math.max(LEAST_WIDE_PX, LEAST_WIDE * Math.max(width, height))) return
  throw unsure(
    `What was found is only ${wide.toFixed(0)} px wide: a line, or the border of a shadow. Crop the photo to the piece, paint what is piece and what is not, or mark places on its edge.`,
  )
}

/** Where more than this share of what speaks for a piece lies elsewhere, what was found may be a part of it, or something else. */
const MOST_LEFT_OUT = 0.45

/** @throws CoreError `outline-unsure` where much that speaks for a piece lies outside of what was found */
export function requireMost(leftOut: number): void {
  if (leftOut <= MOST_LEFT_OUT) return
  throw unsure(
    'Much that looks unlike the backdrop lies outside of what was found, so that it may be only a part of the piece, or something else. Paint what is piece and what is not, crop the photo to the piece, or set the plumb line by hand.',
  )
}

/** Why an outline isn't believed that has nothing but backdrop within both of its edges over many rows. */
export const backdropWithin = () =>
  unsure(
    'What was found has much of the backdrop within its edges: it may follow lines behind the piece. Paint what is piece and what is not, crop the photo to the piece, or take one before a plain wall.',
  )

/** Edges that spread over more px than this, and so many times as many as the sharper ones of their picture, are those of something out of focus. */
const OUT_OF_FOCUS_PX = 3
const SOFTER_THAN_PICTURE = 2

/** @throws CoreError `outline-unsure` when an opaque outline is much softer than what is sharp in the picture: something behind the piece */
export function requireInFocus(sides: readonly OutlineSide[], raster: Raster): void {
  const blur = Math.min(...sides.map((side) => side.blur))
  if (!(blur > OUT_OF_FOCUS_PX)) return
  const sharp = pictureBlur(raster)
  if (sharp !== null && blur > SOFTER_THAN_PICTURE * sharp)
    throw unsure(
      'The edges that were found are much softer than the sharp ones in this photo, so that they may belong to something out of focus behind the piece. Crop it closer to the piece, paint what is piece and what is not, or mark places on its edge.',
    )
}

function unsure(message: string): CoreError {
  return new CoreError({ code: 'outline-unsure', message, where: 'photo' })
}

/** Edges elsewhere, as a share of those along the silhouette, from which on another thing is in the picture. */
const OTHERS_SHARE = 0.5
const CLEAR_EDGE = 0.5

/** True when clear edges stand farther than a few px outside a silhouette, many against those on it and within. */
export function hasOthers(sharp: Sharpness, silhouette: Silhouette): boolean {
  const { width } = sharp.x
  const outside = outsideOf(silhouette, width)
  let elsewhere = 0
  let own = 0
  sharp.x.data.forEach((v, i) => {
    if (Math.max(v, sharp.y.data[i]!) < CLEAR_EDGE) return
    if (outside(i)) elsewhere++
    else own++
  })
  return elsewhere / Math.max(1, own) > OTHERS_SHARE
}

export const NOT_FOUND = 'outline-not-found'

export function notFound(): CoreError {
  return new CoreError({
    code: NOT_FOUND,
    message:
      'No round piece stands out from the backdrop here. Crop the photo to the piece, turn it upright, paint what is piece, or set the plumb line by hand.',
    where: 'photo',
  })
}

/** The same where it was looked for about an axis that is given. */
export function notFoundAbout(): CoreError {
  return new CoreError({
    code: NOT_FOUND,
    message:
      'Nothing round stands out from the backdrop about the axis that was set. Move it to the middle of the piece, or have it found; where the axis is right, paint what is piece.',
    where: 'axis',
  })
}
