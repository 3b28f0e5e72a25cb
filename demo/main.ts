import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { readSettings } from '../server/config'
import { startServer } from '../server/start'
import { seed } from './seed'

/** Starts the app with the demo data: `npm run demo -- [--fresh] [--data DIR] [--port N]`. */
const args = process.argv.slice(2)
const fresh = args.includes('--fresh')
try {
  const settings = readSettings(['--any-port', ...args.filter((a) => a !== '--fresh')], process.env)
  if (fresh)
    for (const end of ['', '-wal', '-shm'])
      rmSync(join(settings.dataDir, `baldacchino.sqlite${end}`), { force: true })
  const running = await startServer(settings, seed)
  let stopping = false
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.on(signal, () => {
      if (stopping) process.exit(1)
      stopping = true
      void running.stop().then(() => {
        console.log('  Closed; everything is saved.')
        process.exit(0)
      })
    })
  }
  // Said last: whoever reads it may end the app at once.
  console.log(
    `\n  Baldacchino is open at ${running.address}\n  Your work is kept in ${settings.dataDir}. Ctrl+C ends it.\n`,
  )
} catch (error) {
  console.error((error as Error).message)
  process.exit(1)
}
