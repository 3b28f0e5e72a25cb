import { mkdirSync, statSync, writeFileSync } from 'node:fs'
import { basename, dirname, join } from 'node:path'
import { deliver, DELIVERABLES, type Deliverable } from '../core/piece/deliver'
import type { MeshAxes, NamedFile } from '../core/piece/hand-over'
import { isAssembled } from '../core/piece/plan-assembly'
import { PAPERS, type Paper } from '../core/sheet/paper'
import { MM_PER_UNIT } from '../core/units/units'
import { loadFonts } from './fonts'
import { loadKernel } from './kernel'
import type { FiledPiece } from './read-piece'
import { UsageError } from './usage'

/** Options of all commands that write files, as typed. */
export interface WriteFlags {
  format?: string
  sides?: string
  unit?: string
  up?: string
  paper?: string
  time?: string
}

export const WRITE_FLAGS = {
  format: { type: 'string' },
  sides: { type: 'string' },
  unit: { type: 'string' },
  up: { type: 'string' },
  paper: { type: 'string' },
  time: { type: 'string' },
} as const

/** The formats of a comma-separated list. @throws UsageError for one that isn't known */
export function formatsOf(list: string | undefined): Deliverable[] {
  const known = Object.keys(DELIVERABLES).join(', ')
  if (!list) throw new UsageError(`--format is one or more of ${known}, parted by commas.`)
  return list.split(',').map((name) => {
    const format = name.trim()
    if (!Object.hasOwn(DELIVERABLES, format)) throw new UsageError(`“${format}” is no format here; --format is one or more of ${known}.`) // prettier-ignore
    return format as Deliverable
  })
}

/** The files of a piece, all called by one name; the same bytes as the bench writes. @throws CoreError, UsageError */
export async function filesOf(
  { document, pictures }: FiledPiece,
  formats: readonly Deliverable[],
  baseName: string,
  flags: WriteFlags,
): Promise<NamedFile[]> {
  const { unit = 'mm', up = 'z', paper = 'A4', time, sides } = flags
  if (!['mm', 'cm', 'm', 'in'].includes(unit) || !(unit in MM_PER_UNIT))
    throw new UsageError('--unit is mm, cm, m or in.')
  if (up !== 'y' && up !== 'z') throw new UsageError('--up is y or z.')
  if (!Object.hasOwn(PAPERS, paper))
    throw new UsageError(`--paper is one of ${Object.keys(PAPERS).join(', ')}.`)
  return deliver(document, formats, baseName, {
    sides: sides === undefined ? undefined : Number(sides),
    axes: { unit: unit as MeshAxes['unit'], up },
    paper: paper as Paper,
    timeStamp: time,
    pictures,
    fonts: loadFonts,
    kernel: isAssembled(document) ? await loadKernel() : undefined,
  })
}

/**
 * Writes files: a single one to standard output or under the name given, several into the folder given.
 * @returns where they are
 */
export function putFiles(files: readonly NamedFile[], out: string | undefined): string[] {
  const [first] = files
  if (!out) {
    if (files.length !== 1) throw new UsageError('Several files need --out with a folder.')
    process.stdout.write(first![1])
    return []
  }
  if (files.length === 1 && !isFolder(out)) {
    mkdirSync(dirname(out), { recursive: true })
    writeFileSync(out, first![1])
    return [out]
  }
  mkdirSync(out, { recursive: true })
  return files.map(([name, bytes]) => {
    const path = join(out, basename(name))
    writeFileSync(path, bytes)
    return path
  })
}

function isFolder(path: string): boolean {
  try {
    return statSync(path).isDirectory()
  } catch {
    return path.endsWith('/')
  }
}
