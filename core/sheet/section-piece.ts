import type { Segment } from '../profile/segments'

/** One solid of revolution as a drawing shows it, mm, at its finished size. */
export interface SheetSolid {
  name: string
  /** Closed: from the lower axis end outwards and up, over a rim and down the inside where it is hollow. */
  segments: readonly Segment[]
}

/** A piece as its sheets show it. */
export interface SheetPiece {
  name: string
  /** The body first, then what stands by itself about the same axis. */
  solids: readonly SheetSolid[]
  stations: readonly { name: string; z: number }[]
  /** Writes a length with the precision of the sheet, without its unit. */
  lengthText: (mm: number) => string
  /** "mm", "in". */
  unit: string
  /** ISO 8601. */
  timeStamp: string
  material: string | null
  /** Sentences below the drawing. */
  notes: readonly string[]
}
