import { cutFromCheckers } from './checkered'
import { withoutDrawnMarks } from './drawn-marks'
import type { Raster } from './raster'
import { withoutRoundCorners } from './round-corners'

/** A picture as it was meant, before anything is looked for in it. */
export interface MeantPicture {
  raster: Raster
  /** It shows its piece before grey squares, as editors show what is clear: it was taken for the cut-out it is a copy of. */
  isCheckered: boolean
  /** Lines or words that were drawn over it were left out. */
  hadMarks: boolean
}

/** A cut-out of a picture that shows grey squares where it was clear; another one with its corners, if they are rounded off, and without what was drawn over it. */
export function asMeant(picture: Raster): MeantPicture {
  const cut = cutFromCheckers(picture)
  if (cut) return { raster: cut, isCheckered: true, hadMarks: false }
  const photo = withoutRoundCorners(picture)
  const bare = withoutDrawnMarks(photo)
  return { raster: bare ?? photo, isCheckered: false, hadMarks: bare !== null }
}
