import { readFileSync, writeFileSync } from 'node:fs'
import { parseArgs } from 'node:util'
import { CoreError } from '../core/errors'
import { checkPiece } from './check'
import { FORMATS, handOver, type Format } from '../core/piece/hand-over'
import { parseLength } from '../core/units/parse-length'
import { profileOfPhoto } from './profile'
import { readPiece } from './read-piece'

const HELP = `Usage: npm run --silent cli -- COMMAND DOCUMENT [options]

  check DOCUMENT                     measures of a piece as JSON
  solid DOCUMENT --format F          write a file of the piece: ${Object.keys(FORMATS).join(', ')}
        [--sides N] [--out FILE]     sides instead of the document's; standard output without --out
  profile PHOTO --height "138 mm"    the half-profile found in a photo, as JSON
        [--distance "1.2 m"]         camera to axis, by tape
        [--view distant]             parallel rays, even if the file knows its lens
        [--lying] [--out FILE]       the axis lies level, its top to the right

DOCUMENT is the JSON of a piece, as /api/pieces/ID answers it. Exit codes: 0 done, 1 the piece can't be
handed over, 2 the command was not understood.`

/** Wrong use of the command line, as against a piece that has a fault. */
class UsageError extends Error {}

async function main(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      format: { type: 'string' },
      sides: { type: 'string' },
      out: { type: 'string' },
      height: { type: 'string' },
      distance: { type: 'string' },
      view: { type: 'string' },
      lying: { type: 'boolean' },
      help: { type: 'boolean', short: 'h' },
    },
  })
  const [command, file] = positionals
  if (values.help || !command) {
    console.log(HELP)
    if (!values.help) process.exitCode = 2
    return
  }
  if (!file) throw new UsageError(`“${command}” needs the file of a document or a photo.`)
  if (command === 'profile') {
    const { height, distance, view = 'near', lying = false, out } = values
    if (height === undefined)
      throw new UsageError('--height says how tall the piece is, as in --height "138 mm".')
    if (view !== 'near' && view !== 'distant') throw new UsageError('--view is near or distant.')
    const result = await profileOfPhoto(file, {
      heightMm: lengthOf(height, '--height'),
      distanceMm: distance === undefined ? null : lengthOf(distance, '--distance'),
      view,
      lying,
    })
    const text = JSON.stringify(result)
    if (out) writeFileSync(out, text)
    else console.log(text)
    return
  }
  const document = readPiece(readFileSync(file, 'utf8'))
  if (command === 'check') {
    console.log(JSON.stringify(checkPiece(document), null, 1))
  } else if (command === 'solid') {
    if (!Object.hasOwn(FORMATS, values.format ?? ''))
      throw new UsageError(`--format is one of ${Object.keys(FORMATS).join(', ')}.`)
    const sides = values.sides === undefined ? document.solid.sides : Number(values.sides)
    const bytes = handOver(document, values.format as Format, sides)
    if (values.out) writeFileSync(values.out, bytes)
    else process.stdout.write(bytes)
  } else throw new UsageError(`“${command}” is not a command here.`)
}

function lengthOf(text: string, option: string): number {
  const read = parseLength(text)
  if (!read.ok) throw new UsageError(`${option}: ${read.problem.message}`)
  return read.mm
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
