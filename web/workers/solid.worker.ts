import { expose, transfer } from 'comlink'
import { writeObj } from '../../core/formats/obj'
import { writeStl } from '../../core/formats/stl'
import { writeProfileSvg } from '../../core/formats/svg'
import { revolve } from '../../core/solid/revolve'
import { shadingBuffers } from '../../core/solid/shading'
import type { SolidWorker } from './protocol'

const send = (bytes: Uint8Array<ArrayBuffer>) => transfer(bytes, [bytes.buffer])

const worker: SolidWorker = {
  shade(flat, sides) {
    const buffers = shadingBuffers(flat, sides)
    return transfer(buffers, [
      buffers.positions.buffer as ArrayBuffer,
      buffers.normals.buffer as ArrayBuffer,
      buffers.indices.buffer as ArrayBuffer,
    ])
  },
  stl: (points, sides, title) => send(writeStl(revolve(points, { sides }), title)),
  obj: (points, sides, name) => send(writeObj(revolve(points, { sides }), name)),
  svg: (segments, title) => send(writeProfileSvg(segments, title)),
}

expose(worker)
