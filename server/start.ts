import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { join } from 'node:path'
import { pino } from 'pino'
import { createApp } from './app'
import type { Settings } from './config'
import { SqliteStorage } from './storage/sqlite'
import type { Storage } from './storage/storage'

export interface RunningServer {
  address: string
  storage: Storage
  /** Answers what is under way, then closes sockets and database. */
  stop(): Promise<void>
}

/** Deleted pieces can be brought back for this long, days. */
const KEEP_DELETED_DAYS = 30
/** How many following ports are tried when the wanted one is in use. */
const PORTS_TRIED = 20
/** Requests that take longer than this after a stop are cut, ms. */
const STOP_GRACE_MS = 5000

/** Opens the database, runs `prepare` (the demo data), and listens. */
export async function startServer(
  settings: Settings,
  prepare?: (storage: Storage) => Promise<void>,
): Promise<RunningServer> {
  const logger = pino({ level: settings.logLevel })
  const storage = await SqliteStorage.open(join(settings.dataDir, 'baldacchino.sqlite'))
  await storage.purge(new Date(Date.now() - KEEP_DELETED_DAYS * 86_400_000))
  await prepare?.(storage)
  const app = createApp({
    storage,
    logger,
    distDir: join(import.meta.dirname, '..', 'dist'),
    allowedHosts: settings.allowedHosts,
  })
  const server = createServer(app)
  await listen(server, settings)
  const { port } = server.address() as AddressInfo
  const shown = settings.host.includes(':') ? `[${settings.host}]` : settings.host
  return {
    address: `http://${shown}:${port}`,
    storage,
    async stop() {
      const closed = new Promise((resolve) => server.close(resolve))
      server.closeIdleConnections()
      const cut = setTimeout(() => server.closeAllConnections(), STOP_GRACE_MS)
      await closed
      clearTimeout(cut)
      await storage.close()
    },
  }
}

async function listen(server: Server, { port, host, anyPort }: Settings): Promise<void> {
  for (let tried = 0; ; tried++) {
    try {
      await listenOnce(server, port === 0 ? 0 : port + tried, host)
      return
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EADDRINUSE' || !anyPort || tried >= PORTS_TRIED)
        throw error
    }
  }
}

function listenOnce(server: Server, port: number, host: string): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, host, () => {
      server.off('error', reject)
      resolve()
    })
  })
}
