import { cutFromCheckers } from './checkered'
import { withoutDrawnMarks } from './drawn-marks'
import type { Raster } from './raster'
import { withoutRoundCorners } from './round-corners'

/** A picture as it was meant, before anything is looked for in it. */
export interface MeantPicture {
  raster: Raster
  /** It shows its piece before grey squares, as editors show what is clear: it was taken for the cut-out it is a copy of. */
  isCheckered: boolean
}

/** A cut-out of a picture that shows grey squares where it was clear, and one whose corners are rounded off with its corners. */
export function asMeant(picture: Raster): MeantPicture {
  const cut = cutFromCheckers(picture)
  const photo = withoutRoundCorners(picture)
  return { raster: cut ?? withoutDrawnMarks(photo) ?? photo, isCheckered: cut !== null }
}
