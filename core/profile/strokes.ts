import { CoreError } from '../errors'
import { indexOfNode, isEnd, reversed, withoutUndefined } from './edit'
import { LINE, withSegment } from './node-segment'
import { onAxis, type HalfProfile, type ProfileNode, type Stroke } from './profile'

/** A node as it lies aside: only the stroke in hand follows the outline. */
function atRest(node: ProfileNode): ProfileNode {
  if (node.by === undefined) return node
  const out = { ...node }
  delete out.by
  return out
}

function withAside(profile: HalfProfile, nodes: ProfileNode[], aside: Stroke[]): HalfProfile {
  const out: HalfProfile = { ...profile, nodes, aside }
  if (aside.length === 0) delete out.aside
  return out
}

/** Lays the stroke in hand aside under a name, so that a new one can be begun. */
export function layAside(profile: HalfProfile, id: string): HalfProfile {
  const { nodes, aside = [] } = profile
  if (nodes.length === 0) return profile
  return withAside(profile, [], [...aside, { id, nodes: nodes.map(atRest) }])
}

/** Takes a stroke in hand; the one that was in hand lies aside under the name `as`. */
export function takeStroke(profile: HalfProfile, id: string, as: string): HalfProfile {
  const taken = profile.aside?.find((s) => s.id === id)
  if (!taken) return profile
  const laid = layAside(profile, as)
  return withAside(laid, taken.nodes, (laid.aside ?? []).filter((s) => s.id !== id)) // prettier-ignore
}

/**
 * Parts the stroke in hand at a node, which both parts keep. The longer part stays in hand.
 * @param ids names of the second of the two nodes and of the stroke that lies aside
 * @throws CoreError `end-of-stroke` at an end
 */
export function splitAt(
  profile: HalfProfile,
  at: string,
  ids: { node: string; stroke: string },
): HalfProfile {
  const index = indexOfNode(profile, at)
  const node = profile.nodes[index]
  if (!node) return profile
  if (isEnd(profile, index))
    throw new CoreError({
      code: 'end-of-stroke',
      message: 'A stroke can’t be parted at its end. Choose a node between its ends.',
      where: at,
    })
  const own = atRest({ ...node, joint: 'corner', edge: undefined, even: undefined })
  const before = [...profile.nodes.slice(0, index).map(atRest), withSegment(own, LINE)]
  const after = [{ ...own, id: ids.node }, ...profile.nodes.slice(index + 1).map(atRest)]
  const [kept, laid] = before.length >= after.length ? [before, after] : [after, before]
  return withAside(profile, kept.map(withoutUndefined), [...(profile.aside ?? []), { id: ids.stroke, nodes: laid.map(withoutUndefined) }]) // prettier-ignore
}

/** Ends of two strokes, and how far apart they are. */
export interface NearEnds {
  own: 'first' | 'last'
  other: 'first' | 'last'
  gapMm: number
}

/** The ends by which a stroke that lies aside is joined: the nearest two, those on the axis only when there are no others. */
export function nearestEnds(profile: HalfProfile, id: string): NearEnds | null {
  const stroke = profile.aside?.find((s) => s.id === id)
  if (!stroke || profile.nodes.length === 0 || stroke.nodes.length === 0) return null
  let best: (NearEnds & { axis: number }) | null = null
  for (const own of ['first', 'last'] as const)
    for (const other of ['first', 'last'] as const) {
      const [a, b] = [endNode(profile.nodes, own), endNode(stroke.nodes, other)]
      const gapMm = Math.hypot(a.r - b.r, a.z - b.z)
      const axis = Number(onAxis(a)) + Number(onAxis(b))
      if (!best || axis < best.axis || (axis === best.axis && gapMm < best.gapMm)) best = { own, other, gapMm, axis } // prettier-ignore
    }
  return best && { own: best.own, other: best.other, gapMm: best.gapMm }
}

function endNode(nodes: readonly ProfileNode[], end: 'first' | 'last'): ProfileNode {
  return end === 'first' ? nodes[0]! : nodes[nodes.length - 1]!
}

/**
 * Joins a stroke that lies aside to the one in hand, which keeps its direction: ends nearer than `mergeMm` become one node,
 * where the one aside has it; others are joined by a line.
 */
export function joinStroke(profile: HalfProfile, id: string, mergeMm: number): HalfProfile {
  const stroke = profile.aside?.find((s) => s.id === id)
  if (!stroke) return profile
  const aside = profile.aside!.filter((s) => s.id !== id)
  const ends = nearestEnds(profile, id)
  if (!ends) return withAside(profile, profile.nodes.length > 0 ? profile.nodes : stroke.nodes, aside)
  const own = (ends.own === 'last' ? profile.nodes : reversed(profile.nodes)).map(atRest)
  const other = ends.other === 'first' ? stroke.nodes : reversed(stroke.nodes)
  const last = own[own.length - 1]!
  const meeting = other[0]!
  const merged = ends.gapMm <= mergeMm
  const nodes = merged
    ? [
        ...own.slice(0, -1),
        withoutUndefined({ ...meeting, joint: 'corner', even: undefined }),
        ...other.slice(1),
      ]
    : [...own.slice(0, -1), withSegment({ ...last, joint: 'corner' }, LINE), ...other]
  return withAside(profile, ends.own === 'last' ? nodes : reversed(nodes), aside)
}

/** The stroke in hand run the other way, so that drawing goes on at its other end. */
export function reverseStroke(profile: HalfProfile): HalfProfile {
  return { ...profile, nodes: reversed(profile.nodes) }
}

/** Throws a stroke away that lies aside. */
export function dropStroke(profile: HalfProfile, id: string): HalfProfile {
  return withAside(profile, profile.nodes, (profile.aside ?? []).filter((s) => s.id !== id)) // prettier-ignore
}
