import express, { Router, type Request } from 'express'
import * as v from 'valibot'
import { readDocument } from '../../core/piece/migrate'
import { photosOf, type PieceDocument } from '../../core/piece/schema'
import { HttpProblem } from '../http/problem'
import type { Storage, StoredPiece } from '../storage/storage'

/** A document of 5000 nodes is about 1 MB; the rest is room. */
const MOST_DOCUMENT_BYTES = 8 * 1024 * 1024

const PieceId = v.pipe(v.string(), v.uuid())
const SetName = v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(120))
const Create = v.object({
  document: v.optional(v.unknown()),
  setName: v.optional(v.nullable(SetName), null),
})
const Arrange = v.object({ setName: v.nullable(SetName), ids: v.pipe(v.array(PieceId), v.maxLength(1000)) })
const Save = v.object({ document: v.optional(v.unknown()) })

/** Pieces: list, arrange in sets, read, make, save, put aside, bring back, duplicate. */
export function pieceRoutes(storage: Storage): Router {
  const router = Router()
  router.use(express.json({ limit: MOST_DOCUMENT_BYTES }))

  router.get('/', async (_request, response) => {
    response.set('Cache-Control', 'no-store').json(await storage.listPieces())
  })

  router.post('/', async (request, response) => {
    const { document, setName } = parse(Create, request.body)
    const checked = await checkDocument(storage, document)
    const piece = await storage.createPiece(checked, setName)
    response.status(201).set('Location', `/api/pieces/${piece.id}`).set('ETag', etag(piece)).json(piece)
  })

  router.post('/arrange', async (request, response) => {
    const { setName, ids } = parse(Arrange, request.body)
    await storage.arrangePieces(setName, ids)
    response.status(204).end()
  })

  router.get('/:id', async (request, response) => {
    const piece = await required(storage, request)
    response.set('Cache-Control', 'no-store').set('ETag', etag(piece)).json(piece)
  })

  router.put('/:id', async (request, response) => {
    const id = idOf(request)
    const base = baseRevision(request)
    const document = await checkDocument(storage, parse(Save, request.body).document)
    const result = await storage.savePiece(id, base, document)
    if (result.ok) {
      response.set('ETag', etag(result)).json({ revision: result.revision, updatedAt: result.updatedAt })
    } else if (result.reason === 'missing') throw missing()
    else {
      throw new HttpProblem(
        412,
        'changed-elsewhere',
        'This piece was changed elsewhere since it was opened here. Nothing was overwritten.',
        {
          currentRevision: result.revision,
        },
      )
    }
  })

  router.delete('/:id', async (request, response) => {
    if (!(await storage.deletePiece(idOf(request)))) throw missing()
    response.status(204).end()
  })

  router.post('/:id/restore', async (request, response) => {
    if (!(await storage.restorePiece(idOf(request)))) throw missing()
    response.status(204).end()
  })

  router.post('/:id/duplicate', async (request, response) => {
    const original = await required(storage, request)
    const name = `${original.document.name.slice(0, 110)} (copy)`
    const piece = await storage.createPiece({ ...original.document, name }, original.setName)
    response.status(201).set('Location', `/api/pieces/${piece.id}`).json(piece)
  })

  return router
}

const missing = () => new HttpProblem(404, 'no-such-piece', 'This piece does not exist, or was deleted.')

function idOf(request: Request): string {
  const result = v.safeParse(PieceId, request.params.id)
  if (!result.success) throw missing()
  return result.output
}

async function required(storage: Storage, request: Request): Promise<StoredPiece> {
  const piece = await storage.getPiece(idOf(request))
  if (!piece) throw missing()
  return piece
}

function etag({ revision }: { revision: number }): string {
  return `"${revision}"`
}

/** The revision that a save builds on, from If-Match (RFC 9110, section 13.1.1). */
function baseRevision(request: Request): number {
  const match = /^"(\d{1,9})"$/.exec(request.headers['if-match'] ?? '')
  if (!match)
    throw new HttpProblem(428, 'revision-missing', 'A save must say in If-Match which revision it builds on.')
  return Number(match[1])
}

async function checkDocument(storage: Storage, input: unknown): Promise<PieceDocument> {
  const document = readDocument(input)
  for (const sha256 of photosOf(document)) {
    if (await storage.hasPhoto(sha256)) continue
    throw new HttpProblem(
      422,
      'photo-missing',
      'A photo of this piece is not stored here. Drop the photo first.',
      { where: 'photo.sha256' },
    )
  }
  return document
}

function parse<S extends v.GenericSchema>(schema: S, input: unknown): v.InferOutput<S> {
  const result = v.safeParse(schema, input)
  if (result.success) return result.output
  const issue = result.issues[0]
  throw new HttpProblem(400, 'bad-request', `The request is not understood: ${issue.message}`, {
    where: v.getDotPath(issue) ?? undefined,
  })
}
