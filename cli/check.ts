import { derive } from '../core/piece/derive'
import type { PieceDocument } from '../core/piece/schema'

/** Measures and faults of a piece, in mm, mm² and mm³; null where there is no solid. */
export function checkPiece(document: PieceDocument) {
  const { calibration, faults, openEnds, measures, solid } = derive(document)
  return {
    name: document.name,
    unit: 'mm',
    mmPerPx: calibration.known.scale ? calibration.frame.mmPerPx : null,
    nodes: document.profile.nodes.length,
    closed: solid !== null && !solid.closedForShow,
    openEnds,
    faults: [...calibration.problems, ...faults].map(({ code, message }) => ({ code, message })),
    height: measures?.heightMm ?? null,
    maxDiameter: measures ? 2 * measures.maxRadiusMm : null,
    maxDiameterAt: measures?.maxRadiusAtMm ?? null,
    volume: measures?.volumeMm3 ?? null,
    area: measures?.areaMm2 ?? null,
  }
}
