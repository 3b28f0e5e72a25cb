import type { OutlineSide } from './refine'

export const OUTLINE_ENDS = ['foot', 'top'] as const
export type OutlineEnd = (typeof OUTLINE_ENDS)[number]

/** Share of a side's points that close it. */
const CLOSING = 0.08
/** Ends that show less edge than this, as a share, are guesses. */
const GUESSED = 0.2

/** Ends at which hardly an edge closes the outline, so that where the piece ends there is a guess. */
export function openEnds(sides: readonly OutlineSide[], least = GUESSED): OutlineEnd[] {
  return OUTLINE_ENDS.filter((end) => {
    let seenPoints = 0
    let all = 0
    for (const { sd } of sides) {
      const n = sd.length
      const count = Math.ceil(CLOSING * n)
      for (let k = 0; k < count; k++) if (Number.isFinite(sd[end === 'foot' ? k : n - 1 - k]!)) seenPoints++
      all += count
    }
    return seenPoints < least * all
  })
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
