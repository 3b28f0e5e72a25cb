import { flatten } from '../profile/flatten'
import { cageOf, type CageOptions, type PolyMesh } from '../solid/cage'
import type { SolidProfile } from './derive'

export interface Cage extends CageOptions {
  /** Largest distance of its rows' chords from the curve, mm. */
  errorMm: number
}

/** A mesh of quads to begin with: rows within half a percent of the height, corners held by rings of a hundredth. */
export function usualCage(heightMm: number): Cage {
  const rounded = (mm: number) => Number(mm.toPrecision(2))
  return { sides: 16, errorMm: rounded(0.005 * heightMm), ends: 'rings', corners: { by: 'rings', mm: rounded(0.01 * heightMm) } } // prettier-ignore
}

/** Levels that the preview subdivides. */
export const PREVIEW_LEVELS = 2

/** The body as a mesh of quads; parts aren't in it. @throws CoreError what `cageOf` throws */
export function cageMesh({ segments }: SolidProfile, { errorMm, ...options }: Cage): PolyMesh {
  return cageOf(flatten(segments, { toleranceMm: errorMm }), options)
}
