import { computed } from 'vue'
import type { PieceExtent } from '../../../core/camera/view-error'
import { toPlane } from '../../../core/camera/view'
import { radiusAt } from '../../../core/measure/profile-measures'
import { usePiece } from '../../stores/piece'
import { useSearch } from './use-search'

/** The places of the lowest and highest share of the height that stand for foot and rim. */
const END_SHARE = 0.01

/** How large the piece is, from its solid or else from the outline found in the photo; null while nothing tells. */
export function useExtent() {
  const piece = usePiece()
  const search = useSearch()
  return computed<PieceExtent | null>(() => {
    const { solid, measures, calibration } = piece.derived
    if (!calibration.known.scale) return null
    if (solid && measures) {
      const at = (z: number) => radiusAt(solid.flat, z) ?? 0
      const { lowestMm, highestMm, heightMm } = measures
      return {
        height: heightMm,
        footRadius: at(lowestMm + END_SHARE * heightMm),
        largestRadius: measures.maxRadiusMm,
        largestAt: measures.maxRadiusAtMm - lowestMm,
        rimRadius: at(highestMm - END_SHARE * heightMm),
      }
    }
    const { found } = search
    if (!found || found.sha256 !== piece.document.photo?.sha256) return null
    const { view } = calibration
    const side: { r: number; z: number }[] = []
    const left = found.outline.left.points
    for (let i = 0; i < left.length; i += 8) {
      const { x, z } = toPlane(view, { x: left[i]!, y: left[i + 1]! })
      side.push({ r: Math.abs(x), z })
    }
    const height = toPlane(view, found.top).z
    const widest = side.reduce((p, q) => (q.r > p.r ? q : p))
    const near = (z: number) =>
      Math.max(0, ...side.filter((p) => Math.abs(p.z - z) < 2 * END_SHARE * height).map((p) => p.r))
    return {
      height,
      footRadius: near(END_SHARE * height),
      largestRadius: widest.r,
      largestAt: widest.z,
      rimRadius: near((1 - END_SHARE) * height),
    }
  })
}
