import type { LabPicture } from '../picture/reduce'
import { upperMedian } from '../upper-median'
import { placeAt } from './axis-line'
import { sharpestNear } from './jumps'
import { isClosed } from './led-on'
import { meanColour, oneApart } from './mean-colour'
import { onlyRows, rowsOf, type Silhouette, type Strip } from './silhouette'

/** A mirror image is as tall as this at least, px, and the piece above it as this share of both. */
const LEAST_ROWS = 10
const LEAST_PIECE = 0.35
/** … and as this share of the foot's half-width. */
const AS_WIDE = 0.3
/** Rows next to the foot, whose front bulges over them, tell nothing. */
const SKIPPED_ROWS = 3
/** Fainter edges are found a little farther in, px; else half-widths of piece and image differ by no more than this on average, px, … */
const MOST_NARROWER = 4
const MOST_APART = 1.5
/** … where no row counts more than so many. */
const MOST_OF_A_ROW = 5
/** The image's sides show an edge, no farther off than this, px, in so many of its rows: no shadow's are as sharp. */
const LEAST_EDGE = 0.05
const EDGE_REACH = 2
const MOSTLY_EDGED = 0.5
/** What stands out from the floor in the image has the piece's colour so far (cosine), but no more than this share of its strength … */
const SAME_COLOUR = 0.9
const FAINTER = 0.85
const LEAST_STRENGTH = 0.03
/** … in so many of its rows. */
const MOST_ROWS = 0.75
/** Colours are looked at within these shares of the half-width, and so many px beyond it. */
const WITHIN = [0.3, 0.85] as const
const BEYOND = [3, 8] as const
/** The foot's front lies below its sides by no more than this share of its half-width. */
const MOST_RISE = 0.4
/** The front is looked at over this share of the half-width, and shows an edge across of this sharpness on average. */
const FRONT = 0.9
const LEAST_FRONT = 0.12
/** … and by this share of its rise on average over the columns whose colours are looked at. */
const MEAN_FRONT = 0.8
/** Cosine of the most that the axis of a standing piece leans. */
const STANDING = 0.9
/** So near to the picture's border, px, what is found is cut off by it. */
const BORDER_PX = 3

/** A silhouette, and whether it stands on its mirror image in a glossy floor. */
export interface Standing {
  silhouette: Silhouette
  isMirrored: boolean
}

/**
 * The silhouette without the piece's mirror image in a glossy floor: what hangs below the foot, as wide row for row as what stands
 * above it, of the same colours but fainter, and that no edge closes. The same one where there is none, and of a lying piece.
 * @param clear the piece is seen through, so that its edges may tell more than its colours
 */
export function withoutReflection(
  picture: LabPicture,
  strip: Strip,
  silhouette: Silhouette,
  clear: boolean,
): Standing {
  const foot = footAbove(picture, strip, silhouette, clear)
  if (!foot) return { silhouette, isMirrored: false }
  const { row, rise } = foot
  const half = onlyRows(silhouette.half, { from: 0, to: row + 1 })
  const wide = half[row]!
  for (let k = 1; k <= rise; k++) half[row + k] = wide * Math.sqrt(1 - (k / (rise + 1)) ** 2)
  return { silhouette: { ...silhouette, half }, isMirrored: true }
}

/** Where a piece ends: the row of its foot's sides, and how many rows lower its front lies. */
interface Foot {
  row: number
  rise: number
}

/** The foot of a piece that stands on its mirror image; null where it doesn't. */
function footAbove(picture: LabPicture, strip: Strip, silhouette: Silhouette, clear: boolean): Foot | null {
  const { half } = silhouette
  const [first, last] = rowsOf(silhouette)
  const stands = silhouette.axis.up.y < -STANDING
  if (first < 0 || !stands) return null
  const isCut = !isClosed(strip, half, last, 1) || roomAt(picture, silhouette, last) < BORDER_PX
  const bottom = half.findLastIndex((_, row) => roomAt(picture, silhouette, row) >= 1)
  // Few pieces show edges below their foot where an image would: colours are looked at only then.
  let own: (RowColours | null)[] | null = null
  let best: Foot | null = null
  let clearest = LEAST_FRONT
  for (let row = first + Math.round(LEAST_PIECE * (last - first)); row <= last; row++) {
    const least = Math.max(LEAST_ROWS, AS_WIDE * half[row]!)
    // A silhouette may end at the foot, or not far below it, and the image be seen nevertheless.
    const endsHere = last - row < least
    const rows = Math.min((endsHere ? bottom : last) - row, row - first)
    if (rows < least || !(isCut || endsHere)) continue
    const below = imageBelow(strip, silhouette, row, rows)
    let images: (RowColours | null)[] | null = null
    const byEdges = clear && !endsHere && below.isFainterAlong
    for (let rise = 0; rise <= MOST_RISE * half[row]! && row + rise < bottom; rise++) {
      const foot = { row, rise }
      if (!isAsWide(below, foot)) continue
      if (!byEdges) {
        const seen = (own ??= Array.from(half, (r, at) =>
          r > 0 ? coloursAt(picture, silhouette, at, r) : null,
        ))
        images ??= below.half.map(
          (r, k) => seen[row + 1 + k] ?? coloursAt(picture, silhouette, row + 1 + k, r),
        )
        if (!isFainterBelow(images, own, foot)) continue
      }
      const edge = edgeAcross(strip, half[row]!, foot)
      if (edge <= clearest) continue
      clearest = edge
      best = foot
    }
  }
  return best
}

/** What is seen in the rows below a foot's sides, beside what is seen as far above them. */
interface ImageBelow {
  /** Half-widths below, px, and by how much they are larger than those above. */
  half: number[]
  apart: number[]
  /** How sharp the weaker side's edge is below, and whether that is less than above on average. */
  edges: number[]
  isFainterAlong: boolean
}

/** What is seen in so many rows below one; beyond a silhouette's end at the half-widths which a mirror image would have. */
function imageBelow(strip: Strip, silhouette: Silhouette, row: number, rows: number): ImageBelow {
  const { half } = silhouette
  const [, last] = rowsOf(silhouette)
  const halfAt = (at: number) => (at <= last ? half[at]! : (half[2 * row - at] ?? 0))
  const edgeAt = (at: number) =>
    sharpestNear(strip.weaker, at * (strip.radii + 1) + Math.round(halfAt(at)), EDGE_REACH)
  const upwards = Array.from({ length: rows }, (_, k) => row - 1 - k)
  const downwards = Array.from({ length: rows }, (_, k) => row + 1 + k)
  const edges = downwards.map(edgeAt)
  const widths = downwards.map(halfAt)
  return {
    half: widths,
    apart: widths.map((r, k) => r - half[upwards[k]!]!),
    edges,
    isFainterAlong: mean(edges) < FAINTER * mean(upwards.map(edgeAt)),
  }
}

/** Whether what is seen below a foot is as wide as what is above it, and shows edges there. */
function isAsWide({ apart, edges }: ImageBelow, { rise }: Foot): boolean {
  const from = Math.max(SKIPPED_ROWS, rise)
  const shown = edges.slice(from).map((edge) => edge >= LEAST_EDGE)
  return shown.length >= LEAST_ROWS && areAlike(apart.slice(from)) && share(shown) >= MOSTLY_EDGED
}

/** Whether what is seen below a foot is a fainter image of what is seen above its front, about which colours are mirrored. */
function isFainterBelow(
  images: readonly (RowColours | null)[],
  own: readonly (RowColours | null)[],
  { row, rise }: Foot,
): boolean {
  const front = Math.round(MEAN_FRONT * rise)
  const fainter = images
    .slice(front + SKIPPED_ROWS)
    .map((image, k) => isFainter(own[row + front - 1 - SKIPPED_ROWS - k] ?? null, image))
  return share(fainter) >= MOST_ROWS && share(fainter.slice(0, LEAST_ROWS)) >= MOST_ROWS
}

/** Whether differences of half-widths are all about the same, and small. */
function areAlike(apart: readonly number[]): boolean {
  const usual = upperMedian(Float32Array.from(apart))
  if (Math.abs(usual) > MOST_NARROWER) return false
  return mean(apart.map((d) => Math.min(MOST_OF_A_ROW, Math.abs(d - usual)))) <= MOST_APART
}

const mean = (values: readonly number[]) => values.reduce((sum, v) => sum + v, 0) / values.length
const share = (holds: readonly boolean[]) => holds.filter(Boolean).length / holds.length

/** Mean of the edges across the axis along a foot's front. */
function edgeAcross({ level, radii }: Strip, wide: number, { row, rise }: Foot): number {
  const columns = Math.round(FRONT * wide)
  let sum = 0
  for (let r = 0; r < columns; r++)
    sum += level[(row + Math.round(rise * Math.sqrt(1 - (r / wide) ** 2))) * (radii + 1) + r]! / columns
  return sum
}

/** Mean colours of a row within the silhouette and beside it. */
interface RowColours {
  within: number[]
  beyond: number[]
}

/** Whether what stands out from the floor in a row is a fainter copy of what would stand out of it above. */
function isFainter(above: RowColours | null, image: RowColours | null): boolean {
  if (!above || !image) return false
  const { within, beyond } = image
  let [squares, others, product] = [0, 0, 0]
  within.forEach((v, k) => {
    const [image, piece] = [v - beyond[k]!, above.within[k]! - beyond[k]!]
    squares += piece * piece
    others += image * image
    product += image * piece
  })
  const strength = product / squares
  return (
    strength > LEAST_STRENGTH && strength < FAINTER && product > SAME_COLOUR * Math.sqrt(squares * others)
  )
}

/** @param r half-width there */
function coloursAt(
  picture: LabPicture,
  { axis, top }: Silhouette,
  row: number,
  r: number,
): RowColours | null {
  const colourOf = (from: number, to: number) => {
    const us = oneApart(from, to)
    return meanColour(picture, axis, [...us.map((u) => -u), ...us], [top - row]).colour
  }
  const within = colourOf(WITHIN[0] * r, WITHIN[1] * r)
  const beyond = colourOf(r + BEYOND[0], r + BEYOND[1])
  return within && beyond && { within, beyond }
}

/** How far the middle of a row lies from the picture's border, px. */
function roomAt({ width, height }: LabPicture, { axis, top }: Silhouette, row: number): number {
  const { x, y } = placeAt(axis, 0, top - row)
  return Math.min(x, y, width - x, height - y)
}
