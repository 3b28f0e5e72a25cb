import type { PhotoWorker } from './protocol'
import { WorkerClient } from './worker-client'

/** Reads the photo's pixels. */
export const photoClient = new WorkerClient<PhotoWorker>(
  () => new Worker(new URL('./photo.worker.ts', import.meta.url), { type: 'module' }),
)
