import type { SolidProfile } from '../../core/piece/derive'

/** Triangles of the revolved profile: two a side for each ring between the poles. */
export function triangleTotal(solid: SolidProfile | null, sides: number): number {
  return solid ? 2 * sides * (solid.flat.points.length / 2 - 2) : 0
}
