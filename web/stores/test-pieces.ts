import { EMPTY_CALIBRATION, type Calibration } from '../../core/calibrate/calibration'
import { newKnownSize } from '../../core/calibrate/known-size'
import { newPiece, type PieceDocument, type PiecePhoto } from '../../core/piece/schema'
import type { StoredPiece } from '../api/types'

/** Pieces for tests of the page. */
const photo: PiecePhoto = {
  sha256: 'a'.repeat(64),
  fileName: 'bottle.jpg',
  mediaType: 'image/jpeg',
  width: 1500,
  height: 2000,
  focalLength35mm: 100,
  quarterTurns: 0,
  crop: null,
}
/** Of a bottle 160 mm tall on some 1600 px, leaning a little to the right. */
export const plumb = { foot: { x: 740, y: 1800 }, top: { x: 770, y: 201 }, by: 'hand' as const }
export const height = newKnownSize({
  id: 'h',
  kind: 'overall',
  a: plumb.foot,
  b: plumb.top,
  mm: 160,
  source: 'caliper',
})

/** The bottle with its axis and its ground, and what else is known of it. */
export function bottle(known: Partial<Calibration> = {}): PieceDocument {
  const calibration = { ...EMPTY_CALIBRATION, plumb, ground: plumb.foot, ...known }
  return { ...newPiece('Bottle', photo), calibration }
}

/** A document as the server answers it. */
export function stored(document: PieceDocument): StoredPiece {
  return { id: 'p', setName: null, place: null, revision: 4, updatedAt: '', document }
}
