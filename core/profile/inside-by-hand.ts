import { CoreError } from '../errors'
import { plainMm } from '../units/format-length'
import { firstCrossing } from './check'
import { flatten } from './flatten'
import { openMouth, type HollowProfile } from './hollow'
import { puntBelow, type Punt } from './punt'
import { backwards, endOf, lineSegment, startOf, type Segment } from './segments'

/**
 * A hollow piece whose inside was drawn: up the outside to its rim, straight over to the inside's upper end, down the inside
 * to the axis.
 * @param drawn the inside as a curve, either way round
 * @param punt of the outside's bottom
 * @throws CoreError `punt`, `inside-open` when it doesn't reach the axis, `inside-crosses` with the place, `no-mouth`
 */
export function hollowByHand(
  segments: readonly Segment[],
  drawn: readonly Segment[],
  punt?: Punt | null,
): HollowProfile {
  const { body: level, note } = openMouth(segments)
  const body = punt ? puntBelow(level, punt) : level
  const first = drawn[0]
  if (!first) throw open('It has no points yet.')
  const ends = [startOf(first), endOf(drawn[drawn.length - 1]!)] as const
  const inside = ends[1][0] === 0 ? [...drawn] : backwards(drawn)
  const [top, bottom] = [startOf(inside[0]!), endOf(inside[inside.length - 1]!)]
  if (bottom[0] !== 0) throw open('Its lower end must lie on the axis.')
  if (top[0] === 0) throw open('Both of its ends lie on the axis; its upper one belongs at the rim.')
  const rim = endOf(body[body.length - 1]!)
  const lip = Math.hypot(rim[0] - top[0], rim[1] - top[1]) > 0 ? [lineSegment(rim, top, body.length)] : []
  const chain = [...body, ...lip, ...inside].map((s, index) => ({ ...s, index }) as Segment)
  const crossing = firstCrossing(flatten(chain).points)
  if (crossing)
    throw new CoreError({
      code: 'inside-crosses',
      message: `Inside and outside cross at ⌀ ${plainMm(2 * crossing.r)} mm, height ${plainMm(crossing.z)} mm. Move the inside away from the wall there.`,
      where: `r=${crossing.r} z=${crossing.z}`,
    })
  return { segments: chain, outside: [...body], inside, notes: note ? [note] : [] }
}

const open = (message: string) =>
  new CoreError({ code: 'inside-open', message: `The inside isn’t ready: ${message.charAt(0).toLowerCase()}${message.slice(1)}` }) // prettier-ignore
