import { unzipSync, zipSync, type UnzipFileInfo, type Zippable } from 'fflate'
import * as v from 'valibot'
import { CoreError } from '../errors'
import { NO_ZIP_TIME } from '../formats/archive'
import { encodeText } from '../formats/text'
import { plainFileName } from './file-name'
import { readDocument } from './migrate'
import { photosOf, Sha256, type PieceDocument } from './schema'

/** A photo as it was stored, byte for byte. */
export interface ArchivedPhoto {
  bytes: Uint8Array
  mediaType: string
}

/** Pieces with their photos, as one file carries them. */
export interface PieceSet {
  /** Null for pieces that belong to no set. */
  name: string | null
  documents: PieceDocument[]
  /** By SHA-256. */
  photos: ReadonlyMap<string, ArchivedPhoto>
}

const INDEX = 'set.json'
const EXTENSIONS: Record<string, string> = { 'image/jpeg': 'jpg', 'image/png': 'png', 'image/webp': 'webp' }

/** What stands first in the archive; docs/formats.md says it in words. */
const Index = v.object({
  schema: v.literal('baldacchino-set'),
  version: v.literal(1),
  name: v.nullable(v.pipe(v.string(), v.maxLength(120))),
  pieces: v.pipe(v.array(v.pipe(v.string(), v.maxLength(200))), v.maxLength(500)),
  photos: v.pipe(
    v.array(v.object({ path: v.pipe(v.string(), v.maxLength(200)), sha256: Sha256, mediaType: v.picklist(Object.keys(EXTENSIONS)) })), // prettier-ignore
    v.maxLength(5000),
  ),
})

/** No archive of an honest set comes near these; they keep what a small file may blow up to within memory. */
export const MOST_UNPACKED_BYTES = 600 * 1024 * 1024
const MOST_ENTRIES = 6000
const MOST_DOCUMENT_BYTES = 8 * 1024 * 1024

/** A set as a ZIP archive: an index, a JSON document a piece, and the photos as they are. The same set gives the same bytes. */
export function packSet({ name, documents, photos }: PieceSet): Uint8Array<ArrayBuffer> {
  const files: Zippable = {}
  const pieces = documents.map((document, k) => {
    const path = `pieces/${String(k + 1).padStart(2, '0')}-${plainFileName(document.name)}.json`
    files[path] = [encodeText(JSON.stringify(document, null, 1)), { level: 6 }]
    return path
  })
  const needed = [...new Set(documents.flatMap(photosOf))]
  const listed = needed.flatMap((sha256) => {
    const photo = photos.get(sha256)
    if (!photo) return []
    const path = `photos/${sha256}.${EXTENSIONS[photo.mediaType] ?? 'bin'}`
    // Pictures are compressed already.
    files[path] = [photo.bytes, { level: 0 }]
    return [{ path, sha256, mediaType: photo.mediaType }]
  })
  const index = { schema: 'baldacchino-set', version: 1, name, pieces, photos: listed }
  const all: Zippable = {
    [INDEX]: [encodeText(`${JSON.stringify(index, null, 1)}\n`), { level: 6 }],
    ...files,
  }
  return new Uint8Array(zipSync(all, { mtime: NO_ZIP_TIME }))
}

/**
 * Reads an archive that `packSet` wrote. Whether a photo's bytes have the SHA-256 they are listed under is for the caller to check.
 * @throws CoreError `not-archive`, `archive-too-large`, `archive-incomplete`, and what `readDocument` throws
 */
export function unpackSet(bytes: Uint8Array, mostBytes = MOST_UNPACKED_BYTES): PieceSet {
  const files = unzipped(bytes, mostBytes)
  const index = readIndex(files[INDEX])
  const file = (path: string) => {
    const found = Object.hasOwn(files, path) ? files[path] : undefined
    if (found) return found
    throw new CoreError({
      code: 'archive-incomplete',
      message: `The archive lists “${path}” but doesn’t contain it. It was cut short or changed; export the set again.`,
      where: path,
    })
  }
  return {
    name: index.name,
    documents: index.pieces.map((path) => documentOf(file(path), path)),
    photos: new Map(
      index.photos.map(({ path, sha256, mediaType }) => [sha256, { bytes: file(path), mediaType }]),
    ),
  }
}

function unzipped(bytes: Uint8Array, mostBytes: number): Record<string, Uint8Array> {
  let [total, entries] = [0, 0]
  // Declared sizes are what is allocated; an entry that holds more than it declares can't write beyond that.
  const filter = ({ name, originalSize }: UnzipFileInfo) => {
    entries++
    total += originalSize
    if (total > mostBytes || entries > MOST_ENTRIES)
      throw new CoreError({
        code: 'archive-too-large',
        message: `Unpacked, the archive would be larger than ${Math.round(mostBytes / 1024 / 1024)} MB or have more than ${MOST_ENTRIES} files. No set is as large; it isn’t taken in.`,
      })
    return name === INDEX || /^(pieces|photos)\/[^/\\]+$/.test(name)
  }
  try {
    return unzipSync(bytes, { filter })
  } catch (error) {
    if (error instanceof CoreError) throw error
    throw new CoreError({
      code: 'not-archive',
      message:
        'The file is no readable ZIP archive: another kind of file, or one cut short. Choose the archive of a set or a piece.',
    })
  }
}

function readIndex(bytes: Uint8Array | undefined) {
  const result = v.safeParse(Index, bytes && parsed(bytes))
  if (result.success) return result.output
  throw new CoreError({
    code: 'not-archive',
    message: 'The ZIP archive holds no set of pieces: its “set.json” is missing or not understood.',
    where: INDEX,
  })
}

function documentOf(bytes: Uint8Array, path: string): PieceDocument {
  const input = bytes.length <= MOST_DOCUMENT_BYTES ? parsed(bytes) : null
  if (input !== undefined && input !== null) return readDocument(input)
  throw new CoreError({
    code: 'not-json',
    message: `“${path}” in the archive is no document of a piece.`,
    where: path,
  })
}

function parsed(bytes: Uint8Array): unknown {
  try {
    return JSON.parse(decodeText(bytes)) as unknown
  } catch {
    return undefined
  }
}

/** UTF-8 without the DOM or Node. @throws URIError for bytes that are none */
function decodeText(bytes: Uint8Array): string {
  const parts: string[] = []
  const ESCAPES = 8192
  let ascii = true
  for (const byte of bytes) if (byte > 127) ascii = false
  for (let i = 0; i < bytes.length; i += ESCAPES)
    parts.push(String.fromCharCode(...bytes.subarray(i, i + ESCAPES)))
  const text = parts.join('')
  return ascii ? text : decodeURIComponent(text.replace(/[%\x80-\xff]/g, (c) => `%${c.charCodeAt(0).toString(16).padStart(2, '0')}`)) // prettier-ignore
}
