import { focalOf, solveCalibration, type SolvedCalibration } from '../calibrate/calibrate'
import { settledEnds, type PieceEnds } from '../calibrate/settled-ends'
import type { Sides } from '../camera/closing-ends'
import { applyToCalibration, type TakeFound } from './commands'
import type { PieceDocument } from './schema'

/** What a search found as a document takes it over, and the calibration that makes, solved. */
export interface SettledFound {
  command: TakeFound
  solved: SolvedCalibration
}

/**
 * What a search found, with its ends where the half-profile ends that will be read, so that a height typed for the whole piece is the
 * half-profile's own.
 * @param command as the search says: ground and overall height, if any, are those of its plumb line's ends
 * @param sides both edges that the same search found, full picture px
 * @throws Error for a document without a photo
 */
export function settledFound(document: PieceDocument, command: TakeFound, sides: Sides): SettledFound {
  const { photo } = document
  if (!photo) throw new Error('There is no photo in which anything could be found.')
  const solved = (asked: TakeFound) =>
    solveCalibration(applyToCalibration(document, asked).calibration, photo)
  const lensKnown = focalOf(document.calibration, photo) !== null
  const { ends } = settledEnds(sides, command.plumb, lensKnown, (at) => solved(withEnds(command, at)))
  const settled = withEnds(command, ends)
  return { command: settled, solved: solved(settled) }
}

function withEnds(command: TakeFound, { foot, top }: PieceEnds): TakeFound {
  const { plumb, ground, overall } = command
  return {
    ...command,
    plumb: { ...plumb, foot, top },
    ground: ground && foot,
    overall: overall && { ...overall, a: foot, b: top },
  }
}
