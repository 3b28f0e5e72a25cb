import { wrapAngle } from './arc'
import { nearestOn, type Chain, type Primitive } from './fit-primitives'
import type { FittedRun } from './fit-partition'
import type { Cubic } from './hobby'
import { derivativeAt, pointAt } from './segments'

export interface Joint {
  r: number
  z: number
  smooth: boolean
}

type Pair = readonly [number, number]

/** Joints that turn by less than this, radians (8°), are smooth; two lines never are. */
const SMOOTH_TURN = (8 * Math.PI) / 180
/** Lines are laid level or upright when that moves their ends by no more than the tolerance, and by less than this, radians (1.5°). */
const NEAR_STRAIGHT = (1.5 * Math.PI) / 180
/** A smooth end on the axis must be this near to level, radians (20°). */
const POLE_TURN = (20 * Math.PI) / 180

/**
 * Where the runs of a partition meet, before they are joined, and whether smoothly.
 * @param corners points at which a joint is a corner, however little it turns
 */
export function jointsOf(chain: Chain, runs: readonly FittedRun[], corners: ReadonlySet<number>): Joint[] {
  const last = chain.r.length - 1
  const place = (i: number): Pair => [chain.r[i]!, chain.z[i]!]
  const joints: Joint[] = []
  for (let k = 0; k <= runs.length; k++) {
    const [before, after] = [runs[k - 1], runs[k]]
    const i = after?.from ?? last
    if (!before || !after) {
      const run = (before ?? after)!
      const end = before ? 1 : 0
      const onAxis = chain.r[i] === 0
      const p = onAxis ? place(i) : onto(run.shape, place(i))
      const turn = Math.abs(Math.sin(directionAt(chain, run, end)))
      joints.push({ r: onAxis ? 0 : p[0], z: p[1], smooth: onAxis && run.shape.kind !== 'line' && turn < Math.sin(POLE_TURN) }) // prettier-ignore
      continue
    }
    const turn = wrapAngle(directionAt(chain, after, 0) - directionAt(chain, before, 1))
    const lines = before.shape.kind === 'line' && after.shape.kind === 'line'
    const crossing = lines ? crossingOf(before.shape, after.shape) : null
    const [p, q] = [onto(before.shape, place(i)), onto(after.shape, place(i))]
    const [r, z] = crossing ?? [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2]
    joints.push({ r: Math.max(0, r), z, smooth: !lines && !corners.has(i) && Math.abs(turn) < SMOOTH_TURN })
  }
  return joints
}

function crossingOf(a: Primitive, b: Primitive): Pair | null {
  if (a.kind !== 'line' || b.kind !== 'line') return null
  const det = a.along[0] * b.along[1] - a.along[1] * b.along[0]
  if (Math.abs(det) < 0.05) return null
  const [dr, dz] = [b.at[0] - a.at[0], b.at[1] - a.at[1]]
  const t = (dr * b.along[1] - dz * b.along[0]) / det
  return [a.at[0] + t * a.along[0], a.at[1] + t * a.along[1]]
}

/** The place of a shape nearest to a point. */
function onto(shape: Primitive, [r, z]: Pair): Pair {
  if (shape.kind === 'line') {
    const t = (r - shape.at[0]) * shape.along[0] + (z - shape.at[1]) * shape.along[1]
    return [shape.at[0] + t * shape.along[0], shape.at[1] + t * shape.along[1]]
  }
  if (shape.kind === 'arc') {
    const [dr, dz] = [r - shape.centre[0], z - shape.centre[1]]
    const k = shape.radius / (Math.hypot(dr, dz) || 1)
    return [shape.centre[0] + k * dr, shape.centre[1] + k * dz]
  }
  const c = shape.cubic
  const nearStart = Math.hypot(c[0] - r, c[1] - z) < Math.hypot(c[6] - r, c[7] - z)
  return pointAt(c, nearestOn(c, r, z, nearStart ? 0 : 1))
}

/** Direction of the way at an end of a run, radians. */
function directionAt({ r, z }: Chain, { from, to, shape }: FittedRun, end: 0 | 1): number {
  if (shape.kind === 'cubic') return endAngle(shape.cubic, end)
  const [a, b] = [from, to]
  const chord = Math.atan2(z[b]! - z[a]!, r[b]! - r[a]!)
  if (shape.kind === 'line') {
    const along = Math.atan2(shape.along[1], shape.along[0])
    return Math.abs(wrapAngle(along - chord)) < Math.PI / 2 ? along : along + Math.PI
  }
  const i = end === 0 ? from : to
  const radial = Math.atan2(z[i]! - shape.centre[1], r[i]! - shape.centre[0])
  return radial + (Math.sign(turnOf({ r, z }, from, to, shape)) * Math.PI) / 2
}

/** By how much the way from..to turns about a centre, radians, positive to the left. */
function turnOf({ r, z }: Chain, from: number, to: number, { centre }: { centre: Pair }): number {
  let sum = 0
  let before = Math.atan2(z[from]! - centre[1], r[from]! - centre[0])
  for (let i = from + 1; i <= to; i++) {
    const now = Math.atan2(z[i]! - centre[1], r[i]! - centre[0])
    sum += wrapAngle(now - before)
    before = now
  }
  return sum
}

/** Bulge of the arc that a run goes along. */
export function bulgeOf(chain: Chain, { from, to }: FittedRun, shape: { centre: Pair }): number {
  return Math.tan(turnOf(chain, from, to, shape) / 4)
}

/** Direction of a cubic at one of its ends, radians. */
export function endAngle(c: Cubic, end: 0 | 1): number {
  const [dr, dz] = derivativeAt(c, end)
  return Math.atan2(dz, dr)
}

/** Whether a line is meant to be level or upright. */
export function straightness(
  { shape }: FittedRun,
  a: Omit<Joint, 'smooth'>,
  b: Omit<Joint, 'smooth'>,
  tolerance: number,
): 'level' | 'upright' | null {
  if (shape.kind !== 'line') return null
  const [dr, dz] = [Math.abs(b.r - a.r), Math.abs(b.z - a.z)]
  if (dz <= 2 * tolerance && Math.atan2(dz, dr) < NEAR_STRAIGHT) return 'level'
  return dr <= 2 * tolerance && Math.atan2(dr, dz) < NEAR_STRAIGHT ? 'upright' : null
}
