import { CoreError } from '../errors'
import { parametersAtHeight } from './at-height'
import { insertNode } from './insert-node'
import { backwards, withSegment, type NodeSegment } from './node-segment'
import type { HalfProfile, ProfileNode } from './profile'
import { pointOn, sharpSegments, type Segment } from './segments'
import { plainMm } from '../units/format-length'

/** A part of a curve: its nodes from the lower level to the upper one, each with the segment that follows it. */
export interface PartNode {
  r: number
  z: number
  joint: ProfileNode['joint']
  segment: NodeSegment
}

/** Heights closer than this share of a segment's extent are the same. */
const SAME_LEVEL = 1e-9
/**
 * The profile with a node where its outside passes a height; of several places the outermost. A node that is there
 * already serves.
 * @throws CoreError `level-off-profile` when the profile doesn't reach the height
 */
export function cutAt(profile: HalfProfile, z: number, id: string): { profile: HalfProfile; index: number } {
  let best: { segment: Segment; t: number; r: number } | null = null
  for (const segment of sharpSegments(profile.nodes))
    for (const t of parametersAtHeight(segment, z)) {
      const [r] = pointOn(segment, t)
      if (!best || r > best.r) best = { segment, t, r }
    }
  if (!best) {
    const heights = profile.nodes.map((n) => n.z)
    throw new CoreError({
      code: 'level-off-profile',
      message: `The half-profile doesn’t pass the height ${plainMm(z)} mm; it goes from ${plainMm(Math.min(...heights))} to ${plainMm(Math.max(...heights))} mm.`,
      where: 'height',
      received: plainMm(z),
    })
  }
  const { segment, t } = best
  if (t <= SAME_LEVEL) return { profile, index: segment.index }
  if (t >= 1 - SAME_LEVEL) return { profile, index: segment.index + 1 }
  const cut = insertNode(profile, segment.index, t, id)
  // Exactly the height that was asked for, not what halving came to.
  const nodes = cut.nodes.map((n) => (n.id === id ? { ...n, z } : n))
  return { profile: { ...cut, nodes }, index: segment.index + 1 }
}

/**
 * Puts another part between two heights of the outside.
 * @param make the part from the lower place to the upper one, both of them among its nodes or beside them
 * @throws CoreError `level-off-profile`, `levels-apart` when the curve doesn't run from one to the other
 */
export function replaceBetween(
  profile: HalfProfile,
  [low, high]: readonly [number, number],
  make: (rLow: number, rHigh: number) => PartNode[],
  newId: () => string,
): HalfProfile {
  const lower = cutAt(profile, low, newId())
  const upper = cutAt(lower.profile, high, newId())
  const { nodes } = upper.profile
  const id = lower.profile.nodes[lower.index]!.id
  const from = nodes.findIndex((n) => n.id === id)
  const [a, b] = from < upper.index ? [from, upper.index] : [upper.index, from]
  if (a === b)
    throw new CoreError({
      code: 'levels-apart',
      message: `Between the heights ${plainMm(low)} and ${plainMm(high)} mm there is nothing to replace; the upper one must lie above the lower one.`,
      where: 'height',
    })
  const [rLow, rHigh] = [nodes[from]!.r, nodes[upper.index]!.r]
  const part = make(rLow, rHigh)
  const upwards = from < upper.index
  const run = upwards ? part : reversedPart(part)
  const inner = run.slice(1, -1).map(({ r, z, joint, segment }): ProfileNode =>
    withSegment({ id: newId(), r, z, joint, next: 'line' }, segment),
  ) // prettier-ignore
  const ends = [run[0]!, run[run.length - 1]!]
  const start = withSegment({ ...nodes[a]!, joint: ends[0]!.joint }, ends[0]!.segment)
  const end = { ...nodes[b]!, joint: ends[1]!.joint }
  return {
    ...upper.profile,
    nodes: [...nodes.slice(0, a), start, ...inner, end, ...nodes.slice(b + 1)],
  }
}

function reversedPart(part: readonly PartNode[]): PartNode[] {
  return part.map((_, i) => {
    const node = part[part.length - 1 - i]!
    const before = part[part.length - 2 - i]
    return { ...node, segment: before ? backwards(before.segment) : node.segment }
  })
}
