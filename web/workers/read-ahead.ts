import { rememberFit } from '../../core/piece/follow-outline'
import { rememberRead } from '../../core/piece/outline'
import type { PieceDocument, PieceOutline } from '../../core/piece/schema'
import type { View } from '../../core/camera/view'
import { applyToCalibration, type CalibrationCommand } from '../../core/piece/commands'
import { rememberSolved } from '../../core/piece/solved'
import { photoClient } from './photo-client'
import { solidClient } from './solid-client'

/**
 * Lets a worker read an outline and fit its curve before the page needs them: what would hold the page up for a good part
 * of a second is then at hand. Where that fails the page computes it itself.
 */
export async function readAhead(
  outline: PieceOutline,
  view: View,
  toleranceMm: number | null,
): Promise<void> {
  try {
    const ahead = await solidClient.call((worker) => worker.readAhead(outline, view, toleranceMm))
    rememberRead(outline, view, ahead.read)
    rememberFit(ahead.read, ahead.toleranceMm, ahead.curve)
  } catch {
    // Computed on the page then, with the same result.
  }
}

/** Lets a worker solve the calibration that a command is about to make, so that the page finds it remembered. */
export async function solveAhead(document: PieceDocument, command: CalibrationCommand): Promise<void> {
  const { calibration, photo } = applyToCalibration(document, command)
  if (!photo) return
  try {
    const solved = await photoClient.call((worker) => worker.solve(calibration, photo))
    rememberSolved(calibration, photo, solved)
  } catch {
    // Solved on the page then, with the same result.
  }
}
