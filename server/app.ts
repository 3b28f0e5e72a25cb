import express, { type Express } from 'express'
import type { Logger } from 'pino'
import { pinoHttp } from 'pino-http'
import { guard } from './http/guard'
import { pages, securityHeaders } from './http/pages'
import { notFound, problemHandler } from './http/problem'
import { archiveRoutes } from './routes/archive'
import { photoRoutes } from './routes/photos'
import { pieceRoutes } from './routes/pieces'
import type { Storage } from './storage/storage'

export interface AppOptions {
  storage: Storage
  logger: Logger
  /** Folder of the built web app. */
  distDir: string
  allowedHosts?: readonly string[]
}

/** The whole server without a socket, so that tests can call it. */
export function createApp({ storage, logger, distDir, allowedHosts = [] }: AppOptions): Express {
  const app = express()
  app.disable('x-powered-by')
  app.set('query parser', 'simple')
  app.use(
    pinoHttp({ logger, autoLogging: { ignore: (request) => request.url?.startsWith('/assets') ?? false } }),
  )
  app.use(...securityHeaders())
  app.use(guard(allowedHosts))
  app.get(
    '/api/health',
    (_request, response) => void response.set('Cache-Control', 'no-store').json({ ok: true }),
  )
  app.use('/api/pieces', pieceRoutes(storage))
  app.use('/api/photos', photoRoutes(storage))
  app.use('/api/archive', archiveRoutes(storage))
  app.use('/api', notFound)
  app.use(pages(distDir))
  app.use(notFound)
  app.use(problemHandler)
  return app
}
