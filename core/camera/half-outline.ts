import { smoothBetweenCorners } from '../outline/corners'
import type { OutlineSide } from '../outline/refine'
import { undistort } from './lens'
import { rayOf, toPlane, type View } from './view'

/** Who vouches for a point of the half-outline. */
export const STATES = ['both', 'left', 'right', 'bridged', 'hand'] as const
export type PointState = (typeof STATES)[number]
/** Why one side alone vouches: the other shows no edge, shows another one, or wasn't wanted. */
export type OneSideReason = 'unseen' | 'differs' | 'chosen'

/**
 * Both sides of an outline laid over each other. Points [X W ...] run from the lower axis crossing out and up to the
 * upper one, X >= 0: for a near view the slopes of the rays (sidewards and upwards, per unit ahead) from the camera
 * turned to the axis and held level; for a distant view mm.
 */
export interface HalfOutline {
  points: Float64Array
  /** Standard error across the edge, px; Infinity where the place is bridged. */
  sd: Float64Array
  states: PointState[]
  /** Of the points that one side alone vouches for. */
  reasons: (OneSideReason | null)[]
  /** Left minus right across the edge, px, positive where the left side lies farther out; NaN without a twin. */
  difference: Float64Array
  /** Pixels for one unit of the points. */
  pxPerUnit: number
}

/** Which side to believe where the two differ; `left` and `right` by the piece as seen upright. */
export interface SideChoice {
  /** Heights from and to, in the points' unit. */
  from: number
  to: number
  side: 'left' | 'right'
}

/** Left and right may differ by this, px, and by so many of their standard errors, before one must be wrong. */
const SAME_PX = 0.8
const SAME_SDS = 5
/** A run of points where they differ ends after so many that agree. */
const QUIET_POINTS = 10
/** Twins are looked for within this, px. */
const TWIN_REACH = 40
/** Standard deviation of the smoothing along the outline, in points. */
const SMOOTHING = 1.5

/**
 * The mean of left and mirrored right, weighted by their standard errors; where they differ by more than noise, the smoother
 * or the inner one (handles, shadows and reflections stick out), or the one that was chosen. A near view is turned to the axis first,
 * where mirroring is exact.
 */
export function halfOutline(
  view: View,
  left: OutlineSide,
  right: OutlineSide,
  choices: readonly SideChoice[] = [],
): HalfOutline {
  const pxPerUnit = view.kind === 'near' ? view.eye.f : 1 / view.mmPerPx
  const a = sidewards(view, right.points, 1)
  const b = sidewards(view, left.points, -1)
  const n = a.length / 2
  const twins = nearestOn(a, b, TWIN_REACH / pxPerUnit)
  const states: PointState[] = new Array<PointState>(n).fill('bridged')
  const reasons = new Array<OneSideReason | null>(n).fill(null)
  const difference = new Float64Array(n).fill(NaN)
  const hands = new Array<'left' | 'right' | null>(n).fill(null)
  const differ: (-1 | 0 | 1)[] = new Array<-1 | 0 | 1>(n).fill(0)
  for (let i = 0; i < n; i++) {
    const j = twins.index[i]!
    const sdA = right.sd[i]!
    const sdB = j < 0 ? Infinity : Math.max(left.sd[j]!, left.sd[Math.min(j + 1, left.sd.length - 1)]!)
    const seenA = Number.isFinite(sdA)
    const seenB = Number.isFinite(sdB)
    if (seenA && seenB) difference[i] = twins.offset[i]! * pxPerUnit
    const chosen = choices.find((c) => a[2 * i + 1]! >= c.from && a[2 * i + 1]! <= c.to)?.side
    const byHand = right.hand?.[i] ? 'right' : j >= 0 && left.hand?.[j] ? 'left' : null
    if (byHand) {
      states[i] = 'hand'
      hands[i] = byHand
    } else if (chosen && (chosen === 'right' ? seenA : seenB)) {
      states[i] = chosen
      reasons[i] = 'chosen'
    } else if (seenA && seenB) {
      const off = difference[i]!
      if (Math.abs(off) <= Math.max(SAME_PX, SAME_SDS * Math.hypot(sdA, sdB))) states[i] = 'both'
      else differ[i] = off < 0 ? -1 : 1
    } else if (seenA || seenB) {
      states[i] = seenA ? 'right' : 'left'
      reasons[i] = 'unseen'
    }
  }
  decideRuns(a, b, twins.index, differ, (i, state) => {
    states[i] = state
    reasons[i] = 'differs'
  })
  const merged = a.slice()
  const sd = new Float64Array(n)
  for (let i = 0; i < n; i++) {
    const j = twins.index[i]!
    const sdB = j < 0 ? Infinity : left.sd[j]!
    const state = states[i]!
    const fromLeft = state === 'left' || hands[i] === 'left'
    let share = fromLeft ? 1 : 0
    sd[i] = fromLeft ? sdB : right.sd[i]!
    if (state === 'both') {
      const [wa, wb] = [right.sd[i]! ** -2, sdB ** -2]
      share = wb / (wa + wb)
      sd[i] = 1 / Math.sqrt(wa + wb)
    } else if (state === 'bridged') {
      share = j < 0 ? 0 : 0.5
      sd[i] = Infinity
    }
    merged[2 * i]! += share * twins.dx[i]!
    merged[2 * i + 1]! += share * twins.dy[i]!
  }
  const points = smoothBetweenCorners(merged, SMOOTHING)
  for (let i = 0; i < points.length; i += 2) points[i] = Math.max(0, points[i]!)
  return { points, sd, states, reasons, difference, pxPerUnit }
}

/** One side must be rougher than the other by this factor to be distrusted for it. */
const ROUGHER = 2

/**
 * Chooses a side for every run of points where the two differ: the smoother one, since what hides or sticks out from an
 * edge (a handle, its root on the body, a shadow) has corners; where both are about as smooth, the inner one.
 */
function decideRuns(
  a: Float64Array,
  b: Float64Array,
  twin: Int32Array,
  differ: readonly (-1 | 0 | 1)[],
  decide: (i: number, state: 'left' | 'right') => void,
): void {
  for (let from = 0; from < differ.length; from++) {
    if (differ[from] === 0) continue
    let to = from
    let quiet = 0
    // Short agreements within a run, where the two cross, don't end it.
    for (let i = from; i < differ.length && quiet <= QUIET_POINTS; i++) {
      if (differ[i] === 0) quiet++
      else {
        quiet = 0
        to = i
      }
    }
    let votes = 0
    for (let i = from; i <= to; i++) votes += differ[i]!
    const right = roughness(a, from - 3, to + 3)
    const left = roughness(b, twin[from]! - 3, twin[to]! + 3)
    // A negative vote says that the left side lies farther in.
    const inner = votes < 0 ? 'left' : 'right'
    const state = right > ROUGHER * left ? 'left' : left > ROUGHER * right ? 'right' : inner
    for (let i = from; i <= to; i++) if (differ[i] !== 0) decide(i, state)
    from = to
  }
}

/** Sum of the second differences of a chain between two of its points. */
function roughness(points: Float64Array, from: number, to: number): number {
  const n = points.length / 2
  let sum = 0
  for (let i = Math.max(2, from); i <= Math.min(n - 3, to); i++)
    sum += Math.hypot(
      points[2 * i + 4]! - 2 * points[2 * i]! + points[2 * i - 4]!,
      points[2 * i + 5]! - 2 * points[2 * i + 1]! + points[2 * i - 3]!,
    )
  return sum
}

/** Picture points as [X W ...], X positive on the side that `sign` names. */
function sidewards(view: View, points: Float64Array, sign: 1 | -1): Float64Array {
  const out = new Float64Array(points.length)
  for (let i = 0; i < points.length; i += 2) {
    const p = undistort(view.lens, { x: points[i]!, y: points[i + 1]! })
    if (view.kind === 'near') {
      const d = rayOf(view.eye, p)
      out[i] = (sign * d[0]) / d[1]
      out[i + 1] = d[2] / d[1]
    } else {
      const q = toPlane({ ...view, lens: null }, p)
      out[i] = sign * q.x
      out[i + 1] = q.z
    }
  }
  return out
}

interface Twins {
  /** Index of b's segment nearest to each point of a; -1 when none is within reach. */
  index: Int32Array
  /** From a's point to its twin. */
  dx: Float64Array
  dy: Float64Array
  /** Signed distance, positive when the twin lies outside (right of the way upwards). */
  offset: Float64Array
}

/** For each point of chain a the nearest place on chain b; both run the same way, so the search walks along. */
function nearestOn(a: Float64Array, b: Float64Array, reach: number): Twins {
  const n = a.length / 2
  const twins: Twins = {
    index: new Int32Array(n).fill(-1),
    dx: new Float64Array(n),
    dy: new Float64Array(n),
    offset: new Float64Array(n),
  }
  let near = 0
  for (let i = 0; i < n; i++) {
    let best = reach * reach
    const lost = twins.index[Math.max(0, i - 1)]! < 0
    const from = lost ? 0 : Math.max(0, near - 60)
    const to = lost ? b.length / 2 - 2 : Math.min(b.length / 2 - 2, near + 60)
    for (let j = from; j <= to; j++) {
      const x0 = b[2 * j]!
      const y0 = b[2 * j + 1]!
      const dx = b[2 * j + 2]! - x0
      const dy = b[2 * j + 3]! - y0
      const l2 = dx * dx + dy * dy
      if (l2 === 0) continue
      const px = a[2 * i]! - x0
      const py = a[2 * i + 1]! - y0
      const t = Math.max(0, Math.min(1, (px * dx + py * dy) / l2))
      const qx = t * dx - px
      const qy = t * dy - py
      const d2 = qx * qx + qy * qy
      if (d2 >= best) continue
      best = d2
      near = j
      twins.index[i] = j
      twins.dx[i] = qx
      twins.dy[i] = qy
      // Upwards with the outside on the right: the outward normal of the way (dx, dy) is (dy, -dx).
      twins.offset[i] = (qx * dy - qy * dx) / Math.sqrt(l2)
    }
  }
  return twins
}
