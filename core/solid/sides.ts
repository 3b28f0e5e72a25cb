import { LEAST_SIDES, MOST_SIDES } from './revolve'

/** How far the middle of a flat side lies within the true circle, mm. */
export function sideError(radiusMm: number, sides: number): number {
  return radiusMm * (1 - Math.cos(Math.PI / sides))
}

/** The fewest sides that keep within a distance of the circle. */
export function sidesWithin(radiusMm: number, toleranceMm: number): number {
  const half = Math.acos(Math.max(-1, 1 - toleranceMm / radiusMm))
  return limited(Math.ceil(Math.PI / half - 1e-9))
}

/** The most sides that a number of triangles allows. @param bands rows of the solid between its poles */
export function sidesForTriangles(bands: number, triangles: number): number {
  return limited(Math.floor(triangles / trianglesOf(bands, 1)))
}

/** Triangles of a full turn: two a side and band, one at the poles. @param bands chords of the half-profile */
export function trianglesOf(bands: number, sides: number): number {
  return 2 * sides * (bands - 1)
}

function limited(sides: number): number {
  return Math.min(MOST_SIDES, Math.max(LEAST_SIDES, sides))
}
