import { reversed, runsAlong } from './chain'
import type { OutlineSide } from './refine'

export const OUTLINE_ENDS = ['foot', 'top'] as const
export type OutlineEnd = (typeof OUTLINE_ENDS)[number]

/** Share of a side's points that tell whether an end is closed; of a narrow one only those that close it do, if they are so many. */
const TELLING = 0.08
const LEAST_CLOSING = 8
/** Ends that show less edge than this, as a share, are guesses. */
const GUESSED = 0.2

/** Ends at which hardly an edge closes the outline, so that where the piece ends there is a guess. */
export function openEnds(sides: readonly OutlineSide[], least = GUESSED): OutlineEnd[] {
  return OUTLINE_ENDS.filter((end) => {
    const { seen, all } = seenClosing(sides, end, ({ sd }, closing) =>
      Math.min(Math.ceil(TELLING * sd.length), closing < LEAST_CLOSING ? Infinity : closing),
    )
    return seen < least * all
  })
}

/** How many of the points that close an end show an edge. */
export const closingSeen = (sides: readonly OutlineSide[], end: OutlineEnd) =>
  seenClosing(sides, end, (_, closing) => closing)

/** @param counted how many points of a side count, of which so many close the end */
function seenClosing(
  sides: readonly OutlineSide[],
  end: OutlineEnd,
  counted: (side: OutlineSide, closing: number) => number,
): { seen: number; all: number } {
  let [seen, all] = [0, 0]
  for (const side of sides) {
    const count = Math.min(side.sd.length, counted(side, closingOf(side, end)))
    seen += seenPoints(side, end)
      .slice(0, count)
      .filter((is) => is).length
    all += count
  }
  return { seen, all }
}

/** Points over which the outline's direction is told. */
const DIRECTION_POINTS = 6

/** How many points of a side, from an end on, run more across the piece than along it. */
function closingOf({ points }: OutlineSide, end: OutlineEnd): number {
  const way = end === 'foot' ? points : reversed(points)
  let i = 0
  for (let j = 2 * DIRECTION_POINTS; j < way.length; i += 2, j += 2)
    if (runsAlong(way, way[j]! - way[i]!, way[j + 1]! - way[i + 1]!)) break
  return i / 2
}

/** What an end without an edge means, and what to do. */
export function openEndWords(end: OutlineEnd): string {
  return `Hardly an edge closes the piece at its ${end}: where it ends there, and with it the scale, is a guess. Mark places on the edge, or paint what is piece.`
}

/** Which points of a side show an edge, from one of its ends on. */
export function seenPoints({ sd }: OutlineSide, end: OutlineEnd): boolean[] {
  const seen = Array.from(sd, Number.isFinite)
  return end === 'foot' ? seen : seen.reverse()
}

/** The points of a side between two numbers of points from one of its ends. */
export function partFrom(
  { points, sd, blur }: OutlineSide,
  end: OutlineEnd,
  from: number,
  to: number,
): OutlineSide {
  const [i, j] = end === 'foot' ? [from, to] : [sd.length - to, sd.length - from]
  return { points: points.slice(2 * i, 2 * j), sd: sd.slice(i, j), blur }
}
