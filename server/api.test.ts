import { createHash } from 'node:crypto'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pino } from 'pino'
import sharp from 'sharp'
import request from 'supertest'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { newKnownSize } from '../core/calibrate/known-size'
import { newPiece, type PieceDocument } from '../core/piece/schema'
import { packSet } from '../core/piece/set-archive'
import { createApp } from './app'
import { MemoryStorage } from './storage/memory'
import { SqliteStorage } from './storage/sqlite'
import type { Storage } from './storage/storage'

const dir = mkdtempSync(join(tmpdir(), 'baldacchino-api-'))
writeFileSync(
  join(dir, 'index.html'),
  '<!doctype html><meta property="csp-nonce" nonce="__CSP_NONCE__"><title>x</title>',
)

const kinds: [string, () => Promise<Storage>][] = [
  ['SQLite', () => SqliteStorage.open(join(mkdtempSync(join(dir, 'db-')), 'test.sqlite'))],
  ['memory', async () => new MemoryStorage()],
]

const picture = (width = 60, height = 80) =>
  sharp({ create: { width, height, channels: 3, background: '#987' } })

describe.each(kinds)('API over %s', (_name, open) => {
  let storage: Storage
  let api: ReturnType<typeof request>
  beforeEach(async () => {
    storage = await open()
    api = request(createApp({ storage, logger: pino({ level: 'silent' }), distDir: dir }))
  })
  afterEach(async () => {
    await storage.close()
  })
  const create = async (document: PieceDocument = newPiece('Bottle')) =>
    (await api.post('/api/pieces').send({ document }).expect(201)).body as { id: string; revision: number }

  describe('sets', () => {
    it('keep the order their pieces are put in, and pieces move between them', async () => {
      const ids = []
      for (const name of ['A', 'B', 'C']) ids.push((await create(newPiece(name))).id)
      await api
        .post('/api/pieces/arrange')
        .send({ setName: 'Chess', ids: [ids[2], ids[0], ids[1]] })
        .expect(204)
      const listed = async () => (await api.get('/api/pieces')).body as { name: string; setName: string | null; place: number | null; revision: number }[] // prettier-ignore
      const placed = (await listed()).sort((a, b) => a.place! - b.place!)
      expect(placed.map((p) => [p.name, p.setName, p.revision])).toEqual([['C', 'Chess', 1], ['A', 'Chess', 1], ['B', 'Chess', 1]]) // prettier-ignore
      await api
        .post('/api/pieces/arrange')
        .send({ setName: null, ids: [ids[0]] })
        .expect(204)
      expect((await listed()).find((p) => p.name === 'A')!.setName).toBeNull()
      await api.post('/api/pieces/arrange').send({ setName: '  ', ids }).expect(400)
      await api
        .post('/api/pieces/arrange')
        .send({ setName: 'x', ids: ['no-id'] })
        .expect(400)
    })

    it('leave as one archive and come back with the same documents and the same photo bytes', async () => {
      const bytes = await picture().jpeg().toBuffer()
      const facts = (await api.post('/api/photos').attach('photo', bytes, 'a.jpg').expect(201)).body
      const photo = { ...facts, fileName: 'a.jpg', quarterTurns: 0, crop: null }
      const ids = []
      for (const name of ['King', 'Königin']) ids.push((await create({ ...newPiece(name), photo })).id)
      await api.post('/api/pieces/arrange').send({ setName: 'Chess', ids }).expect(204)
      const { body: zip } = await api
        .get('/api/archive')
        .query({ ids: ids.join(','), name: 'Chess' })
        .buffer()
        .parse((res, done) => {
          // prettier-ignore
          const parts: Buffer[] = []
          res.on('data', (part: Buffer) => parts.push(part))
          res.on('end', () => done(null, Buffer.concat(parts)))
        })
      // Into another, empty cabinet.
      const other = new MemoryStorage()
      const there = request(createApp({ storage: other, logger: pino({ level: 'silent' }), distDir: dir }))
      const taken = (
        await there
          .post('/api/archive')
          .attach('archive', zip as Buffer, 'set.zip')
          .expect(201)
      ).body
      expect(taken.setName).toBe('Chess')
      const back = await other.getPiece(taken.pieces[1].id)
      expect(back).toMatchObject({ setName: 'Chess', place: 1, document: { ...newPiece('Königin'), photo } })
      const served = await there.get(`/api/photos/${facts.sha256}`).expect(200)
      expect(createHash('sha256').update(served.body).digest('hex')).toBe(facts.sha256)
      // Once more into the first one: as a set of its own.
      const again = await api
        .post('/api/archive')
        .attach('archive', zip as Buffer, 'set.zip')
        .expect(201)
      expect(again.body.setName).toBe('Chess (2)')
    })

    it('refuse archives that are none or whose photos were changed, and keep nothing of them', async () => {
      await api.post('/api/archive').attach('archive', Buffer.from('no zip'), 'a.zip').expect(422)
      await api.get('/api/archive').query({ ids: 'x' }).expect(400)
      await api.get('/api/archive').query({ ids: '7b0cd1a5-3a52-4b8e-a5a1-2f5d3f6f7d10' }).expect(404)
      const bytes = await picture().jpeg().toBuffer()
      const wrong = 'a'.repeat(64)
      const photo = { sha256: wrong, fileName: 'a.jpg', mediaType: 'image/jpeg' as const, width: 60, height: 80, focalLength35mm: null, quarterTurns: 0, crop: null } // prettier-ignore
      const documents = [{ ...newPiece('A'), photo }]
      const changed = packSet({
        name: 'S',
        documents,
        photos: new Map([[wrong, { bytes, mediaType: 'image/jpeg' }]]),
      })
      const answer = await api
        .post('/api/archive')
        .attach('archive', Buffer.from(changed), 'a.zip')
        .expect(422)
      expect(answer.body.detail).toMatch(/not the one it is listed as/)
      const lacking = packSet({ name: 'S', documents, photos: new Map() })
      await api.post('/api/archive').attach('archive', Buffer.from(lacking), 'a.zip').expect(422)
      expect((await api.get('/api/pieces')).body).toEqual([])
    })
  })

  describe('pieces', () => {
    it('are made, listed, read, saved, duplicated, put aside and brought back', async () => {
      const { id, revision } = await create()
      expect(revision).toBe(1)
      const document = { ...newPiece('Flask'), unit: 'in-16' as const }
      const saved = await api.put(`/api/pieces/${id}`).set('If-Match', '"1"').send({ document }).expect(200)
      expect(saved.body).toMatchObject({ revision: 2 })
      const read = await api.get(`/api/pieces/${id}`).expect(200)
      expect(read.headers.etag).toBe('"2"')
      expect(read.body.document).toEqual(document)
      const copy = await api.post(`/api/pieces/${id}/duplicate`).expect(201)
      expect(copy.body.document.name).toBe('Flask (copy)')
      expect((await api.get('/api/pieces')).body.map((p: { name: string }) => p.name).sort()).toEqual([
        'Flask',
        'Flask (copy)',
      ])
      await api.delete(`/api/pieces/${id}`).expect(204)
      await api.get(`/api/pieces/${id}`).expect(404)
      await api.delete(`/api/pieces/${id}`).expect(404)
      await api.post(`/api/pieces/${id}/restore`).expect(204)
      expect((await api.get(`/api/pieces/${id}`).expect(200)).body.document.name).toBe('Flask')
    })

    it('a save over an older revision is refused and changes nothing', async () => {
      const { id } = await create()
      await api
        .put(`/api/pieces/${id}`)
        .set('If-Match', '"1"')
        .send({ document: newPiece('Mine') })
        .expect(200)
      const refused = await api
        .put(`/api/pieces/${id}`)
        .set('If-Match', '"1"')
        .send({ document: newPiece('Theirs') })
        .expect(412)
      expect(refused.headers['content-type']).toContain('application/problem+json')
      expect(refused.body).toMatchObject({
        type: '/problems/changed-elsewhere',
        status: 412,
        currentRevision: 2,
      })
      expect((await api.get(`/api/pieces/${id}`)).body.document.name).toBe('Mine')
    })

    it('of many saves at once over one revision exactly one gets through', async () => {
      const { id } = await create()
      const results = await Promise.all(
        Array.from({ length: 8 }, (_, i) =>
          api
            .put(`/api/pieces/${id}`)
            .set('If-Match', '"1"')
            .send({ document: newPiece(`Tab ${i}`) }),
        ),
      )
      expect(results.map((r) => r.status).sort()).toEqual([200, ...Array(7).fill(412)])
    })

    it('carry a summary for their card', async () => {
      const photo = await upload(await picture(1500, 2000).jpeg().toBuffer())
      const document = newPiece('Cone', { ...photo, fileName: 'cone.jpg', quarterTurns: 0, crop: null })
      document.calibration = {
        ...document.calibration,
        plumb: { foot: { x: 750, y: 1800 }, top: { x: 750, y: 200 }, by: 'hand' },
        ground: { x: 750, y: 1800 },
        knownSizes: [
          newKnownSize({
            id: 's',
            kind: 'height',
            a: { x: 1, y: 1800 },
            b: { x: 1, y: 200 },
            mm: 160,
            text: '160',
          }),
        ],
      }
      document.profile.nodes = [[0, 0], [40, 0], [0, 160]].map(([r, z], i) => ({ id: String(i), r: r!, z: z!, joint: 'corner', next: 'line' })) // prettier-ignore
      await create(document)
      const [listed] = (await api.get('/api/pieces')).body
      expect(listed).toMatchObject({
        photoSha256: photo.sha256,
        summary: { heightMm: 160, maxDiameterMm: 80, silhouette: [0, 0, 40, 0, 0, 160] },
      })

      // A hollow piece is seen from outside.
      document.profile.nodes = [[0, 0], [40, 0], [40, 160], [0, 160]].map(([r, z], i) => ({ id: String(i), r: r!, z: z!, joint: 'corner', next: 'line' })) // prettier-ignore
      document.solid.wall = { mm: 2, levels: [], floorMm: 3, way: 'inwards', lip: 'flat', bore: false }
      await create(document)
      const silhouettes = ((await api.get('/api/pieces')).body as { summary: { silhouette: number[] } }[]).map((p) => p.summary.silhouette) // prettier-ignore
      expect(silhouettes).toContainEqual([0, 0, 40, 0, 40, 160, 38, 160, 0, 160])
    })

    it.each([
      ['no JSON', '{', 400, 'not-json'],
      ['no document', '{}', 422, 'document-unknown'],
      [
        'a damaged document',
        JSON.stringify({ document: { ...newPiece('x'), unit: 'ell' } }),
        422,
        'document-invalid',
      ],
      [
        'a document from the future',
        JSON.stringify({ document: { ...newPiece('x'), version: 7 } }),
        422,
        'document-newer',
      ],
      ['a huge body', `"${'x'.repeat(9 * 1024 * 1024)}"`, 413, 'too-large'],
      [
        'an unknown photo',
        JSON.stringify({
          document: newPiece('x', {
            sha256: 'b'.repeat(64),
            fileName: 'x',
            mediaType: 'image/png',
            width: 9,
            height: 9,
            focalLength35mm: null,
            quarterTurns: 0,
            crop: null,
          }),
        }),
        422,
        'photo-missing',
      ],
    ])('refuse %s', async (_what, body, status, code) => {
      const answer = await api.post('/api/pieces').set('Content-Type', 'application/json').send(body)
      expect([answer.status, answer.body.type]).toEqual([status, `/problems/${code}`])
      expect(answer.body.detail).toMatch(/\.$/)
      expect((await api.get('/api/pieces')).body).toEqual([])
    })

    it('refuse a save without its base revision, and an id that is none', async () => {
      const { id } = await create()
      await api
        .put(`/api/pieces/${id}`)
        .send({ document: newPiece('x') })
        .expect(428)
      await api.get("/api/pieces/1' OR '1'='1").expect(404)
    })
  })

  describe('photos', () => {
    it('are served byte for byte under their SHA-256, cached for ever', async () => {
      const bytes = await picture().png().toBuffer()
      const facts = await upload(bytes)
      expect(facts.sha256).toBe(createHash('sha256').update(bytes).digest('hex'))
      const served = await api.get(`/api/photos/${facts.sha256}`).expect(200)
      expect(Buffer.compare(served.body, bytes)).toBe(0)
      expect(served.headers['content-type']).toBe('image/png')
      expect(served.headers['cache-control']).toContain('immutable')
      expect((await upload(bytes)).sha256).toBe(facts.sha256)
      const thumbnail = await api.get(`/api/photos/${facts.sha256}/thumbnail`).expect(200)
      expect(thumbnail.headers['content-type']).toBe('image/webp')
      await api.get(`/api/photos/${'0'.repeat(64)}`).expect(404)
    })

    it('honour the EXIF turn and read the focal length', async () => {
      const bytes = await picture(60, 80)
        .jpeg()
        .withMetadata({ orientation: 6 })
        .withExifMerge({ IFD2: { FocalLengthIn35mmFilm: '85' } })
        .toBuffer()
      expect(await upload(bytes)).toMatchObject({
        width: 80,
        height: 60,
        mediaType: 'image/jpeg',
        focalLength35mm: 85,
      })
    })

    it.each([
      ['text', async () => Buffer.from('hello, I am a photo'), 415, 'not-a-photo'],
      ['nothing', async () => Buffer.alloc(0), 422, 'empty-file'],
      ['HEIC', async () => Buffer.from('\0\0\0\x18ftypheic\0\0\0\0mif1heic'), 415, 'heic'],
      ['a GIF', () => picture().gif().toBuffer(), 415, 'wrong-type'],
      ['a TIFF', () => picture().tiff().toBuffer(), 415, 'wrong-type'],
      [
        'a JPEG cut short',
        async () =>
          (
            await sharp({
              create: {
                width: 900,
                height: 900,
                channels: 3,
                background: '#888',
                noise: { type: 'gaussian', mean: 128, sigma: 40 },
              },
            })
              .jpeg()
              .toBuffer()
          ).subarray(0, 20_000),
        422,
        'broken-photo',
      ],
      [
        'an image bomb',
        () => picture(9000, 9000).png({ compressionLevel: 9 }).toBuffer(),
        413,
        'too-many-pixels',
      ],
      ['a strip too long', () => picture(17_000, 20).png().toBuffer(), 413, 'too-many-pixels'],
      ['50 MB and more', async () => Buffer.alloc(50 * 1024 * 1024 + 1), 413, 'too-large'],
    ] as [string, () => Promise<Buffer>, number, string][])(
      'refuse %s, and store nothing',
      async (_what, make, status, code) => {
        const bytes = await make()
        const answer = await api.post('/api/photos').attach('photo', bytes, 'x.jpg')
        expect([answer.status, answer.body.type]).toEqual([status, `/problems/${code}`])
        expect(answer.body.detail.length).toBeGreaterThan(15)
        expect(await storage.hasPhoto(createHash('sha256').update(bytes).digest('hex'))).toBe(false)
      },
    )

    it('refuse an upload in the wrong form', async () => {
      await api.post('/api/photos').send('x').expect(400)
      await api
        .post('/api/photos')
        .attach('picture', await picture().png().toBuffer(), 'x.png')
        .expect(400)
    })

    it('that no piece uses are forgotten with old deleted pieces', async () => {
      const used = await upload(await picture(10, 10).png().toBuffer())
      const loose = await upload(await picture(11, 11).png().toBuffer())
      const kept = await upload(await picture(12, 12).png().toBuffer())
      const document = newPiece('x', { ...used, fileName: 'x.png', quarterTurns: 0, crop: null })
      document.references.push({
        id: 'r',
        name: 'top',
        photo: { ...kept, fileName: 'y.png', quarterTurns: 0 },
        scale: null,
      })
      const { id } = await create(document)
      await storage.purge(new Date(Date.now() + 1000))
      expect([await storage.hasPhoto(used.sha256), await storage.hasPhoto(loose.sha256)]).toEqual([
        true,
        false,
      ])
      expect(await storage.hasPhoto(kept.sha256)).toBe(true)
      await api.delete(`/api/pieces/${id}`)
      await storage.purge(new Date(Date.now() - 1000))
      await api.post(`/api/pieces/${id}/restore`).expect(204)
      await api.delete(`/api/pieces/${id}`)
      await storage.purge(new Date(Date.now() + 1000))
      await api.post(`/api/pieces/${id}/restore`).expect(404)
      expect(await storage.hasPhoto(used.sha256)).toBe(false)
    })
  })

  describe('guard', () => {
    it.each([
      ['a rebinding host name', { Host: 'evil.example:4317' }],
      ['a page from another origin', { Host: '127.0.0.1:4317', Origin: 'http://evil.example' }],
      ['another port of this machine', { Host: '127.0.0.1:4317', Origin: 'http://127.0.0.1:9999' }],
      ['a sandboxed page', { Host: '127.0.0.1:4317', Origin: 'null' }],
      ['a picture element elsewhere', { Host: '127.0.0.1:4317', 'Sec-Fetch-Site': 'cross-site' }],
    ])('refuses %s', async (_what, headers) => {
      await api.get('/api/pieces').set(headers).expect(403)
      await api
        .post('/api/pieces')
        .set(headers)
        .send({ document: newPiece('x') })
        .expect(403)
      expect(await storage.listPieces()).toEqual([])
    })

    it('lets the app itself through', async () => {
      await api
        .get('/api/pieces')
        .set({ Host: 'localhost:4317', Origin: 'http://localhost:4317', 'Sec-Fetch-Site': 'same-origin' })
        .expect(200)
    })
  })

  it('serves the app for its addresses with a nonce of its own, and problem details for others', async () => {
    const page = await api.get('/piece/abc/solid').set('Accept', 'text/html').expect(200)
    const nonce = /nonce="([^"]+)"/.exec(page.text)![1]!
    expect(page.headers['content-security-policy']).toContain(`'nonce-${nonce}'`)
    const again = await api.get('/').set('Accept', 'text/html').expect(200)
    expect(again.text).not.toContain(nonce)
    expect((await api.get('/api/nothing').expect(404)).body.type).toBe('/problems/no-such-address')
    await api.get('/assets/missing.js').expect(404)
  })

  async function upload(bytes: Buffer) {
    return (await api.post('/api/photos').attach('photo', bytes, 'x.jpg').expect(201)).body
  }
})

process.on('exit', () => rmSync(dir, { recursive: true, force: true }))
