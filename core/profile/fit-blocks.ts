import type { Block } from '../block-least-squares'
import { arcOf, wrapAngle } from './arc'
import { at, chordOf, cubicOf, parametersOf, runAngle, type Model } from './fit-model'
import type { FittedRun } from './fit-partition'
import { nearestOn, type Chain } from './fit-primitives'
import { derivativeAt, pointAt } from './segments'

/** Points of one run that count. */
const RUN_POINTS = 150
/** A tangent that is off may move the run's points by this share of their noise. */
const TANGENT_SHARE = 1e-3
/** A joint is held to where it was found by this share of its shorter run: only what else leaves it free. */
const SLIDE_SHARE = 0.15
/** Handles are held to what they started with by a factor of e to this. */
const HANDLE_SLACK = 1.5

/** What the joining of runs is to minimise: distances of the points first, then what these leave open. */
export function blocksOf(chain: Chain, runs: readonly FittedRun[], model: Model, sigma: number): Block[] {
  return [
    ...runs.map((run, k) => runBlock(chain, run, k, model, sigma)),
    ...tangentBlocks(runs, model, sigma),
    ...slideBlocks(runs, model, sigma),
    ...handleBlocks(model),
  ]
}

function runBlock(chain: Chain, run: FittedRun, k: number, model: Model, sigma: number): Block {
  const stride = Math.max(1, Math.ceil((run.to - run.from) / RUN_POINTS))
  const points: number[] = []
  for (let i = run.from; i <= run.to; i += stride) points.push(i)
  // Points left out are counted by those that stay.
  const weight = Math.sqrt(stride) / sigma
  const { kind } = run.shape
  const t = Float64Array.from(points, (_, i) => (points.length > 1 ? i / (points.length - 1) : 0))
  const place = (x: ArrayLike<number>) => {
    const cubic = cubicOf(model, x, k)
    points.forEach((i, n) => (t[n] = nearestOn(cubic, chain.r[i]!, chain.z[i]!, t[n]!)))
  }
  const residuals = (x: ArrayLike<number>, out: Float64Array) => {
    const [a, b] = [at(model, x, k), at(model, x, k + 1)]
    if (kind === 'cubic') {
      const cubic = cubicOf(model, x, k)
      points.forEach((i, n) => {
        const [p, q] = pointAt(cubic, t[n]!)
        const [dr, dz] = derivativeAt(cubic, t[n]!)
        const length = Math.hypot(dr, dz) || 1
        out[n] = (weight * ((chain.r[i]! - p) * dz - (chain.z[i]! - q) * dr)) / length
      })
      return
    }
    const bulge = kind === 'arc' ? x[model.bulge[k]!]! : 0
    if (Math.abs(bulge) > 1e-6) {
      const { centre, radius } = arcOf(a, b, bulge)
      points.forEach((i, n) => {
        const off = Math.hypot(chain.r[i]! - centre[0], chain.z[i]! - centre[1]) - radius
        out[n] = weight * (bulge > 0 ? off : -off)
      })
      return
    }
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1
    const [dr, dz] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length]
    points.forEach((i, n) => (out[n] = weight * ((chain.r[i]! - a[0]) * dz - (chain.z[i]! - a[1]) * dr)))
  }
  const accept = kind === 'cubic' ? place : undefined
  return { count: points.length, parameters: parametersOf(model, k), residuals, accept }
}

/** Where lines and arcs meet smoothly, and where arcs meet the axis: one tangent. */
function tangentBlocks(runs: readonly FittedRun[], model: Model, sigma: number): Block[] {
  const blocks: Block[] = []
  model.joints.forEach(({ smooth }, k) => {
    if (!smooth) return
    const [before, after] = [k - 1, k]
    const firm = (run: number) => run >= 0 && run < runs.length && model.kinds[run] !== 'cubic'
    if (k === 0 || k === runs.length) {
      const run = k === 0 ? after : before
      if (!firm(run)) return
      const end = k === 0 ? 0 : 1
      const weight = chordOf(model, run) / (TANGENT_SHARE * sigma)
      blocks.push({
        count: 1,
        parameters: parametersOf(model, run),
        residuals: (x, out) => (out[0] = weight * Math.sin(runAngle(model, x, run, end))),
      })
      return
    }
    if (!firm(before) || !firm(after)) return
    const weight = Math.min(chordOf(model, before), chordOf(model, after)) / (TANGENT_SHARE * sigma)
    blocks.push({
      count: 1,
      parameters: [...new Set([...parametersOf(model, before), ...parametersOf(model, after)])],
      residuals: (x, out) =>
        (out[0] = weight * wrapAngle(runAngle(model, x, after, 0) - runAngle(model, x, before, 1))),
    })
  })
  return blocks
}

function slideBlocks(runs: readonly FittedRun[], model: Model, sigma: number): Block[] {
  return model.joints.flatMap((joint, k) => {
    if (k === 0 || k === runs.length || !joint.smooth) return []
    const loose = SLIDE_SHARE * Math.min(chordOf(model, k - 1), chordOf(model, k)) + sigma
    const { r, z } = model.index[k]!
    return [
      {
        count: 2,
        parameters: [r, z].filter((i) => i >= 0),
        residuals: (x: ArrayLike<number>, out: Float64Array) => {
          const [p, q] = at(model, x, k)
          out[0] = (p - joint.r) / loose
          out[1] = (q - joint.z) / loose
        },
      },
    ]
  })
}

/** Handles of short runs, which few points hold, stay handles. */
function handleBlocks({ cubics, start }: Model): Block[] {
  return cubics.flatMap((cubic) =>
    (cubic?.lengths ?? []).map((index) => ({
      count: 1,
      parameters: [index],
      residuals: (x: ArrayLike<number>, out: Float64Array) =>
        (out[0] = (x[index]! - start[index]!) / HANDLE_SLACK),
    })),
  )
}
