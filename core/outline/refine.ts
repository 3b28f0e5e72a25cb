import type { Raster } from '../picture/raster'
import { normalsOf, resample, runningMedian, smoothChain } from './chain'
import { fitEdge, strongestEdge } from './edge-fit'

/** One side of the outline, from the lower axis crossing out and up to the upper one. Full-resolution px. */
export interface OutlineSide {
  /** [x y ...] */
  points: Float64Array
  /** Standard error of each point across the edge, px; Infinity where no edge was found and the place is a guess. */
  sd: Float64Array
  /** Median blur of the fitted edges, px. */
  blur: number
}

export interface RefineOptions {
  /** How far the true edge may be from the rough chain, px. */
  reach: number
  /** 1 when the outside lies right of the way of the chain on the picture, -1 when left. */
  turn: 1 | -1
  /** Outline points along the picture's longer side, at most. Default 750. */
  pointsAlong?: number
  onProgress?: (fraction: number) => void
}

/** Least distance between outline points, px: closer ones share their pixels. */
const LEAST_STEP_PX = 2

/**
 * From a rough chain to the edge itself: first the strongest edge within reach, then a finer look around it, then the
 * fitted place of the step. Each pass starts from the median-filtered places of the one before, so that single
 * strays (speckles, scratches) don't lead away.
 */
export function refineSide(raster: Raster, rough: ArrayLike<number>, options: RefineOptions): OutlineSide {
  const { reach, turn, pointsAlong = 750, onProgress } = options
  const step = Math.max(LEAST_STEP_PX, Math.max(raster.width, raster.height) / pointsAlong)
  let points = resample(smoothChain(resample(rough, step), reach / step / 2), step)
  const passes = [
    {
      reach,
      sigma: Math.max(1.2, reach / 5),
      median: Math.max(2, Math.round(reach / step)),
      smooth: reach / step / 3,
    },
    { reach: reach / 2, sigma: 1.5, median: 2, smooth: 2 },
    { reach: 4, sigma: 1.2, median: 1, smooth: 1.2 },
  ]
  passes.forEach((pass, k) => {
    const normals = normalsOf(points, turn, Math.max(2, pass.smooth))
    const n = points.length / 2
    const offsets = new Float64Array(n)
    for (let i = 0; i < n; i++) {
      const { offset } = strongestEdge(
        raster,
        points[2 * i]!,
        points[2 * i + 1]!,
        normals[2 * i]!,
        normals[2 * i + 1]!,
        pass.reach,
        pass.sigma,
      )
      offsets[i] = offset
    }
    const steady = runningMedian(offsets, pass.median)
    points = resample(smoothChain(shifted(points, normals, steady), pass.smooth), step)
    onProgress?.((k + 1) / 4)
  })
  const normals = normalsOf(points, turn, 2)
  const n = points.length / 2
  const offsets = new Float64Array(n)
  const sd = new Float64Array(n).fill(Infinity)
  const blurs: number[] = []
  for (let i = 0; i < n; i++) {
    const fit = fitEdge(raster, points[2 * i]!, points[2 * i + 1]!, normals[2 * i]!, normals[2 * i + 1]!)
    if (!fit || Math.abs(fit.offset) > 3.5) continue
    offsets[i] = fit.offset
    sd[i] = fit.sd
    blurs.push(fit.blur)
  }
  dropStrays(offsets, sd)
  blurs.sort((a, b) => a - b)
  onProgress?.(1)
  return { points: shifted(points, normals, offsets), sd, blur: blurs[blurs.length >> 1] ?? NaN }
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

function shifted(points: Float64Array, normals: Float64Array, offsets: Float64Array): Float64Array {
  return points.map((p, i) => p + normals[i]! * offsets[i >> 1]!)
}
