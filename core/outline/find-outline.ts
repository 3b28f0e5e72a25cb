import { CoreError } from '../errors'
import { enlarged } from '../picture/enlarge'
import { partOf, withinEvenBorders } from '../picture/even-borders'
import { isOpaque, requireRaster, type Raster } from '../picture/raster'
import { halved, halvedTo } from '../picture/reduce'
import { resample } from './chain'
import {
  chainsOf,
  find,
  findAsItIs,
  fittedAt,
  saidOf,
  isPartOf,
  withMirror,
  type FindOutlineOptions,
  type FoundOutline,
} from './find-at-size'
import { foundIn, type Find } from './found-in'
import { scaledAxis, scaledGuides, withoutPaintedEdges } from './guides'
import { pictureBlur } from './picture-blur'
import { stepFor, type OutlineSide } from './refine'
import { LEAST_BOTH, NOT_FOUND, notFoundAbout, requireBothSides, requireInFocus } from './require-piece'
import { seenByBoth } from './seen-by-both'
import { coverageAsLight } from './sight'
import { foundInAnyCrop } from './tight-crops'

/** Pictures longer than this, px, are first looked through at half their size, or half of that: more would cost time and tell no more. */
const LONGEST = 2800

/**
 * Edges found in pictures shorter than this, px, are fitted once more in a copy so many times as large, with points so many of its px
 * apart: a fit reaches over so many px, which in a small picture is much of the piece.
 */
const SMALL = 800
const ENLARGED = 2
const ENLARGED_STEP = 2.5

/** Pictures whose edges spread over more px than this are looked through in a copy at half the size, … */
const BLURRED = 1.8
/** … and so are, from this on, those in which nothing can be found or believed: one that moved is blurred more in one direction. */
const SOFT = 1.3
/** No such copy is shorter than this, px, and where nothing could be found not than this: anything may be found in a few px. */
const LEAST_SIZE = 75
const LEAST_SIZE_ONCE_MORE = 360

/**
 * Finds the piece and its edges: evidence for the piece, its mirror axis, the best symmetric silhouette (twice, the
 * second time with the colours of the first), then the edges to a fraction of a pixel and the axis from them. What was found in a
 * smaller copy of a large picture is fitted once more to the picture itself, and what was found in a small one to a larger copy. Of a
 * blurred picture a copy tells all there is, in which the edges are as sharp as they are looked for.
 * @throws CoreError `outline-not-found`, `outline-unsure`, `piece-cut` (see `require-piece.ts`), `raster-small`
 */
export function findOutline(input: Raster, options: FindOutlineOptions = {}): FoundOutline {
  requireRaster(input)
  try {
    const found = foundInPhoto(input, options)
    options.onProgress?.(1)
    return found
  } catch (error) {
    const isLost = error instanceof CoreError && error.code === NOT_FOUND
    throw isLost && options.axis ? notFoundAbout() : error
  }
}

/** What is found in the part of a picture that shows a photo: without bars and frames. */
function foundInPhoto(input: Raster, options: FindOutlineOptions): FoundOutline {
  const part = withinEvenBorders(input)
  const look: Find = (raster, asked) => foundInAnyCrop(raster, asked, findSharpest)
  if (!part) return look(input, options)
  try {
    return foundIn(partOf(input, part), { x: -part.left, y: -part.top }, options, look)
  } catch (error) {
    // Who painted or marked the piece has said what it is: the even rectangle itself, it may be.
    if (!(error instanceof CoreError) || !options.guides) throw error
    return look(input, { ...options, onProgress: undefined })
  }
}

/** What is found in a picture, or, of a blurred one, in a copy whose edges are sharp. */
function findSharpest(input: Raster, options: FindOutlineOptions): FoundOutline {
  const half = Math.max(input.width, input.height) / 2
  // A cut-out is seen by its coverage, however blurred what it shows is.
  const blur = (half >= LEAST_SIZE && isOpaque(input) && pictureBlur(input)) || 0
  if (blur > BLURRED) return inHalf(input, options)
  try {
    return asLargeAsItIs(input, options)
  } catch (error) {
    if (!(error instanceof CoreError) || blur < SOFT || half < LEAST_SIZE_ONCE_MORE) throw error
    try {
      // The progress has been reported already.
      const found = inHalf(input, { ...options, onProgress: undefined })
      // Edges far behind the piece are sharp enough in the copy.
      if (!options.guides) requireInFocus([found.left, found.right], input)
      if (!isPartOf(found, input, error)) return found
    } catch {
      // What the photo itself shows of the piece is said.
    }
    throw error
  }
}

function inHalf(input: Raster, options: FindOutlineOptions): FoundOutline {
  const found = findSharpest(halved(input), reduced(options, 2))
  const sides = [found.left, found.right].map(({ points, sd, blur }): OutlineSide => ({
    points: points.map((v) => 2 * v),
    sd: sd.map((v) => 2 * v),
    blur: 2 * blur,
  })) as [OutlineSide, OutlineSide]
  const about = scaledAxis(found.mirror.axis, 2)
  return {
    ...saidOf(found),
    ...withMirror(sides, about, options.axis ?? null),
    factor: 2 * found.factor,
  }
}

function asLargeAsItIs(input: Raster, options: FindOutlineOptions): FoundOutline {
  const longest = Math.max(input.width, input.height)
  const look = longest > LONGEST ? inLarge : longest < SMALL ? inSmall : find
  const found = look(input, options)
  const { axis, mirror, left, right, others } = found
  // Who painted or marked the piece has said what it is.
  if (!options.guides) requireBothSides([left, right], axis, others)
  return { ...saidOf(found), axis, mirror, left, right }
}

/** The same to be looked for in a copy so many times smaller. */
const reduced = ({ axis = null, guides = null, ...options }: FindOutlineOptions, times: number) => ({
  ...options,
  axis: axis && scaledAxis(axis, 1 / times),
  guides: guides && scaledGuides(guides, 1 / times),
})

function inLarge(input: Raster, options: FindOutlineOptions): FoundOutline {
  const { axis = null, onProgress } = options
  const { copy, times } = halvedTo(input, LONGEST)
  const small = find(copy, {
    ...reduced(options, times),
    onProgress: (f) => onProgress?.(0.8 * f),
  })
  const raster = withoutPaintedEdges(small.cutOut ? coverageAsLight(input) : input, options.guides)
  const chains = chainsOf(small)
  const sides = fittedAt(raster, times, small, {
    chains,
    step: stepFor(raster, options.pointsAlong),
    longer: small.noisy,
  })
  return {
    ...saidOf(small),
    ...withMirror(sides, scaledAxis(small.mirror.axis, times), axis),
    factor: times * small.factor,
  }
}

function inSmall(input: Raster, options: FindOutlineOptions): FoundOutline {
  const { axis = null, onProgress } = options
  // Smoothing would take as many details as noise.
  const found = findAsItIs(input, { ...options, onProgress: (f) => onProgress?.(0.8 * f) })
  const guides = options.guides && scaledGuides(options.guides, ENLARGED)
  const copy = withoutPaintedEdges(enlarged(found.raster, ENLARGED), guides)
  const step = Math.max(ENLARGED_STEP, stepFor(copy, options.pointsAlong))
  const chains = chainsOf(found).map((points) => resample(points, step / ENLARGED))
  const usual = fittedAt(copy, ENLARGED, found, { chains, step })
  const isSeen = seenByBoth(usual, scaledAxis(found.mirror.axis, ENLARGED)) >= LEAST_BOTH
  const fitted = isSeen ? usual : fittedAt(copy, ENLARGED, found, { chains, step, enlarged: true })
  const sides = fitted.map(({ points, sd, blur }) => ({
    points: points.map((v) => v / ENLARGED),
    // The copy's px are made of the picture's: its fits seem so many times as sure as they are.
    sd,
    blur: blur / ENLARGED,
  })) as [OutlineSide, OutlineSide]
  return { ...saidOf(found), ...withMirror(sides, found.mirror.axis, axis) }
}
