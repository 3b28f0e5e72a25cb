import { profileFaults } from './check'
import { curveDeviation } from './deviation'
import { candidatePlaces, filledChain, noiseOf, polylinePoints } from './fit-places'
import { flatten } from './flatten'
import { profileSegments } from './profile-segments'
import { partition, type FittedRun } from './fit-partition'
import { fitCubic, fitLine, thinned, type Chain } from './fit-primitives'
import { deviations, settle, type Settled } from './fit-settle'
import { FAIR, LINE, withSegment, type NodeSegment } from './node-segment'
import type { ProfileNode } from './profile'
import { handlesOf } from './segment-kind'

/** A curve through a dense half-profile, and how far it stays from it. */
export interface FittedCurve {
  nodes: ProfileNode[]
  /** Largest distance of the points from the curve beyond their noise, and root mean square distance of all, mm. */
  deviationMm: number
  rmsMm: number
}

export interface FitCurveOptions {
  /** Largest deviation, mm. */
  toleranceMm: number
  /** Standard deviation of the points across the curve, mm. Default: from the points themselves. */
  noiseMm?: number
  /** Ends that stay exactly where the first and the last point are. Ends on the axis stay on it anyway. */
  held?: { start?: boolean; end?: boolean }
  /** Names for the nodes. */
  newId: () => string
}

/** So many standard errors of a mean may the noise of single points add to what counts as a deviation. */
const NOISE_SIGMAS = 4.5
const MOST_WINDOW = 25
/** So many times at most a run that came out too far off is cut, or its joints are made corners. */
const MENDS = 14
/** Runs settled in all attempts together at most: hundreds of runs, and as many tries, are noise and no curve. */
const MOST_EFFORT = 1500
/** … the worst few runs. */
const WORST = 4
/** A mend that leaves this share of what was too far off is taken at once. */
const MENDED = 0.5

/**
 * Shares of the tolerance that the runs are cut to, one after the other, until the joined curve keeps within all of it:
 * joining takes a little, and now and then makes a curve cross itself.
 */
const TIGHTER = [1, 0.6, 0.35] as const

/**
 * Few elements, lines, arcs and cubics, that follow a dense half-profile to within a tolerance: cut into the cheapest runs
 * first, then joined by one least squares. Scale the points and the tolerance, and the curve scales.
 * @param points [r, z] mm, from the axis at the foot to the axis at the top
 */
export function fitCurve(
  points: readonly (readonly [number, number])[],
  options: FitCurveOptions,
): FittedCurve {
  const chain = filledChain(points)
  if (chain.r.length < 3) return { nodes: [], deviationMm: 0, rmsMm: 0 }
  const { toleranceMm, newId } = options
  let best: FittedCurve | null = null
  for (const share of TIGHTER) {
    const tried = fitTo(points, chain, { ...options, toleranceMm: share * toleranceMm })
    const within = tried !== null && tried.deviationMm <= toleranceMm
    if (tried && (!best || (best.deviationMm > toleranceMm && tried.deviationMm < best.deviationMm))) best = tried // prettier-ignore
    if (within) break
  }
  return best ?? polyline(chain, toleranceMm, newId)
}

/** One fit to a tolerance, which it may miss by a little; null where nothing but a polyline doesn't cross itself. */
function fitTo(
  points: readonly (readonly [number, number])[],
  chain: Chain,
  options: FitCurveOptions,
): FittedCurve | null {
  const { toleranceMm, newId, held = {} } = options
  const raw = { r: Float64Array.from(points, (p) => p[0]), z: Float64Array.from(points, (p) => p[1]) }
  const noise = options.noiseMm ?? noiseOf(raw)
  const window = Math.min(MOST_WINDOW, Math.max(1, Math.ceil((NOISE_SIGMAS * noise) / toleranceMm) ** 2))
  let effort = 0
  const attempt: Attempt = (runs, corners) => {
    effort += runs.length
    const settled = settle(chain, runs, { toleranceMm, noiseMm: noise, held, corners })
    const off = deviations(chain, runs, settled, window)
    const excess = off.reduce((s, d) => s + Math.max(0, d.most - toleranceMm), 0)
    return { runs, corners, settled, off, excess }
  }
  const places = candidatePlaces(chain, toleranceMm, noise)
  /** Once more with the points dealt out anew, where that helps. */
  const polished = (fit: Fit) => {
    const runs = movedJoints(chain, fit.runs, fit.settled)
    if (runs === fit.runs) return fit
    const again = attempt(runs, fit.corners)
    return again.excess <= fit.excess ? again : fit
  }
  let best = polished(attempt(partition(chain, places, toleranceMm, window), new Set()))
  for (let mend = 0; mend < MENDS && best.excess > 0 && effort < MOST_EFFORT; mend++) {
    const next = mended(best, chain, attempt)
    if (!next) break
    best = polished(next)
  }
  // Joints that were made corners on the way to the tolerance are smooth again where that costs nothing.
  for (const corner of best.corners) {
    const smoother = attempt(best.runs, new Set([...best.corners].filter((c) => c !== corner)))
    if (smoother.excess <= best.excess) best = smoother
  }
  if (!isSound(best.settled)) {
    // Crossing itself it bounds nothing: without shared tangents it seldom does, as a polyline never unless the points do.
    const loose = attempt(best.runs, new Set(best.runs.map(({ from }) => from)))
    if (!isSound(loose.settled)) return null
    best = loose
  }
  const squares = best.off.reduce((s, d) => s + d.squares, 0)
  return {
    nodes: nodesOf(best.settled, newId),
    deviationMm: Math.max(...best.off.map((d) => d.most)),
    rmsMm: Math.sqrt(squares / (chain.r.length + best.runs.length - 1)),
  }
}

/** Runs joined one way, and how far they come out. */
interface Fit {
  runs: FittedRun[]
  /** Points at which a joint is a corner, however little it turns. */
  corners: ReadonlySet<number>
  settled: Settled
  off: ReturnType<typeof deviations>
  /** By how much the runs are farther off than the tolerance, in all, mm. */
  excess: number
}
type Attempt = (runs: FittedRun[], corners: ReadonlySet<number>) => Fit

/**
 * A fit that comes nearer to the tolerance: with corners at the ends of a run that is too far off, with that run cut in two,
 * or both. The worst run is tried first; null when none of the worst few can be helped.
 */
function mended(fit: Fit, chain: Chain, attempt: Attempt): Fit | null {
  const { runs, corners, off } = fit
  const worst = off.map((_, k) => k).sort((a, b) => off[b]!.most - off[a]!.most)
  for (const k of worst.slice(0, WORST)) {
    const loose = new Set([...corners, runs[k]!.from, runs[k]!.to])
    const cut = cutRun(chain, runs, k, off[k]!.where)
    const tries = [() => attempt(runs, loose)]
    if (cut) tries.push(() => attempt(cut, corners), () => attempt(cut, loose)) // prettier-ignore
    let best: Fit | null = null
    for (const run of tries) {
      const tried = run()
      if (!best || tried.excess < best.excess) best = tried
      if (best.excess < MENDED * fit.excess) break
    }
    if (best && best.excess < fit.excess) return best
  }
  return null
}

function isSound(settled: Settled): boolean {
  const nodes = nodesOf(settled, () => '')
  return profileFaults(nodes, flatten(profileSegments(nodes))).length === 0
}

/** The points themselves, as few as the tolerance allows, joined by lines. */
function polyline(chain: Chain, toleranceMm: number, newId: () => string): FittedCurve {
  const nodes = [0, ...polylinePoints(chain, toleranceMm)].map((i): ProfileNode => ({
    id: newId(),
    r: chain.r[i]!,
    z: chain.z[i]!,
    joint: 'corner',
    next: 'line',
  }))
  const { points } = flatten(profileSegments(nodes))
  const outline = Array.from(chain.r, (r, i) => [r, chain.z[i]!] as const)
  const { most, rmsMm } = curveDeviation(points, outline)
  return { nodes, deviationMm: Math.abs(most?.mm ?? 0), rmsMm }
}

/** Joints are looked for so many points beside where they were. */
const JOINT_REACH = 8

/** The runs with their ends at the points nearest to the settled joints; the same ones where nothing moves. */
function movedJoints(chain: Chain, runs: FittedRun[], { nodes }: Settled): FittedRun[] {
  const ends = runs.slice(1).map(({ from }, k) => {
    const { r, z } = nodes[k + 1]!
    const away = (i: number) => Math.hypot(chain.r[i]! - r, chain.z[i]! - z)
    let best = from
    const low = Math.max(runs[k]!.from + 1, from - JOINT_REACH)
    const high = Math.min(runs[k + 1]!.to - 1, from + JOINT_REACH)
    for (let i = low; i <= high; i++) if (away(i) < away(best)) best = i
    return best
  })
  const sorted = ends.every((end, k) => end > (ends[k - 1] ?? 0))
  if (!sorted || ends.every((end, k) => end === runs[k + 1]!.from)) return runs
  return runs.map((run, k) => ({ ...run, from: ends[k - 1] ?? run.from, to: ends[k] ?? run.to }))
}

/** The runs with one of them cut in two, at a place or in its middle; null when it is too short. */
function cutRun(chain: Chain, runs: readonly FittedRun[], k: number, where: number): FittedRun[] | null {
  const { from, to } = runs[k]!
  const margin = (to - from) >> 2
  const at = Math.min(to - margin, Math.max(from + margin, where))
  if (margin < 1) return null
  const part = (a: number, b: number): FittedRun => {
    const indices = thinned(a, b)
    return { from: a, to: b, shape: fitCubic(chain, indices) ?? fitLine(chain, indices)! }
  }
  return [...runs.slice(0, k), part(from, at), part(at, to), ...runs.slice(k + 1)]
}

function nodesOf({ nodes, runs }: Settled, newId: () => string): ProfileNode[] {
  return nodes.map(({ r, z, smooth }, k) => {
    const node: ProfileNode = {
      id: newId(),
      r: Math.max(0, r),
      z,
      joint: smooth ? 'smooth' : 'corner',
      next: 'line',
    }
    const to = nodes[k + 1]
    // What came out exactly straight stays so under the hand.
    const way =
      runs[k]?.kind !== 'line' || !to ? undefined : to.z === z ? 'level' : to.r === r ? 'upright' : undefined
    return withSegment(node, { ...segmentOf(runs[k]), way })
  })
}

function segmentOf(run: Settled['runs'][number] | undefined): NodeSegment {
  if (!run || run.kind === 'line') return LINE
  if (run.kind === 'arc') return { next: 'arc', bulge: run.bulge }
  return { ...FAIR, handles: handlesOf(run.cubic) }
}
