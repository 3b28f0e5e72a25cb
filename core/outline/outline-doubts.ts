import type { PicturePoint } from '../conventions'
import type { AxisLine } from './axis-line'
import { hornsOf } from './horns'
import { OUTLINE_ENDS, openEnds, openEndWords, type OutlineEnd } from './open-ends'
import type { OutlineSide } from './refine'
import { edgeShare, seenByBoth } from './seen-by-both'

/** Corners that both reach beyond what closes an end by more than this share of the outline's length make it doubtful. */
const HORNED = 0.0045
/** Sides that both show an edge over less than this share of the height may follow other things. */
export const LEAST_BOTH = 2 / 3
/**
 * Outlines of which less than this shows an edge are mostly wrong (186 made-up photos: five below it, each 1 % off or more, in itself or in its ⌀), but
 * noise hides edges as well (75 noisy copies: ten below it, five of them so far off, three within 0.25 %), so that they are told rather than refused.
 */
const LEAST_SHARE = 0.8
/**
 * Edges that spread over more than this, px, are those of a blurred photo. About so much of that is what an outline is off by (the bench's photos,
 * blurred up to six times as far), which is said where it is more than this share of the outline's length.
 */
const BLURRED_PX = 2
const OFF_BY = 0.5
const LEAST_OFF = 8e-4

/**
 * What there is to doubt about an outline, in words, with what to do.
 * @param outline its sides, each from the lower crossing of the axis to the upper one
 */
export function outlineDoubts({ left, right }: { left: OutlineSide; right: OutlineSide }): string[] {
  const sides = [left, right] as const
  const open = openEnds(sides)
  const line = betweenCrossings(left)
  const horned = hornedEnds(sides, line).filter((end) => !open.includes(end))
  const both = seenByBoth(sides, line.axis)
  const share = edgeShare(sides)
  const blur = Math.min(left.blur, right.blur)
  const isBlurred = blur > BLURRED_PX
  const off = (OFF_BY * blur) / line.length
  return [
    ...open.map(openEndWords),
    ...horned.map(hornedEndWords),
    ...(both < LEAST_BOTH ? [seldomSeenWords(both)] : share < LEAST_SHARE ? [littleSeenWords(share)] : []),
    ...(isBlurred && off > LEAST_OFF ? [blurredWords(blur, off)] : []),
  ]
}

/** Ends that are closed along a line which bends into the piece, as nothing round does: an inner edge of glass, say. */
function hornedEnds(
  sides: readonly [OutlineSide, OutlineSide],
  { axis, length }: ReturnType<typeof betweenCrossings>,
): OutlineEnd[] {
  const horns = hornsOf(sides, axis)
  return OUTLINE_ENDS.filter((end) => horns[end] > HORNED * length)
}

/** The line from a side's lower crossing of the axis to its upper one, and how long that is, px. */
function betweenCrossings({ points }: OutlineSide): { axis: AxisLine; length: number } {
  const [from, to] = [points.subarray(0, 2), points.subarray(-2)].map(([x = 0, y = 0]) => ({ x, y })) as [PicturePoint, PicturePoint] // prettier-ignore
  const length = Math.hypot(to.x - from.x, to.y - from.y)
  return { axis: { at: from, up: { x: (to.x - from.x) / length, y: (to.y - from.y) / length } }, length }
}

/** What a line that bends into the piece means where it ends, and what to do. */
function hornedEndWords(end: OutlineEnd): string {
  return `What closes the piece at its ${end} bends into it, as nothing round does; it may be an edge within it. Where the piece ends there, and with it the scale, is a guess. Mark places on the edge, or paint what is piece.`
}

function seldomSeenWords(both: number): string {
  return `Left and right both show an edge over only ${Math.round(100 * both)} % of the height: the outline may follow other things there, or leave out a part. Look along it, and mark places on the edge, or paint what is piece.`
}

function littleSeenWords(share: number): string {
  return `Only ${Math.round(100 * share)} % of the outline shows an edge; where neither side does it is a guess, and may lead past a part of the piece. Look along it, and mark places on the edge, or paint what is piece.`
}

function blurredWords(blur: number, off: number): string {
  return `The photo is blurred: its edges spread over ${blur.toFixed(1)} px, so that much of the outline may be ${(100 * off).toPrecision(1)} % of the height off, and corners more. A photo in focus, in its own size, tells more.`
}
