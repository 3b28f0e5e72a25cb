import type { PieceDocument } from '../../core/piece/schema'
import type { ListedPiece, PhotoFacts, StoredPiece } from './types'

/** A refusal by the server (problem details, RFC 9457), or no answer at all (`status` 0). */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly extra: Record<string, unknown> = {},
  ) {
    super(message)
  }
}

async function call(path: string, init: RequestInit = {}): Promise<Response> {
  let response: Response
  try {
    response = await fetch(`/api${path}`, init)
  } catch {
    throw new ApiError(0, 'no-answer', 'The server doesn’t answer. Is it still running?')
  }
  if (response.ok) return response
  const problem = (await response.json().catch(() => ({}))) as { type?: string; detail?: string }
  throw new ApiError(
    response.status,
    problem.type?.split('/').pop() ?? 'unknown',
    problem.detail ?? `The server answered with an error (${response.status}).`,
    problem,
  )
}

const json = (body: unknown, headers: Record<string, string> = {}): RequestInit => ({
  headers: { 'Content-Type': 'application/json', ...headers },
  body: JSON.stringify(body),
})

export const api = {
  async listPieces(): Promise<ListedPiece[]> {
    return (await call('/pieces')).json()
  },
  async getPiece(id: string): Promise<StoredPiece> {
    return (await call(`/pieces/${encodeURIComponent(id)}`)).json()
  },
  async createPiece(document: PieceDocument, setName: string | null = null): Promise<StoredPiece> {
    return (await call('/pieces', { method: 'POST', ...json({ document, setName }) })).json()
  },
  /** Saves over `revision`; throws ApiError 412 when the piece was changed elsewhere since. */
  async savePiece(
    id: string,
    revision: number,
    document: PieceDocument,
    last = false,
  ): Promise<{ revision: number; updatedAt: string }> {
    const init = json({ document }, { 'If-Match': `"${revision}"` })
    return (await call(`/pieces/${id}`, { method: 'PUT', keepalive: last, ...init })).json()
  },
  async deletePiece(id: string): Promise<void> {
    await call(`/pieces/${id}`, { method: 'DELETE' })
  },
  async restorePiece(id: string): Promise<void> {
    await call(`/pieces/${id}/restore`, { method: 'POST' })
  },
  async duplicatePiece(id: string): Promise<StoredPiece> {
    return (await call(`/pieces/${id}/duplicate`, { method: 'POST' })).json()
  },
  /** Puts pieces into a set (null: into none) in this order. */
  async arrange(setName: string | null, ids: readonly string[]): Promise<void> {
    await call('/pieces/arrange', { method: 'POST', ...json({ setName, ids }) })
  },
  /** Where pieces with all their photos can be had as one archive. */
  archiveUrl: (ids: readonly string[], name: string | null) =>
    `/api/archive?${new URLSearchParams({ ids: ids.join(','), ...(name !== null && { name }) }).toString()}`,
  /** Takes in the pieces of an archive. */
  async takeInArchive(
    file: File,
  ): Promise<{ setName: string | null; pieces: { id: string; name: string }[] }> {
    const form = new FormData()
    form.append('archive', file)
    return (await call('/archive', { method: 'POST', body: form })).json()
  },
  async uploadPhoto(file: File): Promise<PhotoFacts> {
    const form = new FormData()
    form.append('photo', file)
    return (await call('/photos', { method: 'POST', body: form })).json()
  },
  photoUrl: (sha256: string) => `/api/photos/${sha256}`,
  thumbnailUrl: (sha256: string) => `/api/photos/${sha256}/thumbnail`,
}
