import type { PicturePoint } from '../../core/conventions'
import type { Lens } from '../../core/camera/lens'
import type { PhotoSearch } from '../../core/camera/search-photo'
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

/** What to look for, and where. */
export interface SearchRequest {
  /** Address of the photo. */
  url: string
  /** The part to look at, full picture px; null for all of it. */
  crop: { x: number; y: number; width: number; height: number } | null
  up: PicturePoint
  lens: Lens | null
  eye: { f: number; centre: PicturePoint } | null
}

/** Reads pixels; long, so it reports its progress. */
export interface PhotoWorker {
  search(request: SearchRequest, onProgress: (fraction: number) => void): Promise<PhotoSearch>
}
