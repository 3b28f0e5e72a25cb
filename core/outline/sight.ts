import { encoded, type Plane, type Raster } from '../picture/raster'
import { halvedTo, reduceToLab, type LabPicture } from '../picture/reduce'
import { sharpness, type Sharpness } from '../picture/sharpness'
import type { AxisLine } from './axis-line'
import { withoutBackdropEdges } from './backdrop-edges'
import { barBefore, besideOfBar, scaledBar } from './bars-before'
import { saysPieceBeyond, saysPieceWithin, withoutBeside, type Scene } from './beside'
import { bestAxis, givenAxis } from './best-axis'
import { bestSilhouette, snapped } from './best-silhouette'
import type { Candidate } from './candidate'
import { isClear } from './clear-piece'
import { colourTable, type ColourTable } from './colour-evidence'
import { withoutCutOff } from './cut-off-things'
import { pieceEvidence, wavers, type Evidence } from './evidence'
import type { FindOutlineOptions } from './find-at-size'
import { withoutFloorLines, withoutJointAbove, withoutMiddleJoint } from './floor-lines'
import { ledToLip } from './led-on'
import { marked, painted, saysPieceBelow, scaledAxis, scaledGuides, type OutlineGuides } from './guides'
import { withoutBar } from './over-bar'
import { outerEdges } from './outer-edges'
import { withoutOverruns } from './overruns'
import { withoutReflection } from './reflections'
import { endsNearBorder, isWhole, requirePiece } from './require-piece'
import { marksBeside, rulersIn } from './rulers'
import { outsideOf, stripAbout, type Silhouette } from './silhouette'
import { isFirm } from './textured-evidence'
import { withoutThingsApart } from './things-apart'
import { withoutBesides, type RankedScene } from './without-besides'

/** What a reduced picture shows of the piece. */
export interface Sight {
  /** The picture to look for edges in: a cut-out's coverage, or the picture itself. */
  raster: Raster
  evidence: Evidence
  sharp: Sharpness
  silhouette: Silhouette
  /** Whether a plain backdrop shows through what lies within a silhouette. */
  isSeenThrough: (found: Silhouette) => boolean
  /** What a colour says before a textured backdrop, by the colours within the silhouette and outside of it, and whether that is told firmly. */
  colours: ColourTable | null
  isFirm: boolean
  /** It stands on its mirror image in a glossy floor. */
  isMirrored: boolean
  /** Something that only stands beside it, a ruler or a box, was left out. */
  besideLeftOut: boolean
  /** Axes about which it might lie as well, reduced px, the likeliest first. */
  otherAxes: AxisLine[]
  /** The same picture looked at about an axis, reduced px. @throws CoreError `outline-not-found` */
  about: (axis: AxisLine) => Sight
}

/**
 * The piece in a reduced picture: what speaks for it, its axis, and the best silhouette about that.
 * @param factor px of the picture for one of the reduced one
 * @param evidenceOf what speaks for the piece: as the backdrop is found to be, or as before a textured one
 * @throws CoreError `outline-not-found`
 */
export function sightOf(
  input: Raster,
  factor: number,
  options: FindOutlineOptions,
  evidenceOf: (picture: LabPicture) => Evidence = pieceEvidence,
): Sight {
  const { up = { x: 0, y: -1 }, axis: given = null, guides = null, onProgress } = options
  const asTaken = reduceToLab(input, factor)
  // What colour transparent pixels have is anybody's guess; a cut-out is seen by its coverage alone.
  const bare = asTaken.alpha ? coverageAsLight(input) : input
  const whole = asTaken.alpha ? { ...reduceToLab(bare, factor), alpha: asTaken.alpha } : asTaken
  onProgress?.(0.1)
  const decided = (plane: Plane) => (guides ? painted(plane, guides, factor) : plane)
  const about = given && scaledAxis(given, 1 / factor)
  const bareScene = { picture: whole, sharp: sharpness(bare, factor) }
  const { raster, ranked, besideLeftOut } = rankedPicture(bare, bareScene, factor, { up, axis: about, guides, onProgress, evidenceOf }) // prettier-ignore
  const { scene, evidence: usual, axes: usualAxes } = ranked
  const { picture, sharp: bareSharp } = scene
  const look = (bareEvidence: Evidence, axis: AxisLine | null): Sight => {
    const { evidence, sharp } = guided(scene, bareEvidence, guides, factor)
    const axes = axis
      ? { best: axis, others: [] }
      : bareEvidence === usual
        ? usualAxes
        : bestAxis(sharp, evidence, up)
    const isSeenThrough = (found: Silhouette) => !evidence.isOpaque && isClear(picture, found, evidence)
    const { strip, silhouette: best } = withoutFloorLines(picture, stripAbout(sharp, axes.best), {
      find: (strip) => bestSilhouette(strip, picture, evidence, decided),
      isClear: isSeenThrough,
    })
    const standing = withoutReflection(picture, strip, best, isSeenThrough(best))
    // Who says that something below it is piece knows better.
    const isOverruled = guides !== null && saysPieceBelow(guides, standing.silhouette, factor)
    const { silhouette: alone, isMirrored } = isOverruled ? { silhouette: best, isMirrored: false } : standing
    // Before a plain backdrop a piece may hang, with a needle at its lower end; not where lines are none of it.
    const bare =
      evidence.kind === 'textured' || evidence.isOpaque
        ? withoutJointAbove(withoutMiddleJoint(alone), evidence.plane)
        : alone
    const near = snapped(strip, evidence, bare, isMirrored)
    const ended = isSeenThrough(near) ? near : withoutOverruns(strip, picture, evidence, near)
    const silhouette = ledToLip(strip, ended)
    requirePiece(silhouette)
    return {
      raster,
      evidence,
      sharp,
      silhouette,
      isSeenThrough,
      colours:
        evidence.kind === 'textured' ? colourTable(picture, outsideOf(silhouette, picture.width)) : null,
      isFirm: isFirm(bareEvidence),
      isMirrored,
      besideLeftOut,
      otherAxes: axes.others,
      about: (axis) => seen(axis),
    }
  }
  const seen = (axis: AxisLine | null): Sight => {
    const sight = look(usual, axis)
    if (!usual.backdrop || usual.backdrop.light || !reachesBorder(sight.silhouette, bareSharp.x)) return sight
    // A backdrop lighter in its middle than at its borders is taken for the piece, which then reaches them.
    const eager = pieceEvidence(picture, true)
    const other = eager.backdrop?.light ? look(eager, axis) : null
    return other && !reachesBorder(other.silhouette, bareSharp.x) ? other : sight
  }
  return seen(about)
}

type RankOptions = Required<Pick<FindOutlineOptions, 'up' | 'axis' | 'guides'>> &
  Pick<FindOutlineOptions, 'onProgress'> & { evidenceOf: (picture: LabPicture) => Evidence }

interface RankedPicture extends Pick<Sight, 'raster' | 'besideLeftOut'> {
  ranked: RankedScene
}

/** Without a bar before the piece what is left must be worth this share of what was found before. */
const LEAST_WITHOUT_BAR = 0.45

/** A picture without what only stands beside the piece or lies before it, and its axes by what a user says. */
function rankedPicture(
  raster: Raster,
  asSeen: Scene,
  factor: number,
  { up, axis, guides, onProgress, evidenceOf }: RankOptions,
  isFree = false,
): RankedPicture {
  const said = { axis, guides: guides && scaledGuides(guides, 1 / factor) }
  const seenEvidence = evidenceOf(asSeen.picture)
  const cut = wavers(seenEvidence) ? withoutCutOff(asSeen, (thing) => saysPieceWithin(thing, said)) : null
  const whole = cut?.scene ?? asSeen
  const wholeEvidence = cut ? evidenceOf(whole.picture) : seenEvidence
  const rank = (scene: Scene, report?: typeof onProgress): RankedScene => {
    const bareEvidence = scene === whole ? wholeEvidence : evidenceOf(scene.picture)
    const { evidence, sharp } = guided(scene, bareEvidence, guides, factor)
    report?.(0.2)
    const axes = axis ? givenAxis(sharp, evidence, axis) : bestAxis(sharp, evidence, up, report)
    return { scene, evidence: bareEvidence, axes }
  }
  const apart = withoutThingsApart(whole, wholeEvidence, up, (thing) => saysPieceWithin(thing, said))
  const scene = apart?.scene ?? whole
  const first = rank(scene, onProgress)
  const isCutOut = scene.picture.alpha !== null
  // Who paints or marks what is piece knows better.
  const free =
    isFree || isCutOut || guides ? null : withoutBarBefore(raster, asSeen.sharp, factor, first.axes.found)
  if (free) {
    const asked = { up, axis, guides, evidenceOf }
    const without = rankedPicture(free.raster, free.scene, factor, asked, true)
    if (without.ranked.axes.found.worth >= LEAST_WITHOUT_BAR * first.axes.found.worth)
      return { ...without, besideLeftOut: true }
  }
  const rulers = isCutOut ? [] : rulersIn(raster, factor, scene.sharp, up)
  const ranked = withoutBesides(first, rank, rulers, (beside) => saysPieceBeyond(beside, said))
  const besideLeftOut = ranked.scene !== scene || [apart, cut].some((left) => left?.isWorthAWord)
  return { raster, ranked, besideLeftOut }
}

/** A bar is told in a copy of the picture no longer than this, px: its sides needn't be known better. */
const LONGEST_FOR_BARS = 1600

/** The picture and its scene without a ruler that lies before the piece's foot; null where none does. */
function withoutBarBefore(
  raster: Raster,
  sharp: Sharpness,
  factor: number,
  found: Candidate,
): { raster: Raster; scene: Scene } | null {
  const { copy, times } = halvedTo(raster, LONGEST_FOR_BARS)
  const per = factor / times
  const inCopy = barBefore(copy, per, sharp, found, (edge) => marksBeside(copy, per, edge, 1))
  if (!inCopy) return null
  const bar = scaledBar(inCopy, times)
  const free = withoutBar(raster, bar)
  const scene = { picture: reduceToLab(free, factor), sharp: sharpness(free, factor) }
  // What is left of it, and all before it, is none of the piece.
  return { raster: free, scene: withoutBeside(scene, besideOfBar(bar, factor)) }
}

/** What speaks for the piece and the edges of a scene, with what a user decided. */
function guided(scene: Scene, bareEvidence: Evidence, guides: OutlineGuides | null, factor: number) {
  const evidence = withPlanes(bareEvidence, (plane) => (guides ? painted(plane, guides, factor) : plane))
  const outer = edgesBefore(scene.sharp, evidence)
  const sharp = guides ? { x: marked(outer.x, guides, factor), y: marked(outer.y, guides, factor) } : outer
  return { evidence, sharp }
}

/** The edges that may be the piece's, as what is known of the backdrop tells. */
function edgesBefore(sharp: Sharpness, { kind, isOpaque, plane, unshadowed }: Evidence): Sharpness {
  const outer = unshadowed ? outerEdges(sharp, unshadowed) : sharp
  return kind === 'textured' || isOpaque ? withoutBackdropEdges(outer, plane) : outer
}

const reachesBorder = (silhouette: Silhouette, picture: Plane) =>
  !isWhole(silhouette, picture) || endsNearBorder(silhouette, picture)

/** Evidence with what a user decided; a painted shadow is no longer doubted. */
function withPlanes(evidence: Evidence, decided: (plane: Plane) => Plane): Evidence {
  const { plane, loose, unshadowed, bare } = evidence
  return {
    ...evidence,
    plane: decided(plane),
    loose: decided(loose),
    unshadowed: unshadowed && decided(unshadowed),
    bare: decided(bare),
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
