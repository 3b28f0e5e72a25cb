import { expose, transfer } from 'comlink'
import { photoBitmap } from './photo-bitmap'
import type { LevelsWorker } from './protocol'

/** Reduced copies are only drawn when the picture is shown smaller than this, so edges are judged on real pixels. */
const SMALLEST_SIDE = 700

const worker: LevelsWorker = {
  async levels(url) {
    const full = await photoBitmap(url)
    const levels = [full]
    let { width, height } = full
    while (Math.min(width, height) > 2 * SMALLEST_SIDE) {
      width = Math.round(width / 2)
      height = Math.round(height / 2)
      const half = { resizeWidth: width, resizeHeight: height, resizeQuality: 'high' } as const
      levels.push(await createImageBitmap(levels.at(-1)!, half))
    }
    return transfer(levels, levels)
  },
}

expose(worker)
