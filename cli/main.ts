import { CoreError } from '../core/errors'
import { UsageError } from './usage'

/** What a photo needs and what documents need is read only when it is asked for: most of a short run is reading code. */
async function main(args: string[]): Promise<void> {
  if (args[0] === 'profile') return (await import('./profile-command')).profileCommand(args.slice(1))
  return (await import('./document-commands')).documentCommands(args)
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
