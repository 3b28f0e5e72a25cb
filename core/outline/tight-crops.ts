import { CoreError } from '../errors'
import { withAir, withClearAir } from '../picture/air'
import type { Raster } from '../picture/raster'
import { inAxis } from './axis-line'
import { isCutAtOneSide, isTrimmedCutOut } from './border-coverage'
import { BORDER_SHARE } from './border-margin'
import type { FindOutlineOptions, FoundOutline } from './find-at-size'
import { foundIn, type Find } from './found-in'
import { PIECE_CUT, pieceCut } from './require-piece'
import { reachOfBoth, seenByBoth, edgeShare } from './seen-by-both'

/** So much of the longer side is laid about a picture that is cropped tight. */
const AIR = 0.06

/** Two outlines show the same piece where they are as high and as large, to within this share. */
const ALIKE = 0.02

/** Of two that don't the one without air counts where so much more of it is seen: shares of its edges, and of its height on both sides, summed. */
const MUCH_SEEN = 0.1
/** So many px beside the picture's border, and this share of its longer side, an edge on the border may be placed. */
const ON_BORDER_PX = 0.5
const ON_BORDER_SHARE = 0.002

/**
 * What is found in a picture. Where that stands so near to a border that the piece itself is taken for backdrop there, or nothing can be
 * found, the borders are led on and it is looked for once more. About a cut-out that reaches its borders nothing is.
 * @throws CoreError as `find` does, and `piece-cut` where the piece goes on as the border does
 */
export function foundInAnyCrop(input: Raster, options: FindOutlineOptions, find: Find): FoundOutline {
  if (isTrimmedCutOut(input)) {
    if (isCutAtOneSide(input, options.up ?? { x: 0, y: -1 })) throw pieceCut()
    return foundInAir(input, options, find, withClearAir)
  }
  const bare = attempt(() => find(input, options))
  if (!(bare instanceof CoreError) && !reachesIntoBorder(bare, input)) return bare
  // The progress has been reported already.
  const inAir = attempt(() => foundInAir(input, { ...options, onProgress: undefined }, find, withAir))
  if (inAir instanceof CoreError) {
    if (bare instanceof CoreError) throw bare
    // Who painted or marked the piece has said what it is.
    const isCut = inAir.code === PIECE_CUT && leastMargin(bare, input) < touching(input) && !options.guides
    if (isCut) throw inAir
    return bare
  }
  const isWithin = leastMargin(inAir, input) > -touching(input)
  if (!(bare instanceof CoreError)) return isWithin ? likelier(bare, inAir) : bare
  // What stands free of the borders would have been found without air.
  if (isWithin && reachesIntoBorder(inAir, input)) return inAir
  throw bare
}

function attempt(look: () => FoundOutline): FoundOutline | CoreError {
  try {
    return look()
  } catch (error) {
    if (error instanceof CoreError) return error
    throw error
  }
}

/** How far an outline stays from a picture's borders, px; less than 0 beyond them. */
function leastMargin({ left, right }: FoundOutline, { width, height }: Raster): number {
  let least = Infinity
  for (const { points } of [left, right])
    points.forEach((v, i) => (least = Math.min(least, v, (i % 2 ? height : width) - v)))
  return least
}

/** Nearer to a border than this, px, an outline may lie on it. */
const touching = ({ width, height }: Raster) => ON_BORDER_PX + ON_BORDER_SHARE * Math.max(width, height)

/** Whether an outline reaches into what is taken for backdrop along the picture's borders. */
const reachesIntoBorder = (found: FoundOutline, input: Raster) =>
  leastMargin(found, input) < BORDER_SHARE * Math.min(input.width, input.height)

/** What is found in a picture about which air was laid. @throws CoreError as `find` does */
function foundInAir(
  input: Raster,
  options: FindOutlineOptions,
  find: Find,
  lay: (raster: Raster, air: number) => Raster,
): FoundOutline {
  const air = Math.ceil(AIR * Math.max(input.width, input.height))
  return foundIn(lay(input, air), { x: air, y: air }, options, find)
}

/**
 * Of what was found in the picture and with air about it, the latter, unless less of that is seen, much less where the two differ: what was led
 * on has edges of its own.
 */
function likelier(bare: FoundOutline, inAir: FoundOutline): FoundOutline {
  const isAlike = ([p, q]: readonly [number, number]) => Math.abs(p - q) <= ALIKE * Math.max(p, q)
  const [was, is] = [sizeOf(bare), sizeOf(inAir)]
  const isSame = isAlike([was.high, is.high]) && isAlike([was.area, is.area])
  if (seenOf(bare) - seenOf(inAir) > (isSame ? 0 : MUCH_SEEN)) return bare
  return { ...inAir, others: inAir.others && bare.others }
}

/** How far the sides reach along the axis, px, and the area between them. */
function sizeOf({ left, right, axis }: FoundOutline): { high: number; area: number } {
  const { low, high } = reachOfBoth([left, right], axis)
  return {
    high: high - low,
    area: areaBeside(inAxis(right.points, axis)) + areaBeside(inAxis(left.points, axis, true)),
  }
}

/** The area between a line [u v ...] and the axis u = 0, which it runs up along. */
function areaBeside(line: Float64Array): number {
  let area = 0
  for (let i = 0; i + 3 < line.length; i += 2)
    area += ((line[i]! + line[i + 2]!) * (line[i + 3]! - line[i + 1]!)) / 2
  return area
}

/** How much of an outline shows an edge, and how much on both sides at once. */
const seenOf = ({ left, right, axis }: FoundOutline) =>
  edgeShare([left, right]) + seenByBoth([left, right], axis)
