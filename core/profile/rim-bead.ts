import { CoreError } from '../errors'
import { plainMm } from '../units/format-length'
import { endOf, partOf, pointOn, startOf, type ArcSegment, type Segment } from './segments'

/** Both sides of a wall with the bead between them. */
export interface BeadedRim {
  outside: Segment[]
  bead: ArcSegment
  inside: Segment[]
}

/** Places a segment that are looked at for the bead's beginning. */
const PLACES = 64
const HALVINGS = 50

/**
 * A rim rolled to a bead: a circle in section whose top keeps the height of the rim, its middle above the wall's; the wall ends
 * where it enters the circle.
 * @param outside up to the rim
 * @param inside from the rim down
 * @throws CoreError `bead-small` when it isn't thicker than the wall is there
 */
export function beadedRim(
  outside: readonly Segment[],
  inside: readonly Segment[],
  diameterMm: number,
): BeadedRim {
  const [a, b] = [endOf(outside[outside.length - 1]!), startOf(inside[0]!)]
  const radius = diameterMm / 2
  const centre = [(a[0] + b[0]) / 2, Math.max(a[1], b[1]) - radius] as const
  const distance = ([r, z]: readonly [number, number]) => Math.hypot(r - centre[0], z - centre[1])
  const out = entering([...outside].reverse(), [1, 0], distance, radius)
  const into = entering(inside, [0, 1], distance, radius)
  if (!out || !into || centre[0] - radius <= 0)
    throw new CoreError({
      code: 'bead-small',
      message:
        centre[0] - radius <= 0
          ? `A bead of ${plainMm(diameterMm)} mm closes the mouth. Make it thinner.`
          : `A bead of ${plainMm(diameterMm)} mm is no thicker than the wall at the rim. Make it thicker.`,
      where: 'lip',
    })
  const keptOutside = [...outside.slice(0, outside.length - 1 - out.index), partOf(outside[outside.length - 1 - out.index]!, 0, out.t)] // prettier-ignore
  const keptInside = [partOf(inside[into.index]!, into.t, 1), ...inside.slice(into.index + 1)]
  const [p, q] = [endOf(keptOutside[keptOutside.length - 1]!), startOf(keptInside[0]!)]
  const direction = ([r, z]: readonly [number, number]) => Math.atan2(z - centre[1], r - centre[0])
  const from = direction(p)
  const sweep = (direction(q) - from + 4 * Math.PI) % (2 * Math.PI)
  const bead: ArcSegment = { kind: 'arc', index: outside.length, ends: [...p, ...q], arc: { centre, radius, from, sweep } } // prettier-ignore
  return { outside: keptOutside, bead, inside: keptInside }
}

/** Going down from the rim: where the wall leaves the circle for good. */
function entering(
  list: readonly Segment[],
  [from, to]: readonly [number, number],
  distance: (p: readonly [number, number]) => number,
  radius: number,
): { index: number; t: number } | null {
  let within = false
  for (const [index, s] of list.entries()) {
    let last = from
    for (let k = 0; k <= PLACES; k++) {
      const t = from + ((to - from) * k) / PLACES
      const inside = distance(pointOn(s, t)) < radius
      if (within && !inside) return { index, t: halved(s, last, t, distance, radius) }
      within ||= inside
      last = t
    }
  }
  return null
}

function halved(
  s: Segment,
  inside: number,
  outside: number,
  distance: (p: readonly [number, number]) => number,
  radius: number,
): number {
  let [a, b] = [inside, outside]
  for (let n = 0; n < HALVINGS; n++) {
    const middle = (a + b) / 2
    if (distance(pointOn(s, middle)) < radius) a = middle
    else b = middle
  }
  return (a + b) / 2
}
