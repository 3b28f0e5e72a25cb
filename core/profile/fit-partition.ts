import { wrapAngle } from './arc'
import {
  distancesFrom,
  thinned,
  fitCircle,
  fitCubic,
  fitLine,
  largestOf,
  type Chain,
  type Primitive,
} from './fit-primitives'

/** A run of points and the shape it lies on. */
export interface FittedRun {
  /** First and last point, shared with the runs beside it. */
  from: number
  to: number
  shape: Primitive
}

/**
 * What a piece of a curve costs: the fewer the better, but a line and an arc that meet are to be had for no more than the
 * cubic that could stand for both, and a cubic for less than two arcs.
 */
const COST = { line: 1, arc: 1.25, cubic: 2.3 } as const
/** What a run costs that nothing follows. */
const LAST_RESORT = 20
/** A run that no shape follows to so many tolerances won't be followed by any when it is longer. */
const HOPELESS = 3
/** So many hopeless ends in a row close a search. */
const HOPELESS_ENDS = 3
/** Arcs that turn by less than this, radians (3°), are lines or parts of something else. */
const LEAST_SWEEP = (3 * Math.PI) / 180
/** Between two equally simple partitions the closer one: what a deviation as large as the tolerance costs. */
const CLOSENESS = 0.2

/**
 * Cuts a chain into runs of lines, circular arcs and cubics: the cheapest partition whose every run lies within the
 * tolerance, by dynamic programming over candidate places (Bellman, On the approximation of curves by line segments
 * using dynamic programming, Comm. ACM 4, 1961, 284; here with three shapes).
 * @param places indices of candidate joints, rising, the first and the last point among them
 * @param window neighbours whose mean distance counts, see `largestOf`
 */
export function partition(
  chain: Chain,
  places: readonly number[],
  toleranceMm: number,
  window: number,
): FittedRun[] {
  const n = places.length
  const cost = new Float64Array(n).fill(Infinity)
  const best: (FittedRun | null)[] = new Array<FittedRun | null>(n).fill(null)
  const back = new Int32Array(n)
  cost[0] = 0
  for (let a = 0; a + 1 < n; a++) {
    if (cost[a] === Infinity) continue
    let hopeless = 0
    for (let b = a + 1; b < n && hopeless < HOPELESS_ENDS; b++) {
      const [from, to] = [places[a]!, places[b]!]
      const { run, off, price } = cheapest(chain, from, to, toleranceMm, window, cost[b]! - cost[a]!)
      hopeless = off > HOPELESS * toleranceMm ? hopeless + 1 : 0
      // Neighbouring places are always joined, at worst by a line that is too far off.
      const taken = run ?? (b === a + 1 ? { from, to, shape: fitLine(chain, thinned(from, to))! } : null)
      const paid = cost[a]! + (run ? price : LAST_RESORT)
      if (!taken || paid >= cost[b]!) continue
      cost[b] = paid
      best[b] = taken
      back[b] = a
    }
  }
  const runs: FittedRun[] = []
  for (let b = n - 1; b > 0; b = back[b]!) runs.unshift(best[b]!)
  return runs
}

/** The simplest shape that a run lies on for less than `limit`, what it costs, and how far the nearest shape is off. */
function cheapest(
  chain: Chain,
  from: number,
  to: number,
  tolerance: number,
  window: number,
  limit: number,
): { run: FittedRun | null; off: number; price: number } {
  const at = thinned(from, to)
  let off = Infinity
  for (const { fit, least } of SHAPES) {
    // A shape that wouldn't pay isn't tried, and says nothing of longer runs.
    if (least >= limit) return { run: null, off: 0, price: Infinity }
    const shape = fit(chain, at)
    if (!shape || (shape.kind === 'arc' && !isArc(shape, chain, from, to))) continue
    const { most } = largestOf(distancesFrom(shape, chain, at), window)
    off = Math.min(off, most)
    if (most > tolerance) continue
    return { run: { from, to, shape }, off, price: COST[shape.kind] + CLOSENESS * (most / tolerance) ** 2 }
  }
  return { run: null, off, price: Infinity }
}

const SHAPES = [
  { fit: fitLine, least: COST.line },
  { fit: fitCircle, least: COST.arc },
  { fit: fitCubic, least: COST.cubic },
]

/** True when the run goes round its circle one way, by more than a trifle and less than all of it. */
function isArc(
  shape: Extract<Primitive, { kind: 'arc' }>,
  { r, z }: Chain,
  from: number,
  to: number,
): boolean {
  const angle = (i: number) => Math.atan2(z[i]! - shape.centre[1], r[i]! - shape.centre[0])
  const steps = 8
  let [sweep, before] = [0, angle(from)]
  let [ahead, behind] = [0, 0]
  for (let k = 1; k <= steps; k++) {
    const now = angle(Math.round(from + ((to - from) * k) / steps))
    const step = wrapAngle(now - before)
    if (step > 0) ahead += step
    else behind -= step
    sweep += step
    before = now
  }
  return Math.abs(sweep) > LEAST_SWEEP && Math.min(ahead, behind) < 0.1 * Math.max(ahead, behind)
}
