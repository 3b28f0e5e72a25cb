import { derive } from '../../core/piece/derive'
import { silhouetteOf } from '../../core/profile/sides'
import type { PieceDocument } from '../../core/piece/schema'
import type { DisplayUnit } from '../../core/units/units'

/** What a card of the cabinet shows, computed when a piece is saved. */
export interface PieceSummary {
  unit: DisplayUnit
  heightMm: number | null
  maxDiameterMm: number | null
  /** Coarse closed half-profile [r z ...], mm, foot at z = 0; null while there is none or no scale. */
  silhouette: number[] | null
}

/** Chords of the silhouette stay within this share of the height: half a pixel on a card. */
const SILHOUETTE_TOLERANCE = 1 / 400

export function summarize(document: PieceDocument): PieceSummary {
  const probe = derive(document)
  const { measures } = probe
  if (!measures || !probe.calibration.known.scale) {
    return { unit: document.unit, heightMm: null, maxDiameterMm: null, silhouette: null }
  }
  const toleranceMm = measures.heightMm * SILHOUETTE_TOLERANCE
  const { solid } = probe
  const points = solid ? silhouetteOf(solid.segments, { toleranceMm }) : new Float64Array(0)
  return {
    unit: document.unit,
    heightMm: measures.heightMm,
    maxDiameterMm: 2 * measures.maxRadiusMm,
    silhouette: Array.from(
      points,
      (value, i) => Math.round((i % 2 ? value - measures.lowestMm : value) * 100) / 100,
    ),
  }
}
