import type { RequestHandler } from 'express'
import { HttpProblem } from './problem'

const LOOPBACK = new Set(['localhost', '127.0.0.1', '[::1]'])

/**
 * Refuses requests that a page from elsewhere makes: a Host name that isn't ours (DNS rebinding), an Origin
 * that isn't the address the app is called at, and, for the API, anything the browser marks as cross-site.
 */
export function guard(allowedHosts: readonly string[]): RequestHandler {
  const allowed = new Set([...LOOPBACK, ...allowedHosts.map((h) => h.toLowerCase())])
  return (request, _response, next) => {
    const host = (request.headers.host ?? '').toLowerCase()
    const name = host.replace(/:\d+$/, '')
    if (!allowed.has(name)) {
      throw new HttpProblem(
        403,
        'wrong-host',
        'This app is not served under that name. Start it with --allow-host to permit it.',
      )
    }
    const { origin } = request.headers
    if (origin !== undefined && hostOf(origin) !== host) {
      throw new HttpProblem(403, 'wrong-origin', 'Requests from other pages are refused.')
    }
    const site = request.headers['sec-fetch-site']
    if (request.path.startsWith('/api/') && (site === 'cross-site' || site === 'same-site')) {
      throw new HttpProblem(403, 'wrong-origin', 'Requests from other pages are refused.')
    }
    next()
  }
}

function hostOf(origin: string): string | undefined {
  try {
    return new URL(origin).host.toLowerCase()
  } catch {
    return undefined
  }
}
