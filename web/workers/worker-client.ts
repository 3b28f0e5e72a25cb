import { wrap, type Remote } from 'comlink'

/** Why a call ended without a result: it was stopped by the user. */
export class Stopped extends Error {
  constructor() {
    super('Stopped.')
  }
}

/**
 * One worker of the page. Plain Comlink leaves calls hanging when the worker dies, so every call also races against
 * its end; the next call starts a new worker.
 */
export class WorkerClient<W> {
  private worker: Worker | null = null
  private remote: Remote<W> | null = null
  private died: Promise<never> | null = null
  private kill: (error: Error) => void = () => undefined

  constructor(private make: () => Worker) {}

  async call<T>(job: (remote: Remote<W>) => Promise<T>): Promise<T> {
    if (!this.remote || !this.died) this.start()
    return Promise.race([job(this.remote!), this.died!])
  }

  /** Ends what is under way at once, wherever it is; its call is rejected with `Stopped`. */
  stop(): void {
    this.kill(new Stopped())
  }

  private start(): void {
    const worker = this.make()
    this.worker = worker
    this.remote = wrap<W>(worker)
    this.died = new Promise<never>((_resolve, reject) => {
      this.kill = (error) => {
        if (this.worker === worker) {
          this.remote = null
          this.worker = null
        }
        worker.terminate()
        reject(error)
      }
    })
    worker.addEventListener('error', () =>
      this.kill(new Error('The computation stopped unexpectedly; try again.')),
    )
    // Nobody may be waiting when it dies.
    this.died.catch(() => undefined)
  }
}
