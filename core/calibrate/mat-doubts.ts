import type { ReadProfile } from './read-profile'

/** A foot this much wider than what stands on it, as a share of its own radius, … */
const WIDER = 0.07
/** … and no higher than this share of the height, is as flat as a doily, a coaster or a sheet of paper. */
const FLAT = 0.005
/** What stands on it is seen from below this share of the height on; a disc hides what lies behind its edge. */
const LOW = 0.2

/**
 * What it means that a half-profile begins with a disc whose edge shows no height, in words, with what to do: revolved pieces have
 * some there, what they were put on for the photo doesn't. Seen by a near camera only; with parallel rays a disc seen from above looks
 * like a rounded foot.
 */
export function matDoubts({ points, states, foot, top, ends }: ReadProfile): string[] {
  // With parallel rays nothing of it is known to be hidden.
  if (!ends.foot) return []
  const tall = top - foot
  const beyond = points.findIndex(([, z], i) => z - foot > FLAT * tall && states[i] !== 'assumed')
  if (beyond < 0) return []
  const [stands, level] = points[beyond]!
  const wide = Math.max(...points.slice(0, beyond).flatMap(([r, z]) => (z - foot <= FLAT * tall ? r : [])))
  if (stands > (1 - WIDER) * wide || level - foot > LOW * tall) return []
  return [
    `At its foot the outline goes round a flat disc, ${(100 * (wide / stands - 1)).toFixed(0)} % wider than what stands on it and with no height that shows: a doily, a coaster or a sheet, it may be. If it is none of the piece, paint it as backdrop.`,
  ]
}
