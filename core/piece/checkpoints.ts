import type { Checkpoint, PieceDocument } from './schema'
import { solvedOf } from './solved'

/** The parts of a document that a checkpoint keeps. */
export function stateOf(document: PieceDocument): Checkpoint['state'] {
  const {
    photo,
    references,
    calibration,
    outline,
    guides = null,
    profile,
    stations,
    solid,
    parts,
    zones,
  } = document
  return { photo, references, calibration, outline, guides, profile, stations, solid, parts, zones }
}

/**
 * True when the photo is placed and scaled, nothing has been drawn yet, and no checkpoint holds this: the moment at which
 * people save a copy, so that a modelling mistake never costs the set-up.
 */
export function wantsSetUp(document: PieceDocument): boolean {
  if (!document.photo || document.profile.nodes.length > 0) return false
  const known = solvedOf(document)?.known
  if (!known?.axis || !known.ground || !known.scale) return false
  return !document.checkpoints.some((c) => c.by === 'set-up' && c.state.calibration === document.calibration)
}

/** The document with a checkpoint of its state; another set-up checkpoint makes way for a newer one. */
export function withCheckpoint(
  document: PieceDocument,
  { id, name, at, by }: Omit<Checkpoint, 'state'>,
): PieceDocument {
  const kept = by === 'set-up' ? document.checkpoints.filter((c) => c.by !== 'set-up') : document.checkpoints
  return { ...document, checkpoints: [...kept, { id, name, at, by, state: stateOf(document) }] }
}
