import { wrap, type Remote } from 'comlink'
import type { SolidWorker } from './protocol'

/**
 * The one worker of the page. Plain Comlink leaves calls hanging when the worker dies, so every call also
 * races against its end; the next call starts a new worker.
 */
class SolidClient {
  private remote: Remote<SolidWorker> | null = null
  private died: Promise<never> | null = null

  async call<T>(job: (remote: Remote<SolidWorker>) => Promise<T>): Promise<T> {
    if (!this.remote || !this.died) this.start()
    return Promise.race([job(this.remote!), this.died!])
  }

  private start(): void {
    const worker = new Worker(new URL('./solid.worker.ts', import.meta.url), { type: 'module' })
    this.remote = wrap<SolidWorker>(worker)
    this.died = new Promise<never>((_resolve, reject) => {
      worker.addEventListener('error', () => {
        this.remote = null
        worker.terminate()
        reject(new Error('The computation stopped unexpectedly; try again.'))
      })
    })
    // Nobody may be waiting when it dies.
    this.died.catch(() => undefined)
  }
}

export const solidClient = new SolidClient()

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
