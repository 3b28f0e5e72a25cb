import { flatten } from './flatten'
import type { ProfileNode } from './profile'
import { profileSegments } from './profile-segments'

/** Nodes through a dense half-profile, and how far the curve through them stays from it. */
export interface FittedNodes {
  nodes: ProfileNode[]
  /** Largest distance of a point of the dense profile from the curve, mm. */
  deviationMm: number
}

/** A turn by more than this within the corner's reach is a corner. */
const CORNER = (28 * Math.PI) / 180
/** Directions before and after a point are taken over this share of the extent. */
const CORNER_REACH = 0.008
const MOST_NODES_A_STRETCH = 60

/**
 * Few nodes whose curve (lines, and smooth runs between corners) follows a dense half-profile to within a tolerance:
 * corners first; between them a line where that is enough, else nodes put one by one where the curve is farthest off,
 * and at the end those taken away again that it can do without.
 * @param points [r, z] mm, from the axis at the foot to the axis at the top
 * @param newId names for the nodes
 */
export function fitNodes(
  points: readonly (readonly [number, number])[],
  toleranceMm: number,
  newId: () => string,
): FittedNodes {
  const clean = points.filter(([r, z], i) => i === 0 || r !== points[i - 1]![0] || z !== points[i - 1]![1])
  if (clean.length < 3) return { nodes: [], deviationMm: 0 }
  const corners = cornersOf(clean)
  const nodes: ProfileNode[] = []
  let deviationMm = 0
  for (let k = 0; k + 1 < corners.length; k++) {
    const part = clean.slice(corners[k]!, corners[k + 1]! + 1)
    const stretch = fitStretch(part, toleranceMm, newId)
    deviationMm = Math.max(deviationMm, stretch.deviationMm)
    nodes.push(...(k === 0 ? stretch.nodes : stretch.nodes.slice(1)))
    // The stretch's first node is the last one of the stretch before, which doesn't know what follows.
    if (k > 0) {
      const joint = nodes[nodes.length - stretch.nodes.length]!
      joint.next = stretch.nodes[0]!.next
    }
  }
  return { nodes, deviationMm }
}

type Pair = readonly [number, number]

/** Indices of corners, both ends among them. */
function cornersOf(points: readonly Pair[]): number[] {
  const n = points.length
  let low = Infinity
  let high = -Infinity
  for (const [, z] of points) {
    low = Math.min(low, z)
    high = Math.max(high, z)
  }
  const reach = CORNER_REACH * Math.max(high - low, ...points.map((p) => p[0]))
  const along = [0]
  for (let i = 1; i < n; i++)
    along.push(
      along[i - 1]! + Math.hypot(points[i]![0] - points[i - 1]![0], points[i]![1] - points[i - 1]![1]),
    )
  const at = (i: number, by: 1 | -1): Pair => {
    let j = i
    while (j + by >= 0 && j + by < n && Math.abs(along[j]! - along[i]!) < reach) j += by
    // Exactly the reach away, so that long chords and short ones are judged alike.
    const [a, b] = [points[j - by] ?? points[j]!, points[j]!]
    const over = Math.abs(along[j]! - along[i]!) - reach
    const chord = Math.hypot(b[0] - a[0], b[1] - a[1])
    const t = chord > 0 && over > 0 ? over / chord : 0
    return [b[0] + (a[0] - b[0]) * t, b[1] + (a[1] - b[1]) * t]
  }
  const turn = points.map((p, i) => {
    if (i === 0 || i === n - 1) return Infinity
    const [a, b] = [at(i, -1), at(i, 1)]
    const [ux, uy] = [p[0] - a[0], p[1] - a[1]]
    const [vx, vy] = [b[0] - p[0], b[1] - p[1]]
    return Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy))
  })
  const out: number[] = []
  for (let i = 0; i < n; i++) {
    if (turn[i]! < CORNER) continue
    let sharpest = true
    for (let j = i - 1; j >= 0 && along[i]! - along[j]! < reach && sharpest; j--)
      if (turn[j]! >= turn[i]!) sharpest = false
    for (let j = i + 1; j < n && along[j]! - along[i]! < reach && sharpest; j++)
      if (turn[j]! > turn[i]!) sharpest = false
    if (sharpest || i === 0 || i === n - 1) out.push(i)
  }
  return out
}

function fitStretch(part: readonly Pair[], tolerance: number, newId: () => string): FittedNodes {
  const end = part.length - 1
  const straight = deviation(part, [0, end], false)
  if (straight.most <= tolerance)
    return { nodes: nodesOf(part, [0, end], false, newId), deviationMm: straight.most }
  let chosen = [0, end]
  let fit = deviation(part, chosen, true)
  while (fit.most > tolerance && chosen.length < MOST_NODES_A_STRETCH) {
    const at = fit.where
    if (chosen.includes(at)) break
    chosen = [...chosen, at].sort((a, b) => a - b)
    fit = deviation(part, chosen, true)
  }
  for (let k = 1; k < chosen.length - 1;) {
    const fewer = chosen.filter((_, i) => i !== k)
    const without = deviation(part, fewer, true)
    if (without.most <= tolerance) {
      chosen = fewer
      fit = without
    } else k++
  }
  return { nodes: nodesOf(part, chosen, true, newId), deviationMm: fit.most }
}

function nodesOf(
  part: readonly Pair[],
  chosen: readonly number[],
  curved: boolean,
  newId: () => string,
): ProfileNode[] {
  return chosen.map((i, k): ProfileNode => {
    const [r, z] = part[i]!
    const inner = k > 0 && k < chosen.length - 1
    // A curve that reaches the axis is a dome: smooth there, which makes it level.
    const pole = curved && r === 0
    return { id: newId(), r, z, joint: inner || pole ? 'smooth' : 'corner', next: curved ? 'curve' : 'line' }
  })
}

/** Largest distance of the points from the curve through the chosen ones, and the point that is farthest off. */
function deviation(
  part: readonly Pair[],
  chosen: readonly number[],
  curved: boolean,
): { most: number; where: number } {
  const nodes = nodesOf(part, chosen, curved, () => '')
  const { points: chain, segmentStart } = flatten(profileSegments(nodes))
  let most = 0
  let where = 0
  const report = (distance: number, index: number) => {
    if (!(distance > most) || distance === Infinity) return
    most = distance
    where = index
  }
  const dense = Float64Array.from(part.flat())
  for (let k = 0; k + 1 < chosen.length; k++) {
    const [from, to] = [segmentStart[k] ?? 0, segmentStart[k + 1] ?? chain.length / 2 - 1]
    const [first, last] = [chosen[k]!, chosen[k + 1]!]
    let near = from
    for (let i = first + 1; i < last; i++) {
      const hit = nearestChord(part[i]!, chain, near, from, to)
      near = hit.index
      report(hit.distance, i)
    }
    // And the other way round: between two points the curve may swing out.
    near = first
    for (let j = from + 1; j < to; j++) {
      const hit = nearestChord([chain[2 * j]!, chain[2 * j + 1]!], dense, near, first, last)
      near = hit.index
      report(hit.distance, Math.min(last - 1, Math.max(first + 1, hit.index)))
    }
  }
  return { most, where }
}

/** Points run along chains, so the nearest chord is never far behind the last one. */
const BEHIND = 3

function nearestChord(
  p: Pair,
  chain: Float64Array,
  near: number,
  from: number,
  to: number,
): { index: number; distance: number } {
  let index = near
  let distance = Infinity
  for (let j = Math.max(from, near - BEHIND); j < to; j++) {
    const d = chordDistance(p, chain, j)
    if (d < distance) {
      distance = d
      index = j
    }
  }
  return { index, distance }
}

function chordDistance([r, z]: Pair, chain: Float64Array, j: number): number {
  const [r0, z0] = [chain[2 * j]!, chain[2 * j + 1]!]
  const [dr, dz] = [chain[2 * j + 2]! - r0, chain[2 * j + 3]! - z0]
  const l2 = dr * dr + dz * dz
  const t = l2 > 0 ? Math.max(0, Math.min(1, ((r - r0) * dr + (z - z0) * dz) / l2)) : 0
  return Math.hypot(r - r0 - t * dr, z - z0 - t * dz)
}
