import { smoothChain } from './chain'

/** Directions before and after a point that differ by more than this make a corner, which smoothing doesn't cross. */
const CORNER = (22 * Math.PI) / 180
/** Directions are taken over so many points on either side. */
const DIRECTION_POINTS = 5

/** The chain [x y ...] smoothed by a Gaussian of `sigma` points between its corners, which stay; as many points as before. */
export function smoothBetweenCorners(points: Float64Array, sigma: number): Float64Array {
  const cuts = cornersOf(points)
  const out = points.slice()
  for (let k = 0; k + 1 < cuts.length; k++) {
    const [from, to] = [2 * cuts[k]!, 2 * cuts[k + 1]! + 2]
    out.set(smoothChain(points.subarray(from, to), sigma), from)
  }
  return out
}

/** Indices of the corners of a chain, its ends among them. */
export function cornersOf(points: Float64Array): number[] {
  const n = points.length / 2
  const rough = smoothChain(points, 1.5)
  const turn = (i: number): number => {
    const a = Math.max(0, i - DIRECTION_POINTS)
    const b = Math.min(n - 1, i + DIRECTION_POINTS)
    const [ux, uy] = [rough[2 * i]! - rough[2 * a]!, rough[2 * i + 1]! - rough[2 * a + 1]!]
    const [vx, vy] = [rough[2 * b]! - rough[2 * i]!, rough[2 * b + 1]! - rough[2 * i + 1]!]
    return Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy))
  }
  const cuts = [0]
  for (let i = DIRECTION_POINTS; i < n - DIRECTION_POINTS; i++) {
    const here = turn(i)
    if (here < CORNER || here < turn(i - 1) || here < turn(i + 1)) continue
    if (i - cuts[cuts.length - 1]! >= DIRECTION_POINTS) cuts.push(i)
  }
  cuts.push(n - 1)
  return cuts
}
