import { rememberFit } from '../../core/piece/follow-outline'
import { rememberRead } from '../../core/piece/outline'
import type { PieceDocument, PieceOutline } from '../../core/piece/schema'
import type { View } from '../../core/camera/view'
import { applyToCalibration, type TakeFound } from '../../core/piece/commands'
import { settledFound } from '../../core/piece/settled-found'
import { rememberSolved } from '../../core/piece/solved'
import type { Sides } from '../../core/camera/closing-ends'
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

/**
 * Lets a worker place the ends of what was found and solve the calibration that makes, so that the page finds it remembered. Where that
 * fails the page does it.
 */
export async function settleAhead(
  document: PieceDocument,
  command: TakeFound,
  sides: Sides,
): Promise<TakeFound> {
  const { photo } = document
  if (!photo) return command
  const settled = await photoClient
    .call((worker) => worker.settle(document, command, sides))
    .catch(() => settledFound(document, command, sides))
  rememberSolved(applyToCalibration(document, settled.command).calibration, photo, settled.solved)
  return settled.command
}
