import { CoreError } from '../errors'
import { replaceBetween, type PartNode } from './between-levels'
import { flippedAbout, reversed } from './edit'
import type { HalfProfile, ProfileNode } from './profile'

export interface StretchCopy {
  /** Nodes of the stretch, neighbours of each other. */
  ids: readonly string[]
  /** Height at which the copy begins, mm. */
  low: number
  /** Upside down. */
  mirrored: boolean
}

/**
 * The same groove, bead or moulding at another height: what the stretch stands out over the straight way between its ends
 * is put on the straight way between the ends of its new place.
 * @throws CoreError `stretch-not-whole`, and what `replaceBetween` throws
 */
export function copyStretch(
  profile: HalfProfile,
  { ids, low, mirrored }: StretchCopy,
  newId: () => string,
): HalfProfile {
  const chosen = profile.nodes.map((n, i) => (ids.includes(n.id) ? i : -1)).filter((i) => i >= 0)
  const whole = chosen.length >= 2 && chosen[chosen.length - 1]! - chosen[0]! === chosen.length - 1
  const run = profile.nodes.slice(chosen[0], chosen[chosen.length - 1]! + 1)
  const upwards = whole && run[0]!.z > run[run.length - 1]!.z ? reversed(run) : run
  const tall = whole ? upwards[upwards.length - 1]!.z - upwards[0]!.z : 0
  if (!whole || !(tall > 0))
    throw new CoreError({
      code: 'stretch-not-whole',
      message: 'Choose the nodes of the stretch from its lower end to its upper one, without gaps.',
      where: 'nodes',
    })
  const source = mirrored ? flipped(upwards) : upwards
  return replaceBetween(profile, [low, low + tall], (rLow, rHigh) => moved(source, low, rLow, rHigh), newId)
}

/** The run upside down, still from its lower end to its upper one. */
function flipped(run: readonly ProfileNode[]): ProfileNode[] {
  const middle = (run[0]!.z + run[run.length - 1]!.z) / 2
  return reversed(run).map((node) => flippedAbout(node, middle))
}

function moved(run: readonly ProfileNode[], low: number, rLow: number, rHigh: number): PartNode[] {
  const [a, b] = [run[0]!, run[run.length - 1]!]
  const tall = b.z - a.z
  const [from, to] = [(b.r - a.r) / tall, (rHigh - rLow) / tall]
  const shear = to - from
  return run.map(({ r, z, joint, next, bulge, handles, way }) => {
    const up = z - a.z
    const bent = handles && ([handles[0] + shear * handles[1], handles[1], handles[2] + shear * handles[3], handles[3]] as const) // prettier-ignore
    return {
      r: Math.max(1e-6, rLow + (r - a.r) + shear * up),
      z: low + up,
      joint,
      segment: { next, bulge, handles: bent && [...bent], way },
    }
  })
}
