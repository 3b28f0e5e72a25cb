import { parseArgs } from 'node:util'
import { isSheet } from '../core/piece/deliver'
import { plainFileName } from '../core/piece/file-name'
import { FORMATS } from '../core/piece/hand-over'
import { isAssembled } from '../core/piece/plan-assembly'
import { SHEETS } from '../core/piece/sheets'
import { batch } from './batch-command'
import { checkPiece } from './check'
import { loadKernel } from './kernel'
import { readFirstPiece } from './read-piece'
import { UsageError } from './usage'
import { filesOf, formatsOf, putFiles, WRITE_FLAGS } from './write-files'

const HELP = `Usage: npm run --silent cli -- COMMAND … [options]

  check DOCUMENT                     measures of a piece as JSON
  solid DOCUMENT --format F[,F…]     files of a piece: ${Object.keys(FORMATS).join(', ')}
  sheet DOCUMENT --format F[,F…]     printed sheets: ${Object.keys(SHEETS).join(', ')} [--paper A4|A3|Letter]
  batch FOLDER [--format F[,F…]]     all documents and archives of a folder: measured, written into --out, summed up
  profile PHOTO --height "138 mm"    the half-profile found in a photo, as JSON, SVG, CSV or STL;
                                     profile --help lists its options

Options of what writes files:
  --out FILE or FOLDER               one file: standard output without it; several: a folder
  --sides N                          sides of meshes instead of the document's
  --unit mm|cm|m|in, --up y|z        of STL, OBJ and PLY (usual: mm, z)
  --time 2026-03-14T10:00:00         for formats that carry a time stamp

DOCUMENT is the JSON of a piece, as the app saves it or /api/pieces/ID answers it, or an archive (.zip), of which the first
piece is taken. Exit codes: 0 done, 1 the piece can't be handed over, 2 the command was not understood.`

/** Runs `check`, `solid`, `sheet` or `batch`, or prints the help. @throws UsageError for what isn't understood, CoreError */
export async function documentCommands(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { ...WRITE_FLAGS, out: { type: 'string' }, help: { type: 'boolean', short: 'h' } },
  })
  const [command, file] = positionals
  if (values.help || !command) {
    console.log(HELP)
    if (!values.help) process.exitCode = 2
    return
  }
  if (!['check', 'solid', 'sheet', 'batch'].includes(command))
    throw new UsageError(`“${command}” is not a command here.`)
  if (!file) throw new UsageError(`“${command}” needs the file of a document, or a folder of them.`)
  if (command === 'batch') {
    const { text, ok } = await batch(file, values)
    console.log(text)
    if (!ok) process.exitCode = 1
    return
  }
  const piece = await readFirstPiece(file)
  const { document } = piece
  if (command === 'check') {
    const kernel = isAssembled(document) ? await loadKernel() : undefined
    console.log(JSON.stringify(checkPiece(document, kernel), null, 1))
    return
  }
  const formats = formatsOf(values.format)
  const wrong = formats.find((f) => isSheet(f) !== (command === 'sheet'))
  if (wrong) throw new UsageError(`“${wrong}” is written by “${command === 'sheet' ? 'solid' : 'sheet'}”.`)
  const files = await filesOf(piece, formats, plainFileName(document.name), values)
  // An OBJ's materials go where there is a place for them.
  const alone = formats.length === 1 && files.length > 1 && (!values.out || /\.obj$/i.test(values.out))
  putFiles(alone ? files.slice(0, 1) : files, values.out)
}
