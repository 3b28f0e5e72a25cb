import type { PicturePoint } from '../conventions'
import { CoreError } from '../errors'
import { calmed } from '../picture/calm'
import type { Raster } from '../picture/raster'
import type { LabPicture } from '../picture/reduce'
import { reachAlong, type AxisLine } from './axis-line'
import type { Backdrop } from './backdrop'
import { withoutBareEnds } from './bare-ends'
import { isFaint } from './clear-piece'
import type { ClosedSides } from './closing-arcs'
import { outOfContactShade } from './contact-shade'
import { withDomes } from './dome-ends'
import { isLined, mayBeTextured, opaqueEvidence, type Evidence } from './evidence'
import { leftOutBy } from './left-out'
import { rowsTakenIn } from './taken-in'
import { firmlyTexturedEvidence, texturedEvidence } from './textured-evidence'
import { withoutHooks } from './hooks'
import { withFaintRings, type RingedSides } from './faint-rings'
import { endsGoingOn } from './going-on'
import { scaled, scaledAxis, withoutPaintedEdges, type OutlineGuides } from './guides'
import { hornsOf, ledToHorns } from './horns'
import { withLostFlanks } from './lost-flanks'
import { fitMirror, type MirrorFit } from './mirror'
import { OUTLINE_ENDS, openEnds } from './open-ends'
import { fitSides, refineSides, seen, stepFor, type FitOptions, type OutlineSide } from './refine'
import {
  hasOthers,
  notFound,
  backdropWithin,
  requireClosing,
  requireEnds,
  requireInFocus,
  requireLikeness,
  requireMost,
  requireWhole,
  requireWide,
} from './require-piece'
import { edgeShare } from './seen-by-both'
import { sightOf, type Sight } from './sight'
import { likeness, rowsOf, type Silhouette } from './silhouette'

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
  /** True when what lies below its foot was left out as its mirror image in a glossy floor. */
  mirrored: boolean
  /** True when something that only stands beside it, a ruler or a box, was left out. */
  besideLeftOut: boolean
  /** Px of the reduced picture the piece was looked for in; the search can't see details below it. */
  factor: number
}

/** The rough search runs on a picture about this long, px. */
const SEARCH_SIZE = 360

/** An outline with what its last fit went by. */
export interface Finding extends FoundOutline {
  raster: Raster
  /** It was seen by its coverage. */
  cutOut: boolean
  /** The backdrop shows through it. */
  clear: boolean
  /** How much speaks for a piece elsewhere before a textured backdrop, as a share of what does within it. */
  leftOut: number
  /** Over how many rows, reduced px, it has backdrop within both edges. */
  takenIn: number
  /** How much unlike a textured backdrop it is in the mean, told firmly, -1 to 1; -1 before others. */
  unlike: number
  backdrop: Backdrop | null
  parts: ClosedSides['parts']
  /** True for places of rings too faint to be seen at each of their places. */
  rings: RingedSides['rings']
  /** It was found in a smoothed copy. */
  noisy: boolean
}

export const chainsOf = ({ left, right }: Finding) => [left.points, right.points]

/** Both sides fitted once more, along chains, to the same picture at so many times the size they were found in; in its px. */
export function fittedAt(
  raster: Raster,
  times: number,
  { left, backdrop, parts, rings }: Finding,
  {
    chains,
    ...options
  }: { chains: readonly Float64Array[] } & Pick<FitOptions, 'step' | 'longer' | 'enlarged'>,
): [OutlineSide, OutlineSide] {
  const there = chains.map((points) => points.map((v) => times * v))
  return fitSides(raster, there as [Float64Array, Float64Array], {
    ...options,
    blur: times * left.blur,
    backdrop: backdrop && { ...backdrop, factor: times * backdrop.factor },
    parts: (p) => parts(scaled(p, 1 / times)),
    rings: (p) => rings(scaled(p, 1 / times)),
  })
}

/** What is said of an outline besides its sides and its axis; the same in whatever copy it was found. */
export const saidOf = ({ factor, others, mirrored, besideLeftOut }: FoundOutline) => ({
  factor,
  others,
  mirrored,
  besideLeftOut,
})

/** Both sides with their mirror axis, which is the axis unless that is given. @throws CoreError `outline-not-found` */
export function withMirror(
  sides: readonly [OutlineSide, OutlineSide],
  about: AxisLine,
  given: AxisLine | null,
): Pick<FoundOutline, 'axis' | 'mirror' | 'left' | 'right'> {
  const mirror = mirrorOf(sides, about)
  if (!mirror) throw notFound()
  return { axis: given ?? mirror.axis, mirror, left: sides[0], right: sides[1] }
}

const mirrorOf = ([left, right]: readonly [OutlineSide, OutlineSide], about: AxisLine) =>
  fitMirror(seen(left), seen(right), about)

/** Axes that are tried where about the likeliest one nothing was found that could be believed. */
const OTHER_AXES = 2

/**
 * What is found in a picture. In a noisy one it is looked for in a smoothed copy; the edges are fitted once more to the picture
 * itself, whose noise tells how well their places are known.
 */
export function find(input: Raster, options: FindOutlineOptions): Finding {
  const calm = calmed(input)
  const found = findAsItIs(calm, options)
  if (calm === input) return found
  const step = stepFor(input, options.pointsAlong)
  const noisy = withoutPaintedEdges(input, options.guides)
  const sides = fittedAt(noisy, 1, found, { chains: chainsOf(found), step, longer: true })
  return {
    ...found,
    noisy: true,
    raster: input,
    ...withMirror(sides, found.mirror.axis, options.axis ?? null),
  }
}

/** Why what was found isn't believed, with how far that reaches along its axis, as a share of the picture's longer side. */
export class Unbelieved extends CoreError {
  constructor(
    why: CoreError,
    readonly reach: number,
  ) {
    super(why)
  }
}

/** What reaches over less than this share of what wasn't believed is a part of it: from its top to a crease, say. */
const PART = 0.7

/** Whether an outline is only a part of what was found in the same picture at another size, and not believed for this reason. */
export const isPartOf = (
  found: Pick<FoundOutline, 'left' | 'mirror'>,
  input: Raster,
  unbelieved: CoreError,
): boolean => unbelieved instanceof Unbelieved && reachIn(input, found) < PART * unbelieved.reach

/** How far an outline reaches along its axis, as a share of its picture's longer side. */
function reachIn({ width, height }: Raster, { left, mirror }: Pick<FoundOutline, 'left' | 'mirror'>): number {
  const { low, high } = reachAlong(left.points, mirror.axis)
  return (high - low) / Math.max(width, height)
}

/** The same in a picture as it is; where that can't be believed, about other axes, and with other opinions on the backdrop. */
export function findAsItIs(input: Raster, options: FindOutlineOptions): Finding {
  const factor = Math.max(1, Math.round(Math.max(input.width, input.height) / SEARCH_SIZE))
  let sight: Sight | null = null
  let first: Finding | null = null
  try {
    sight = sightOf(input, factor, options)
    first = findBy(sight, factor, options)
    const found = withoutHorns(sight, believed(first, options), options)
    const isTextured = sight.evidence.kind === 'textured'
    return withFlanks(options.guides ? found : betterTold(found, isTextured, input, factor, options), options)
  } catch (error) {
    if (!(error instanceof CoreError)) throw error
    const isUnsure = error.code === 'outline-unsure'
    const other =
      (isUnsure && sight && aboutOthers(sight, factor, options)) ||
      byOpinions(otherOpinions(sight?.evidence ?? null), input, factor, options)
    if (other) return withFlanks(other, options)
    throw isUnsure && first ? new Unbelieved(error, reachIn(input, first)) : error
  }
}

/**
 * What is found by a firmer opinion on a backdrop whose lines led an outline away, or whose colours the piece has hardly any of, so that
 * nothing speaks against telling it firmly; else that outline.
 * @throws CoreError where that has a plain backdrop within both edges; before one of many colours a piece may have them itself
 */
function betterTold(
  found: Finding,
  isTextured: boolean,
  input: Raster,
  factor: number,
  options: FindOutlineOptions,
): Finding {
  const isAmongLines = found.takenIn >= MUCH_TAKEN_IN
  if (!isAmongLines && found.unlike < SURELY_UNLIKE) return found
  const other = byOpinions([isTextured ? firmlyTexturedEvidence : opaqueEvidence], input, factor, options)
  if (other && (isAmongLines ? other.takenIn < found.takenIn : seenShare(other) > seenShare(found)))
    return other
  if (!isTextured) throw backdropWithin()
  return found
}

const seenShare = ({ left, right }: Finding) => edgeShare([left, right])

/** Another opinion on the backdrop counts, and faint rings are looked for, only where so much of what was found shows an edge. */
const MOSTLY_SEEN = 0.84
/** Backdrop within both edges over so many rows on end, reduced px: another opinion is asked. */
const MUCH_TAKEN_IN = 20
/** … and no more than this share of what speaks for a piece lies elsewhere: of one that the border cuts off a label may be found. */
const LEFT_OUT_BY_OTHERS = 0.25
/** A firm opinion is asked as well where what was found is so much unlike a textured backdrop in the mean; then the one of which more shows an edge counts. */
const SURELY_UNLIKE = 0.85

type Opinion = (picture: LabPicture) => Evidence

/** What is found by other opinions on the backdrop than the first one; null where none of it can be believed either. */
function byOpinions(
  opinions: readonly Opinion[],
  input: Raster,
  factor: number,
  options: FindOutlineOptions,
): Finding | null {
  // The progress has been reported already.
  const quietly = { ...options, onProgress: undefined }
  for (const evidenceOf of opinions) {
    try {
      const sight = sightOf(input, factor, quietly, evidenceOf)
      if (!isUnlikeBackdrop(sight)) continue
      const found = believed(findBy(sight, factor, quietly), options)
      const isMostlySeen = seenShare(found) >= MOSTLY_SEEN
      if (isMostlySeen && found.leftOut <= LEFT_OUT_BY_OTHERS) return found
    } catch (error) {
      if (!(error instanceof CoreError)) throw error
    }
  }
  return null
}

/** An opaque piece before a plain backdrop looks so much unlike it, in the mean over it, that what its lines enclose doesn't. */
const UNLIKE_BACKDROP = 0.85

const isUnlikeBackdrop = ({ evidence, silhouette }: Sight) =>
  !evidence.isOpaque || likeness(silhouette, evidence.plane) >= UNLIKE_BACKDROP

/**
 * How else a backdrop may be judged: as a textured one where a plain one isn't foretold as well everywhere, and more firmly; as one whose
 * lines are none of the piece's.
 */
function otherOpinions(first: Evidence | null): Opinion[] {
  if (first?.kind === 'cut-out') return []
  if (first?.kind === 'textured') return [firmlyTexturedEvidence]
  const textured = !first || mayBeTextured(first) ? [texturedEvidence, firmlyTexturedEvidence] : []
  return first && isLined(first) ? [...textured, opaqueEvidence] : textured
}

/**
 * What is found once more beyond ends that can't be any, since both corners reach beyond them; else what was found.
 * @throws CoreError where that can't be believed: where the piece ends isn't known then
 */
function withoutHorns(sight: Sight, found: Finding, options: FindOutlineOptions): Finding {
  const { factor, clear } = found
  // Through a clear piece its inner bottom is seen, which may close more clearly than the foot; its rings are looked for anyway.
  if (clear) return found
  const horns = hornsOf([found.left, found.right], found.mirror.axis)
  const silhouette = ledToHorns(sight.silhouette, { foot: horns.foot / factor, top: horns.top / factor })
  if (!silhouette) return found
  const again = findBy({ ...sight, silhouette }, factor, { ...options, onProgress: undefined })
  const left = hornsOf([again.left, again.right], again.mirror.axis)
  return Math.max(left.foot, left.top) < Math.max(horns.foot, horns.top) ? believed(again, options) : found
}

/** What was found, with flanks that it passes by (see `lost-flanks.ts`), if more of an edge is seen so and it can be believed. */
function withFlanks(found: Finding, options: FindOutlineOptions): Finding {
  const { raster, left, right, mirror, clear, cutOut, backdrop, parts, rings } = found
  const [step, blur] = [stepFor(raster, options.pointsAlong), left.blur]
  const chains = clear || cutOut ? null : withLostFlanks(raster, [left, right], mirror.axis, { blur, step })
  if (!chains) return found
  const sides = fitSides(raster, chains, { blur, step, backdrop, parts, rings })
  if (edgeShare(sides) <= seenShare(found)) return found
  try {
    return believed({ ...found, ...withMirror(sides, mirror.axis, options.axis ?? null) }, options)
  } catch (error) {
    if (!(error instanceof CoreError)) throw error
    return found
  }
}

/** What is found about other axes, if it can be believed: a flank as light as the wall moves the axis over. */
function aboutOthers(sight: Sight, factor: number, options: FindOutlineOptions): Finding | null {
  // The progress has been reported already.
  const quietly = { ...options, onProgress: undefined }
  for (const axis of sight.otherAxes.slice(0, OTHER_AXES)) {
    try {
      // What is found about a rough axis betters it.
      const better = findBy(sight.about(axis), factor, quietly).mirror.axis
      return believed(findBy(sight.about(scaledAxis(better, 1 / factor)), factor, quietly), options)
    } catch (error) {
      if (!(error instanceof CoreError)) throw error
    }
  }
  return null
}

/** @throws CoreError where what was found is no outline, or only a part of one */
function believed(found: Finding, { guides }: FindOutlineOptions): Finding {
  const { left, right, mirror, raster, clear } = found
  const sides = [left, right] as const
  requireClosing(sides, raster)
  requireLikeness(sides, mirror, clear)
  requireEnds(endsGoingOn(raster, sides, mirror.axis))
  // Who painted or marked the piece has said what it is.
  if (!guides) {
    requireMost(found.leftOut)
    requireWide(sides, mirror.axis, raster)
    if (!clear) requireInFocus(sides, raster)
  }
  return found
}

function findBy(
  { evidence, sharp, silhouette, isSeenThrough, isMirrored, besideLeftOut, isFirm, ...sight }: Sight,
  factor: number,
  options: FindOutlineOptions,
): Finding {
  const { axis: given = null, pointsAlong, guides, onProgress } = options
  const raster = withoutPaintedEdges(sight.raster, guides)
  requireWhole(silhouette, sharp.x)
  onProgress?.(0.5)
  const reach = 2.5 * factor + 2
  const rough = ([-1, 1] as const).map((side) => roughSide(silhouette, side, factor))
  const axis = scaledAxis(silhouette.axis, factor)
  const faint = isFaint(silhouette, evidence)
  const clear = faint && isSeenThrough(silhouette)
  const backdrop = faint ? null : evidence.backdrop
  const colours = faint ? null : sight.colours
  const refined = refineSides(raster, rough as [number[], number[]], {
    reach,
    axis,
    clear,
    plain: evidence.kind === 'plain',
    backdrop,
    colours,
    isFirm,
    isMirrored,
    pointsAlong,
    onProgress: (f) => onProgress?.(0.5 + 0.4 * f),
  })
  const { parts } = refined
  const step = stepFor(raster, pointsAlong)
  const asRefined = mirrorOf(refined.sides, axis)
  const about = asRefined?.axis ?? axis
  const [blur = 1] = refined.sides.map((side) => side.blur).filter(Number.isFinite)
  // What the sides tell of a top that isn't seen is looked for once more; a clear piece shows rings wherever it bends.
  const ended =
    withDomes(raster, refined.sides, about, step) ??
    (clear ? null : withoutBareEnds(raster, refined.sides, about, { blur, step, clear, backdrop }))
  const withEnds = ended ? fitSides(raster, ended, { blur, step, backdrop, parts }) : refined.sides
  const asEnded = colours ? withoutHooks(raster, withEnds, { blur, step, colours }) : withEnds
  const asEndedMirror = asEnded === refined.sides ? asRefined : mirrorOf(asEnded, axis)
  if (!asEndedMirror) throw notFound()
  const castsShade = !clear && evidence.kind !== 'cut-out'
  const shade = castsShade ? outOfContactShade(raster, asEnded, asEndedMirror.axis, { blur, step }) : null
  const onEdge = shade?.on ?? (() => false)
  const closed = shade
    ? fitSides(raster, shade.chains, { blur, step, backdrop, parts, rings: onEdge })
    : asEnded
  const asClosed = shade ? mirrorOf(closed, asEndedMirror.axis) : asEndedMirror
  if (!asClosed) throw notFound()
  // Only an end that shows an edge may be a crease; beyond a foot on its mirror image that has its rings.
  const guesses = openEnds(closed)
  const ends = OUTLINE_ENDS.filter((end) => !guesses.includes(end) && !(isMirrored && end === 'foot'))
  const mayEndBeyond = evidence.kind !== 'cut-out' && edgeShare(closed) >= MOSTLY_SEEN
  const ringed = mayEndBeyond ? withFaintRings(raster, closed, asClosed.axis, { blur, step, ends }) : null
  const rings = (p: PicturePoint) => onEdge(p) || (ringed?.rings(p) ?? false)
  const sides = ringed ? fitSides(raster, ringed.chains, { blur, step, backdrop, parts, rings }) : closed
  const mirror = ringed ? mirrorOf(sides, asClosed.axis) : asClosed
  if (!mirror) throw notFound()
  onProgress?.(1)
  return {
    raster,
    axis: given ?? mirror.axis,
    mirror,
    left: sides[0],
    right: sides[1],
    factor,
    // Its mirror image is no other thing.
    others: evidence.kind === 'plain' && !isMirrored && hasOthers(sharp, silhouette),
    mirrored: isMirrored,
    besideLeftOut,
    cutOut: evidence.kind === 'cut-out',
    clear,
    takenIn: evidence.kind === 'cut-out' ? 0 : rowsTakenIn(silhouette, evidence.firm ?? evidence.plane),
    unlike: evidence.firm ? likeness(silhouette, evidence.firm) : -1,
    leftOut: evidence.firm ? leftOutBy(silhouette, evidence.firm) : 0,
    backdrop,
    parts,
    rings,
    noisy: false,
  }
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
