import type { Format } from '../../core/piece/hand-over'
import type { PieceDocument } from '../../core/piece/schema'
import type { FlatProfile } from '../../core/profile/flatten'
import type { ShadingBuffers } from '../../core/solid/shading'

/** What the worker does for the page; Comlink carries the calls, typed arrays are transferred. */
export interface SolidWorker {
  /** Buffers to draw the revolved profile. */
  shade(flat: FlatProfile, sides: number): ShadingBuffers
  /** The bytes of a file of the piece. */
  handOver(document: PieceDocument, format: Format): Uint8Array<ArrayBuffer>
}
