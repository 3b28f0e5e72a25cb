import type { PieceDocument } from '../../../core/piece/schema'

export type Wall = NonNullable<PieceDocument['solid']['wall']>

/** A wall to begin with: 2 mm, as a cup has (common practice, no source), or less for small pieces. */
export function usualWall(heightMm: number): Wall {
  const mm = Math.min(2, 0.03 * heightMm)
  return { mm, levels: [], floorMm: 1.5 * mm, way: 'inwards', lip: 'flat', bore: false }
}
