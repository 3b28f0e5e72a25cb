import type { PieceDocument, PiecePhoto } from '../../core/piece/schema'
import type { DisplayUnit } from '../../core/units/units'

/** A piece as the server keeps it. */
export interface StoredPiece {
  id: string
  setName: string | null
  place: number | null
  revision: number
  updatedAt: string
  document: PieceDocument
}

/** A piece as the cabinet lists it. */
export interface ListedPiece {
  id: string
  name: string
  setName: string | null
  place: number | null
  revision: number
  updatedAt: string
  photoSha256: string | null
  summary: {
    unit: DisplayUnit
    heightMm: number | null
    maxDiameterMm: number | null
    silhouette: number[] | null
  }
}

/** The order of pieces in their set; those without a place come last, as they came. */
export function byPlace(a: { place: number | null }, b: { place: number | null }): number {
  return (a.place ?? Infinity) - (b.place ?? Infinity) || 0
}

export type PhotoFacts = Omit<PiecePhoto, 'fileName' | 'quarterTurns' | 'crop'>
