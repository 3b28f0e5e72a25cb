import type { PicturePoint } from '../conventions'
import type { Raster } from '../picture/raster'
import { normalsOf, resample, smoothChain } from './chain'
import { bestPath } from './best-path'
import { clearness, edgeBand, moveTo, within } from './edge-band'
import { fitEdge } from './edge-fit'

/** Places tried to either side of the straight way, as a share of its length, and at least and at most, px. */
const REACH_SHARE = 0.35
const LEAST_REACH = 8
const MOST_REACH = 90
/** The pen's ends may be so far from the edge, px. */
const END_REACH = 7
/** Points of a path at most; long ways get coarser steps. */
const MOST_POINTS = 500
const LEAST_STEP = 2
const COST = { perHalfPx: 0.35, most: 8 }
/** Fits farther from the path than this, px, have found something else. */
const MOST_FIT_PX = 1.5

/**
 * The way along an edge between two places near it: of all paths from one to the other the one along which the steps in
 * the picture are clearest (a minimal-cost path between clicks, after Mortensen & Barrett 1995, here by a dynamic
 * program across the straight way, which is exact), then each point on the step itself.
 * @param blur of the picture's edges, px
 * @returns [x y ...], px
 */
export function edgePath(raster: Raster, from: PicturePoint, to: PicturePoint, blur = 1): Float64Array {
  const length = Math.hypot(to.x - from.x, to.y - from.y)
  if (length < 2 * LEAST_STEP) return Float64Array.of(from.x, from.y, to.x, to.y)
  const step = Math.max(LEAST_STEP, length / MOST_POINTS)
  const straight = resample([from.x, from.y, to.x, to.y], step)
  const reach = Math.min(MOST_REACH, Math.max(LEAST_REACH, REACH_SHARE * length))
  const way = follow(raster, straight, reach, blur, true)
  const near = resample(smoothChain(way, 1.5), step)
  const path = smoothChain(follow(raster, near, 4, blur, false), 1.2)
  const normals = normalsOf(path, 1, 2)
  const offsets = new Float64Array(path.length / 2)
  for (let k = 0; k < offsets.length; k++) {
    const fit = fitEdge(raster, path[2 * k]!, path[2 * k + 1]!, normals[2 * k]!, normals[2 * k + 1]!, blur)
    if (fit && Math.abs(fit.offset) <= MOST_FIT_PX) offsets[k] = fit.offset
  }
  return path.map((v, i) => v + normals[i]! * offsets[i >> 1]!)
}

/** A chain moved onto the clearest edge within reach; with `pinned` ends. */
function follow(
  raster: Raster,
  chain: Float64Array,
  reach: number,
  blur: number,
  pinned: boolean,
): Float64Array {
  const normals = normalsOf(chain, 1, 2)
  const step = reach > 20 ? 1 : 0.5
  const band = edgeBand(raster, chain, normals, { reach, blur, step })
  const half = (band.places - 1) / 2
  const last = band.count - 1
  // The free room grows from the pinned ends as fast as a way can leave the straight line.
  const near = (i: number, k: number) =>
    Math.abs(k - half) * step <= END_REACH + 1.2 * Math.min(i, last - i) * 2
  const worth = pinned ? within(clearness(band), band, near) : clearness(band)
  const cost = { step: () => COST.perHalfPx * step * 2, most: COST.most }
  return moveTo(bestPath(worth, band.count, band.places, cost), chain, normals, band)
}
