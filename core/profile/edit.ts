import type { PicturePoint } from '../conventions'
import { toPicture, toPlane, type View } from '../camera/view'
import { pointOn, sharpSegments } from './segments'
import { backwards, LINE, withSegment } from './node-segment'
import { onAxis, type HalfProfile, type ProfileNode, type Side } from './profile'

/** Index of the node with this id, or -1. */
export function indexOfNode(profile: HalfProfile, id: string): number {
  return profile.nodes.findIndex((n) => n.id === id)
}

function isEnd(profile: HalfProfile, index: number): boolean {
  return index === 0 || index === profile.nodes.length - 1
}

function replaceNode(profile: HalfProfile, index: number, node: ProfileNode): HalfProfile {
  return { ...profile, nodes: profile.nodes.map((n, i) => (i === index ? node : n)) }
}

/** Adds a node behind the last one, or before the first one; the new segment is of the kind the node brings. */
export function appendNode(
  profile: HalfProfile,
  node: ProfileNode,
  at: 'first' | 'last' = 'last',
): HalfProfile {
  if (at === 'first') return { ...profile, nodes: [node, ...profile.nodes] }
  const before = profile.nodes.map((n, i) => (i === profile.nodes.length - 1 ? { ...n, next: node.next } : n))
  return { ...profile, nodes: [...before, node] }
}

/**
 * Moves a node to (r, z). Ends go exactly onto the axis when asked to (`r` 0); other nodes never do,
 * they stop at `leastR`, since a profile that touches the axis half-way bounds no solid.
 */
export function moveNode(
  profile: HalfProfile,
  id: string,
  to: { r: number; z: number; drawn?: PicturePoint; typed?: ('r' | 'z')[] },
  leastR = 0,
): HalfProfile {
  const index = indexOfNode(profile, id)
  const node = profile.nodes[index]
  if (!node) return profile
  const r = isEnd(profile, index) ? Math.max(0, to.r) : Math.max(leastR, to.r)
  const moved: ProfileNode = { ...node, r, z: to.z, drawn: to.drawn, typed: to.typed }
  if (!moved.drawn) delete moved.drawn
  if (!moved.typed || moved.typed.length === 0) delete moved.typed
  return replaceNode(profile, index, moved)
}

/** Sets ⌀/2 or height of a node to a typed value; that coordinate no longer follows a changed scale. */
export function typeCoordinate(
  profile: HalfProfile,
  id: string,
  coordinate: 'r' | 'z',
  mm: number,
): HalfProfile {
  const index = indexOfNode(profile, id)
  const node = profile.nodes[index]
  if (!node) return profile
  const typed = [...new Set([...(node.typed ?? []), coordinate])].sort()
  return replaceNode(profile, index, { ...node, [coordinate]: mm, typed })
}

/** Changes joint or following segment of a node. */
export function setNodeKind(
  profile: HalfProfile,
  id: string,
  change: Partial<Pick<ProfileNode, 'joint' | 'next'>>,
): HalfProfile {
  const index = indexOfNode(profile, id)
  const node = profile.nodes[index]
  return node ? replaceNode(profile, index, { ...node, ...change }) : profile
}

/** Inserts a node on segment `index` at parameter t (0..1), on the curve. Lines stay lines. */
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
  const node: ProfileNode = {
    id,
    r,
    z,
    joint: before.next === 'line' ? 'corner' : 'smooth',
    next: before.next,
  }
  if (view) node.drawn = picturePointOf(profile.side, node, view)
  return {
    ...profile,
    nodes: [...profile.nodes.slice(0, index + 1), node, ...profile.nodes.slice(index + 1)],
  }
}

/** Takes nodes out; the neighbours are joined by the segment kind of the node before. */
export function deleteNodes(profile: HalfProfile, ids: ReadonlySet<string>): HalfProfile {
  return { ...profile, nodes: profile.nodes.filter((n) => !ids.has(n.id)) }
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
      { ...last, next: 'line' },
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

/** Where a node stands in the picture, on the side it was drawn on. */
export function picturePointOf(side: Side, p: { r: number; z: number }, view: View): PicturePoint {
  return toPicture(view, { x: side === 'left' ? -p.r : p.r, z: p.z })
}

/**
 * Moves the nodes with a changed calibration: drawn coordinates are read again from the picture,
 * typed ones and places on the axis stay.
 */
export function recalibrate(profile: HalfProfile, view: View): HalfProfile {
  const sign = profile.side === 'left' ? -1 : 1
  const nodes = profile.nodes.map((node) => {
    if (!node.drawn) return node
    const p = toPlane(view, node.drawn)
    const typed = node.typed ?? []
    const r = onAxis(node) || typed.includes('r') ? node.r : Math.max(0, sign * p.x)
    return { ...node, r, z: typed.includes('z') ? node.z : p.z }
  })
  return { ...profile, nodes: followNeighbours(profile.nodes, nodes) }
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
