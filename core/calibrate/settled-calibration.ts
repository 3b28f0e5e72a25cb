import type { Sides } from '../camera/closing-ends'
import type { PicturePoint } from '../conventions'
import { focalOf, solveCalibration, type PhotoSize } from './calibrate'
import type { Calibration, PlumbLine } from './calibration'
import type { KnownSize } from './known-size'
import { settledEnds, type PieceEnds } from './settled-ends'

const same = (p: PicturePoint, q: PicturePoint) => p.x === q.x && p.y === q.y

/** Known sizes, of which a height that was measured between the ends as they were found follows them. */
export function followingEnds(
  sizes: readonly KnownSize[],
  found: PlumbLine | null,
  { foot, top }: PieceEnds,
): KnownSize[] {
  return sizes.map((size) => {
    const follows =
      found?.by === 'found' && size.kind === 'overall' && same(size.a, found.foot) && same(size.b, found.top)
    return follows ? { ...size, a: foot, b: top } : size
  })
}

/**
 * A calibration whose camera has changed, with the ends that a search found, and what was set to them, where the half-profile ends that
 * is read now. Ends by hand stay.
 * @param sides both edges, full picture px
 */
export function settledCalibration(calibration: Calibration, photo: PhotoSize, sides: Sides): Calibration {
  const { plumb } = calibration
  if (plumb?.by !== 'found') return calibration
  const at = ({ foot, top }: PieceEnds): Calibration => ({
    ...calibration,
    plumb: { ...plumb, foot, top },
    ground: calibration.ground && same(calibration.ground, plumb.foot) ? foot : calibration.ground,
    knownSizes: followingEnds(calibration.knownSizes, plumb, { foot, top }),
  })
  const lensKnown = focalOf(calibration, photo) !== null
  return at(settledEnds(sides, plumb, lensKnown, (ends) => solveCalibration(at(ends), photo)).ends)
}
