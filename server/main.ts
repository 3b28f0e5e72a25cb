import { readSettings } from './config'
import { startServer } from './start'

try {
  const running = await startServer(readSettings(process.argv.slice(2), process.env))
  let stopping = false
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.on(signal, () => {
      if (stopping) process.exit(1)
      stopping = true
      void running.stop().then(() => process.exit(0))
    })
  }
  // Said last: whoever reads it may end the server at once.
  console.log(`Baldacchino is open at ${running.address}`)
} catch (error) {
  const { code, message } = error as NodeJS.ErrnoException
  console.error(
    code === 'EADDRINUSE' ? 'The port is in use; choose another with --port, or add --any-port.' : message,
  )
  process.exit(1)
}
