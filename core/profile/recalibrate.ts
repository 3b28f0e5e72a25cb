import { toPlane, type View } from '../camera/view'
import { CoreError } from '../errors'
import { moveWithLocks } from './locks'
import { onAxis, type HalfProfile, type ProfileNode } from './profile'

/**
 * Moves the nodes with a changed calibration: drawn coordinates are read again from the picture; typed and held ones and
 * places on the axis stay. Handles turn and grow with the chord between their nodes, and locks hold again.
 */
export function recalibrate(profile: HalfProfile, view: View): HalfProfile {
  const sign = profile.side === 'left' ? -1 : 1
  const read = profile.nodes.map((node) => {
    if (!node.drawn) return node
    const p = toPlane(view, node.drawn)
    const stays = [...(node.typed ?? []), ...(node.held ?? [])]
    const r = onAxis(node) || stays.includes('r') ? node.r : Math.max(0, sign * p.x)
    return { ...node, r, z: stays.includes('z') ? node.z : p.z }
  })
  const nodes = withHandles(profile.nodes, followNeighbours(profile.nodes, read))
  if (profile.aside) {
    const { side } = profile
    const aside = profile.aside.map((s) => ({
      ...s,
      nodes: recalibrate({ side, nodes: s.nodes }, view).nodes,
    }))
    profile = { ...profile, aside }
  }
  try {
    return moveWithLocks({ ...profile, nodes }, new Map())
  } catch (error) {
    // A radius that can't span its ends any more is said when somebody edits there; a new scale isn't refused for it.
    if (error instanceof CoreError) return { ...profile, nodes }
    throw error
  }
}

/** Handles turned and scaled as the chord between their nodes was. */
function withHandles(old: readonly ProfileNode[], nodes: readonly ProfileNode[]): ProfileNode[] {
  return nodes.map((node, i) => {
    const [to, a, b] = [nodes[i + 1], old[i]!, old[i + 1]]
    if (!node.handles || !to || !b) return node
    const [ur, uz] = [b.r - a.r, b.z - a.z]
    const [vr, vz] = [to.r - node.r, to.z - node.z]
    const u2 = ur * ur + uz * uz
    if (u2 === 0 || (ur === vr && uz === vz)) return node
    // The complex quotient of the chords: a turn and a scale at once.
    const [c, s] = [(vr * ur + vz * uz) / u2, (vz * ur - vr * uz) / u2]
    const [r1, z1, r2, z2] = node.handles
    return { ...node, handles: [c * r1 - s * z1, s * r1 + c * z1, c * r2 - s * z2, s * r2 + c * z2] }
  })
}

/** Nodes that were never drawn (the ends made by closing) keep level with the neighbour they were level with. */
function followNeighbours(old: readonly ProfileNode[], nodes: readonly ProfileNode[]): ProfileNode[] {
  return nodes.map((node, i) => {
    if (node.drawn || node.typed?.includes('z')) return node
    for (const j of [i - 1, i + 1]) {
      if (old[j] && old[j].z === old[i]!.z) return { ...node, z: nodes[j]!.z }
    }
    return node
  })
}
