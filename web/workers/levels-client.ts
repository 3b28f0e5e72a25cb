import type { LevelsWorker } from './protocol'
import { WorkerClient } from './worker-client'

/** Decodes photos for the eye: halving twelve megapixels would hold the page up for a fifth of a second. */
export const levelsClient = new WorkerClient<LevelsWorker>(
  () => new Worker(new URL('./levels.worker.ts', import.meta.url), { type: 'module' }),
)
