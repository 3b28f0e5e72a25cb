import { isEdgeless, type Raster } from '../picture/raster'
import type { AxisLine } from './axis-line'
import { bestPath } from './best-path'
import { bendAt, normalsOf, resample, smoothChain, withoutLoops } from './chain'
import { withClosingArcs, type ClosedSides } from './closing-arcs'
import { edgeBand, moveTo, sharedWorth, within, worthOf, type EdgeBand } from './edge-band'
import { fitEdge, strongestEdge, TELLS_BLUR, USUAL_ALONG, type EdgeFit } from './edge-fit'
import type { Backdrop } from './backdrop'
import type { ColourTable } from './colour-evidence'
import { bridgeBareRuns } from './bare-runs'
import { mendGaps } from './mend-gaps'
import { openEnds } from './open-ends'
import { steppedEnd } from './stepped-ends'
import { backdropWithin, leaveShadow, likenesses, regionWorth, worthByLikeness } from './region-worth'

/** One side of the outline, from the lower axis crossing out and up to the upper one. Full-resolution px. */
export interface OutlineSide {
  /** [x y ...] */
  points: Float64Array
  /** Standard error of each point across the edge, px; Infinity where no edge was found and the place is a guess. */
  sd: Float64Array
  /** Median blur of the fitted edges, px. */
  blur: number
  /** 1 where a hand drew the edge. */
  hand?: Uint8Array
}

/** The points of a side where an edge was found. */
export function seen({ points, sd }: OutlineSide): Float64Array {
  return points.filter((_, i) => Number.isFinite(sd[i >> 1]!))
}

export interface RefineOptions {
  /** How far the true edge may be from the rough chain, px. */
  reach: number
  /** The backdrop shows through the piece, so that its inside has edges too and the rough chain may follow one. */
  clear?: boolean
  /** The backdrop is plain, so that what looks like a ring is the piece's. */
  plain?: boolean
  /** What a plain backdrop looks like behind an opaque piece. */
  backdrop?: Backdrop | null
  /** What colours say of an opaque piece before a textured backdrop. */
  colours?: ColourTable | null
  /** They tell it firmly, so that each place may be judged by them. */
  isFirm?: boolean
  /** It stands on its mirror image in a glossy floor, which has its rings too. */
  isMirrored?: boolean
  /** The axis between the sides, about. */
  axis: AxisLine
  /** Outline points along the picture's longer side, at most. Default 750. */
  pointsAlong?: number
  onProgress?: (fraction: number) => void
}

/** Least distance between outline points, px: closer ones share their pixels. */
const LEAST_STEP_PX = 2
/** First look: places half a px apart; the mirror image may be off by a px. */
const WIDE = { step: 0.5, slack: 2, cost: { step: () => 0.5, most: 9 } }
/** The wall and the bends of a clear piece show edges so many reaches inside of its outline. */
const CLEAR_REACH = 3
/** Where the outline's normal points along the axis by more than this, it closes the piece. */
const LEVEL = 0.85
/** … and so does what lies within this share of its height from an end. */
const END_SHARE = 0.07
/** Second look, each side by itself. */
const NARROW = { step: 0.25, reach: 3, cost: { step: () => 0.3, most: 6 } }
/** Fits that run away from the path by more than this, px, have found something else. */
const MOST_FIT_PX = 1.5
/** … and where a shadow's border lies beside the path. */
const MOST_PARTED_FIT_PX = 0.75
/** … and from a faint ring, whose own place has this standard error, px. */
const MOST_RING_FIT_PX = 1
const RING_SD = 0.5
/** Rows averaged along the edge reach so many px to either side; more of them if asked for, where fewer show no edge, … */
const ALONG_PX = [USUAL_ALONG.reach]
const LONGER_ALONG_PX = [...ALONG_PX, 4, 7]
/** … as long as the edge bends by no more than this over them, px. */
const MOST_BEND_PX = 0.25
/** Bounds and first guess of the picture's blur, px. */
const LEAST_BLUR = 0.5
const MOST_BLUR = 3
const USUAL_BLUR = 1

/**
 * From rough chains of both sides to the edges themselves: the path along steps of the picture's own blur that both sides
 * show best, then each side's own path near it, then the fitted place of every step.
 * @param rough [x y ...] of the left and of the right side, each from the lower crossing to the upper one; mirror images
 *   of each other about an axis known to about a pixel
 * @returns both sides, and where only its colour tells the piece from its shadow
 */
export function refineSides(
  raster: Raster,
  rough: readonly [ArrayLike<number>, ArrayLike<number>],
  options: RefineOptions,
): { sides: [OutlineSide, OutlineSide]; parts: ClosedSides['parts'] } {
  const {
    reach,
    axis,
    clear = false,
    plain = clear,
    backdrop = null,
    colours = null,
    isFirm = false,
    isMirrored = false,
    pointsAlong,
    onProgress,
  } = options
  const step = stepFor(raster, pointsAlong)
  const start = rough.map((chain) => resample(smoothChain(resample(chain, step), reach / step / 4), step))
  const blur = blurOf(raster, start, reach)
  onProgress?.(0.1)
  const bands = start.map((points, side) => {
    const normals = normalsOf(points, turnOf(side), Math.max(2, reach / step / 3))
    const wide = (clear ? CLEAR_REACH : 1) * reach
    return {
      points,
      normals,
      band: edgeBand(raster, points, normals, { reach: wide, blur, step: WIDE.step }),
    }
  })
  onProgress?.(0.5)
  const both = bands.map(({ band }) => band) as [EdgeBand, EdgeBand]
  const told = backdrop ?? (isFirm ? colours : null)
  const like = told && likenesses(raster, bands, told)
  const region = like && worthByLikeness(both[0], like, blur)
  // Lines of a floor or a wall beyond the piece don't tell that its edge is an inner one.
  const backdrops =
    like && !backdrop ? both.map((band, side) => backdropWithin(band, like[side]!, blur)) : null
  const paths = sharedPaths(
    both,
    blur,
    region,
    backdrops,
    clear ? { usual: reach, closes: closingPoints(bands[0]!, axis) } : null,
  )
  const near = bands.map(({ points, normals, band }, side) =>
    resample(withoutLoops(smoothChain(moveTo(paths[side]!, points, normals, band), 1.5)), step),
  ) as [Float64Array, Float64Array]
  const { sides, parts } = plain
    ? withClosingArcs(raster, near, axis, { blur, step, clear, backdrop, isMirrored })
    : { sides: near, parts: () => false }
  onProgress?.(0.75)
  const fitted = fitSides(raster, sides, { blur, step, backdrop, parts })
  // In a textured backdrop rings are found everywhere; one is looked for only where nothing else closes the piece.
  const open = plain ? [] : openEnds(fitted)
  const stepped = plain || open.includes('foot') ? null : steppedEnd(fitted, axis, 'foot')
  const again =
    open.length > 0 || stepped
      ? withClosingArcs(raster, sides, axis, { blur, step, clear, backdrop, isMirrored, open, stepped }).sides
      : sides
  return {
    sides: again[0] === sides[0] ? fitted : fitSides(raster, again, { blur, step, backdrop, parts }),
    parts,
  }
}

/** Distance of outline points, px. */
export function stepFor({ width, height }: Raster, pointsAlong = 750): number {
  return Math.max(LEAST_STEP_PX, Math.max(width, height) / pointsAlong)
}

export interface FitOptions {
  blur: number
  /** Distance of the points, px. */
  step: number
  backdrop: Backdrop | null
  parts: ClosedSides['parts']
  /** True for places of rings too faint to be seen at each of their places: points there stay, or nearly so. */
  rings?: ClosedSides['parts']
  /** Longer ways along the edge are averaged where short ones show none. */
  longer?: boolean
  /** The picture is a copy that was enlarged. */
  enlarged?: boolean
}

/** The edges along chains that lie within a few px of them, with their corners, and what leads over where none is seen. */
export function fitSides(
  raster: Raster,
  chains: readonly [Float64Array, Float64Array],
  { step, ...options }: FitOptions,
): [OutlineSide, OutlineSide] {
  return chains.map((chain, side) => {
    const turn = turnOf(side)
    const { blur, backdrop } = options
    const near = refineNear(raster, withoutLoops(chain), turn, options)
    const mended = mendGaps(raster, near, turn, blur, step)
    return bridgeBareRuns(raster, mended, { turn, blur, step, backdrop })
  }) as [OutlineSide, OutlineSide]
}

/** Going up the left side of an upright piece the outside is on the left hand. */
export const turnOf = (side: number): 1 | -1 => (side === 0 ? -1 : 1)

/** True for the points of a chain that close the piece, at its foot and its top. */
function closingPoints(
  { points, normals }: { points: Float64Array; normals: Float64Array },
  { up }: AxisLine,
): boolean[] {
  const along = (list: Float64Array) =>
    Array.from({ length: list.length / 2 }, (_, i) => list[2 * i]! * up.x + list[2 * i + 1]! * up.y)
  const levels = along(points)
  const [low, high] = [Math.min(...levels), Math.max(...levels)]
  return along(normals).map(
    (n, i) => Math.abs(n) > LEVEL || Math.min(levels[i]! - low, high - levels[i]!) < END_SHARE * (high - low),
  )
}

/**
 * @param clear of a clear piece: the usual reach, which its sides' edges may lie outside of, and the points whose edges
 *   may not, since the ends are looked for by themselves
 */
function sharedPaths(
  bands: readonly [EdgeBand, EdgeBand],
  blur: number,
  region: Float32Array | null,
  backdrops: readonly Uint8Array[] | null,
  clear: { usual: number; closes: readonly boolean[] } | null,
): Int32Array[] {
  const worths = bands.map((band, side) =>
    together(worthOf(band, blur, clear !== null, backdrops?.[side]), region),
  ) as [Float32Array, Float32Array]
  // Mirrored chains have the same number of points, but for a rounding at their ends.
  const count = Math.min(bands[0].count, bands[1].count)
  const shared = sharedWorth(bands, worths, WIDE.slack)
  const middle = (bands[0].places - 1) / 2
  const usual = clear ? Math.round(clear.usual / WIDE.step) : middle
  const outside = clear
    ? within(
        shared,
        { ...bands[0], count },
        (i, k) => k >= middle - usual && (!clear.closes[i] || k <= middle + usual),
      )
    : shared
  const path = bestPath(outside, count, bands[0].places, WIDE.cost)
  return bands.map((band, side) => {
    const near = (i: number, k: number) => Math.abs(k - path[Math.min(i, count - 1)]!) <= 2 * WIDE.slack
    return bestPath(within(worths[side]!, band, near), band.count, band.places, WIDE.cost)
  })
}

/** What edges are worth with what the regions beside them say, where a plain backdrop tells that. */
function together(edges: Float32Array, region: Float32Array | null): Float32Array {
  return region ? edges.map((v, i) => v + region[i]!) : edges
}

function refineNear(
  raster: Raster,
  near: Float64Array,
  turn: 1 | -1,
  { blur, backdrop, parts, rings = () => false, longer = false, enlarged = false }: Omit<FitOptions, 'step'>,
): OutlineSide {
  const normals = normalsOf(near, turn, 2)
  const band = edgeBand(raster, near, normals, { reach: NARROW.reach, blur, step: NARROW.step })
  const region = backdrop && regionWorth(raster, [{ points: near, normals, band }], backdrop, blur)
  const worth = together(worthOf(band, blur), region)
  const placeOf = (chain: Float64Array, i: number) => ({ x: chain[2 * i]!, y: chain[2 * i + 1]! })
  if (backdrop)
    leaveShadow(
      worth,
      raster,
      { points: near, normals, band },
      { backdrop, blur, parted: (i) => parts(placeOf(near, i)) },
    )
  const isNear = (k: number) => Math.abs(k - (band.places - 1) / 2) * band.step <= MOST_RING_FIT_PX
  const isRing = Array.from({ length: band.count }, (_, i) => rings(placeOf(near, i)))
  const allowed = isRing.includes(true) ? within(worth, band, (i, k) => !isRing[i] || isNear(k)) : worth
  const path = bestPath(allowed, band.count, band.places, NARROW.cost)
  const points = smoothChain(moveTo(path, near, normals, band), 1.2)
  const across = normalsOf(points, turn, 2)
  const n = points.length / 2
  const offsets = new Float64Array(n)
  const sd = new Float64Array(n).fill(Infinity)
  const blurs: number[] = []
  for (let i = 0; i < n; i++) {
    const most = isRing[i] ? MOST_RING_FIT_PX : parts(placeOf(points, i)) ? MOST_PARTED_FIT_PX : MOST_FIT_PX
    const fit = fitNear(raster, points, across, i, {
      blur,
      most,
      alongs: longer || isRing[i] ? LONGER_ALONG_PX : ALONG_PX,
      enlarged,
    })
    if (!fit) {
      if (isRing[i]) sd[i] = RING_SD
      continue
    }
    offsets[i] = fit.offset
    sd[i] = fit.sd
    blurs.push(fit.blur)
  }
  dropStrays(offsets, sd)
  blurs.sort((p, q) => p - q)
  return {
    points: points.map((p, i) => p + across[i]! * offsets[i >> 1]!),
    sd,
    blur: blurs[blurs.length >> 1] ?? NaN,
  }
}

/** The edge within so many px of a point of a chain, with the first of several numbers of rows along it that shows one. */
function fitNear(
  raster: Raster,
  points: Float64Array,
  normals: Float64Array,
  i: number,
  {
    blur,
    most,
    alongs,
    enlarged,
  }: Pick<FitOptions, 'blur' | 'enlarged'> & { most: number; alongs: readonly number[] },
): EdgeFit | null {
  const [x, y, nx, ny] = [points[2 * i]!, points[2 * i + 1]!, normals[2 * i]!, normals[2 * i + 1]!]
  for (const [k, reach] of alongs.entries()) {
    // A few rows bend no edge that is worth the name.
    const bend = k === 0 ? 0 : bendAt(points, normals, i, reach)
    if (Math.abs(bend) * reach ** 2 > MOST_BEND_PX) return null
    const fit = fitEdge(raster, x, y, nx, ny, blur, { reach, bend, enlarged })
    if (!fit || Math.abs(fit.offset) > most) continue
    return isEdgeless(raster, x + fit.offset * nx, y + fit.offset * ny) ? null : fit
  }
  return null
}

/** Every so many points of the rough chain are asked for the blur. */
const BLUR_STRIDE = 7

/** Median blur of the clear edges near the rough chains, px. */
function blurOf(raster: Raster, chains: readonly Float64Array[], reach: number): number {
  const blurs: number[] = []
  chains.forEach((points, side) => {
    const normals = normalsOf(points, turnOf(side), 3)
    for (let i = 0; i < points.length / 2; i += BLUR_STRIDE) {
      const [x, y, nx, ny] = [points[2 * i]!, points[2 * i + 1]!, normals[2 * i]!, normals[2 * i + 1]!]
      const { offset } = strongestEdge(raster, x, y, nx, ny, reach, 1.5)
      const fit = fitEdge(raster, x + offset * nx, y + offset * ny, nx, ny, null)
      if (fit && fit.contrast > TELLS_BLUR) blurs.push(fit.blur)
    }
  })
  blurs.sort((p, q) => p - q)
  return Math.min(MOST_BLUR, Math.max(LEAST_BLUR, blurs[blurs.length >> 1] ?? USUAL_BLUR))
}

/** Places that stand out from their neighbours by more than this, px, and by more than five of their spreads, are strays. */
const LEAST_STRAY_PX = 0.5

/** Points without a fit, and fits that stand out from their neighbourhood, take the neighbourhood's place and lose their standing. */
function dropStrays(offsets: Float64Array, sd: Float64Array): void {
  const reach = 6
  const before = offsets.slice()
  for (let i = 0; i < offsets.length; i++) {
    const window: number[] = []
    for (let k = Math.max(0, i - reach); k <= Math.min(offsets.length - 1, i + reach); k++)
      if (k !== i && Number.isFinite(sd[k]!)) window.push(before[k]!)
    if (window.length < 3) continue
    window.sort((a, b) => a - b)
    const middle = window[window.length >> 1]!
    const spread = 1.4826 * window.map((v) => Math.abs(v - middle)).sort((a, b) => a - b)[window.length >> 1]!
    if (!Number.isFinite(sd[i]!) || Math.abs(before[i]! - middle) > Math.max(LEAST_STRAY_PX, 5 * spread)) {
      offsets[i] = middle
      sd[i] = Infinity
    }
  }
}
