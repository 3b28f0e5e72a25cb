import { bulgeThrough } from './arc'
import { indexOfNode, replaceNode } from './edit'
import type { Cubic } from './hobby'
import { FAIR, LINE, withSegment, type NodeSegment } from './node-segment'
import type { HalfProfile, ProfileNode } from './profile'
import { pointOn, sharpSegments } from './segments'

/** Changes joint or following segment of a node. */
export function setNodeKind(
  profile: HalfProfile,
  id: string,
  change: Partial<Pick<ProfileNode, 'joint' | 'next'>>,
): HalfProfile {
  const index = indexOfNode(profile, id)
  const node = profile.nodes[index]
  if (!node) return profile
  const jointed = change.joint ? { ...node, joint: change.joint } : { ...node }
  // Another joint, or a segment whose curvature is what it is, ends the wish for one curvature.
  if (change.joint) delete jointed.even
  if (!change.next || change.next === node.next) return replaceNode(profile, index, jointed)
  return replaceNode(profile, index, withSegment(jointed, segmentAs(profile, index, change.next)))
}

/** A flat arc for two nodes that nothing bends: an eighth of a circle. */
const SOME_BULGE = Math.tan(Math.PI / 16)

/** The segment after a node as a line, as the arc through its middle, or as a fair curve. */
function segmentAs({ nodes }: HalfProfile, index: number, next: ProfileNode['next']): NodeSegment {
  if (next === 'line') return LINE
  if (next === 'curve') return FAIR
  const [a, b] = [nodes[index]!, nodes[index + 1]]
  const now = sharpSegments(nodes).find((s) => s.index === index)
  if (!b || !now) return { next: 'arc', bulge: SOME_BULGE }
  const bulge = bulgeThrough([a.r, a.z], pointOn(now, 0.5), [b.r, b.z])
  return { next: 'arc', bulge: Math.abs(bulge) > LEAST_BULGE ? bulge : SOME_BULGE }
}

/** Flatter than this a segment has no side to bulge to. */
const LEAST_BULGE = 1e-3

/**
 * Gives the curve after a node other handles (mm, against its two nodes). Across a smooth joint the neighbouring curve's
 * handle turns along.
 */
export function setHandles(
  profile: HalfProfile,
  id: string,
  handles: NonNullable<ProfileNode['handles']>,
): HalfProfile {
  const index = indexOfNode(profile, id)
  const node = profile.nodes[index]
  if (!node) return profile
  const nodes = profile.nodes.slice()
  nodes[index] = withSegment(node, { next: 'curve', handles })
  const turn = (at: number, joint: ProfileNode | undefined, end: 0 | 1, dr: number, dz: number) => {
    const other = nodes[at]
    if (joint?.joint !== 'smooth' || other?.next !== 'curve' || !other.handles) return
    const own = other.handles.slice(2 * end, 2 * end + 2) as [number, number]
    const scale = Math.hypot(...own) / (Math.hypot(dr, dz) || 1)
    const turned = [-dr * scale, -dz * scale] as const
    const [a, b, c, d] = other.handles
    nodes[at] = { ...other, handles: end === 0 ? [...turned, c, d] : [a, b, ...turned] }
  }
  const before = node.handles
  if (before?.[0] !== handles[0] || before?.[1] !== handles[1])
    turn(index - 1, node, 1, handles[0], handles[1])
  if (before?.[2] !== handles[2] || before?.[3] !== handles[3])
    turn(index + 1, nodes[index + 1], 0, handles[2], handles[3])
  return { ...profile, nodes }
}

/** A cubic's inner control points against its ends. */
export function handlesOf(c: Cubic): [number, number, number, number] {
  return [c[2] - c[0], c[3] - c[1], c[4] - c[6], c[5] - c[7]]
}
