import type { ReadProfile } from './read-profile'

/** A foot this much wider than what stands on it, as a share of its own radius, … */
const WIDER = 0.07
/** … and seen no higher than this share of the height, is as flat as a doily, a coaster or a sheet of paper. */
const FLAT = 0.01
/** What stands on it is seen from below this share of the height on; its far edge hides what lies lower. */
const LOW = 0.2

/**
 * What it means that a half-profile begins with a disc of hardly any height, in words, with what to do: revolved pieces have
 * some there, what they were put on for the photo doesn't. Seen by a near camera only; with parallel rays a disc seen from above looks
 * like a rounded foot.
 */
export function matDoubts({ points, states, foot, top, ends }: ReadProfile): string[] {
  // With parallel rays nothing of it is known to be hidden.
  if (!ends.foot) return []
  const tall = top - foot
  const stands = points.find(([, z], i) => z - foot > FLAT * tall && states[i] !== 'assumed')
  if (!stands) return []
  const wide = Math.max(...points.flatMap(([r, z]) => (z - foot <= FLAT * tall ? r : [])))
  if (stands[0] > (1 - WIDER) * wide || stands[1] - foot > LOW * tall) return []
  return [
    `At its foot the outline goes round a flat disc, ${(100 * (wide / stands[0] - 1)).toFixed(0)} % wider than what stands on it and with hardly a height of its own: a doily, a coaster or a sheet, it may be. If it is none of the piece, paint all that shows of it as backdrop, and find the outline again.`,
  ]
}
