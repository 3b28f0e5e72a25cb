import { rememberFit } from '../../core/piece/follow-outline'
import { rememberRead } from '../../core/piece/outline'
import type { PieceOutline } from '../../core/piece/schema'
import type { View } from '../../core/camera/view'
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
