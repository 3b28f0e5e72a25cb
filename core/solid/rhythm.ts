import { CoreError } from '../errors'
import { MOST_SIDES } from './revolve'

/** How the repeats of a faceted piece share its sides: so many standing, so many cut, over and over. */
export interface Rhythm {
  up: number
  down: number
}

/** Counts of repeats that a number of sides carries in a rhythm, the most first; empty when it carries none. */
export function repeatsCarried(sides: number, { up, down }: Rhythm): number[] {
  const most = sides / (up + down)
  if (!Number.isInteger(most)) return []
  const counts: number[] = []
  for (let n = Math.floor(most); n >= 1; n--) if (most % n === 0) counts.push(n)
  return counts
}

/** The two numbers of sides nearest to the present one that carry so many repeats, the smaller first. */
export function sidesCarrying(count: number, { up, down }: Rhythm, sides: number): number[] {
  const unit = count * (up + down)
  const below = Math.max(1, Math.floor(sides / unit))
  return [below * unit, (below + 1) * unit].filter((n) => n <= MOST_SIDES)
}

/**
 * Sides that one repeat takes.
 * @throws CoreError `rhythm` when the sides don't divide; says which counts do
 */
export function sidesARepeat(count: number, rhythm: Rhythm, sides: number): { up: number; down: number } {
  const unit = count * (rhythm.up + rhythm.down)
  if (sides % unit !== 0) {
    const carried = repeatsCarried(sides, rhythm)[0]
    throw new CoreError({
      code: 'rhythm',
      message: `${count} repeats of ${rhythm.up} up, ${rhythm.down} down need ${sidesCarrying(count, rhythm, sides).join(' or ')} sides; ${sides} sides carry ${carried ?? 'none'}.`,
      where: 'sides',
      expected: `a multiple of ${unit}`,
      received: String(sides),
    })
  }
  const times = sides / unit
  return { up: rhythm.up * times, down: rhythm.down * times }
}
