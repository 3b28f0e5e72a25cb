import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { newPiece, photoOf } from '../core/piece/schema'
import { inspectPhoto } from '../server/photos/inspect'
import type { Storage } from '../server/storage/storage'
import { finishedDocument } from './documents'
import { LAMP_ROOM, photoFileName, TO_TRY } from './lamp-room'
import { PHOTO_DIR } from './make-photos'

export const SET_NAME = 'Lamp room'
export const TRY_SET_NAME = 'Untouched photos to try'

/** Fills an empty cabinet with the six finished pieces of the lamp room and two untouched photos. */
export async function seed(storage: Storage): Promise<void> {
  if ((await storage.listPieces()).length > 0) return
  const photos = new Map<string, Awaited<ReturnType<typeof store>>>()
  for (const spec of LAMP_ROOM) photos.set(spec.name, await store(storage, photoFileName(spec.name)))
  // The cabinet shows the newest first.
  for (const name of [...TO_TRY].reverse())
    await storage.createPiece(newPiece(`${name}, untouched`, photos.get(name)!), TRY_SET_NAME)
  for (const spec of [...LAMP_ROOM].reverse())
    await storage.createPiece(finishedDocument(spec, photos.get(spec.name)!), SET_NAME)
}

async function store(storage: Storage, fileName: string) {
  const bytes = readFileSync(join(PHOTO_DIR, fileName))
  const { facts, thumbnail } = await inspectPhoto(bytes)
  await storage.putPhoto(facts, bytes, thumbnail)
  return photoOf(facts, fileName)
}
