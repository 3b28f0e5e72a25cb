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
  const root = Int32Array.from({ length: nodes.length }, (_, i) => i)
  const find = (i: number): number => (root[i] === i ? i : (root[i] = find(root[i]!)))
  const joined = new Set<number>()
  const join = (i: number, j: number) => {
    root[find(j)] = find(i)
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
  const wanted = nodes.map((node) => wishes.get(node.id))
  const places = { r: nodes.map((n) => n.r), z: nodes.map((n) => n.z) }
  for (const coordinate of ['r', 'z'] as const) {
    const values = places[coordinate]
    nodes.forEach((node, i) => {
      const wish = wanted[i]?.[coordinate]
      if (wish !== undefined && (typed || !isFixed(node, coordinate))) values[i] = wish
    })
    for (const { members, fixed } of groupsOf(profile, coordinate)) {
      const wish = members.map((i) => wanted[i]?.[coordinate]).find((v) => v !== undefined)
      const holder = fixed[0]
      const mayMove = holder === undefined || (typed && fixed.every((i) => wanted[i]))
      // Groups are of one value even where they came apart.
      const shared = wish !== undefined && mayMove ? wish : nodes[holder ?? members[0]!]![coordinate]
      for (const i of members) values[i] = shared
    }
  }
  const moved = nodes.map((node, i): ProfileNode => {
    const [r, z] = [places.r[i]!, places.z[i]!]
    return node.r === r && node.z === z ? node : { ...node, r, z }
  })
  return { ...profile, nodes: withRadii(moved) }
}

/** Arcs that keep a radius get the bulge for it. */
function withRadii(nodes: readonly ProfileNode[]): ProfileNode[] {
  return nodes.map((node, i) => {
    const to = nodes[i + 1]
    if (node.next !== 'arc' || node.radius === undefined || !to) return node
    const bulge = bulgeOfRadius([node.r, node.z], [to.r, to.z], node.radius, node.bulge ?? 1)
    if (bulge === null)
      throw new CoreError({
        code: 'locks-contradict',
        message: `The arc from node ${i + 1} to node ${i + 2} keeps a radius of ${plainMm(node.radius)} mm, which can’t reach over ${plainMm(Math.hypot(to.r - node.r, to.z - node.z))} mm. Make the radius larger or free it.`,
        where: node.id,
      })
    return bulge === node.bulge ? node : { ...node, bulge }
  })
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
