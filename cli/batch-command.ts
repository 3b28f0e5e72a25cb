import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { derive } from '../core/piece/derive'
import { plainFileName } from '../core/piece/file-name'
import { readPieces, type FiledPiece } from './read-piece'
import { UsageError } from './usage'
import { filesOf, formatsOf, putFiles, type WriteFlags } from './write-files'

/** What became of one piece. */
interface Row {
  file: string
  name: string
  heightMm: number | null
  maxDiameterMm: number | null
  volumeMm3: number | null
  written: number
  problem: string
}

/**
 * Every document and archive of a folder: measured, and written in the formats asked for. One that can't be is said and the rest go on.
 * @returns the summary as text, and whether all went well
 */
export async function batch(
  folder: string,
  flags: WriteFlags & { out?: string },
): Promise<{ text: string; ok: boolean }> {
  const files = readdirSync(folder).filter((f) => /\.(json|zip)$/i.test(f)).sort() // prettier-ignore
  if (files.length === 0) throw new UsageError(`“${folder}” holds no document (.json) and no archive (.zip).`)
  const formats = flags.format === undefined ? [] : formatsOf(flags.format)
  if (formats.length > 0 && !flags.out)
    throw new UsageError('Files of a folder need --out with another folder.')
  const taken = new Set<string>()
  const rows: Row[] = []
  for (const file of files) {
    let pieces: FiledPiece[]
    try {
      pieces = await readPieces(join(folder, file))
    } catch (error) {
      rows.push({ file, name: '–', heightMm: null, maxDiameterMm: null, volumeMm3: null, written: 0, problem: (error as Error).message }) // prettier-ignore
      continue
    }
    for (const piece of pieces) {
      const { document } = piece
      const { measures } = derive(document)
      const { factor } = document.calibration.finish
      const row: Row = {
        file,
        name: document.name,
        heightMm: measures && measures.heightMm * factor,
        maxDiameterMm: measures && 2 * measures.maxRadiusMm * factor,
        volumeMm3: measures && measures.volumeMm3 * factor ** 3,
        written: 0,
        problem: measures ? '' : 'no closed half-profile',
      }
      if (formats.length > 0) {
        try {
          const base = freeName(document.name, taken)
          const made = await filesOf(piece, formats, base, flags)
          taken.add(base)
          row.written = putFiles(made, `${flags.out}/`).length
        } catch (error) {
          if (error instanceof UsageError) throw error
          row.problem = (error as Error).message
        }
      }
      rows.push(row)
    }
  }
  return { text: table(rows), ok: rows.every((r) => r.problem === '') }
}

/** Two pieces of one name don't overwrite each other. */
function freeName(name: string, taken: ReadonlySet<string>): string {
  const base = plainFileName(name)
  let own = base
  for (let k = 2; taken.has(own); k++) own = `${base}-${k}`
  return own
}

function table(rows: readonly Row[]): string {
  const figure = (v: number | null, digits: number) => (v === null ? '–' : v.toFixed(digits))
  const cells = [
    ['piece', 'height mm', '⌀ mm', 'volume ml', 'files', ''],
    ...rows.map((r) => [`${r.name} (${r.file})`, figure(r.heightMm, 2), figure(r.maxDiameterMm, 2), figure(r.volumeMm3 && r.volumeMm3 / 1000, 1), String(r.written), r.problem]), // prettier-ignore
  ]
  const widths = cells[0]!.map((_, k) => Math.max(...cells.map((row) => row[k]!.length)))
  const lines = cells.map((row) => row.map((cell, k) => (k === 0 || k === 5 ? cell.padEnd(widths[k]!) : cell.padStart(widths[k]!))).join('  ').trimEnd()) // prettier-ignore
  const failed = rows.filter((r) => r.problem !== '').length
  return `${lines.join('\n')}\n${rows.length - failed} of ${rows.length} pieces went well.`
}
