import { matDoubts } from './mat-doubts'
import type { ReadProfile } from './read-profile'
import { sidesApartDoubts } from './sides-apart'

/** What there is to doubt about a half-profile that was read, in words, with what to do. */
export const readDoubts = (read: ReadProfile): string[] => [...sidesApartDoubts(read), ...matDoubts(read)]
