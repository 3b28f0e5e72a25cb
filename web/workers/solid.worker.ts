import { expose, transfer } from 'comlink'
import { handOver } from '../../core/piece/hand-over'
import { shadingBuffers } from '../../core/solid/shading'
import type { SolidWorker } from './protocol'

const worker: SolidWorker = {
  shade(flat, sides) {
    const buffers = shadingBuffers(flat, sides)
    return transfer(buffers, [
      buffers.positions.buffer as ArrayBuffer,
      buffers.normals.buffer as ArrayBuffer,
      buffers.indices.buffer as ArrayBuffer,
    ])
  },
  handOver(document, format) {
    const bytes = handOver(document, format)
    return transfer(bytes, [bytes.buffer])
  },
}

expose(worker)
