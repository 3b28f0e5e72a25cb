import { solveCalibration, type SolvedCalibration } from '../calibrate/calibrate'
import type { PieceDocument, PiecePhoto } from './schema'

const solvedByCalibration = new WeakMap<
  PieceDocument['calibration'],
  { photo: PiecePhoto; solved: SolvedCalibration }
>()

/** The solved calibration, or undefined without a photo; kept for as long as calibration and photo stay the same. */
export function solvedOf({ calibration, photo }: PieceDocument): SolvedCalibration | undefined {
  if (!photo) return undefined
  const kept = solvedByCalibration.get(calibration)
  if (kept && kept.photo === photo) return kept.solved
  const solved = solveCalibration(calibration, photo)
  solvedByCalibration.set(calibration, { photo, solved })
  return solved
}
