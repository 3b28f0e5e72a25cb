import { randomUUID } from 'node:crypto'
import { photosOf, type PieceDocument } from '../../core/piece/schema'
import type { PhotoFacts } from '../photos/inspect'
import type { SaveResult, Storage, StoredPiece } from './storage'
import { summarize } from './summary'

type Kept = StoredPiece & { deletedAt: Date | null }

/** The storage contract in memory, for tests and as its shortest description. */
export class MemoryStorage implements Storage {
  private pieces = new Map<string, Kept>()
  private photos = new Map<string, { facts: PhotoFacts; bytes: Buffer; thumbnail: Buffer; addedAt: Date }>()

  async listPieces() {
    return [...this.pieces.values()]
      .filter((p) => !p.deletedAt)
      .sort((a, b) => b.updatedAt.localeCompare(a.updatedAt))
      .map(({ id, setName, place, revision, updatedAt, document }) => ({
        id,
        setName,
        place,
        revision,
        updatedAt,
        name: document.name,
        photoSha256: document.photo?.sha256 ?? null,
        summary: summarize(document),
      }))
  }

  async getPiece(id: string) {
    const kept = this.pieces.get(id)
    if (!kept || kept.deletedAt) return null
    const { setName, place, revision, updatedAt, document } = kept
    return structuredClone({ id, setName, place, revision, updatedAt, document })
  }

  async createPiece(document: PieceDocument, setName: string | null) {
    const piece: StoredPiece = {
      id: randomUUID(),
      setName,
      place: null,
      revision: 1,
      updatedAt: new Date().toISOString(),
      document,
    }
    this.pieces.set(piece.id, { ...structuredClone(piece), deletedAt: null })
    return piece
  }

  async arrangePieces(setName: string | null, ids: readonly string[]) {
    ids.forEach((id, place) => {
      const kept = this.pieces.get(id)
      if (kept && !kept.deletedAt) Object.assign(kept, { setName, place })
    })
  }

  async savePiece(id: string, baseRevision: number, document: PieceDocument): Promise<SaveResult> {
    const kept = this.pieces.get(id)
    if (!kept || kept.deletedAt) return { ok: false, reason: 'missing' }
    if (kept.revision !== baseRevision) return { ok: false, reason: 'conflict', revision: kept.revision }
    kept.revision++
    kept.updatedAt = new Date().toISOString()
    kept.document = structuredClone(document)
    return { ok: true, revision: kept.revision, updatedAt: kept.updatedAt }
  }

  async deletePiece(id: string) {
    const kept = this.pieces.get(id)
    if (!kept || kept.deletedAt) return false
    kept.deletedAt = new Date()
    return true
  }

  async restorePiece(id: string) {
    const kept = this.pieces.get(id)
    if (!kept?.deletedAt) return false
    kept.deletedAt = null
    return true
  }

  async putPhoto(facts: PhotoFacts, bytes: Buffer, thumbnail: Buffer) {
    if (!this.photos.has(facts.sha256))
      this.photos.set(facts.sha256, { facts, bytes, thumbnail, addedAt: new Date() })
  }

  async getPhoto(sha256: string) {
    const photo = this.photos.get(sha256)
    return photo ? { bytes: photo.bytes, mediaType: photo.facts.mediaType } : null
  }

  async getThumbnail(sha256: string) {
    return this.photos.get(sha256)?.thumbnail ?? null
  }

  async hasPhoto(sha256: string) {
    return this.photos.has(sha256)
  }

  async purge(before: Date) {
    for (const [id, p] of this.pieces) if (p.deletedAt && p.deletedAt < before) this.pieces.delete(id)
    const used = new Set([...this.pieces.values()].flatMap((p) => photosOf(p.document)))
    for (const [sha, p] of this.photos) if (!used.has(sha) && p.addedAt < before) this.photos.delete(sha)
  }

  async close() {}
}
