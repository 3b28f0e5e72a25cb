import { assemblyFigures, correctedBody } from '../core/measure/assembly-figures'
import { bodyQuantities } from '../core/measure/body'
import { build } from '../core/piece/build'
import { derive } from '../core/piece/derive'
import { isAssembled } from '../core/piece/plan-assembly'
import type { PieceDocument } from '../core/piece/schema'
import type { Kernel } from '../core/solid/kernel'

/**
 * Measures and faults of a piece, in mm, mm² and mm³; null where there is no solid.
 * @param kernel needed where the piece has parts
 */
export function checkPiece(document: PieceDocument, kernel?: Kernel) {
  const { calibration, faults, openEnds, measures, solid } = derive(document)
  const built = solid && isAssembled(document) ? build(document, solid, { kernel }) : null
  const figures = built?.assembly ? assemblyFigures(built.assembly) : null
  const exact = solid && bodyQuantities(solid.segments, document.solid.turn)
  const body = figures && exact ? correctedBody(exact, figures) : exact
  return {
    name: document.name,
    unit: 'mm',
    mmPerPx: calibration.known.scale ? calibration.frame.mmPerPx : null,
    nodes: document.profile.nodes.length,
    closed: solid !== null && !solid.closedForShow,
    openEnds,
    faults: [...calibration.problems, ...faults, ...(built?.problems ?? [])].map(({ code, message }) => ({
      code,
      message,
    })),
    height: measures?.heightMm ?? null,
    maxDiameter: measures ? 2 * measures.maxRadiusMm : null,
    maxDiameterAt: measures?.maxRadiusAtMm ?? null,
    volume: body?.volumeMm3 ?? null,
    area: body?.areaMm2 ?? null,
    parts: figures?.solids.slice(1).map(({ id, volumeMm3, gapMm, overlapMm3 }) => ({
      name: document.parts.find((p) => p.id === id)?.name ?? id,
      volume: volumeMm3,
      gap: gapMm,
      overlap: overlapMm3,
    })),
  }
}
