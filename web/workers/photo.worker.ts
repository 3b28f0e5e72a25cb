import { expose } from 'comlink'
import { solveCalibration } from '../../core/calibrate/calibrate'
import { searchPhoto } from '../../core/camera/search-photo'
import { edgePath } from '../../core/outline/edge-pen'
import type { Raster } from '../../core/picture/raster'
import type { PhotoWorker, PixelRequest } from './protocol'

/** The pixels last read; searching again after a change of lens needn't decode again. */
let kept: { key: string; raster: Raster; offset: { x: number; y: number } } | null = null

async function pixelsOf({ url, crop }: PixelRequest): Promise<NonNullable<typeof kept>> {
  const key = JSON.stringify([url, crop])
  if (kept?.key === key) return kept
  const response = await fetch(url)
  if (!response.ok) throw new Error('The photo can’t be read. Reload the page and try again.')
  const bitmap = await createImageBitmap(await response.blob(), { imageOrientation: 'from-image' })
  const x = Math.max(0, Math.floor(crop?.x ?? 0))
  const y = Math.max(0, Math.floor(crop?.y ?? 0))
  const width = Math.min(bitmap.width - x, Math.ceil(crop?.width ?? bitmap.width))
  const height = Math.min(bitmap.height - y, Math.ceil(crop?.height ?? bitmap.height))
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!
  context.drawImage(bitmap, -x, -y)
  bitmap.close()
  const { data } = context.getImageData(0, 0, width, height)
  kept = { key, raster: { width, height, data }, offset: { x, y } }
  return kept
}

let warm = false
/** A search came while the code was being warmed up: it goes first. */
let searched = false

/** The photo is warmed up with in this size, px along. */
const WARM_SIZE = 1000
const WARM_ROUNDS = 3

/**
 * Runs the search a few times over a small copy of the photo, so that its code is compiled before somebody waits for it. Whoever
 * presses meanwhile waits for one round at most.
 */
async function warmUp(raster: Raster): Promise<void> {
  if (warm) return
  warm = true
  const small = everyFew(raster, Math.ceil(Math.max(raster.width, raster.height) / WARM_SIZE))
  const eye = { f: 3 * small.height, centre: { x: small.width / 2, y: small.height / 2 } }
  for (let round = 0; round < WARM_ROUNDS && !searched; round++) {
    try {
      searchPhoto(small, { up: { x: 0, y: -1 }, eye })
    } catch {
      // Only its being run matters.
    }
    await new Promise((done) => setTimeout(done))
  }
}

/** Every n-th pixel each way. */
function everyFew({ width, height, data }: Raster, n: number): Raster {
  const [w, h] = [Math.floor(width / n), Math.floor(height / n)]
  const out = new Uint8ClampedArray(4 * w * h)
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const from = 4 * (y * n * width + x * n)
      out.set(data.subarray(from, from + 4), 4 * (y * w + x))
    }
  return { width: w, height: h, data: out }
}

const worker: PhotoWorker = {
  async prepare(request) {
    const { raster } = await pixelsOf(request)
    void warmUp(raster)
  },
  async search(request, onProgress) {
    searched = true
    const { raster, offset } = await pixelsOf(request)
    onProgress(0.1)
    const { up, lens, eye, axis, guides } = request
    return searchPhoto(raster, {
      up,
      offset,
      lens,
      eye,
      axis,
      guides,
      onProgress: (f) => onProgress(0.1 + 0.9 * f),
    })
  },
  async solve(calibration, photo) {
    return solveCalibration(calibration, photo)
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
