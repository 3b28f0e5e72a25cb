import { lineUpSheet, type LineUpPiece } from '../sheet/line-up'
import type { Page } from '../sheet/drawing'
import type { Paper } from '../sheet/paper'
import { writeSheetSvg } from '../sheet/to-svg'
import { formatLength } from '../units/format-length'
import { typedUnit, type DisplayUnit } from '../units/units'
import type { LineUpEntry } from './line-up'
import type { SheetOptions } from './sheets'

export interface LineUpWish {
  /** Of the set. */
  name: string
  unit: DisplayUnit
  entries: readonly LineUpEntry[]
}

/** Columns of the table beside the name. */
export const LINE_UP_COLUMNS = [
  'Height',
  '⌀',
  'Volume',
  'Holds',
  'Material',
  'Mass',
  'Size ×',
  '± of lengths',
] as const

/** The cells of a piece's row, in the order of `LINE_UP_COLUMNS`; volumes in ml, masses in g. */
export function lineUpCells(entry: LineUpEntry, unit: DisplayUnit): string[] {
  const ml = (mm3: number) => `${figures(mm3 / 1000)} ml`
  return [
    formatLength(entry.heightMm, { unit }),
    formatLength(entry.maxDiameterMm, { unit }),
    ml(entry.volumeMm3) + (entry.hasParts ? ' *' : ''),
    entry.capacityMm3 === null ? '–' : ml(entry.capacityMm3),
    entry.material ?? '–',
    entry.massG === null ? '–' : `${figures(entry.massG)} g${entry.hasParts ? ' *' : ''}`,
    entry.factor === 1 ? '1' : String(Number(entry.factor.toPrecision(5))),
    entry.relativeSe === null ? '–' : `${(200 * entry.relativeSe).toPrecision(2)} %`,
  ]
}

export const PARTS_NOTE = '* of the turned body alone, without its parts'
export const ERROR_NOTE = '± of lengths: two standard errors of the scale found in the photo'

const figures = (value: number) =>
  value >= 100 ? value.toFixed(0) : value >= 10 ? value.toFixed(1) : value.toFixed(2)

/** The sheet of a set. @throws nothing for entries that `lineUpEntry` made */
export function lineUpPage({ name, unit, entries }: LineUpWish, paper: Paper, timeStamp: string): Page {
  const lengthText = (mm: number) =>
    formatLength(mm, { unit, withUnit: false, ...(unit === 'mm' && { decimals: 1 }) })
  const pieces = entries.map((entry): LineUpPiece => ({ ...entry, cells: lineUpCells(entry, unit) }))
  const notes = [...(entries.some((e) => e.hasParts) ? [PARTS_NOTE] : []), ERROR_NOTE]
  return lineUpSheet({ name, pieces, columns: LINE_UP_COLUMNS, lengthText, unit: typedUnit(unit), timeStamp, notes }, paper) // prettier-ignore
}

/** The bytes of the sheet. */
export async function writeLineUp(
  wish: LineUpWish,
  format: 'pdf' | 'svg',
  { paper, timeStamp, fonts }: SheetOptions,
): Promise<Uint8Array<ArrayBuffer>> {
  const page = lineUpPage(wish, paper, timeStamp)
  const title = `${wish.name}, line-up`
  if (format === 'svg') return writeSheetSvg(page, title)
  const { writePdf } = await import('../sheet/to-pdf')
  return writePdf([page], { title, timeStamp }, await fonts())
}
