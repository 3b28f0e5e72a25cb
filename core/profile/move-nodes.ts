import type { PicturePoint } from '../conventions'
import { CoreError } from '../errors'
import { indexOfNode, isEnd, replaceNode } from './edit'
import { moveWithLocks, requireLocks } from './locks'
import { onAxis, type HalfProfile, type ProfileNode } from './profile'

/**
 * Moves a node to (r, z), with what its locks tie to it. Ends go exactly onto the axis when asked to (`r` 0); other nodes
 * never do, they stop at `leastR`, since a profile that touches the axis half-way bounds no solid.
 */
export function moveNode(
  profile: HalfProfile,
  id: string,
  to: { r: number; z: number; drawn?: PicturePoint },
  leastR = 0,
): HalfProfile {
  const index = indexOfNode(profile, id)
  const node = profile.nodes[index]
  if (!node) return profile
  const r = isEnd(profile, index) ? Math.max(0, to.r) : Math.max(leastR, to.r)
  const free = replaceNode(profile, index, withoutTyped(node))
  const moved = moveWithLocks(
    // An end that is dragged off the axis leaves it.
    onAxis(node) && r > 0 ? replaceNode(free, index, { ...withoutTyped(node), r }) : free,
    new Map([[id, { r, z: to.z }]]),
  )
  return to.drawn ? replaceNode(moved, index, { ...moved.nodes[index]!, drawn: to.drawn }) : moved
}

function withoutTyped(node: ProfileNode): ProfileNode {
  const out = { ...node }
  delete out.typed
  return out
}

/**
 * Moves several nodes: ⌀ by a factor or by an amount, heights by an amount, mm. Within `reachMm` along the height the others
 * follow less and less, with the weight (1 - (d / reach)²)²; ends on the axis stay on it.
 */
export function moveNodes(
  profile: HalfProfile,
  ids: ReadonlySet<string>,
  by: { dr?: number; dz?: number; factor?: number; reachMm?: number },
  leastR = 0,
): HalfProfile {
  const { dr = 0, dz = 0, factor = 1, reachMm = 0 } = by
  const chosen = profile.nodes.filter((n) => ids.has(n.id))
  const wishes = new Map<string, { r: number; z: number }>()
  for (const node of profile.nodes) {
    const far = Math.min(...chosen.map((c) => Math.hypot(c.z - node.z, c.r - node.r)))
    const weight = far === 0 ? 1 : far < reachMm ? (1 - (far / reachMm) ** 2) ** 2 : 0
    if (weight === 0) continue
    const r = onAxis(node) ? 0 : Math.max(leastR, node.r * (1 + weight * (factor - 1)) + weight * dr)
    wishes.set(node.id, { r, z: node.z + weight * dz })
  }
  return moveWithLocks(profile, wishes)
}

/**
 * Sets ⌀/2 or height of a node to a typed value; that coordinate no longer follows a changed scale. What is tied to it goes
 * along.
 * @throws CoreError `locks-contradict` when another node holds it
 */
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
  const marked = replaceNode(profile, index, { ...node, [coordinate]: mm, typed })
  const moved = moveWithLocks(requireLocks(marked), new Map([[id, { [coordinate]: mm }]]), true)
  if (moved.nodes[index]![coordinate] !== mm)
    throw new CoreError({
      code: 'locks-contradict',
      message: `Node ${index + 1} shares its ${coordinate === 'r' ? '⌀' : 'height'} with a node that is held or lies on the axis. Free that one first.`,
      where: id,
    })
  return moved
}
