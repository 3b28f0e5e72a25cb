import type { PicturePoint } from '../../core/conventions'
import { acrossOf, type PictureFrame } from '../../core/calibrate/frame'
import type { Command } from '../../core/piece/commands'
import type { PieceDocument } from '../../core/piece/schema'

/** Marks of the calibration that can be moved. */
export type Mark = 'plumb-foot' | 'plumb-top' | 'ground' | 'size-a' | 'size-b'

const NAMES: Record<Mark, string> = {
  'plumb-foot': 'Lower end of the plumb line',
  'plumb-top': 'Upper end of the plumb line',
  ground: 'Ground line',
  'size-a': 'First mark of the known size',
  'size-b': 'Second mark of the known size',
}

export const describeMark = (mark: Mark) => `${NAMES[mark]}; arrow keys move it by one pixel`

/** The command that puts a mark at a place, or null when there is no such mark. */
export function moveMark(mark: Mark, to: PicturePoint, { calibration }: PieceDocument): Command | null {
  const { plumb, ground, knownSizes } = calibration
  const size = knownSizes[0]
  if (mark === 'ground') return ground && { type: 'set-ground', ground: to }
  if (mark === 'plumb-foot') return plumb && { type: 'set-plumb', plumb: { ...plumb, foot: to } }
  if (mark === 'plumb-top') return plumb && { type: 'set-plumb', plumb: { ...plumb, top: to } }
  if (!size) return null
  return { type: 'set-known-size', size: { ...size, [mark === 'size-a' ? 'a' : 'b']: to } }
}

/** Where a mark stands in the picture. */
export function markPlace(mark: Mark, { calibration }: PieceDocument): PicturePoint | null {
  const { plumb, ground, knownSizes } = calibration
  if (mark === 'ground') return ground
  if (mark === 'plumb-foot') return plumb?.foot ?? null
  if (mark === 'plumb-top') return plumb?.top ?? null
  return knownSizes[0]?.[mark === 'size-a' ? 'a' : 'b'] ?? null
}

/** Arrow keys move a mark by one picture pixel, with Shift by ten, as seen with the piece upright. */
export function nudgeMark(
  mark: Mark,
  event: KeyboardEvent,
  piece: { document: PieceDocument; dispatch(command: Command, mergeKey?: string): void },
  frame: PictureFrame,
): void {
  const step = event.shiftKey ? 10 : 1
  const dx = event.key === 'ArrowRight' ? step : event.key === 'ArrowLeft' ? -step : 0
  const dz = event.key === 'ArrowUp' ? step : event.key === 'ArrowDown' ? -step : 0
  const at = markPlace(mark, piece.document)
  if (!at || (dx === 0 && dz === 0)) return
  event.preventDefault()
  const across = acrossOf(frame)
  const to = { x: at.x + dx * across.x + dz * frame.up.x, y: at.y + dx * across.y + dz * frame.up.y }
  const command = moveMark(mark, to, piece.document)
  if (command) piece.dispatch(command, `nudge ${mark}`)
}
