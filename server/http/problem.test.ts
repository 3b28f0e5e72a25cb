import express from 'express'
import type { AddressInfo } from 'node:net'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { CoreError } from '../../core/errors'
import { HttpProblem, notFound, problemHandler } from './problem'

/** Everything that a route may throw, by its path. */
const THROWN: Record<string, unknown> = {
  own: new HttpProblem(412, 'changed', 'Somebody else changed it.', { revision: 7 }),
  core: new CoreError({ code: 'lid-too-wide', message: 'The lid is too wide.', where: 'lid', expected: 'up to 40 mm', received: '52 mm' }), // prettier-ignore
  large: Object.assign(new Error('too large'), { type: 'entity.too.large', status: 413 }),
  file: Object.assign(new Error('File too large'), { code: 'LIMIT_FILE_SIZE' }),
  files: Object.assign(new Error('Unexpected field'), { code: 'LIMIT_UNEXPECTED_FILE' }),
  other: Object.assign(new Error('URI malformed'), { status: 400 }),
  bug: new TypeError('x is not a function'),
  text: 'thrown as it is',
}

const app = express()
app.use(express.json({ limit: 100 }))
app.post('/echo', (request, response) => void response.json(request.body))
app.get('/throw/:what', (request) => {
  throw THROWN[request.params.what]
})
app.use(notFound)
app.use(problemHandler)
const server = app.listen(0)
let root = ''
beforeAll(() => {
  root = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
})
afterAll(() => new Promise((done) => server.close(done)))

async function answer(path: string, init?: RequestInit) {
  const response = await fetch(root + path, init)
  const body = (await response.json()) as Record<string, unknown>
  return { status: response.status, type: response.headers.get('content-type'), cache: response.headers.get('cache-control'), body } // prettier-ignore
}

describe('errors as problem details (RFC 9457)', () => {
  it('carry type, title, status and detail, their own members, and are kept by nobody', async () => {
    const { status, type, cache, body } = await answer('/throw/own')
    expect(status).toBe(412)
    expect(type).toMatch(/^application\/problem\+json/)
    expect(cache).toBe('no-store')
    expect(body).toEqual({
      type: '/problems/changed',
      title: 'Changed elsewhere',
      status: 412,
      detail: 'Somebody else changed it.',
      revision: 7,
    })
  })

  it('of the core are not usable, and say where', async () => {
    const { status, body } = await answer('/throw/core')
    expect(status).toBe(422)
    expect(body).toMatchObject({ type: '/problems/lid-too-wide', where: 'lid', expected: 'up to 40 mm', received: '52 mm' }) // prettier-ignore
  })

  it('of uploads and bodies say what may be sent', async () => {
    for (const what of ['large', 'file']) {
      const { status, body } = await answer(`/throw/${what}`)
      expect(status).toBe(413)
      expect(body.detail).toMatch(/up to 50 MB/)
    }
    expect((await answer('/throw/files')).body).toMatchObject({ status: 400, type: '/problems/bad-upload' })
    const post = (body: string) => answer('/echo', { method: 'POST', headers: { 'content-type': 'application/json' }, body }) // prettier-ignore
    expect((await post('{"a":')).body).toMatchObject({ status: 400, type: '/problems/not-json' })
    expect((await post(JSON.stringify({ a: 'x'.repeat(200) }))).status).toBe(413)
    expect((await post('{"a":1}')).body).toEqual({ a: 1 })
  })

  it('that nobody foresaw tell nothing of the inside', async () => {
    expect((await answer('/throw/other')).body).toMatchObject({ status: 400, type: '/problems/bad-request' })
    for (const what of ['bug', 'text']) {
      const { status, body } = await answer(`/throw/${what}`)
      expect(status).toBe(500)
      expect(JSON.stringify(body)).not.toMatch(/not a function|thrown as it is/)
      expect(body.detail).toMatch(/nothing was changed/)
    }
  })

  it('of addresses where nothing is say so', async () => {
    expect((await answer('/nowhere')).body).toMatchObject({ status: 404, type: '/problems/no-such-address' })
  })
})
