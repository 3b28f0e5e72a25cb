import type { LabPicture } from '../picture/reduce'
import { colourEvidence } from './colour-evidence'
import type { Evidence } from './evidence'
import { closedness } from './led-on'
import {
  likeness,
  onlyRows,
  outsideOf,
  rowsOf,
  silhouetteOf,
  type Silhouette,
  type Strip,
} from './silhouette'

/** An end that edges across the axis close less than this is open; one that they close by this is an end. */
const OPEN = 0.2
const CLOSES = 0.4
/** It is looked for within this share of the piece's height, and is the clearest within so many rows. */
const WITHIN = 0.35
const CLEAREST_ROWS = 4
/** What lies beyond it looks no more like piece than this, by the backdrop and by the colours inside and outside. */
const LIKE_PIECE = 0.1
const STRIDE = 2
/** Its edges are fainter than this share of the whole silhouette's. */
const FAINT = 0.6

/**
 * An opaque silhouette with ends that nothing closes taken back to the outermost edge that does, if what lies beyond shows fainter
 * edges and doesn't look like piece: lines of wall and floor that happen to lie evenly about the axis led it on.
 */
export function withoutOverruns(
  strip: Strip,
  picture: LabPicture,
  { plane }: Evidence,
  silhouette: Silhouette,
): Silhouette {
  let found = silhouetteOf(strip, silhouette.half)
  for (const down of [1, -1] as const) {
    const [first, last] = rowsOf(found)
    const end = down > 0 ? last : first
    if (first < 0 || closedness(strip, found.half, end, down) >= OPEN) continue
    const reach = Math.floor(WITHIN * (last - first + 1))
    const closed = Array.from({ length: reach }, (_, k) =>
      closedness(strip, found.half, end - down * k, down),
    )
    const back = closed.findIndex(
      (c, k) =>
        c >= CLOSES && c >= Math.max(...closed.slice(Math.max(0, k - CLEAREST_ROWS), k + CLEAREST_ROWS + 1)),
    )
    if (back < 1) continue
    const row = end - down * back
    const outside = down > 0 ? { from: row + 1, to: end + 1 } : { from: end, to: row }
    const beyond = silhouetteOf(strip, onlyRows(found.half, outside))
    if (beyond.edges / back >= (FAINT * found.edges) / (last - first + 1)) continue
    const colours = colourEvidence(picture, outsideOf(found, picture.width))
    if ([plane, colours].some((seen) => likeness(beyond, seen, STRIDE) >= LIKE_PIECE)) continue
    found = silhouetteOf(strip, onlyRows(found.half, down > 0 ? { from: first, to: row + 1 } : { from: row, to: last + 1 })) // prettier-ignore
  }
  return found
}
