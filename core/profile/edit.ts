import type { PicturePoint } from '../conventions'
import { toPicture, type View } from '../camera/view'
import { backwards, LINE, withSegment } from './node-segment'
import { onAxis, type HalfProfile, type ProfileNode, type Side } from './profile'

/** Index of the node with this id, or -1. */
export function indexOfNode(profile: HalfProfile, id: string): number {
  return profile.nodes.findIndex((n) => n.id === id)
}

export function isEnd(profile: HalfProfile, index: number): boolean {
  return index === 0 || index === profile.nodes.length - 1
}

export function replaceNode(profile: HalfProfile, index: number, node: ProfileNode): HalfProfile {
  return { ...profile, nodes: profile.nodes.map((n, i) => (i === index ? node : n)) }
}

/** Adds a node behind the last one, or before the first one; the new segment is of the kind the node brings. */
export function appendNode(
  profile: HalfProfile,
  node: ProfileNode,
  at: 'first' | 'last' = 'last',
): HalfProfile {
  if (at === 'first') return { ...profile, nodes: [node, ...profile.nodes] }
  const last = profile.nodes.length - 1
  const before = profile.nodes.map((n, i) => (i === last ? withSegment(n, node) : n))
  return { ...profile, nodes: [...before, withSegment(node, LINE)] }
}

/**
 * Adds a run of nodes to an end; the first of them stands on that end and only brings the segment that leaves it.
 * @param at where the run goes on; before the first node it leads away from it
 */
export function appendNodes(
  profile: HalfProfile,
  run: readonly ProfileNode[],
  at: 'first' | 'last',
): HalfProfile {
  const own = at === 'last' ? profile.nodes : reversed(profile.nodes)
  const end = own[own.length - 1]
  if (!end || run.length < 2) return profile
  const nodes = [...own.slice(0, -1), withSegment(end, run[0]!), ...run.slice(1)]
  return { ...profile, nodes: at === 'last' ? nodes : reversed(nodes) }
}

/** Changes what a node says of itself; undefined takes a field away. */
export function changeNode(profile: HalfProfile, id: string, change: Partial<ProfileNode>): HalfProfile {
  const index = indexOfNode(profile, id)
  const node = profile.nodes[index]
  if (!node) return profile
  return replaceNode(profile, index, withoutUndefined({ ...node, ...change }))
}

/** A node without fields that are there but undefined. */
export function withoutUndefined(node: ProfileNode): ProfileNode {
  return Object.fromEntries(Object.entries(node).filter(([, v]) => v !== undefined)) as unknown as ProfileNode
}

/** Closes open ends by level lines straight to the axis. */
export function closeToAxis(profile: HalfProfile, newId: () => string): HalfProfile {
  if (profile.nodes.length < 2) return profile
  let nodes = profile.nodes
  const first = nodes[0]!
  if (!onAxis(first)) nodes = [{ id: newId(), r: 0, z: first.z, joint: 'corner', next: 'line' }, ...nodes]
  const last = nodes[nodes.length - 1]!
  if (!onAxis(last)) {
    nodes = [
      ...nodes.slice(0, -1),
      withSegment(last, LINE),
      { id: newId(), r: 0, z: last.z, joint: 'corner', next: 'line' },
    ]
  }
  return { ...profile, nodes }
}

/** The same curve run the other way. */
export function reversed(nodes: readonly ProfileNode[]): ProfileNode[] {
  return nodes.map((_, i) => {
    const before = nodes[nodes.length - 2 - i]
    return withSegment(nodes[nodes.length - 1 - i]!, before ? backwards(before) : LINE)
  })
}

/** The node mirrored in a level, with the segment that it brings. */
export function flippedAbout(node: ProfileNode, z: number): ProfileNode {
  const out: ProfileNode = { ...node, z: 2 * z - node.z }
  if (node.bulge !== undefined) out.bulge = -node.bulge
  if (node.handles) {
    const [a, b, c, d] = node.handles
    out.handles = [a, -b, c, -d]
  }
  return out
}

/** Where a node stands in the picture, on the side it was drawn on. */
export function picturePointOf(side: Side, p: { r: number; z: number }, view: View): PicturePoint {
  return toPicture(view, { x: side === 'left' ? -p.r : p.r, z: p.z })
}
