import type { Sides } from '../camera/closing-ends'
import { project } from '../camera/view'
import type { PicturePoint } from '../conventions'
import type { SolvedCalibration } from './calibrate'
import { readProfile, type ReadProfile } from './read-profile'

/** Where a piece begins and ends on its axis, full picture px. */
export interface PieceEnds {
  foot: PicturePoint
  top: PicturePoint
}

/** The ends are placed anew so many times at most, … */
const ROUNDS = 3
/** … and stay where they would move by less than this, px. */
const SETTLED_PX = 0.01
/** Ends that move by more than this share of their distance belong to no camera that saw this: one whose lens is half typed, say. */
const MOST_MOVED = 0.2
/** Foot and top don't depend on the number of rows, and the largest ⌀ hardly. */
const ROUGH_ROWS = 100

/**
 * The ends of a piece, moved to where the half-profile begins and ends that is read through the camera which they tell: a height
 * measured between them is the half-profile's own then. A search places them before that camera is solved.
 * @param sides both edges, full picture px
 * @param lensKnown ends that a search placed by a known lens stay where the piece is read by parallel rays: it knows better than they do
 * @param solvedBy the calibration with its marks at these ends, solved; what was read last tells sizes that nobody has measured
 * @returns the calibration solved last, and the ends that what is read through it tells; where no such piece is seen
 *   through it, the ends that were last known
 */
export function settledEnds(
  sides: Sides,
  start: PieceEnds,
  lensKnown: boolean,
  solvedBy: (ends: PieceEnds, read: ReadProfile | null) => SolvedCalibration,
): { ends: PieceEnds; solved: SolvedCalibration } {
  const most = MOST_MOVED * apart(start.foot, start.top)
  const movedTo = (from: PieceEnds, to: PieceEnds) =>
    Math.max(apart(to.foot, from.foot), apart(to.top, from.top))
  let ends = start
  let solved = solvedBy(ends, null)
  for (let round = 1; solved.view.kind === 'near' || !lensKnown; round++) {
    const read = readProfile(solved.view, sides, { rows: ROUGH_ROWS })
    if (!(read.top > read.foot)) break
    const next = endsOf(solved, read)
    if (movedTo(ends, next) < SETTLED_PX || !(movedTo(start, next) <= most)) break
    ends = next
    if (round === ROUNDS) break
    solved = solvedBy(ends, read)
  }
  return { ends, solved }
}

const endsOf = ({ view }: SolvedCalibration, { foot, top }: ReadProfile): PieceEnds => ({
  foot: project(view, [0, 0, foot]),
  top: project(view, [0, 0, top]),
})

const apart = (p: PicturePoint, q: PicturePoint) => Math.hypot(p.x - q.x, p.y - q.y)
