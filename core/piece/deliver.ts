import { archive } from '../formats/archive'
import {
  FORMATS,
  handOverFiles,
  NO_TIME,
  type Format,
  type HandOverOptions,
  type NamedFile,
} from './hand-over'
import type { PieceDocument } from './schema'
import { SHEETS, writeSheet, type Sheet, type SheetOptions } from './sheets'

/** Anything that leaves: files of the solid and of its profile, and sheets. */
export const DELIVERABLES = { ...FORMATS, ...SHEETS }
export type Deliverable = Format | Sheet

export interface DeliverOptions
  extends Omit<HandOverOptions, 'onStep'>, Pick<SheetOptions, 'paper' | 'fonts'> {
  /** How much is done, 0 to 1, and what is being written. */
  onProgress?: (fraction: number, name: string) => void
}

export const isSheet = (wanted: Deliverable): wanted is Sheet => Object.hasOwn(SHEETS, wanted)

/**
 * One file of all that is wanted: itself where it is one, else a ZIP archive whose own time stamps are all the same.
 * @throws CoreError as `deliver` does
 */
export async function deliverTogether(
  document: PieceDocument,
  wanted: readonly Deliverable[],
  baseName: string,
  options: DeliverOptions,
): Promise<NamedFile> {
  const files = await deliver(document, wanted, baseName, options)
  if (files.length === 1) return files[0]!
  const suffix = wanted.length === 1 ? `.${DELIVERABLES[wanted[0]!].extension}` : ''
  return [`${baseName}${suffix}.zip`, archive(Object.fromEntries(files))]
}

/**
 * The files of a piece in the order they are wanted, all called by one name. The meshes are built once, with the first that
 * needs them.
 * @throws CoreError as `handOver` and `sheetPages` do; nothing is left out silently
 */
export async function deliver(
  document: PieceDocument,
  wanted: readonly Deliverable[],
  baseName: string,
  { onProgress, ...options }: DeliverOptions,
): Promise<NamedFile[]> {
  const files: NamedFile[] = []
  const solids = wanted.filter((w): w is Format => !isSheet(w))
  const sheets = wanted.filter(isSheet)
  const share = solids.length / wanted.length
  const onStep = (done: number, all: number) => onProgress?.((share * done) / Math.max(all, 1), 'solids')
  if (solids.length > 0) files.push(...handOverFiles(document, solids, baseName, { ...options, onStep }))
  for (const [k, sheet] of sheets.entries()) {
    onProgress?.(share + ((1 - share) * k) / sheets.length, SHEETS[sheet].name)
    const { timeStamp = NO_TIME, paper, fonts } = options
    const bytes = await writeSheet(document, sheet, { paper, timeStamp, fonts })
    files.push([`${baseName}.${SHEETS[sheet].extension}`, bytes])
  }
  onProgress?.(1, '')
  return files
}
