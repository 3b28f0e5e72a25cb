import { readFileSync } from 'node:fs'
import { CoreError } from '../core/errors'
import { readDocument } from '../core/piece/migrate'
import { unpackSet } from '../core/piece/set-archive'
import type { PieceDocument } from '../core/piece/schema'

/** The pieces of a file: one of a document, or all of an archive. @throws CoreError */
export function readPieces(file: string): PieceDocument[] {
  const bytes = readFileSync(file)
  return file.toLowerCase().endsWith('.zip')
    ? unpackSet(bytes).documents
    : [readPiece(bytes.toString('utf8'))]
}

/** The piece of a file; of an archive the first. @throws CoreError */
export function readFirstPiece(file: string): PieceDocument {
  const [first] = readPieces(file)
  if (first) return first
  throw new CoreError({ code: 'no-piece', message: `The archive “${file}” holds no piece.` })
}

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
