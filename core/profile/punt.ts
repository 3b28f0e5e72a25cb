import { CoreError } from '../errors'
import { plainMm } from '../units/format-length'
import { arcOf } from './arc'
import { endOf, lineSegment, startOf, type ArcSegment, type Segment } from './segments'

/** A bottom pushed up: a cap of a sphere from the axis to a ⌀ of the foot, mm. */
export interface Punt {
  diameterMm: number
  heightMm: number
}

/**
 * Both sides of a wall with a punt: below, the cap of a sphere; inside, the concentric one as far above it as the floor is
 * thick, where it rises over the level floor.
 * @param outside from the axis, beginning with a level line
 * @param inside down to the axis, ending with a level line
 * @throws CoreError `punt` when the foot or the floor leaves no room for it
 */
export function withPunt(
  outside: readonly Segment[],
  inside: readonly Segment[],
  punt: Punt,
  floorMm: number,
): { outside: Segment[]; inside: Segment[] } {
  const pushed = puntBelow(outside, punt)
  return { outside: pushed, inside: risenFloor(inside, pushed[0] as ArcSegment, floorMm) }
}

/** The outside with a punt alone, whatever the inside does. @throws CoreError `punt` */
export function puntBelow(outside: readonly Segment[], { diameterMm, heightMm: h }: Punt): Segment[] {
  const a = diameterMm / 2
  const foot = outside[0]!
  const [r, z] = endOf(foot)
  if (foot.kind !== 'line' || startOf(foot)[1] !== z) throw fault('A punt needs a level foot: make its line level first.') // prettier-ignore
  if (a > r) throw fault(`The level foot is ${plainMm(2 * r)} mm wide; make the punt narrower.`)
  if (h > a) throw fault(`A punt of ⌀ ${plainMm(diameterMm)} mm can be ${plainMm(a)} mm high at most.`)
  // The cap stands on a chord of half-width a with the rise h.
  const turn = 2 * Math.atan(h / a)
  const cap = arcSegment([0, z + h], [a, z], -Math.tan(turn / 4), foot.index)
  const ring = a < r ? [lineSegment([a, z], [r, z], foot.index)] : []
  return [cap, ...ring, ...outside.slice(1)]
}

const fault = (message: string) => new CoreError({ code: 'punt', message, where: 'punt' })

function risenFloor(inside: readonly Segment[], cap: ArcSegment, floorMm: number): Segment[] {
  const floor = inside[inside.length - 1]!
  const [r, z] = startOf(floor)
  const top = cap.ends[1] + floorMm
  if (z >= top) return [...inside]
  if (floor.kind !== 'line' || endOf(floor)[1] !== z) throw fault('The inside has no level floor that the punt could rise from.') // prettier-ignore
  const radius = cap.arc.radius + floorMm
  const rise = z - cap.arc.centre[1]
  const meets = Math.sqrt(Math.max(0, radius * radius - rise * rise))
  if (meets > r) throw fault('Inside, the punt would reach the wall: make it narrower or lower.')
  const turn = Math.acos(Math.max(-1, Math.min(1, rise / radius)))
  const dome = arcSegment([meets, z], [0, top], Math.tan(turn / 4), floor.index)
  const level = meets < r ? [lineSegment([r, z], [meets, z], floor.index)] : []
  return [...inside.slice(0, -1), ...level, dome]
}

function arcSegment(
  a: readonly [number, number],
  b: readonly [number, number],
  bulge: number,
  index: number,
): ArcSegment {
  return { kind: 'arc', index, ends: [...a, ...b], arc: arcOf(a, b, bulge) }
}
