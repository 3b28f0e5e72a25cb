import type { SolidWorker } from './protocol'
import { WorkerClient } from './worker-client'

const start = () => new Worker(new URL('./solid.worker.ts', import.meta.url), { type: 'module' })

/** Reads ahead, fits and writes files. */
export const solidClient = new WorkerClient<SolidWorker>(start)

/** Builds what is drawn: by itself, so that it never waits for a file or a fit. */
export const buildClient = new WorkerClient<SolidWorker>(start)

/**
 * Runs one job at a time and keeps only the newest waiting one: while dragging, what is overtaken is never computed.
 */
export function latestOnly<A, R>(
  run: (input: A) => Promise<R>,
  done: (result: R, input: A) => void,
  failed: (error: unknown) => void,
) {
  let busy = false
  let waiting: { input: A } | null = null
  async function next(input: A): Promise<void> {
    busy = true
    try {
      done(await run(input), input)
    } catch (error) {
      failed(error)
    }
    busy = false
    const following = waiting
    waiting = null
    if (following) void next(following.input)
  }
  return (input: A) => {
    if (busy) waiting = { input }
    else void next(input)
  }
}
