import type { PicturePoint } from '../conventions'
import type { Plane, Raster } from '../picture/raster'
import { alongAxis, type AxisLine } from './axis-line'
import { rowsOf, type Silhouette } from './silhouette'

/** What a user says about the piece in the picture; full-resolution px of the raster. */
export interface OutlineGuides {
  /** Places that are piece, and places that are not, each with the radius of the brush. */
  piece: readonly BrushStroke[]
  backdrop: readonly BrushStroke[]
  /** Places on the outline. */
  marks: readonly PicturePoint[]
}

export interface BrushStroke {
  points: readonly PicturePoint[]
  radius: number
}

export const NO_GUIDES: OutlineGuides = { piece: [], backdrop: [], marks: [] }

/** A place in a copy of the picture at another size. */
export const scaled = ({ x, y }: PicturePoint, by: number): PicturePoint => ({ x: by * x, y: by * y })

/** The same axis in a copy of the picture at another size. */
export const scaledAxis = ({ at, up }: AxisLine, by: number): AxisLine => ({ at: scaled(at, by), up })

/** The same guides for a copy of the picture at another size. */
export const scaledGuides = (guides: OutlineGuides, by: number): OutlineGuides =>
  guidesElsewhere(guides, (p) => scaled(p, by), by)

/** A place in a picture to whose places so much is added. */
export const moved = (p: PicturePoint, by: PicturePoint): PicturePoint => ({ x: p.x + by.x, y: p.y + by.y })

/** The same axis there. */
export const movedAxis = ({ at, up }: AxisLine, by: PicturePoint): AxisLine => ({ at: moved(at, by), up })

/** The same guides there. */
export const movedGuides = (guides: OutlineGuides, by: PicturePoint): OutlineGuides =>
  guidesElsewhere(guides, (p) => moved(p, by))

function guidesElsewhere(
  { piece, backdrop, marks }: OutlineGuides,
  place: (p: PicturePoint) => PicturePoint,
  size = 1,
): OutlineGuides {
  const stroke = ({ points, radius }: BrushStroke) => ({ points: points.map(place), radius: size * radius })
  return { piece: piece.map(stroke), backdrop: backdrop.map(stroke), marks: marks.map(place) }
}

/**
 * Whether something that was said to be piece, or its edge, lies below a silhouette by more than a hand's aim.
 * @param factor px of the picture for one of the silhouette's
 */
export function saysPieceBelow(
  { piece, marks }: OutlineGuides,
  { axis, top, half }: Silhouette,
  factor: number,
): boolean {
  const [, last] = rowsOf({ half })
  const rowOf = (p: PicturePoint) => top - alongAxis(axis, scaled(p, 1 / factor))
  return [...piece.flatMap(({ points }) => points), ...marks].some((p) => rowOf(p) > last + BELOW_ROWS)
}

/** How far off a hand aims, px of the silhouette. */
const BELOW_ROWS = 4

/** What a painted px speaks for, against 1 of a px that is sure by its colour. */
const PAINTED = 6

/** Evidence with the painted places decided. */
export function painted(evidence: Plane, guides: OutlineGuides, factor: number): Plane {
  const data = evidence.data.slice()
  const paint = (strokes: readonly BrushStroke[], value: number) => {
    for (const { points, radius } of strokes)
      along(points, radius / 2, (p) => dab(evidence, data, p, radius, factor, value))
  }
  paint(guides.piece, PAINTED)
  paint(guides.backdrop, -PAINTED)
  return { ...evidence, data }
}

/** A hand paints over the edge itself by so much of its brush: only what lies farther within a stroke has no edge of the piece. */
const SLOPPY = 1 / 3

/** The picture without the edges that lie in what was painted, whether as piece or as backdrop: neither has the piece's edge within it. */
export function withoutPaintedEdges(raster: Raster, guides: OutlineGuides | null | undefined): Raster {
  if (!guides || guides.piece.length + guides.backdrop.length === 0) return raster
  const edgeless = new Uint8Array(raster.width * raster.height)
  for (const { points, radius } of [...guides.piece, ...guides.backdrop])
    along(points, radius / 2, (p) => dab(raster, edgeless, p, (1 - SLOPPY) * radius, 1, 1))
  return { ...raster, edgeless }
}

/** Places along a stroke no farther apart than a step. */
function along(points: readonly PicturePoint[], step: number, visit: (p: PicturePoint) => void): void {
  points.forEach((p, i) => {
    const q = points[i + 1] ?? p
    const n = Math.max(1, Math.ceil(Math.hypot(q.x - p.x, q.y - p.y) / Math.max(1, step)))
    for (let k = 0; k < n; k++) visit({ x: p.x + ((q.x - p.x) * k) / n, y: p.y + ((q.y - p.y) * k) / n })
  })
}

function dab(
  { width, height }: Pick<Plane, 'width' | 'height'>,
  data: Float32Array | Uint8Array,
  p: PicturePoint,
  radius: number,
  factor: number,
  value: number,
): void {
  const [x, y, r] = [p.x / factor, p.y / factor, Math.max(0.7, radius / factor)]
  for (let j = Math.max(0, Math.floor(y - r)); j <= Math.min(height - 1, Math.ceil(y + r)); j++)
    for (let i = Math.max(0, Math.floor(x - r)); i <= Math.min(width - 1, Math.ceil(x + r)); i++)
      if (Math.hypot(i + 0.5 - x, j + 0.5 - y) <= r) data[j * width + i] = value
}

/** An edge with these marks on it: as sharp as can be at each of them. */
const MARK_REACH = 1.5

/** Sharpness as the user sees it: none where the backdrop was painted, and most of all at the marks. */
export function marked(sharp: Plane, { backdrop, marks }: OutlineGuides, factor: number): Plane {
  const data = sharp.data.slice()
  for (const { points, radius } of backdrop)
    along(points, radius / 2, (p) => dab(sharp, data, p, radius + factor, factor, 0))
  for (const mark of marks) dab(sharp, data, mark, MARK_REACH * factor, factor, MARKED)
  return { ...sharp, data }
}

/** Sharper than any edge is, so that the silhouette goes through a mark whatever else there is. */
const MARKED = 8
