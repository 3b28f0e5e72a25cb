import type { PieceDocument } from '../../core/piece/schema'
import type { PhotoFacts } from '../photos/inspect'
import type { PieceSummary } from './summary'

/** A piece as it is kept. */
export interface StoredPiece {
  id: string
  setName: string | null
  /** Where it stands in its set, from 0; null where nobody has said. */
  place: number | null
  /** Grows by one with every save; the base of optimistic locking. */
  revision: number
  /** ISO 8601. */
  updatedAt: string
  document: PieceDocument
}

/** A piece as the cabinet lists it. */
export interface ListedPiece extends Omit<StoredPiece, 'document'> {
  name: string
  photoSha256: string | null
  summary: PieceSummary
}

export type SaveResult =
  | { ok: true; revision: number; updatedAt: string }
  | { ok: false; reason: 'missing' }
  | { ok: false; reason: 'conflict'; revision: number }

/** What the server asks of its storage; kept small so that a twin in memory can stand in. */
export interface Storage {
  listPieces(): Promise<ListedPiece[]>
  getPiece(id: string): Promise<StoredPiece | null>
  createPiece(document: PieceDocument, setName: string | null): Promise<StoredPiece>
  /** Puts pieces into a set (null: into none) in this order. Unknown ones are left out. */
  arrangePieces(setName: string | null, ids: readonly string[]): Promise<void>
  /** Saves over exactly `baseRevision`; anything else is a conflict and changes nothing. */
  savePiece(id: string, baseRevision: number, document: PieceDocument): Promise<SaveResult>
  /** Puts a piece aside; `restorePiece` brings it back. False when there is no such piece. */
  deletePiece(id: string): Promise<boolean>
  restorePiece(id: string): Promise<boolean>
  putPhoto(facts: PhotoFacts, bytes: Buffer, thumbnail: Buffer): Promise<void>
  getPhoto(sha256: string): Promise<{ bytes: Buffer; mediaType: string } | null>
  getThumbnail(sha256: string): Promise<Buffer | null>
  hasPhoto(sha256: string): Promise<boolean>
  /** Forgets pieces deleted before `before` and photos that no piece uses and that are as old. */
  purge(before: Date): Promise<void>
  close(): Promise<void>
}
