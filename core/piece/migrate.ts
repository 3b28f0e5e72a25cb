import * as v from 'valibot'
import { EMPTY_CALIBRATION } from '../calibrate/calibration'
import { newKnownSize } from '../calibrate/known-size'
import { CoreError } from '../errors'
import { DOCUMENT_VERSION, PieceDocument } from './schema'

/** Takes a document of version n to n + 1. Index 0 is never used: versions start at 1. */
type Migration = (document: Record<string, unknown>) => Record<string, unknown>
const MIGRATIONS: (Migration | undefined)[] = [
  undefined,
  fromVersion1,
  fromVersion2,
  fromVersion3,
  fromVersion4,
]

/** Version 1 knew one known size, a plumb line set by hand and no camera. */
function fromVersion1(document: Record<string, unknown>): Record<string, unknown> {
  const old = (document.calibration ?? {}) as {
    plumb?: object | null
    ground?: unknown
    knownSizes?: Parameters<typeof newKnownSize>[0][]
  }
  return {
    ...document,
    version: 2,
    photo: document.photo && { ...document.photo, crop: null },
    references: [],
    calibration: {
      ...EMPTY_CALIBRATION,
      plumb: old.plumb ? { ...old.plumb, by: 'hand' } : null,
      ground: old.ground ?? null,
      knownSizes: (old.knownSizes ?? []).map((size) => newKnownSize(size)),
    },
  }
}

/** Version 2 had no outline. */
function fromVersion2(document: Record<string, unknown>): Record<string, unknown> {
  return { ...document, version: 3, outline: null }
}

/** Version 3 had lines and fair curves only, no stations and no checkpoints. */
function fromVersion3(document: Record<string, unknown>): Record<string, unknown> {
  return { ...document, version: 4, stations: [], checkpoints: [] }
}

/** Version 4 had neither parts nor zones, its checkpoints neither. */
function fromVersion4(document: Record<string, unknown>): Record<string, unknown> {
  const none = { parts: [], zones: [] }
  const kept = (document.checkpoints ?? []) as { state?: object }[]
  const checkpoints = kept.map((c) => ({ ...c, state: { ...none, ...c.state } }))
  return { ...document, ...none, version: 5, checkpoints }
}

/**
 * Reads a document of any version this code knows.
 * @throws CoreError `document-unknown`, `document-newer`, `document-invalid` (names the field)
 */
export function readDocument(input: unknown): PieceDocument {
  if (
    typeof input !== 'object' ||
    input === null ||
    (input as { schema?: unknown }).schema !== 'baldacchino-piece'
  ) {
    throw new CoreError({
      code: 'document-unknown',
      message: 'This is not the document of a piece.',
      where: 'schema',
      expected: 'baldacchino-piece',
    })
  }
  let document = input as Record<string, unknown>
  const version = document.version
  if (typeof version === 'number' && version > DOCUMENT_VERSION) {
    throw new CoreError({
      code: 'document-newer',
      message: `This piece was saved by a newer version of the app (document version ${version}). Update the app to open it.`,
      where: 'version',
      expected: `up to ${DOCUMENT_VERSION}`,
      received: String(version),
    })
  }
  for (let n = Number(version); n < DOCUMENT_VERSION; n++) {
    const migration = MIGRATIONS[n]
    if (!migration) break
    document = migration(document)
  }
  const result = v.safeParse(PieceDocument, document)
  if (!result.success) {
    const issue = result.issues[0]
    const where = v.getDotPath(issue) ?? 'document'
    throw new CoreError({
      code: 'document-invalid',
      message: `The document is damaged at “${where}”: ${issue.message.replace(/\.?$/, '.')}`,
      where,
      expected: issue.expected ?? undefined,
      received: issue.received,
    })
  }
  const ids = result.output.profile.nodes.map((n) => n.id)
  if (new Set(ids).size !== ids.length) {
    throw new CoreError({
      code: 'document-invalid',
      message: 'The document is damaged: two nodes share one id.',
      where: 'profile.nodes',
    })
  }
  return result.output
}
