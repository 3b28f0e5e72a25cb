import type { View } from '../camera/view'
import { picturePointOf } from './edit'
import type { Cubic } from './hobby'
import { LINE, withSegment, type NodeSegment } from './node-segment'
import type { HalfProfile, ProfileNode } from './profile'
import { handlesOf } from './segment-kind'
import { pointOn, sharpSegments, splitCubic, type Segment } from './segments'

/** Inserts a node on segment `index` at parameter t (0..1); the curve keeps its shape. */
export function insertNode(
  profile: HalfProfile,
  index: number,
  t: number,
  id: string,
  view?: View,
): HalfProfile {
  const segment = sharpSegments(profile.nodes).find((s) => s.index === index)
  const before = profile.nodes[index]
  if (!segment || !before) return profile
  const [r, z] = pointOn(segment, t)
  const [first, second] = halves(segment, t, before)
  const node: ProfileNode = withSegment(
    { id, r, z, joint: segment.kind === 'line' ? 'corner' : 'smooth', next: 'line' },
    second,
  )
  if (view) node.drawn = picturePointOf(profile.side, node, view)
  return {
    ...profile,
    nodes: [
      ...profile.nodes.slice(0, index),
      withSegment(before, first),
      node,
      ...profile.nodes.slice(index + 1),
    ],
  }
}

function halves(segment: Segment, t: number, { way, radius }: ProfileNode): [NodeSegment, NodeSegment] {
  if (segment.kind === 'line') return [{ ...LINE, way }, { ...LINE, way }] // prettier-ignore
  if (segment.kind === 'arc') {
    const part = (share: number): NodeSegment => ({ next: 'arc', bulge: Math.tan((segment.arc.sweep * share) / 4), radius }) // prettier-ignore
    return [part(t), part(1 - t)]
  }
  const part = (c: Cubic): NodeSegment => ({ next: 'curve', handles: handlesOf(c) })
  const [a, b] = splitCubic(segment.cubic, t)
  return [part(a), part(b)]
}
