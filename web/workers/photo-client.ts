import type { PiecePhoto } from '../../core/piece/schema'
import { api } from '../api/client'
import type { PhotoWorker, PixelRequest } from './protocol'
import { WorkerClient } from './worker-client'

/** Reads the photo's pixels. */
export const photoClient = new WorkerClient<PhotoWorker>(
  () => new Worker(new URL('./photo.worker.ts', import.meta.url), { type: 'module' }),
)

/** What the worker reads for a piece's photo. */
export function pixelsOf({ sha256, crop }: PiecePhoto): PixelRequest {
  return { url: api.photoUrl(sha256), crop }
}
