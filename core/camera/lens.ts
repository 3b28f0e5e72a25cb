import type { PicturePoint } from '../conventions'
import { CoreError } from '../errors'
import { leastSquares } from '../least-squares'
import { bestLine } from '../line-fit'

/**
 * Radial distortion after Brown (1966) and Conrady (1919), from memory: a point at radius ρ from the centre, in units
 * of `unitPx`, is seen at ρ (1 + k1 ρ² + k2 ρ⁴). Negative k1 is barrel, positive pincushion.
 */
export interface Lens {
  k1: number
  k2: number
  /** Length that ρ = 1 stands for, px: the focal length, or half the picture's diagonal where that isn't known. */
  unitPx: number
  /** Centre of the distortion: that of the picture as the camera took it, px. */
  centre: PicturePoint
}

/** Where a point would be seen through a lens without distortion. Newton on the radius; exact to rounding. */
export function undistort(lens: Lens | null, p: PicturePoint): PicturePoint {
  if (!lens || (lens.k1 === 0 && lens.k2 === 0)) return p
  const x = (p.x - lens.centre.x) / lens.unitPx
  const y = (p.y - lens.centre.y) / lens.unitPx
  const seen = Math.hypot(x, y)
  if (seen === 0) return p
  let rho = seen
  for (let i = 0; i < 20; i++) {
    const q = rho * rho
    const step = (rho * (1 + q * (lens.k1 + q * lens.k2)) - seen) / (1 + q * (3 * lens.k1 + 5 * q * lens.k2))
    rho -= step
    if (!(Math.abs(step) > 1e-14)) break
  }
  const k = (rho / seen) * lens.unitPx
  return { x: lens.centre.x + x * k, y: lens.centre.y + y * k }
}

/** Where a point is seen through the lens. */
export function distort(lens: Lens | null, p: PicturePoint): PicturePoint {
  if (!lens) return p
  const x = p.x - lens.centre.x
  const y = p.y - lens.centre.y
  const q = (x * x + y * y) / (lens.unitPx * lens.unitPx)
  const k = 1 + q * (lens.k1 + q * lens.k2)
  return { x: lens.centre.x + x * k, y: lens.centre.y + y * k }
}

export interface LensFit {
  lens: Lens
  /** Standard error of k1 from the marks' scatter about their straight lines. */
  sdK1: number
  /** Root mean square distance of the marks from their lines, after correction, px. */
  rmsPx: number
  /** Largest bow of a marked edge before correction, px. */
  bowPx: number
}

/** A bow is believed when k1 exceeds this many of its standard errors. */
export const TRUSTED_BOW = 3
/** A second coefficient is only asked for when there are this many marks: fewer don't tell it from the first. */
const MARKS_FOR_K2 = 24

/**
 * The distortion that makes marked edges straight which are straight in reality (plumb-line method, Brown 1971): least
 * squares of the distances from the best line through each edge's undistorted marks.
 * @param edges marks along each straight edge, px; at least three an edge
 * @throws CoreError `lens-marks` when there are too few marks, or all edges run through the picture's centre
 */
export function fitLens(
  edges: readonly (readonly PicturePoint[])[],
  options: { unitPx: number; centre: PicturePoint },
): LensFit {
  const usable = edges.filter((e) => e.length >= 3)
  const count = usable.reduce((n, e) => n + e.length, 0)
  const { unitPx, centre } = options
  const lensOf = (k: readonly number[]): Lens => ({ k1: k[0]!, k2: k[1] ?? 0, unitPx, centre })
  if (usable.length === 0) throw tooFewMarks()
  const residualsOf = (k: readonly number[], out: Float64Array) => {
    let at = 0
    for (const edge of usable)
      for (const d of lineDistances(edge.map((p) => undistort(lensOf(k), p)))) out[at++] = d
  }
  const bowPx = Math.max(...usable.map((e) => Math.max(...lineDistances(e)) - Math.min(...lineDistances(e))))
  const fit = (start: number[]) =>
    leastSquares(start, count, residualsOf, { steps: start.map(() => 1e-5), huber: 3 })
  let found = fit([0])
  // Marks on lines through the centre leave k1 free: a bow of a thousandth px for k1 = 1 says nothing.
  if (!found.covariance || found.covariance[0]! > 1e6) throw tooFewMarks()
  const spread = (f: typeof found, parameters: number) =>
    Math.sqrt((2 * f.cost) / Math.max(1, count - 2 * usable.length - parameters))
  if (count >= MARKS_FOR_K2) {
    const both = fit([...found.parameters, 0])
    const sd2 = both.covariance ? spread(both, 2) * Math.sqrt(both.covariance[3]!) : Infinity
    if (Math.abs(both.parameters[1]!) > TRUSTED_BOW * sd2) found = both
  }
  const parameters = found.parameters.length
  return {
    lens: lensOf(found.parameters),
    sdK1: spread(found, parameters) * Math.sqrt(found.covariance![0]!),
    rmsPx: Math.sqrt(found.residuals.reduce((s, v) => s + v * v, 0) / count),
    bowPx,
  }
}

function tooFewMarks(): CoreError {
  return new CoreError({
    code: 'lens-marks',
    message:
      'Mark at least three points along an edge that is straight in reality and doesn’t run through the middle of the picture; long edges near the border tell most.',
    where: 'lens',
  })
}

/** Signed distances of points from their best line (total least squares), px. */
export function lineDistances(points: readonly PicturePoint[]): number[] {
  const { x: mx, y: my, angle } = bestLine(points)
  // Always to the same side of the way from first to last, so that signs don't jump between near-equal inputs.
  const last = points[points.length - 1]!
  const ahead = Math.cos(angle) * (last.x - points[0]!.x) + Math.sin(angle) * (last.y - points[0]!.y)
  const sign = ahead < 0 ? -1 : 1
  const nx = -sign * Math.sin(angle)
  const ny = sign * Math.cos(angle)
  return points.map((p) => (p.x - mx) * nx + (p.y - my) * ny)
}
