import type { FlatProfile } from '../../core/profile/flatten'
import type { Segment } from '../../core/profile/segments'
import type { ShadingBuffers } from '../../core/solid/shading'

/** What the worker does for the page; Comlink carries the calls, typed arrays are transferred. */
export interface SolidWorker {
  /** Buffers to draw the revolved profile. */
  shade(flat: FlatProfile, sides: number): ShadingBuffers
  stl(points: Float64Array, sides: number, title: string): Uint8Array<ArrayBuffer>
  obj(points: Float64Array, sides: number, name: string): Uint8Array<ArrayBuffer>
  svg(segments: Segment[], title: string): Uint8Array<ArrayBuffer>
}
