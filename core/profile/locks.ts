import { CoreError, type Problem } from '../errors'
import { bulgeOfRadius } from './arc'
import { onAxis, type HalfProfile, type ProfileNode } from './profile'
import { plainMm } from '../units/format-length'

type Coordinate = 'r' | 'z'

/** Where nodes are wanted, by id, mm. */
export type Wishes = ReadonlyMap<string, { r?: number; z?: number }>

/**
 * Every lock speaks of one coordinate alone: nodes joined by upright lines or tied in ⌀ share their r, those joined by
 * level lines or tied in height their z. So the locks cut the nodes into groups of one value each, and a group's value
 * is fixed when the axis or a held node belongs to it: exact, and no equations to solve. Radii of arcs are met
 * afterwards by their bulge, which moves no node.
 */
interface Group {
  /** At least two. */
  members: number[]
  /** Members that fix the value, by lying on the axis or being held. */
  fixed: number[]
}

/** The groups of at least two nodes; a node in none of them goes by itself. */
function groupsOf({ nodes, ties = [] }: HalfProfile, coordinate: Coordinate): Group[] {
  /** Of the nodes that are joined to others: towards the one that stands for their group. */
  const root = new Map<number, number>()
  const find = (i: number): number => {
    const to = root.get(i) ?? i
    if (to === i) return i
    const found = find(to)
    root.set(i, found)
    return found
  }
  const joined = new Set<number>()
  const join = (i: number, j: number) => {
    root.set(find(j), find(i))
    joined.add(i).add(j)
  }
  const way = coordinate === 'r' ? 'upright' : 'level'
  nodes.forEach((node, i) => {
    if (node.way === way && node.next === 'line' && i + 1 < nodes.length) join(i, i + 1)
  })
  for (const tie of ties) {
    if (tie.coordinate !== coordinate) continue
    const tied = tie.nodes.map((id) => nodes.findIndex((n) => n.id === id)).filter((i) => i >= 0)
    tied.slice(1).forEach((i) => join(tied[0]!, i))
  }
  const groups = new Map<number, Group>()
  for (const i of [...joined].sort((p, q) => p - q)) {
    const key = find(i)
    const group = groups.get(key) ?? { members: [], fixed: [] }
    groups.set(key, group)
    group.members.push(i)
    if (isFixed(nodes[i]!, coordinate)) group.fixed.push(i)
  }
  return [...groups.values()]
}

function isFixed(node: ProfileNode, coordinate: Coordinate): boolean {
  return (node.held?.includes(coordinate) ?? false) || (coordinate === 'r' && onAxis(node))
}

/**
 * The profile with its nodes where they are wanted, as far as their locks allow: whole groups move together, fixed ones
 * stay. Of several wishes for one group the first counts.
 * @param typed wishes that were typed: they also move what is held
 * @throws CoreError `locks-contradict` when locks leave no place at all (see `lockProblem`)
 */
export function moveWithLocks(profile: HalfProfile, wishes: Wishes, typed = false): HalfProfile {
  const { nodes } = profile
  const wanted = wishesByIndex(nodes, wishes)
  /** Places that change, by index: of thousands of nodes few do. */
  const places = new Map<number, { r: number; z: number }>()
  const put = (i: number, coordinate: Coordinate, value: number) => {
    const { r, z } = places.get(i) ?? nodes[i]!
    places.set(i, coordinate === 'r' ? { r: value, z } : { r, z: value })
  }
  for (const coordinate of ['r', 'z'] as const) {
    for (const [i, wish] of wanted) {
      const value = wish[coordinate]
      if (value !== undefined && (typed || !isFixed(nodes[i]!, coordinate))) put(i, coordinate, value)
    }
    for (const { members, fixed } of groupsOf(profile, coordinate)) {
      const wish = members.map((i) => wanted.get(i)?.[coordinate]).find((v) => v !== undefined)
      const holder = fixed[0]
      const mayMove = holder === undefined || (typed && fixed.every((i) => wanted.has(i)))
      // Groups are of one value even where they came apart.
      const shared = wish !== undefined && mayMove ? wish : nodes[holder ?? members[0]!]![coordinate]
      for (const i of members) put(i, coordinate, shared)
    }
  }
  const moved = nodes.slice()
  for (const [i, { r, z }] of places) {
    const node = nodes[i]!
    if (node.r !== r || node.z !== z) moved[i] = { ...node, r, z }
  }
  return { ...profile, nodes: withRadii(moved) }
}

/** So few nodes are looked for one by one. */
const FEW_WISHES = 8

/** The wishes by the places of their nodes in the list, in its order. */
function wishesByIndex(
  nodes: readonly ProfileNode[],
  wishes: Wishes,
): Map<number, { r?: number; z?: number }> {
  const out = new Map<number, { r?: number; z?: number }>()
  if (wishes.size <= FEW_WISHES) {
    const found = [...wishes].map(([id, wish]) => [nodes.findIndex((n) => n.id === id), wish] as const)
    for (const [i, wish] of found.sort((p, q) => p[0] - q[0])) if (i >= 0) out.set(i, wish)
    return out
  }
  nodes.forEach((node, i) => {
    const wish = wishes.get(node.id)
    if (wish) out.set(i, wish)
  })
  return out
}

/** Arcs that keep a radius get the bulge for it. */
function withRadii(nodes: ProfileNode[]): ProfileNode[] {
  for (let i = 0; i + 1 < nodes.length; i++) {
    const [node, to] = [nodes[i]!, nodes[i + 1]!]
    if (node.radius === undefined || node.next !== 'arc') continue
    const bulge = bulgeOfRadius([node.r, node.z], [to.r, to.z], node.radius, node.bulge ?? 1)
    if (bulge === null)
      throw new CoreError({
        code: 'locks-contradict',
        message: `The arc from node ${i + 1} to node ${i + 2} keeps a radius of ${plainMm(node.radius)} mm, which can’t reach over ${plainMm(Math.hypot(to.r - node.r, to.z - node.z))} mm. Make the radius larger or free it.`,
        where: node.id,
      })
    if (bulge !== node.bulge) nodes[i] = { ...node, bulge }
  }
  return nodes
}

/** What keeps the locks of a profile from holding all at once, or null: a group that two places fix differently. */
export function lockProblem(profile: HalfProfile): Problem | null {
  for (const coordinate of ['r', 'z'] as const)
    for (const { fixed } of groupsOf(profile, coordinate)) {
      const first = fixed[0]
      const other = fixed.find((i) => profile.nodes[i]![coordinate] !== profile.nodes[first!]![coordinate])
      if (first === undefined || other === undefined) continue
      const [a, b] = [first, other].map((i) => nameOf(profile, i, coordinate))
      const shared = coordinate === 'r' ? '⌀' : 'height'
      const bonds = coordinate === 'r' ? 'upright lines and equal diameters' : 'level lines and equal heights'
      return {
        code: 'locks-contradict',
        message: `These locks contradict each other: ${a} and ${b}, but ${bonds} between them ask for one ${shared}. Free one of them.`,
        where: profile.nodes[other]!.id,
      }
    }
  return null
}

function nameOf({ nodes }: HalfProfile, i: number, coordinate: Coordinate): string {
  const node = nodes[i]!
  if (coordinate === 'r' && onAxis(node)) return `node ${i + 1} lies on the axis`
  return coordinate === 'r'
    ? `node ${i + 1} keeps ⌀ ${plainMm(2 * node.r)} mm`
    : `node ${i + 1} keeps its height of ${plainMm(node.z)} mm`
}

/** @throws CoreError `locks-contradict` */
export function requireLocks(profile: HalfProfile): HalfProfile {
  const problem = lockProblem(profile)
  if (problem) throw new CoreError(problem)
  return profile
}

/** Ids of the nodes that share a coordinate with a node, itself among them. */
export function groupOf(profile: HalfProfile, id: string, coordinate: Coordinate): string[] {
  const index = profile.nodes.findIndex((n) => n.id === id)
  const group = groupsOf(profile, coordinate).find((g) => g.members.includes(index))
  return group ? group.members.map((i) => profile.nodes[i]!.id) : index < 0 ? [] : [id]
}
