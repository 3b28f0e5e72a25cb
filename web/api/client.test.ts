import { afterEach, describe, expect, it, vi } from 'vitest'
import { newPiece } from '../../core/piece/schema'
import { api, ApiError } from './client'

/** What the page asked for, and what it is answered. */
function answer(status: number, body: unknown) {
  const asked: { url: string; init: RequestInit }[] = []
  vi.stubGlobal('fetch', (url: string, init: RequestInit) => {
    asked.push({ url, init })
    return Promise.resolve(
      new Response(typeof body === 'string' ? body : JSON.stringify(body), { status: status || 200 }),
    )
  })
  return asked
}

afterEach(() => vi.unstubAllGlobals())

describe('what the page asks the server', () => {
  it('saves on top of the revision it knows, as JSON', async () => {
    const asked = answer(200, { revision: 8, updatedAt: 'now' })
    const document = newPiece('Vase')
    expect(await api.savePiece('a-1', 7, document, true)).toEqual({ revision: 8, updatedAt: 'now' })
    const [{ url, init }] = asked as [(typeof asked)[0]]
    expect([url, init.method, init.keepalive]).toEqual(['/api/pieces/a-1', 'PUT', true])
    expect(init.headers).toEqual({ 'Content-Type': 'application/json', 'If-Match': '"7"' })
    expect(JSON.parse(init.body as string)).toEqual({
      document: JSON.parse(JSON.stringify(document)) as unknown,
    })
  })

  it('escapes what stands in addresses', async () => {
    const asked = answer(200, {})
    await api.getPiece('../photos')
    expect(asked[0]!.url).toBe('/api/pieces/..%2Fphotos')
    expect(api.archiveUrl(['a', 'b'], 'Lamps & more')).toBe('/api/archive?ids=a%2Cb&name=Lamps+%26+more')
    expect(api.archiveUrl(['a'], null)).toBe('/api/archive?ids=a')
  })

  it('sends files as they are', async () => {
    const asked = answer(200, { sha256: 'x' })
    const file = new File([Uint8Array.of(1, 2, 3)], 'side.jpg', { type: 'image/jpeg' })
    await api.uploadPhoto(file)
    const sent = (asked[0]!.init.body as FormData).get('photo') as File
    expect([sent.name, sent.size]).toEqual(['side.jpg', 3])
  })
})

describe('a refusal', () => {
  const refusal = async (job: Promise<unknown>) => (await job.catch((e: unknown) => e)) as ApiError

  it('says the server’s sentence, with its code and what else it tells', async () => {
    answer(412, { type: '/problems/changed-elsewhere', detail: 'Someone saved it since.', current: 9 })
    const error = await refusal(api.savePiece('a', 1, newPiece('Vase')))
    expect(error).toBeInstanceOf(ApiError)
    expect([error.status, error.code, error.message]).toEqual([
      412,
      'changed-elsewhere',
      'Someone saved it since.',
    ])
    expect(error.extra.current).toBe(9)
  })

  it('without a sentence is still said', async () => {
    answer(502, '<html>Bad gateway</html>')
    const error = await refusal(api.listPieces())
    expect([error.status, error.code]).toEqual([502, 'unknown'])
    expect(error.message).toBe('The server answered with an error (502).')
  })

  it('by no answer at all asks whether the server runs', async () => {
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('failed to fetch')))
    const error = await refusal(api.deletePiece('a'))
    expect([error.status, error.code]).toEqual([0, 'no-answer'])
    expect(error.message).toMatch(/doesn’t answer\. Is it still running\?/)
  })
})
