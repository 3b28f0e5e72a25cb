import type { ReadProfile } from './read-profile'

/** A foot this much wider than what stands on it, as a share of its own radius, … */
const WIDER = 0.07
/** … and seen no higher than this share of the height, is as flat as a doily, a coaster or a sheet of paper. */
const FLAT = 0.01
/** … and one no higher than this may be, if what stands on it doesn't narrow on beyond it, over as much again, to less than this share: a stem glass' foot does. */
const NEARLY_FLAT = 0.02
const UPRIGHT = 0.95
/** What stands on it is seen from below this share of the height on; its far edge hides what lies lower. */
const LOW = 0.2

/**
 * What it means that a half-profile begins with a disc of hardly any height, in words, with what to do: revolved pieces have
 * some there, what they were put on for the photo doesn't. Seen by a near camera only; with parallel rays a disc seen from above looks
 * like a rounded foot.
 */
export function matDoubts(read: ReadProfile): string[] {
  // With parallel rays nothing of it is known to be hidden.
  if (!read.ends.foot) return []
  const wider = widerBy(read, FLAT) ?? (standsUpright(read) ? widerBy(read, NEARLY_FLAT) : null)
  if (wider === null) return []
  return [
    `At its foot the outline goes round a flat disc, ${(100 * wider).toFixed(0)} % wider than what stands on it and with hardly a height of its own: a doily, a coaster or a sheet, it may be. If it is none of the piece, paint all that shows of it as backdrop, and find the outline again.`,
  ]
}

/** The first point that is seen above this share of the height. */
function seenAbove({ points, states, foot, top }: ReadProfile, share: number) {
  return points.find(([, z], i) => z - foot > share * (top - foot) && states[i] !== 'assumed')
}

/** How much wider than what stands on it is what lies no higher than this share of the height; null where it isn't, or what stands on it isn't seen. */
function widerBy(read: ReadProfile, flat: number): number | null {
  const { points, foot, top } = read
  const tall = top - foot
  const stands = seenAbove(read, flat)
  if (!stands || stands[1] - foot > LOW * tall) return null
  const wide = Math.max(...points.flatMap(([r, z]) => (z - foot <= flat * tall ? r : [])))
  return stands[0] > (1 - WIDER) * wide ? null : wide / stands[0] - 1
}

/** Whether what stands on a nearly flat disc is hardly narrower where as much more of the height is seen. */
function standsUpright(read: ReadProfile): boolean {
  const stands = seenAbove(read, NEARLY_FLAT)
  const above = stands && seenAbove(read, (stands[1] - read.foot) / (read.top - read.foot) + NEARLY_FLAT)
  return !!above && above[0] >= UPRIGHT * stands[0]
}
