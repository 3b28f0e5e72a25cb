import type { PieceDocument } from '../../core/piece/schema'
import { api, ApiError } from '../api/client'

export type SaveState =
  | { kind: 'saved' }
  | { kind: 'pending' }
  | { kind: 'failed'; message: string }
  | { kind: 'conflict'; currentRevision: number }

/** Changes are sent this long after they were made, ms; with the answer they are kept well within a second. */
const DELAY_MS = 300
const RETRY_MS = 2000

/**
 * Keeps the server's copy of one piece in step. One save is under way at a time; what changes meanwhile is saved next.
 * A conflict stops saving until the user has decided.
 */
export class Saver {
  private timer: ReturnType<typeof setTimeout> | undefined
  private busy = false
  private waiting: PieceDocument | null = null

  constructor(
    readonly id: string,
    private revision: number,
    private report: (state: SaveState) => void,
    private saved: (revision: number) => void = () => undefined,
  ) {}

  get currentRevision(): number {
    return this.revision
  }

  get dirty(): boolean {
    return this.waiting !== null || this.busy
  }

  save(document: PieceDocument, delay = DELAY_MS): void {
    this.waiting = document
    this.report({ kind: 'pending' })
    if (this.busy) return
    clearTimeout(this.timer)
    this.timer = setTimeout(() => void this.send(), delay)
  }

  /** Sends what waits at once; `last` when the page is about to go away. */
  async flush(last = false): Promise<void> {
    clearTimeout(this.timer)
    if (!this.busy && this.waiting) await this.send(last)
  }

  /** Goes on saving on top of a revision that the user chose to overwrite. */
  rebase(revision: number, document: PieceDocument): void {
    this.revision = revision
    this.save(document, 0)
  }

  stop(): void {
    clearTimeout(this.timer)
    this.waiting = null
  }

  private async send(last = false): Promise<void> {
    const document = this.waiting
    if (!document) return
    this.waiting = null
    this.busy = true
    try {
      const result = await api.savePiece(this.id, this.revision, document, last)
      this.revision = result.revision
      this.busy = false
      this.saved(result.revision)
      if (this.waiting) await this.send()
      else this.report({ kind: 'saved' })
    } catch (error) {
      this.busy = false
      this.waiting ??= document
      if (error instanceof ApiError && error.status === 412) {
        this.report({ kind: 'conflict', currentRevision: Number(error.extra.currentRevision) })
        return
      }
      this.report({ kind: 'failed', message: (error as Error).message })
      this.timer = setTimeout(() => void this.send(), RETRY_MS)
    }
  }
}
