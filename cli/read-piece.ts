import { readFileSync } from 'node:fs'
import sharp from 'sharp'
import { CoreError } from '../core/errors'
import { readDocument } from '../core/piece/migrate'
import type { PictureFile } from '../core/piece/hand-over'
import { unpackSet, type ArchivedPhoto } from '../core/piece/set-archive'
import { laidPictures, type PieceDocument } from '../core/piece/schema'

/** A piece as a file holds it: with its pictures where that is an archive. */
export interface FiledPiece {
  document: PieceDocument
  /** By SHA-256, as a GLB takes them. */
  pictures: ReadonlyMap<string, PictureFile>
}

/** The pieces of a file: one of a document, or all of an archive. @throws CoreError */
export async function readPieces(file: string): Promise<FiledPiece[]> {
  const bytes = readFileSync(file)
  if (!file.toLowerCase().endsWith('.zip'))
    return [{ document: readPiece(bytes.toString('utf8')), pictures: new Map() }]
  const { documents, photos } = unpackSet(bytes)
  const laid = new Set(documents.flatMap(laidPictures).map((p) => p.sha256))
  const pictures = new Map<string, PictureFile>()
  for (const [sha256, photo] of photos) if (laid.has(sha256)) pictures.set(sha256, await pictureFile(photo))
  return documents.map((document) => ({ document, pictures }))
}

/** WebP is no picture of plain glTF. */
async function pictureFile({ bytes, mediaType }: ArchivedPhoto): Promise<PictureFile> {
  if (mediaType === 'image/png' || mediaType === 'image/jpeg') return { bytes, mediaType }
  return { bytes: await sharp(bytes).png().toBuffer(), mediaType: 'image/png' }
}

/** The piece of a file; of an archive the first. @throws CoreError */
export async function readFirstPiece(file: string): Promise<FiledPiece> {
  const [first] = await readPieces(file)
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
