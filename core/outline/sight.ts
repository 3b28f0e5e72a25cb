import { encoded, type Plane, type Raster } from '../picture/raster'
import { reduceToLab } from '../picture/reduce'
import { sharpness, type Sharpness } from '../picture/sharpness'
import type { AxisLine } from './axis-line'
import { bestAxis } from './best-axis'
import { bestSilhouette, snapped } from './best-silhouette'
import { pieceEvidence, type Evidence } from './evidence'
import type { FindOutlineOptions } from './find-at-size'
import { withoutFloorLines } from './floor-lines'
import { ledToLip } from './led-on'
import { marked, painted, saysPieceBelow, scaled } from './guides'
import { outerEdges } from './outer-edges'
import { withoutOverruns } from './overruns'
import { withoutReflection } from './reflections'
import { endsNearBorder, isWhole, requirePiece } from './require-piece'
import { likeness, stripAbout, type Silhouette } from './silhouette'

/** What a reduced picture shows of the piece. */
export interface Sight {
  /** The picture to look for edges in: a cut-out's coverage, or the picture itself. */
  raster: Raster
  evidence: Evidence
  sharp: Sharpness
  silhouette: Silhouette
  /** It stands on its mirror image in a glossy floor. */
  isMirrored: boolean
  /** Axes about which it might lie as well, reduced px, the likeliest first. */
  otherAxes: AxisLine[]
  /** The same picture looked at about an axis, reduced px. @throws CoreError `outline-not-found` */
  about: (axis: AxisLine) => Sight
}

/**
 * The piece in a reduced picture: what speaks for it, its axis, and the best silhouette about that.
 * @param factor px of the picture for one of the reduced one
 * @throws CoreError `outline-not-found`
 */
export function sightOf(input: Raster, factor: number, options: FindOutlineOptions): Sight {
  const { up = { x: 0, y: -1 }, axis: given = null, guides = null, onProgress } = options
  const asTaken = reduceToLab(input, factor)
  // What colour transparent pixels have is anybody's guess; a cut-out is seen by its coverage alone.
  const raster = asTaken.alpha ? coverageAsLight(input) : input
  const picture = asTaken.alpha ? { ...reduceToLab(raster, factor), alpha: asTaken.alpha } : asTaken
  onProgress?.(0.1)
  const bare = sharpness(raster, factor)
  const decided = (plane: Plane) => (guides ? painted(plane, guides, factor) : plane)
  const look = (bareEvidence: Evidence, report: typeof onProgress, axis: AxisLine | null): Sight => {
    const evidence = withPlanes(bareEvidence, decided)
    const outer = evidence.unshadowed ? outerEdges(bare, evidence.unshadowed) : bare
    const sharp = guides ? { x: marked(outer.x, guides, factor), y: marked(outer.y, guides, factor) } : outer
    report?.(0.2)
    const axes = axis ? { best: axis, others: [] } : bestAxis(sharp, evidence, up, report)
    const strip = stripAbout(sharp, axes.best)
    const best = bestSilhouette(strip, picture, evidence, decided)
    const standing = withoutReflection(picture, strip, best, isClear(best, evidence))
    // Who says that something below it is piece knows better.
    const isOverruled = guides !== null && saysPieceBelow(guides, standing.silhouette, factor)
    const { silhouette: alone, isMirrored } = isOverruled ? { silhouette: best, isMirrored: false } : standing
    const found = withoutFloorLines(picture, alone)
    const near = snapped(strip, evidence, found, isMirrored)
    const ended = isClear(near, evidence) ? near : withoutOverruns(strip, picture, evidence, near)
    const silhouette = ledToLip(strip, ended)
    requirePiece(silhouette)
    return { raster, evidence, sharp, silhouette, isMirrored, otherAxes: axes.others, about }
  }
  const usual = pieceEvidence(picture)
  const seen = (axis: AxisLine | null, report?: typeof onProgress): Sight => {
    const sight = look(usual, report, axis)
    if (!usual.backdrop || usual.backdrop.light || !reachesBorder(sight.silhouette, bare.x)) return sight
    // A backdrop lighter in its middle than at its borders is taken for the piece, which then reaches them.
    const eager = pieceEvidence(picture, true)
    const other = eager.backdrop?.light ? look(eager, undefined, axis) : null
    return other && !reachesBorder(other.silhouette, bare.x) ? other : sight
  }
  const about = (axis: AxisLine) => seen(axis)
  return seen(given && { at: scaled(given.at, 1 / factor), up: given.up }, onProgress)
}

/** Pieces that look less like a piece than this throughout, before a plain backdrop, are seen through. */
const CLEAR_LIKENESS = 0.4

/** Whether a plain backdrop shows through what lies within a silhouette. */
export const isClear = (silhouette: Silhouette, { kind, loose }: Evidence) =>
  kind === 'plain' && likeness(silhouette, loose) < CLEAR_LIKENESS

const reachesBorder = (silhouette: Silhouette, picture: Plane) =>
  !isWhole(silhouette, picture) || endsNearBorder(silhouette, picture)

/** Evidence with what a user decided; a painted shadow is no longer doubted. */
function withPlanes(evidence: Evidence, decided: (plane: Plane) => Plane): Evidence {
  const { plane, loose, unshadowed } = evidence
  return {
    ...evidence,
    plane: decided(plane),
    loose: decided(loose),
    unshadowed: unshadowed && decided(unshadowed),
  }
}

/** A grey picture whose light is the alpha of another. */
export function coverageAsLight({ width, height, data }: Raster): Raster {
  const out = new Uint8Array(data.length)
  for (let i = 0; i < data.length; i += 4) {
    out.fill(Math.round(255 * encoded(data[i + 3]! / 255)), i, i + 3)
    out[i + 3] = 255
  }
  return { width, height, data: out }
}
