import type { Plane } from '../picture/raster'

/** What may be a shadow on the backdrop says so much for the backdrop. */
const SHADOW_AS_BACKDROP = -0.25

/** Evidence in which what may be a shadow on the backdrop counts as backdrop. */
export function withoutShadows(plane: Plane, mayBeShadow: (i: number) => boolean): Plane {
  const data = plane.data.map((v, i) => (v > 0 && mayBeShadow(i) ? SHADOW_AS_BACKDROP : v))
  return { ...plane, data }
}
