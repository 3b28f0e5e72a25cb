import { readFileSync, writeFileSync } from 'node:fs'
import { parseArgs } from 'node:util'
import { CoreError } from '../core/errors'
import { checkPiece } from './check'
import { FORMATS, handOver, type Format } from '../core/piece/hand-over'
import { isAssembled } from '../core/piece/plan-assembly'
import { loadKernel } from './kernel'
import { profileCommand } from './profile-command'
import { readPiece } from './read-piece'
import { UsageError } from './usage'

const HELP = `Usage: npm run --silent cli -- COMMAND DOCUMENT [options]

  check DOCUMENT                     measures of a piece as JSON
  solid DOCUMENT --format F          write a file of the piece: ${Object.keys(FORMATS).join(', ')}
        [--sides N] [--out FILE]     sides instead of the document's; standard output without --out
  profile PHOTO --height "138 mm"    the half-profile found in a photo, as JSON, SVG, CSV or STL;
                                     profile --help lists its options

DOCUMENT is the JSON of a piece, as /api/pieces/ID answers it. Exit codes: 0 done, 1 the piece can't be
handed over, 2 the command was not understood.`

async function main(args: string[]): Promise<void> {
  if (args[0] === 'profile') return profileCommand(args.slice(1))
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      format: { type: 'string' },
      sides: { type: 'string' },
      out: { type: 'string' },
      help: { type: 'boolean', short: 'h' },
    },
  })
  const [command, file] = positionals
  if (values.help || !command) {
    console.log(HELP)
    if (!values.help) process.exitCode = 2
    return
  }
  if (!file) throw new UsageError(`“${command}” needs the file of a document.`)
  const document = readPiece(readFileSync(file, 'utf8'))
  const kernel = isAssembled(document) ? await loadKernel() : undefined
  if (command === 'check') {
    console.log(JSON.stringify(checkPiece(document, kernel), null, 1))
  } else if (command === 'solid') {
    if (!Object.hasOwn(FORMATS, values.format ?? ''))
      throw new UsageError(`--format is one of ${Object.keys(FORMATS).join(', ')}.`)
    const sides = values.sides === undefined ? document.solid.sides : Number(values.sides)
    const bytes = handOver(document, values.format as Format, { sides, kernel })
    if (values.out) writeFileSync(values.out, bytes)
    else process.stdout.write(bytes)
  } else throw new UsageError(`“${command}” is not a command here.`)
}

try {
  await main(process.argv.slice(2))
} catch (error) {
  const { code, message } = error as NodeJS.ErrnoException
  const usage = error instanceof UsageError || code?.startsWith('ERR_PARSE_ARGS')
  console.error(code === 'ENOENT' ? `There is no file “${(error as NodeJS.ErrnoException).path}”.` : message)
  if (usage) console.error('--help lists the commands.')
  process.exitCode = usage || (code === 'ENOENT' && !(error instanceof CoreError)) ? 2 : 1
}
