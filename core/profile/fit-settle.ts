import { leastSquaresInBlocks } from '../block-least-squares'
import { arcOf } from './arc'
import { blocksOf } from './fit-blocks'
import type { Joint } from './fit-joints'
import { at, cubicOf, modelOf, type SettleOptions } from './fit-model'
import type { FittedRun } from './fit-partition'
import { distancesFrom, largestOf, thinned, type Chain, type Primitive } from './fit-primitives'
import type { Cubic } from './hobby'
import { pointAt } from './segments'

/** The run from one settled node to the next. */
export type SettledRun = { kind: 'line' } | { kind: 'arc'; bulge: number } | { kind: 'cubic'; cubic: Cubic }

export interface Settled {
  nodes: Joint[]
  runs: SettledRun[]
}

/**
 * Joins the runs of a partition: one least squares over all joints, bulges and handles, in which joints that hardly turn
 * have one tangent, near-level and near-upright lines are exactly so, and ends on the axis stay there.
 */
export function settle(chain: Chain, runs: readonly FittedRun[], options: SettleOptions): Settled {
  const { toleranceMm, noiseMm } = options
  const model = modelOf(chain, runs, options)
  const sigma = Math.max(noiseMm, toleranceMm / 5)
  const x = leastSquaresInBlocks(model.start, blocksOf(chain, runs, model, sigma), model.sizes)
  return {
    nodes: model.joints.map(({ smooth }, k) => ({ r: at(model, x, k)[0], z: at(model, x, k)[1], smooth })),
    runs: runs.map((run, k): SettledRun => {
      if (run.shape.kind === 'line') return { kind: 'line' }
      if (run.shape.kind === 'arc') return { kind: 'arc', bulge: x[model.bulge[k]!]! }
      return { kind: 'cubic', cubic: cubicOf(model, x, k) }
    }),
  }
}

/** So many points beside a joint may belong to either run. */
const BESIDE = 6

/** Largest deviation of the points of each settled run, mm, and where. */
export function deviations(
  chain: Chain,
  runs: readonly FittedRun[],
  { nodes, runs: settled }: Settled,
  window: number,
) {
  const shapes = settled.map((run, k) => primitiveOf(run, nodes[k]!, nodes[k + 1]!))
  return runs.map(({ from, to }, k) => {
    const distances = distancesFrom(shapes[k]!, chain, thinned(from, to, Infinity))
    for (const [beside, first] of [
      [k - 1, from],
      [k + 1, Math.max(from, to - BESIDE)],
    ] as const) {
      if (!shapes[beside]) continue
      const other = distancesFrom(
        shapes[beside],
        chain,
        thinned(first, Math.min(to, first + BESIDE), Infinity),
      )
      other.forEach((d, i) => {
        if (Math.abs(d) < Math.abs(distances[first - from + i]!)) distances[first - from + i] = d
      })
    }
    const { most: off, where } = largestOf(distances, window)
    const most = Math.max(off, detourOf(shapes[k]!, chain, from, to))
    return { most, where: from + where, squares: distances.reduce((s, d) => s + d * d, 0) }
  })
}

const LENGTH_CHORDS = 24

/**
 * How far a cubic swings out where no point sees it, mm: a loop or a hook between two points makes it longer than the
 * way of the points by twice as much at least.
 */
function detourOf(shape: Primitive, { r, z }: Chain, from: number, to: number): number {
  if (shape.kind !== 'cubic') return 0
  let [length, way] = [0, 0]
  let before = pointAt(shape.cubic, 0)
  for (let k = 1; k <= LENGTH_CHORDS; k++) {
    const p = pointAt(shape.cubic, k / LENGTH_CHORDS)
    length += Math.hypot(p[0] - before[0], p[1] - before[1])
    before = p
  }
  for (let i = from + 1; i <= to; i++) way += Math.hypot(r[i]! - r[i - 1]!, z[i]! - z[i - 1]!)
  // The joints lie up to a point's distance beyond the run's own ends.
  const ends = Math.hypot(shape.cubic[0] - r[from]!, shape.cubic[1] - z[from]!) + Math.hypot(shape.cubic[6] - r[to]!, shape.cubic[7] - z[to]!) // prettier-ignore
  return (length - way - ends) / 2
}

function primitiveOf(run: SettledRun, a: Joint, b: Joint): Primitive {
  if (run.kind === 'cubic') return run
  if (run.kind === 'arc') return { kind: 'arc', ...arcOf([a.r, a.z], [b.r, b.z], run.bulge) }
  const length = Math.hypot(b.r - a.r, b.z - a.z) || 1
  return { kind: 'line', at: [a.r, a.z], along: [(b.r - a.r) / length, (b.z - a.z) / length] }
}
