import type { ReadProfile } from './read-profile'

/**
 * Handles, shadows and reflections part left and right over a tenth of an outline; of sides that are apart over more than this share of it
 * one hardly belongs to the piece (381 made-up photos: of five above it four were 0.5 to 4 % off, of those from 0.1 up to it that were
 * judged none by more than 0.4 %; what is wrong on both sides alike isn't told).
 */
const OFTEN = 0.18

/** What it means that left and right lie apart over much of an outline, in words, with what to do; none where they don't. */
export function sidesApartDoubts({ half }: Pick<ReadProfile, 'half'>): string[] {
  const apart = [...half.difference].filter((_, i) => half.reasons[i] === 'differs').map(Math.abs)
  const share = apart.length / Math.max(1, half.reasons.length)
  if (share < OFTEN) return []
  return [
    `Left and right lie apart over ${Math.round(100 * share)} % of the outline, by up to ${Math.max(...apart).toFixed(0)} px: one of them may follow something else there, such as the edge of a reflection. Look along both; choose the true side where they differ, mark places on the edge, or paint what is piece.`,
  ]
}
