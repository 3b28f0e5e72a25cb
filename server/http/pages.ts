import { randomBytes } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import express, { Router } from 'express'
import helmet from 'helmet'
import { HttpProblem } from './problem'

/** Placeholder that the build writes where the nonce of a request belongs; see vite.config.ts. */
const NONCE_PLACEHOLDER = '__CSP_NONCE__'

/** Security headers of every response. Style elements (the component library makes some at run time) need the nonce. */
export function securityHeaders() {
  return [
    (_request: express.Request, response: express.Response, next: express.NextFunction) => {
      response.locals.nonce = randomBytes(16).toString('base64')
      next()
    },
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          styleSrc: [
            "'self'",
            (_request, response) => `'nonce-${(response as express.Response).locals.nonce as string}'`,
          ],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          workerSrc: ["'self'"],
          manifestSrc: ["'self'"],
          baseUri: ["'none'"],
          formAction: ["'self'"],
          frameAncestors: ["'none'"],
        },
      },
      // Plain http on loopback: a promise of https would only lock people out.
      strictTransportSecurity: false,
      crossOriginResourcePolicy: { policy: 'same-origin' },
      referrerPolicy: { policy: 'no-referrer' },
    }),
  ]
}

/** The built web app: hashed assets for ever, the page itself fresh, every path of the app to the page. */
export function pages(distDir: string): Router {
  const router = Router()
  router.use(
    '/assets',
    express.static(join(distDir, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
  )
  router.use(express.static(distDir, { index: false, maxAge: '1h' }))
  router.get(/^\/(?!api\/).*/, (request, response, next) => {
    if (request.accepts('html') === false) return next()
    const file = join(distDir, 'index.html')
    if (!existsSync(file)) {
      throw new HttpProblem(404, 'not-built', 'The web app is not built yet; run `npm run build`.')
    }
    const html = readFileSync(file, 'utf8').replaceAll(NONCE_PLACEHOLDER, response.locals.nonce as string)
    response.type('html').set('Cache-Control', 'no-store').send(html)
  })
  return router
}
