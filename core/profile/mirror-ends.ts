import { cutAt } from './between-levels'
import { CoreError } from '../errors'
import { flippedAbout, reversed } from './edit'
import { withSegment } from './node-segment'
import type { HalfProfile, ProfileNode } from './profile'

/**
 * A profile that is the same at both ends (a hub, a handle): what lies on one side of a level, with its mirror image on the
 * other side.
 * @param keep the side of the level that stays as it is
 * @throws CoreError `level-off-profile`, `mirror-impossible`
 */
export function mirrorEnds(
  profile: HalfProfile,
  z: number,
  keep: 'below' | 'above',
  newId: () => string,
): HalfProfile {
  const cut = cutAt(profile, z, newId())
  const { nodes } = cut.profile
  const first = nodes[0]!
  const startsBelow = first.z < nodes[nodes.length - 1]!.z
  const fromStart = (keep === 'below') === startsBelow
  const half = fromStart ? nodes.slice(0, cut.index + 1) : nodes.slice(cut.index)
  if (half.length < 2)
    throw new CoreError({
      code: 'mirror-impossible',
      message: `There is nothing ${keep} that level to be mirrored.`,
      where: 'height',
    })
  const over = reversed(half).map((node): ProfileNode => image(node, z, newId()))
  // The level's own node is in both.
  const whole = fromStart ? [...half.slice(0, -1), ...joined(half[half.length - 1]!, over)] : [...over.slice(0, -1), ...joined(over[over.length - 1]!, half)] // prettier-ignore
  return { side: profile.side, nodes: whole }
}

/** The second run behind a node of the first that stands where the second one starts. */
function joined(end: ProfileNode, run: readonly ProfileNode[]): ProfileNode[] {
  return [withSegment(end, run[0]!), ...run.slice(1)]
}

/** The mirror image of a node, which was never drawn. */
function image(node: ProfileNode, z: number, id: string): ProfileNode {
  const out = { ...flippedAbout(node, z), id }
  delete out.drawn
  delete out.by
  return out
}
