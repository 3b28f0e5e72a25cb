import { CoreError } from '../errors'
import { parametersAtHeight } from '../profile/at-height'
import { signedArea } from '../profile/check'
import { fitCurve } from '../profile/fit-curve'
import { boxPoints, extent, flatten } from '../profile/flatten'
import type { ProfileNode } from '../profile/profile'
import { backwards, cubicsOf, endOf, partOf, pointOn, scaledSegment, startOf, turnBetween, type Segment } from '../profile/segments' // prettier-ignore
import { chainsOf } from './chain'
import { refusal, type DrawnCurve } from './drawn'

/** Where the axis runs in a drawing: at x = 0, along its left or right edge, or through the middle of a whole outline. */
export type AxisPlace = 'zero' | 'left' | 'right' | 'middle'

export interface PlaceOptions {
  /** mm for one unit of the file. */
  mmPerUnit: number
  axis: AxisPlace
  /** Names for the nodes. */
  newId: () => string
  /** Largest deviation of a curve of few elements from a chain of many points, mm; default: a five-thousandth of the height. */
  fitMm?: number
}

export interface PlacedProfile {
  nodes: ProfileNode[]
  heightMm: number
  maxRadiusMm: number
  notes: string[]
}

/** Ends within this share of the extent of the axis lie on it. */
const NEAR_AXIS = 1e-3
/** Chains of more lines than this are points of a curve. */
const MOST_LINES = 150
const SMOOTH = (0.5 * Math.PI) / 180
const MOST_NODES = 5000

/** Where the axis most likely runs. */
export function likelyAxis({ segments, placed }: DrawnCurve): AxisPlace {
  if (placed) return 'zero'
  const { left, right, width } = boxOf(segments)
  if (Math.abs(left) <= NEAR_AXIS * width) return 'zero'
  const [a, b] = [startOf(segments[0]!), endOf(segments.at(-1)!)]
  const slack = NEAR_AXIS * width
  const closed = Math.hypot(a[0] - b[0], a[1] - b[1]) <= slack
  for (const [side, x] of [
    ['left', left],
    ['right', right],
  ] as const) {
    const along = (s: Segment) =>
      s.kind === 'line' && [s.cubic[0], s.cubic[6]].every((v) => Math.abs(v - x) <= slack)
    if (closed ? segments.some(along) : [a[0], b[0]].every((v) => Math.abs(v - x) <= slack)) return side
  }
  // A whole outline is as wide left of its middle as right of it at half its height.
  return isMirrored(segments) ? 'middle' : 'left'
}

function isMirrored(segments: readonly Segment[]): boolean {
  const { left, right, low, high, width } = boxOf(segments)
  const middle = (left + right) / 2
  return [0.25, 0.5, 0.75].every((share) => {
    const xs = segments.flatMap((s) =>
      parametersAtHeight(s, low + share * (high - low)).map((t) => pointOn(s, t)[0]),
    )
    return xs.length >= 2 && Math.abs(Math.min(...xs) + Math.max(...xs) - 2 * middle) < 0.03 * width
  })
}

/**
 * A drawn curve as the nodes of a half-profile: scaled, its axis at r = 0, from the lower axis end outwards and up, standing at height 0
 * unless the file says where the ground is.
 * @throws CoreError `no-half-profile`, `too-many-nodes`
 */
export function placeProfile(
  drawn: DrawnCurve,
  { mmPerUnit, axis, newId, fitMm }: PlaceOptions,
): PlacedProfile {
  const notes = [...drawn.notes]
  const scaled = drawn.segments.map((s) => scaledSegment(s, mmPerUnit))
  const { left, right, width, low } = boxOf(scaled)
  const at = { zero: 0, left, right, middle: (left + right) / 2 }[axis]
  const turned = axis === 'right' || (axis === 'zero' && right <= NEAR_AXIS * width && left < 0)
  const rise = drawn.placed ? 0 : -low
  const moved = scaled.map((s) => movedSegment(s, -at, rise, turned))
  const half = rightHalf(moved, notes)
  if (half.length === 0) throw new CoreError(refusal('no-half-profile', 'Nothing of the curve lies beside this axis. Choose another place for it.')) // prettier-ignore
  const chain = signedArea(flatten(half).points) < 0 ? backwards(half) : half
  const { high, low: foot, right: reach } = boxOf(chain)
  const heightMm = high - foot
  const lines = chain.every((s) => s.kind === 'line')
  const nodes = lines && chain.length > MOST_LINES ? fitted(chain, fitMm ?? heightMm / 5000, newId, notes) : nodesOf(chain, newId, NEAR_AXIS * Math.max(heightMm, reach)) // prettier-ignore
  if (nodes.length > MOST_NODES) throw new CoreError(refusal('too-many-nodes', `The curve would have ${nodes.length} nodes; a profile may have ${MOST_NODES}. Simplify it first.`)) // prettier-ignore
  return { nodes, heightMm, maxRadiusMm: reach, notes }
}

/** The box around the curve itself, to a hundred-thousandth of its extent. */
function boxOf(segments: readonly Segment[]) {
  let [left, right, low, high] = [Infinity, -Infinity, Infinity, -Infinity]
  const { points: p } = flatten(segments, { toleranceMm: extent(segments) / 1e5 })
  for (let i = 0; i < p.length; i += 2) {
    left = Math.min(left, p[i]!)
    right = Math.max(right, p[i]!)
    low = Math.min(low, p[i + 1]!)
    high = Math.max(high, p[i + 1]!)
  }
  return { left, right, low, high, width: Math.max(right - left, high - low) }
}

/** Moved by dx and dz, then mirrored about the axis where it lies on its left. */
function movedSegment(s: Segment, dx: number, dz: number, mirrored: boolean): Segment {
  const sign = mirrored ? -1 : 1
  const place = <T extends readonly number[]>(list: T) => list.map((v, i) => (i % 2 ? v + dz : sign * (v + dx))) as unknown as T // prettier-ignore
  if (s.kind !== 'arc') return { ...s, cubic: place(s.cubic) }
  const { centre, radius, from, sweep } = s.arc
  const arc = { centre: place(centre), radius, from: mirrored ? Math.PI - from : from, sweep: sign * sweep }
  return { ...s, ends: place(s.ends), arc }
}

/** What lies right of the axis as one chain; what runs along the axis is no part of it. */
function rightHalf(segments: readonly Segment[], notes: string[]): Segment[] {
  const { width, left } = boxOf(segments)
  const slack = NEAR_AXIS * width
  const crossing = left < -slack
  const parts = crossing ? segments.flatMap(cutAtAxis) : [...segments]
  const beside = parts.filter((s) => {
    const [x] = pointOn(s, 0.5)
    return x > 0 && boxPoints(s).some(([r]) => r > slack)
  })
  const chains = chainsOf(beside)
  if (crossing && chains.length > 0)
    notes.push('The curve runs on both sides of the axis; its right half was taken.')
  if (chains.length > 1)
    notes.push('What does not hang together with the longest run beside the axis was left out.')
  return chains[0] ?? []
}

function cutAtAxis(s: Segment): Segment[] {
  // The same search serves for the axis, with both coordinates changed over.
  const over = (list: readonly number[]) => list.map((_, i) => list[i ^ 1]!)
  const flipped = (s.kind === 'arc' ? cubicsOf(s) : [s.cubic]).map((c): Segment => ({ kind: 'cubic', index: 0, cubic: over(c) as never })) // prettier-ignore
  const n = flipped.length
  const cuts = flipped.flatMap((f, k) => parametersAtHeight(f, 0).map((t) => (k + t) / n))
  const places = [0, ...cuts.filter((t) => t > 1e-9 && t < 1 - 1e-9), 1]
  return places.slice(1).map((t, k) => partOf(s, places[k]!, t))
}

function nodesOf(chain: readonly Segment[], newId: () => string, slack: number): ProfileNode[] {
  const snapped = (r: number, end: boolean) => (r < 0 || (end && r <= slack) ? 0 : r)
  const nodes = chain.map((s, i): ProfileNode => {
    const [r, z] = startOf(s)
    const before = chain[i - 1]
    const joint = before && Math.abs(turnBetween(before, s)) < SMOOTH ? 'smooth' : 'corner'
    const base = { id: newId(), r: snapped(r, i === 0), z, joint } as const
    if (s.kind === 'line') return { ...base, next: 'line' }
    if (s.kind === 'arc') return { ...base, next: 'arc', bulge: Math.tan(s.arc.sweep / 4) }
    const c = s.cubic
    return { ...base, next: 'curve', handles: [c[2] - c[0], c[3] - c[1], c[4] - c[6], c[5] - c[7]] }
  })
  const [r, z] = endOf(chain.at(-1)!)
  return [...nodes, { id: newId(), r: snapped(r, true), z, joint: 'corner', next: 'line' }]
}

function fitted(
  chain: readonly Segment[],
  toleranceMm: number,
  newId: () => string,
  notes: string[],
): ProfileNode[] {
  const points = [startOf(chain[0]!), ...chain.map(endOf)]
  const { nodes, deviationMm } = fitCurve(points, { toleranceMm, newId, held: { start: true, end: true } })
  notes.push(
    `${points.length} points became ${nodes.length} nodes, within ${Number(deviationMm.toPrecision(2))} mm.`,
  )
  return nodes
}
