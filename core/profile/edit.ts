import type { PicturePoint } from '../conventions'
import { toPicture, toPlane, type View } from '../camera/view'
import { pointOn, sharpSegments, splitCubic, tangentAt, type Segment } from './segments'
import { CoreError } from '../errors'
import { bulgeThrough } from './arc'
import { cubicAlong } from './cubic-along'
import type { Cubic } from './hobby'
import { moveWithLocks, requireLocks } from './locks'
import { backwards, FAIR, LINE, withSegment, type NodeSegment } from './node-segment'
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
  const last = profile.nodes.length - 1
  const before = profile.nodes.map((n, i) => (i === last ? withSegment(n, node) : n))
  return { ...profile, nodes: [...before, withSegment(node, LINE)] }
}

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

/** Changes joint or following segment of a node. */
export function setNodeKind(
  profile: HalfProfile,
  id: string,
  change: Partial<Pick<ProfileNode, 'joint' | 'next'>>,
): HalfProfile {
  const index = indexOfNode(profile, id)
  const node = profile.nodes[index]
  if (!node) return profile
  const jointed = change.joint ? { ...node, joint: change.joint } : node
  if (!change.next || change.next === node.next) return replaceNode(profile, index, jointed)
  return replaceNode(profile, index, withSegment(jointed, segmentAs(profile, index, change.next)))
}

/** Changes what a node says of itself; undefined takes a field away. */
export function changeNode(profile: HalfProfile, id: string, change: Partial<ProfileNode>): HalfProfile {
  const index = indexOfNode(profile, id)
  const node = profile.nodes[index]
  if (!node) return profile
  const entries = Object.entries({ ...node, ...change }).filter(([, value]) => value !== undefined)
  return replaceNode(profile, index, Object.fromEntries(entries) as unknown as ProfileNode)
}

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

/** A cubic's inner control points against its ends. */
export function handlesOf(c: Cubic): [number, number, number, number] {
  return [c[2] - c[0], c[3] - c[1], c[4] - c[6], c[5] - c[7]]
}

/**
 * Takes nodes out. What was between their neighbours becomes one segment: a line of lines, a fair curve of fair curves,
 * of anything else the cubic nearest to what was there, with its tangents at both ends.
 */
export function deleteNodes(profile: HalfProfile, ids: ReadonlySet<string>): HalfProfile {
  const { nodes } = profile
  const kept = nodes.map((_, i) => i).filter((i) => !ids.has(nodes[i]!.id))
  const segments = sharpSegments(nodes)
  return {
    ...profile,
    ties: profile.ties
      ?.map((tie) => ({ ...tie, nodes: tie.nodes.filter((id) => !ids.has(id)) }))
      .filter((tie) => tie.nodes.length > 1),
    nodes: kept.map((i, k) => {
      const next = kept[k + 1]
      if (next === undefined || next === i + 1) return nodes[i]!
      return withSegment(nodes[i]!, joinedSegment(nodes.slice(i, next), segments, i, next))
    }),
  }
}

/** Samples of a segment that is joined to others. */
const JOIN_SAMPLES = 12

function joinedSegment(
  run: readonly ProfileNode[],
  segments: readonly Segment[],
  from: number,
  to: number,
): NodeSegment {
  const [{ way }] = run as [ProfileNode]
  if (run.every((n) => n.next === 'line')) return run.every((n) => n.way === way) ? { ...LINE, way } : LINE
  if (run.every((n) => n.next === 'curve' && !n.handles)) return FAIR
  const parts = segments.filter((s) => s.index >= from && s.index < to)
  const [first, last] = [parts[0], parts[parts.length - 1]]
  if (!first || !last) return LINE
  const points = parts.flatMap((s, k) =>
    Array.from({ length: JOIN_SAMPLES + (k === 0 ? 1 : 0) }, (_, i) =>
      pointOn(s, (k === 0 ? i : i + 1) / JOIN_SAMPLES),
    ),
  )
  const angle = (s: Segment, end: 0 | 1) => Math.atan2(tangentAt(s, end)[1], tangentAt(s, end)[0])
  return { next: 'curve', handles: handlesOf(cubicAlong(points, angle(first, 0), angle(last, 1))) }
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
