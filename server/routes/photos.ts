import { Router, type Request } from 'express'
import multer from 'multer'
import * as v from 'valibot'
import { Sha256 } from '../../core/piece/schema'
import { HttpProblem } from '../http/problem'
import { inspectPhoto, MOST_PHOTO_BYTES } from '../photos/inspect'
import type { Storage } from '../storage/storage'

/** Photos: upload, and serve byte for byte under their SHA-256. */
export function photoRoutes(storage: Storage): Router {
  const router = Router()
  const upload = multer({
    storage: multer.memoryStorage(),
    limits: { fileSize: MOST_PHOTO_BYTES, files: 1, fields: 0, parts: 1 },
  })

  router.post('/', upload.single('photo'), async (request, response) => {
    if (!request.file) throw new HttpProblem(400, 'bad-upload', 'Send one photo in the field “photo”.')
    const { facts, thumbnail } = await inspectPhoto(request.file.buffer)
    await storage.putPhoto(facts, request.file.buffer, thumbnail)
    response.status(201).set('Location', `/api/photos/${facts.sha256}`).json(facts)
  })

  router.get('/:sha256', async (request, response) => {
    const photo = await storage.getPhoto(shaOf(request))
    if (!photo) throw missing()
    response.set('Cache-Control', FOREVER).type(photo.mediaType).send(photo.bytes)
  })

  router.get('/:sha256/thumbnail', async (request, response) => {
    const thumbnail = await storage.getThumbnail(shaOf(request))
    if (!thumbnail) throw missing()
    response.set('Cache-Control', FOREVER).type('image/webp').send(thumbnail)
  })

  return router
}

/** The address names the content, so it can never change. */
const FOREVER = 'private, max-age=31536000, immutable'

const missing = () => new HttpProblem(404, 'no-such-photo', 'This photo is not stored here.')

function shaOf(request: Request): string {
  const result = v.safeParse(Sha256, request.params.sha256)
  if (!result.success) throw missing()
  return result.output
}
