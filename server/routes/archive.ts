import { Router } from 'express'
import multer from 'multer'
import * as v from 'valibot'
import { packSet, unpackSet, type ArchivedPhoto } from '../../core/piece/set-archive'
import { photosOf } from '../../core/piece/schema'
import { HttpProblem } from '../http/problem'
import { inspectPhoto } from '../photos/inspect'
import type { Storage } from '../storage/storage'

/** As large as a set of a hundred pieces with large photos. */
const MOST_ARCHIVE_BYTES = 400 * 1024 * 1024

const Query = v.object({
  ids: v.pipe(v.string(), v.maxLength(40 * 500), v.transform((text) => text.split(',')), v.array(v.pipe(v.string(), v.uuid()))), // prettier-ignore
  name: v.optional(v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(120))),
})

/** Pieces with their photos as one archive: given out, and taken in as new pieces. */
export function archiveRoutes(storage: Storage): Router {
  const router = Router()
  const upload = multer({
    storage: multer.memoryStorage(),
    limits: { fileSize: MOST_ARCHIVE_BYTES, files: 1, fields: 0, parts: 1 },
  })

  router.get('/', async (request, response) => {
    const query = v.safeParse(Query, request.query)
    if (!query.success)
      throw new HttpProblem(400, 'bad-request', 'Say in “ids” which pieces the archive is to hold.')
    const documents = []
    for (const id of query.output.ids) {
      const piece = await storage.getPiece(id)
      if (!piece)
        throw new HttpProblem(404, 'no-such-piece', 'One of these pieces does not exist, or was deleted.')
      documents.push(piece.document)
    }
    const photos = new Map<string, ArchivedPhoto>()
    for (const sha256 of documents.flatMap(photosOf)) {
      const photo = photos.has(sha256) ? null : await storage.getPhoto(sha256)
      if (photo) photos.set(sha256, photo)
    }
    const bytes = packSet({ name: query.output.name ?? null, documents, photos })
    response.set('Cache-Control', 'no-store').type('application/zip').send(Buffer.from(bytes.buffer))
  })

  router.post('/', upload.single('archive'), async (request, response) => {
    if (!request.file) throw new HttpProblem(400, 'bad-upload', 'Send one archive in the field “archive”.')
    const { name, documents, photos } = unpackSet(request.file.buffer)
    // All is looked at before anything is kept, so that a bad archive leaves nothing behind.
    const inspected = []
    for (const [sha256, { bytes }] of photos) {
      const buffer = Buffer.from(bytes)
      const { facts, thumbnail } = await inspectPhoto(buffer)
      if (facts.sha256 !== sha256)
        throw new HttpProblem(422, 'photo-changed', 'A photo in the archive is not the one it is listed as. It was changed or damaged; export the set again.') // prettier-ignore
      inspected.push({ facts, buffer, thumbnail })
    }
    for (const sha256 of documents.flatMap(photosOf))
      if (!photos.has(sha256) && !(await storage.hasPhoto(sha256)))
        throw new HttpProblem(422, 'photo-missing', 'A photo that a piece of the archive needs is neither in it nor stored here.') // prettier-ignore
    for (const { facts, buffer, thumbnail } of inspected) await storage.putPhoto(facts, buffer, thumbnail)
    const setName = name === null ? null : await freeSetName(storage, name)
    const pieces = []
    for (const document of documents) {
      const { id } = await storage.createPiece(document, setName)
      pieces.push({ id, name: document.name })
    }
    if (setName !== null) await storage.arrangePieces(setName, pieces.map((p) => p.id)) // prettier-ignore
    response.status(201).json({ setName, pieces })
  })

  return router
}

/** A set that is taken in never mixes with one that is here already. */
async function freeSetName(storage: Storage, name: string): Promise<string> {
  const taken = new Set((await storage.listPieces()).map((p) => p.setName))
  if (!taken.has(name)) return name
  let count = 2
  while (taken.has(`${name} (${count})`)) count++
  return `${name} (${count})`
}
