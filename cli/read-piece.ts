import { CoreError } from '../core/errors'
import { readDocument } from '../core/piece/migrate'
import type { PieceDocument } from '../core/piece/schema'

/** Reads a document, or a piece as the server answers it (with its document inside). @throws CoreError */
export function readPiece(text: string): PieceDocument {
  let input: unknown
  try {
    input = JSON.parse(text)
  } catch {
    throw new CoreError({
      code: 'not-json',
      message: 'The file is not JSON, so it is no document of a piece.',
    })
  }
  const inner = (input as { document?: unknown } | null)?.document
  return readDocument(inner ?? input)
}
