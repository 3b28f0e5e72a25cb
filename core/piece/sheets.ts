import { halfSectionSheet } from '../sheet/half-section'
import type { Page } from '../sheet/drawing'
import type { Paper } from '../sheet/paper'
import type { SheetPiece, SheetSolid } from '../sheet/section-piece'
import { templatePage, templateSheets } from '../sheet/template'
import type { SheetFonts } from '../sheet/to-pdf'
import { writeSheetSvg } from '../sheet/to-svg'
import { formatLength } from '../units/format-length'
import { typedUnit } from '../units/units'
import { derive, type SolidProfile } from './derive'
import { finishedSegments, requireSolid } from './finished'
import { materialOf } from './materials'
import { isExact, turnedSegments } from './plan-assembly'
import type { PieceDocument } from './schema'

/** What can be printed of a piece, by what it is and as which file. */
export const SHEETS = {
  'section.pdf': { name: 'Half-section PDF', extension: 'half-section.pdf', mediaType: 'application/pdf' },
  'section.svg': { name: 'Half-section SVG', extension: 'half-section.svg', mediaType: 'image/svg+xml' },
  'template.pdf': { name: 'Template 1:1 PDF', extension: 'template.pdf', mediaType: 'application/pdf' },
  'template.svg': { name: 'Template 1:1 SVG', extension: 'template.svg', mediaType: 'image/svg+xml' },
} as const
export type Sheet = keyof typeof SHEETS

/**
 * The pages of a sheet of the piece at its finished size.
 * @throws CoreError `not-closed` when there is no solid to draw
 */
export function sheetPages(document: PieceDocument, sheet: Sheet, paper: Paper, timeStamp: string): Page[] {
  const piece = sheetPiece(document, timeStamp)
  switch (sheet) {
    case 'section.pdf':
    case 'section.svg':
      return [halfSectionSheet(piece, paper)]
    case 'template.pdf':
      return templateSheets(piece, paper)
    case 'template.svg':
      return [templatePage(piece)]
  }
}

export interface SheetOptions {
  paper: Paper
  /** ISO 8601. */
  timeStamp: string
  /** Only PDF needs them. */
  fonts: () => Promise<SheetFonts>
}

/** The bytes of a sheet. @throws CoreError as `sheetPages` does */
export async function writeSheet(
  document: PieceDocument,
  sheet: Sheet,
  { paper, timeStamp, fonts }: SheetOptions,
): Promise<Uint8Array<ArrayBuffer>> {
  const pages = sheetPages(document, sheet, paper, timeStamp)
  const title = `${document.name}, ${SHEETS[sheet].name.replace(/ (PDF|SVG)$/, '').toLowerCase()}`
  if (sheet.endsWith('.svg')) return writeSheetSvg(pages[0]!, title)
  // The library is large and rarely needed.
  const { writePdf } = await import('../sheet/to-pdf')
  return writePdf(pages, { title, timeStamp }, await fonts())
}

/** Two standard errors of the scale less than this share aren't worth more digits, and 1 in 10,000 is beyond any photo. */
const LEAST_UNCERTAINTY = 1e-4

function sheetPiece(document: PieceDocument, timeStamp: string): SheetPiece {
  const solid = requireSolid(document)
  const { calibration } = derive(document)
  const { factor } = document.calibration.finish
  const { solids, left } = turnedSolids(document, solid)
  const unit = document.unit
  const lengthText = (mm: number) =>
    trimmed(formatLength(mm, { unit, withUnit: false, ...(unit === 'mm' && { decimals: 1 }) }))
  const { wall } = document.solid
  const relative = calibration.scale ? Math.max(2 * calibration.scale.relativeSe, LEAST_UNCERTAINTY) : null
  const notes = [
    ...(wall
      ? [
          `Wall ${lengthText(wall.mm * factor)}, floor ${lengthText(wall.floorMm * factor)} ${typedUnit(unit)}${wall.levels.length ? '; the wall changes along the height' : ''}.`,
        ]
      : []),
    ...(left.length > 0 ? [`Not shown, as it is not turned about the axis: ${left.join(', ')}.`] : []),
    ...(factor === 1
      ? []
      : [`Drawn at its finished size: ${Number(factor.toPrecision(6))} × what was measured.`]),
    relative === null
      ? 'Sizes were drawn, not measured in a photo.'
      : `Sizes come from a photo; its scale is certain to ± ${(100 * relative).toPrecision(2)} % (two standard errors). This is no manufacturing tolerance.`,
  ]
  return {
    name: document.name,
    solids: solids.map(({ name, segments }) => ({ name, segments: finishedSegments(document, segments) })),
    stations: document.stations.map(({ name, z }) => ({ name, z: z * factor })),
    lengthText,
    unit: typedUnit(unit),
    timeStamp,
    material: materialOf(document.solid.material ?? null)?.name ?? null,
    notes,
  }
}

/** The body with its wall and all parts that are turned about the same axis; and what is left out, by name. */
function turnedSolids(
  document: PieceDocument,
  solid: SolidProfile,
): { solids: SheetSolid[]; left: string[] } {
  const solids: SheetSolid[] = [{ name: document.name, segments: solid.segments }]
  const left: string[] = []
  for (const part of document.parts.filter((p) => p.shown)) {
    const segments = isExact(part) ? turnedSegments(part, solid) : null
    if (segments) solids.push({ name: part.name, segments })
    else left.push(part.name)
  }
  return { solids, left }
}

/** "64.0" stays, "1.500" becomes "1.5". */
const trimmed = (words: string) =>
  /\.\d{2,}$/.test(words) ? words.replace(/0+$/, '').replace(/\.$/, '') : words
