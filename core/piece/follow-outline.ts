import type { View } from '../camera/view'
import { picturePointOf, reversed } from '../profile/edit'
import { CoreError } from '../errors'
import type { ReadProfile } from '../calibrate/read-profile'
import { fitCurve, type FittedCurve } from '../profile/fit-curve'
import { withSegment } from '../profile/node-segment'
import type { HalfProfile, ProfileNode } from '../profile/profile'
import { readOutline } from './outline'
import { sharpSegments, turnBetween } from '../profile/segments'
import { settleTangents } from '../profile/tangents'
import type { PieceOutline } from './schema'

/** The outline nearer to a hand's node than this share of the height makes room for it. */
const ROOM = 0.015

type Pair = readonly [number, number]

/**
 * The profile with its curve fitted anew to the outline. Nodes that a hand set or touched stay where they are, and what
 * lies between two of them stays as it is; only the stretches that follow the outline are fitted.
 * @param idPrefix makes the ids of the new nodes
 */
export function followOutline(
  profile: HalfProfile,
  outline: PieceOutline,
  view: View,
  toleranceMm: number,
  idPrefix: string,
): HalfProfile {
  const read = readOutline(outline, view)
  const room = ROOM * (read.top - read.foot)
  let count = 0
  const newId = () => `${idPrefix}-${count++}`
  const following = (node: ProfileNode): ProfileNode => ({
    ...node,
    by: 'outline',
    drawn: picturePointOf(profile.side, node, view),
  })
  const fit = (points: readonly Pair[], held: { start?: boolean; end?: boolean }) =>
    fitCurve(points, { toleranceMm, newId, held }).nodes.map(following)
  if (profile.nodes.every((node) => node.by === 'outline')) {
    const { nodes } = fittedWhole(read, toleranceMm)
    return { ...profile, nodes: nodes.map((node) => following({ ...node, id: newId() })) }
  }
  const nodes: ProfileNode[] = []
  for (let i = 0; i < profile.nodes.length; i++) {
    const node = profile.nodes[i]!
    if (node.by !== 'outline') {
      nodes.push(node)
      continue
    }
    const before = nodes.pop()
    while (profile.nodes[i + 1]?.by === 'outline') i++
    const after = profile.nodes[i + 1]
    const part = between(read.points, before, after, room)
    const ends = [before, after].map((n): Pair[] => (n ? [[n.r, n.z]] : []))
    const fitted = fit([...ends[0]!, ...part, ...ends[1]!], { start: !!before, end: !!after })
    // The held ends are the hands' own nodes.
    if (before) nodes.push(fitted[0] ? withSegment(before, fitted[0]) : before)
    nodes.push(...fitted.slice(before ? 1 : 0, after ? -1 : undefined))
  }
  return { ...profile, nodes }
}

/**
 * The stretch between the first and the last of some nodes fitted anew to the outline, to a tolerance of its own; those two
 * stay where they are, and so does everything beyond them.
 * @param follows whether the new nodes go on following the outline when the calibration changes
 * @throws CoreError `stretch-too-short` for fewer than two nodes
 */
export function refitStretch(
  profile: HalfProfile,
  outline: PieceOutline,
  view: View,
  { ids, toleranceMm, idPrefix, follows }: StretchFit,
): HalfProfile {
  const chosen = profile.nodes.flatMap((n, i) => (ids.includes(n.id) ? [i] : []))
  const [from, to] = [chosen[0], chosen[chosen.length - 1]]
  if (from === undefined || to === undefined || from === to)
    throw new CoreError({
      code: 'stretch-too-short',
      message: 'Choose the first and the last node of the stretch to fit: it needs two.',
      where: 'nodes',
    })
  const upwards = profile.nodes[0]!.z <= profile.nodes[profile.nodes.length - 1]!.z
  const list = upwards ? profile.nodes : reversed(profile.nodes)
  const [a, b] = upwards ? [from, to] : [list.length - 1 - to, list.length - 1 - from]
  const [first, last] = [list[a]!, list[b]!]
  const read = readOutline(outline, view)
  const seen = between(read.points, first, last, ROOM * (read.top - read.foot))
  let count = 0
  const newId = () => `${idPrefix}-${count++}`
  const fitted = fitCurve([[first.r, first.z], ...seen, [last.r, last.z]], {
    toleranceMm,
    newId,
    held: { start: true, end: true },
  }).nodes
  const inner = fitted.slice(1, -1).map((node): ProfileNode => ({
    ...node,
    ...(follows && { by: 'outline' }),
    drawn: picturePointOf(profile.side, node, view),
  }))
  const start = fitted[0] ? withSegment(first, fitted[0]) : first
  const joined = [...list.slice(0, a), start, ...inner, ...list.slice(b)]
  const nodes = settleTangents(list, cornered(joined, [a, a + inner.length + 1]))
  return { ...profile, nodes: upwards ? nodes : reversed(nodes) }
}

/** Turns at the ends of a fitted stretch beyond this are corners, radians: the curve wasn't smooth there after all. */
const CORNER = (5 * Math.PI) / 180

/** The nodes with corners at those places where the curve now turns sharply. */
function cornered(nodes: readonly ProfileNode[], places: readonly number[]): ProfileNode[] {
  const segments = sharpSegments(nodes)
  return nodes.map((node, i) => {
    const [into, out] = [i - 1, i].map((k) => segments.find((s) => s.index === k))
    if (!places.includes(i) || !into || !out || Math.abs(turnBetween(into, out)) < CORNER) return node
    return { ...node, joint: 'corner' }
  })
}

/** What to fit anew. */
export interface StretchFit {
  ids: readonly string[]
  toleranceMm: number
  idPrefix: string
  follows: boolean
}

interface KeptFit {
  toleranceMm: number
  curve: FittedCurve
}
/** The last curve that was fitted to what was read: a fit takes a good part of a second. */
const fits = new WeakMap<ReadProfile, KeptFit>()
/** What was fitted last: another known size only scales what is read, and so the curve. */
let last: (KeptFit & { read: ReadProfile }) | null = null

/** The curve fitted to all of an outline, its nodes numbered. */
export function fittedWhole(read: ReadProfile, toleranceMm: number): FittedCurve {
  const kept = fits.get(read)
  if (kept?.toleranceMm === toleranceMm) return kept.curve
  let count = 0
  const curve = lastScaledTo(read, toleranceMm) ?? fitCurve(read.points, { toleranceMm, newId: () => String(count++) }) // prettier-ignore
  rememberFit(read, toleranceMm, curve)
  return curve
}

/** Takes over a curve that was fitted elsewhere (by a worker). */
export function rememberFit(read: ReadProfile, toleranceMm: number, curve: FittedCurve): void {
  fits.set(read, { toleranceMm, curve })
  last = { read, toleranceMm, curve }
}

/** Lengths that differ by less than this share of the height are one, when profiles are compared. */
const SAME_SHARE = 1e-7

/** The last curve at another size, where what is read now is what was read then at that size; null where it isn't. */
function lastScaledTo(read: ReadProfile, toleranceMm: number): FittedCurve | null {
  if (!last || last.read.points.length !== read.points.length) return null
  const tall = read.top - read.foot
  const factor = tall / (last.read.top - last.read.foot)
  const same = (a: number, b: number) => Math.abs(a - b) <= SAME_SHARE * Math.abs(tall)
  if (!(factor > 0) || Math.abs(last.toleranceMm * factor - toleranceMm) > 1e-6 * toleranceMm) return null
  const before = last.read.points
  if (!read.points.every(([r, z], i) => same(r, factor * before[i]![0]) && same(z, factor * before[i]![1])))
    return null
  const { nodes, deviationMm, rmsMm } = last.curve
  return {
    nodes: nodes.map((node) => scaledNode(node, factor)),
    deviationMm: factor * deviationMm,
    rmsMm: factor * rmsMm,
  }
}

function scaledNode(node: ProfileNode, factor: number): ProfileNode {
  const { handles, radius } = node
  return {
    ...node,
    r: factor * node.r,
    z: factor * node.z,
    ...(handles && { handles: handles.map((v) => factor * v) as typeof handles }),
    ...(radius !== undefined && { radius: factor * radius }),
  }
}

/** The points from beyond one node to before another. */
function between(
  points: readonly Pair[],
  before: ProfileNode | undefined,
  after: ProfileNode | undefined,
  room: number,
): Pair[] {
  const nearest = ({ r, z }: ProfileNode) =>
    points.reduce((best, p, i) => (away(p, r, z) < away(points[best]!, r, z) ? i : best), 0)
  const from = before ? nearest(before) : 0
  const to = after ? nearest(after) : points.length - 1
  return points
    .slice(from, to + 1)
    .filter((p) => [before, after].every((n) => !n || away(p, n.r, n.z) > room))
}

const away = ([pr, pz]: Pair, r: number, z: number) => Math.hypot(pr - r, pz - z)
