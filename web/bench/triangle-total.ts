import type { SolidProfile } from '../../core/piece/derive'
import { trianglesOf } from '../../core/solid/sides'

/** Triangles of the revolved profile: two a side for each ring between the poles. */
export function triangleTotal(solid: SolidProfile | null, sides: number): number {
  return solid ? trianglesOf(solid.flat.points.length / 2 - 1, sides) : 0
}
