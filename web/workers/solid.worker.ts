import { expose, transfer } from 'comlink'
import { fittedWhole } from '../../core/piece/follow-outline'
import { handOver, handOverArchive } from '../../core/piece/hand-over'
import { readOutline, usualFit } from '../../core/piece/outline'
import { fitCurve } from '../../core/profile/fit-curve'
import { shadingBuffers } from '../../core/solid/shading'
import type { SolidWorker } from './protocol'

const worker: SolidWorker = {
  shade(flat, sides, turn) {
    const buffers = shadingBuffers(flat, sides, turn)
    return transfer(buffers, [
      buffers.positions.buffer as ArrayBuffer,
      buffers.normals.buffer as ArrayBuffer,
      buffers.indices.buffer as ArrayBuffer,
    ])
  },
  readAhead(outline, view, toleranceMm) {
    const read = readOutline(outline, view)
    const within = toleranceMm ?? usualFit(read)
    return { read, toleranceMm: within, curve: fittedWhole(read, within) }
  },
  fitRun(points, toleranceMm) {
    let count = 0
    const held = { start: true, end: true }
    return fitCurve(points, { toleranceMm, held, newId: () => String(count++) })
  },
  handOver(document, format, timeStamp) {
    const bytes = handOver(document, format, { timeStamp })
    return transfer(bytes, [bytes.buffer])
  },
  handOverArchive(document, formats, baseName, timeStamp) {
    const bytes = handOverArchive(document, formats, baseName, { timeStamp })
    return transfer(bytes, [bytes.buffer])
  },
}

expose(worker)
