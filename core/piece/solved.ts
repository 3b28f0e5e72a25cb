import { solveCalibration, type SolvedCalibration } from '../calibrate/calibrate'
import type { PieceDocument, PiecePhoto } from './schema'

const solvedByCalibration = new WeakMap<
  PieceDocument['calibration'],
  { photo: PiecePhoto; solved: SolvedCalibration }
>()

/** The last calibration that was solved elsewhere, before the document had it. */
let ahead: { calibration: string; photo: PiecePhoto; solved: SolvedCalibration } | null = null

/** Takes over what was solved elsewhere (by a worker): a calibration of the same values and the same photo gets it. */
export function rememberSolved(
  calibration: PieceDocument['calibration'],
  photo: PiecePhoto,
  solved: SolvedCalibration,
): void {
  ahead = { calibration: JSON.stringify(calibration), photo, solved }
}

/** The solved calibration, or undefined without a photo; kept for as long as calibration and photo stay the same. */
export function solvedOf({ calibration, photo }: PieceDocument): SolvedCalibration | undefined {
  if (!photo) return undefined
  const kept = solvedByCalibration.get(calibration)
  if (kept && kept.photo === photo) return kept.solved
  const known = ahead?.photo === photo && ahead.calibration === JSON.stringify(calibration)
  const solved = known ? ahead!.solved : solveCalibration(calibration, photo)
  solvedByCalibration.set(calibration, { photo, solved })
  return solved
}
