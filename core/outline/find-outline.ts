import type { PicturePoint } from '../conventions'
import { requireRaster, type Plane, type Raster } from '../picture/raster'
import { reduceToLab } from '../picture/reduce'
import { sharpness } from '../picture/sharpness'
import type { AxisLine } from './axis-line'
import { bestAxis } from './best-axis'
import { bestSilhouette, snapped } from './best-silhouette'
import { pieceEvidence, type Evidence } from './evidence'
import { marked, painted, type OutlineGuides } from './guides'
import { outerEdges } from './outer-edges'
import { fitMirror, type MirrorFit } from './mirror'
import { refineSides, type OutlineSide } from './refine'
import {
  hasOthers,
  notFound,
  requireClosing,
  requireLikeness,
  requirePiece,
  requireWhole,
} from './require-piece'
import { likeness, rowsOf, stripAbout, type Silhouette } from './silhouette'

export interface FindOutlineOptions {
  /** Rough direction of the piece's top in the picture; one of the four. Default upwards. */
  up?: PicturePoint
  /** The axis where it is known already, full-resolution px; it is looked for only when it isn't. */
  axis?: AxisLine | null
  /** What a user painted or marked; full-resolution px. */
  guides?: OutlineGuides | null
  /** Outline points along the picture's longer side, at most; more cost time. Default 750. */
  pointsAlong?: number
  /** Reports the share of the work that is done, 0..1. */
  onProgress?: (fraction: number) => void
}

/** The outline of the piece in the picture, both sides, and the axis between them. Full-resolution px. */
export interface FoundOutline {
  axis: AxisLine
  mirror: MirrorFit
  left: OutlineSide
  right: OutlineSide
  /** True when about as many edges stand elsewhere before the backdrop: another thing is in the picture. */
  others: boolean
  /** Px of the reduced picture the piece was looked for in; the search can't see details below it. */
  factor: number
}

/** The rough search runs on a picture about this long, px. */
const SEARCH_SIZE = 360

/**
 * Finds the piece and its edges: evidence for the piece, its mirror axis, the best symmetric silhouette (twice, the
 * second time with the colours of the first), then the edges to a fraction of a pixel and the axis from them.
 * @throws CoreError `outline-not-found`, `outline-unsure`, `piece-cut` (see `require-piece.ts`), `raster-small`
 */
export function findOutline(input: Raster, options: FindOutlineOptions = {}): FoundOutline {
  const { up = { x: 0, y: -1 }, axis: given = null, guides = null, pointsAlong, onProgress } = options
  requireRaster(input)
  const factor = Math.max(1, Math.round(Math.max(input.width, input.height) / SEARCH_SIZE))
  const asTaken = reduceToLab(input, factor)
  // What colour transparent pixels have is anybody's guess; a cut-out is seen by its coverage alone.
  const raster = asTaken.alpha ? coverageAsLight(input) : input
  const picture = asTaken.alpha ? { ...reduceToLab(raster, factor), alpha: asTaken.alpha } : asTaken
  onProgress?.(0.1)
  const bare = sharpness(raster, factor)
  const decided = (plane: Plane) => (guides ? painted(plane, guides, factor) : plane)
  const evidence = withPlanes(pieceEvidence(picture), decided)
  const outer = evidence.unshadowed ? outerEdges(bare, evidence.unshadowed) : bare
  const sharp = guides ? { x: marked(outer.x, guides, factor), y: marked(outer.y, guides, factor) } : outer
  onProgress?.(0.2)
  const start = given
    ? { at: { x: given.at.x / factor, y: given.at.y / factor }, up: given.up }
    : bestAxis(sharp, evidence, up, onProgress)
  const strip = stripAbout(sharp, start)
  const silhouette = snapped(strip, evidence, bestSilhouette(strip, picture, evidence, decided))
  requirePiece(silhouette)
  requireWhole(silhouette, sharp.x)
  onProgress?.(0.5)
  const reach = 2.5 * factor + 2
  const rough = ([-1, 1] as const).map((side) => roughSide(silhouette, side, factor))
  const { at, up: upwards } = silhouette.axis
  const axis = { at: { x: at.x * factor, y: at.y * factor }, up: upwards }
  const clear = evidence.kind === 'plain' && likeness(silhouette, evidence.plane) < CLEAR_LIKENESS
  const sides = refineSides(raster, rough as [number[], number[]], {
    reach,
    axis,
    clear,
    plain: evidence.kind === 'plain',
    backdrop: clear ? null : evidence.backdrop,
    pointsAlong,
    onProgress: (f) => onProgress?.(0.5 + 0.4 * f),
  })
  const mirror = fitMirror(seen(sides[0]), seen(sides[1]), axis)
  if (!mirror) throw notFound()
  requireClosing(sides, raster)
  requireLikeness(sides, mirror)
  onProgress?.(1)
  return {
    axis: given ?? mirror.axis,
    mirror,
    left: sides[0],
    right: sides[1],
    factor,
    others: evidence.kind === 'plain' && hasOthers(sharp, silhouette),
  }
}

/** Pieces that look less like a piece than this throughout, before a plain backdrop, are seen through. */
const CLEAR_LIKENESS = 0.4

/** Evidence with what a user decided; a painted shadow is no longer doubted. */
function withPlanes(evidence: Evidence, decided: (plane: Plane) => Plane): Evidence {
  const { plane, unshadowed } = evidence
  return { ...evidence, plane: decided(plane), unshadowed: unshadowed && decided(unshadowed) }
}

/** A grey picture whose light is the alpha of another. */
function coverageAsLight({ width, height, data }: Raster): Raster {
  const out = new Uint8Array(data.length)
  for (let i = 0; i < data.length; i += 4) {
    const light = data[i + 3]! / 255
    const grey = light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055
    out.fill(Math.round(255 * grey), i, i + 3)
    out[i + 3] = 255
  }
  return { width, height, data: out }
}

/** The points of a side where an edge was found. */
export function seen({ points, sd }: OutlineSide): Float64Array {
  return points.filter((_, i) => Number.isFinite(sd[i >> 1]!))
}

/** One side of the silhouette as a chain [x y ...] from the lower axis crossing to the upper one, full-resolution px. */
function roughSide({ axis, top, half }: Silhouette, side: 1 | -1, factor: number): number[] {
  const { at, up } = axis
  const [first, last] = rowsOf({ half })
  const out: number[] = []
  const push = (v: number, r: number) =>
    out.push(factor * (at.x + v * up.x - side * r * up.y), factor * (at.y + v * up.y + side * r * up.x))
  push(top - last - 0.5, 0)
  push(top - last - 0.5, half[last]!)
  for (let row = last; row >= first; row--) push(top - row, half[row]!)
  push(top - first + 0.5, half[first]!)
  push(top - first + 0.5, 0)
  return out
}
