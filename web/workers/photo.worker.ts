import { expose } from 'comlink'
import { searchPhoto, type PhotoSearch } from '../../core/camera/search-photo'
import { edgePath } from '../../core/outline/edge-pen'
import { settledFound } from '../../core/piece/settled-found'
import type { Raster } from '../../core/picture/raster'
import { KeptOutcome } from './kept-outcome'
import { photoBitmap } from './photo-bitmap'
import type { PhotoWorker, PixelRequest, SearchRequest } from './protocol'

interface Pixels {
  raster: Raster
  /** Where the first pixel lies in the full picture, px. */
  offset: { x: number; y: number }
}

/** The pixels last read, or being read; searching again after a change of lens needn't decode again. */
let kept: { key: string; pixels: Promise<Pixels> } | null = null

function pixelsOf(request: PixelRequest): Promise<Pixels> {
  const key = JSON.stringify([request.url, request.crop])
  if (kept?.key !== key) {
    const pixels = decoded(request)
    const reading = { key, pixels }
    kept = reading
    pixels.catch(() => {
      if (kept === reading) kept = null
    })
  }
  return kept.pixels
}

async function decoded({ url, crop }: PixelRequest): Promise<Pixels> {
  const bitmap = await photoBitmap(url)
  const x = Math.max(0, Math.floor(crop?.x ?? 0))
  const y = Math.max(0, Math.floor(crop?.y ?? 0))
  const width = Math.min(bitmap.width - x, Math.ceil(crop?.width ?? bitmap.width))
  const height = Math.min(bitmap.height - y, Math.ceil(crop?.height ?? bitmap.height))
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!
  context.drawImage(bitmap, -x, -y)
  bitmap.close()
  const { data } = context.getImageData(0, 0, width, height)
  return { raster: { width, height, data }, offset: { x, y } }
}

/** The last search, perhaps made ahead: whoever presses for it, or presses again, needn't wait. */
const searches = new KeptOutcome<PhotoSearch>()

function searched(
  request: SearchRequest,
  { raster, offset }: Pixels,
  onProgress: (fraction: number) => void,
): PhotoSearch {
  const { up, lens, eye, axis, guides } = request
  return searches.of(JSON.stringify(request), () => {
    onProgress(0.1)
    return searchPhoto(raster, {
      up,
      offset,
      lens,
      eye,
      axis,
      guides,
      onProgress: (f) => onProgress(0.1 + 0.9 * f),
    })
  })
}

/** What was asked for last; what was to be searched ahead before is no longer wanted then. */
let lastAsked: SearchRequest | null = null

const worker: PhotoWorker = {
  async prepare(request) {
    await pixelsOf(request)
  },
  async searchAhead(request, onProgress) {
    lastAsked = request
    const pixels = await pixelsOf(request)
    // Calls that came meanwhile go first.
    await new Promise((done) => setTimeout(done))
    if (lastAsked !== request) return
    try {
      searched(request, pixels, onProgress)
    } catch {
      // Said when somebody asks for it.
    }
  },
  async search(request, onProgress) {
    lastAsked = request
    return searched(request, await pixelsOf(request), onProgress)
  },
  async settle(document, command, sides) {
    return settledFound(document, command, sides)
  },
  async edgePath(request, from, to, blur) {
    const { raster, offset } = await pixelsOf(request)
    const moved = (p: { x: number; y: number }, sign: 1 | -1) => ({
      x: p.x - sign * offset.x,
      y: p.y - sign * offset.y,
    })
    return edgePath(raster, moved(from, 1), moved(to, 1), blur).map(
      (v, i) => v + (i % 2 ? offset.y : offset.x),
    )
  },
}

expose(worker)
