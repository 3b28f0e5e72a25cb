import type { PicturePoint } from '../conventions'
import { CoreError } from '../errors'
import { requireRaster, type Raster } from '../picture/raster'
import { reduceToLab, type LabPicture } from '../picture/reduce'
import { colourEvidence, pieceEvidence, type Evidence } from './evidence'
import { fitMirror, type MirrorFit } from './mirror'
import { refineSide, type OutlineSide } from './refine'
import { findSilhouette, type Silhouette } from './silhouette'
import { symmetryAxes, type AxisLine } from './symmetry'

export interface FindOutlineOptions {
  /** Rough direction of the piece's top in the picture; one of the four. Default upwards. */
  up?: PicturePoint
  /** Reports the share of the work that is done, 0..1. */
  onProgress?: (fraction: number) => void
}

/** The outline of the piece in the picture, both sides, and the axis between them. Full-resolution px. */
export interface FoundOutline {
  axis: AxisLine
  mirror: MirrorFit
  left: OutlineSide
  right: OutlineSide
  /** Px of the reduced picture the piece was looked for in; the search can't see details below it. */
  factor: number
}

/** The rough search runs on a picture about this long, px. */
const SEARCH_SIZE = 500
/** A lower share of evidence pixels or rows than this is no piece. */
const LEAST_ROWS = 12

/**
 * Finds the piece and its edges: evidence for the piece, its mirror axis, the best symmetric silhouette (twice, the
 * second time with the colours of the first), then the edges to a fraction of a pixel and the axis from them.
 * @throws CoreError `outline-not-found` when nothing symmetric stands out from the backdrop
 */
export function findOutline(input: Raster, options: FindOutlineOptions = {}): FoundOutline {
  const { up = { x: 0, y: -1 }, onProgress } = options
  requireRaster(input)
  const factor = Math.max(1, Math.round(Math.max(input.width, input.height) / SEARCH_SIZE))
  const asTaken = reduceToLab(input, factor)
  // What colour transparent pixels have is anybody's guess; a cut-out is seen by its coverage alone.
  const raster = asTaken.alpha ? coverageAsLight(input) : input
  const picture = asTaken.alpha ? { ...reduceToLab(raster, factor), alpha: asTaken.alpha } : asTaken
  onProgress?.(0.1)
  const evidence = pieceEvidence(picture)
  onProgress?.(0.2)
  const candidates = symmetryAxes(picture, evidence.plane, up).map((axis, i, all) => {
    onProgress?.(0.35 + (0.15 * i) / all.length)
    return bestSilhouette(picture, evidence, axis)
  })
  const silhouette = candidates.reduce((p, q) => (q.edges > p.edges ? q : p))
  requirePiece(silhouette)
  onProgress?.(0.5)
  const reach = 2.5 * factor + 2
  const sides = ([-1, 1] as const).map((side) =>
    refineSide(raster, roughSide(silhouette, side, factor), {
      reach,
      // Going up the left side of an upright piece the outside is on the left hand.
      turn: side,
      onProgress: (f) => onProgress?.(0.5 + (side < 0 ? 0.2 : 0.4) + 0.2 * (f - 1)),
    }),
  ) as [OutlineSide, OutlineSide]
  const { at, up: upwards } = silhouette.axis
  const axis = { at: { x: at.x * factor, y: at.y * factor }, up: upwards }
  const mirror = fitMirror(seen(sides[0]), seen(sides[1]), axis)
  if (!mirror) throw notFound()
  onProgress?.(1)
  return { axis: mirror.axis, mirror, left: sides[0], right: sides[1], factor }
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

function requirePiece({ half }: Silhouette): void {
  if (half.filter((r) => r > 0).length < LEAST_ROWS) throw notFound()
}

function notFound(): CoreError {
  return new CoreError({
    code: 'outline-not-found',
    message:
      'No round piece stands out from the backdrop here. Crop the photo to the piece, turn it upright, or set the plumb line by hand.',
    where: 'photo',
  })
}

/**
 * The silhouette about an axis from what the backdrop says; as if the piece were clear, through which a plain backdrop
 * shows; and with the colours inside and outside of that one, which tell the floor's shadow from the piece. What runs
 * well along edges on both sides is taken.
 */
function bestSilhouette(picture: LabPicture, evidence: Evidence, axis: AxisLine): Silhouette {
  const first = findSilhouette(picture, evidence.plane, axis)
  if (evidence.kind === 'cut-out') return first
  const clear = evidence.kind === 'plain' ? findSilhouette(picture, evidence.plane, axis, SEE_THROUGH) : first
  const plain = clear.edges > CLEARLY_BETTER * first.edges ? clear : first
  if (plain.edges === 0) return plain
  const colours = colourEvidence(picture, outsideOf(plain, picture.width))
  const share = evidence.kind === 'textured' ? 0.2 : 0.5
  const data = colours.data.map((v, i) => (1 - share) * v + share * evidence.plane.data[i]!)
  const second = findSilhouette(picture, { ...colours, data }, axis)
  return second.edges > MAY_LOSE[evidence.kind] * plain.edges ? second : plain
}

/** What a pixel that looks like the backdrop says against a clear piece, as a share of what it says otherwise. */
const SEE_THROUGH = 0.12
/** Taking a piece for clear is daring, so it must run along clearly more edge. */
const CLEARLY_BETTER = 1.03
/** The silhouette by colours may lose edges that were the floor's and the wall's: few before a plain backdrop. */
const MAY_LOSE = { plain: 0.97, textured: 0.5 }

/** Pixels well outside a silhouette. */
function outsideOf({ axis, top, half }: Silhouette, width: number): (i: number) => boolean {
  const { at, up } = axis
  const air = 3
  return (i) => {
    const x = (i % width) + 0.5 - at.x
    const y = Math.floor(i / width) + 0.5 - at.y
    const row = Math.round(top - (x * up.x + y * up.y))
    const r = Math.abs(-x * up.y + y * up.x)
    let most = 0
    for (let k = Math.max(0, row - air); k <= Math.min(half.length - 1, row + air); k++)
      most = Math.max(most, half[k]!)
    return r > (most > 0 ? most + air : 0)
  }
}

/** One side of the silhouette as a chain [x y ...] from the lower axis crossing to the upper one, full-resolution px. */
function roughSide({ axis, top, half }: Silhouette, side: 1 | -1, factor: number): number[] {
  const { at, up } = axis
  const first = half.findIndex((r) => r > 0)
  const last = half.length - 1 - [...half].reverse().findIndex((r) => r > 0)
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
