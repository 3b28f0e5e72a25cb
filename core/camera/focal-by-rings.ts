import type { AxisLine } from '../outline/axis-line'
import { seenStraight, type Optics, type Sides } from './closing-ends'
import { endsInBall, likelyPitch } from './fit-end'
import type { Known } from './solve-near'

/** Focal lengths tried, logarithms of picture diagonals: 30 to 480 mm lenses (35 mm equivalents), a fifth apart, since clean rings show little beyond a tenth. */
const BETWEEN = Math.LN2 / 4
const LOGS = Array.from({ length: 17 }, (_, i) => Math.log(0.7) + i * BETWEEN)
/** With none of them known rays are taken for parallel, about. */
export const TELE = 8
/** The best few are bettered by halving the step between them so often. */
const FOLLOWED = 2
const HALVINGS = 2
/** No lens is told better than this by rings, as a share: their edges are rounded and lie in shadows (an estimate, no source). */
const LEAST_SD = 0.05

/**
 * The focal length, px, by which the rings at both ends look most like rings. Seen from near by, foot and rim are seen at angles that
 * differ by what the camera sees between them (the third case of camera estimation from two circles); one ring, or a ring and a dome,
 * leaves it open.
 * @param fromAbove the upper ring is known to be looked down on
 * @returns null where the ends tell none
 */
export function focalByRings(
  sides: Sides,
  axis: AxisLine,
  optics: Omit<Optics, 'f'> & { diagonalPx: number },
  fromAbove: boolean,
): Known | null {
  const { diagonalPx } = optics
  const seenBy = (f: number) => seenStraight(sides, axis, { ...optics, f })
  const tele = seenBy(TELE * diagonalPx)
  if (endsInBall(tele, 'foot') || endsInBall(tele, 'top')) return null
  const costs = new Map<number, number>()
  const costOf = (log: number): number => {
    let cost = costs.get(log)
    if (cost === undefined) {
      cost = likelyPitch(seenBy(diagonalPx * Math.exp(log)), ['foot', 'top'], fromAbove).cost
      costs.set(log, cost)
    }
    return cost
  }
  const valleys = LOGS.filter((log, i) =>
    [LOGS[i - 1], LOGS[i + 1]].every((beside) => beside === undefined || costOf(log) <= costOf(beside)),
  )
  valleys.sort((p, q) => costOf(p) - costOf(q))
  const ended = valleys.slice(0, FOLLOWED).map((start) => {
    let best = start
    for (let step = BETWEEN / 2, k = 0; k < HALVINGS; k++, step /= 2)
      for (const log of [best - step, best + step]) if (costOf(log) < costOf(best)) best = log
    return best
  })
  const best = ended.reduce((p, q) => (costOf(q) < costOf(p) ? q : p))
  const least = costOf(best)
  const rise = Math.min(costOf(best - BETWEEN), costOf(best + BETWEEN)) - least
  // As of any least squares; where the ends look unlike rings anyway, their misses say as much less.
  const sd = BETWEEN * Math.sqrt(Math.max(1, least) / Math.max(1e-6, rise))
  const value = diagonalPx * Math.exp(best)
  return { value, sd: value * Math.max(LEAST_SD, sd) }
}
