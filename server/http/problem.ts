import type { ErrorRequestHandler, RequestHandler, Response } from 'express'
import { CoreError } from '../../core/errors'

/** An error that the client is told about, as problem details (RFC 9457). */
export class HttpProblem extends Error {
  constructor(
    readonly status: number,
    /** Short name of the kind of problem; becomes the last part of `type`. */
    readonly code: string,
    /** One or two sentences for people: what is wrong and what to do. */
    readonly detail: string,
    /** Further members. */
    readonly extra: Record<string, unknown> = {},
  ) {
    super(detail)
  }
}

const TITLES: Record<number, string> = {
  400: 'Not understood',
  403: 'Refused',
  404: 'Not found',
  412: 'Changed elsewhere',
  413: 'Too large',
  415: 'Unsupported type',
  422: 'Not usable',
  428: 'Revision missing',
  500: 'Error in the server',
}

function send(response: Response, problem: HttpProblem): void {
  response
    .status(problem.status)
    .type('application/problem+json')
    .set('Cache-Control', 'no-store')
    .send(
      JSON.stringify({
        type: `/problems/${problem.code}`,
        title: TITLES[problem.status] ?? 'Error',
        status: problem.status,
        detail: problem.detail,
        ...problem.extra,
      }),
    )
}

export const notFound: RequestHandler = () => {
  throw new HttpProblem(404, 'no-such-address', 'There is nothing at this address.')
}

/** Express' last handler: everything that was thrown becomes problem details. */
export const problemHandler: ErrorRequestHandler = (error, request, response, next) => {
  if (response.headersSent) {
    next(error)
    return
  }
  const problem = asProblem(error)
  if (problem.status >= 500) request.log?.error(error)
  send(response, problem)
}

function asProblem(error: unknown): HttpProblem {
  if (error instanceof HttpProblem) return error
  if (error instanceof CoreError) {
    return new HttpProblem(422, error.code, error.message, {
      where: error.where,
      expected: error.expected,
      received: error.received,
    })
  }
  // Errors of Express' own body parsers and multer carry a status or a code.
  const { type, code } = error as { type?: string; code?: string }
  if (type === 'entity.too.large' || code === 'LIMIT_FILE_SIZE') {
    return new HttpProblem(
      413,
      'too-large',
      'That is too large: a photo may have up to 50 MB, a piece up to 8 MB.',
    )
  }
  if (type === 'entity.parse.failed')
    return new HttpProblem(400, 'not-json', 'The request is not valid JSON.')
  if (typeof code === 'string' && code.startsWith('LIMIT_')) {
    return new HttpProblem(400, 'bad-upload', 'Send one photo in the field “photo”.')
  }
  const status = (error as { status?: unknown }).status
  if (typeof status === 'number' && status >= 400 && status < 500) {
    return new HttpProblem(status, 'bad-request', 'The request is not understood.')
  }
  return new HttpProblem(
    500,
    'internal',
    'Something went wrong in the server; nothing was changed. Try again.',
  )
}
