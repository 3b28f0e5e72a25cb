import { expose } from 'comlink'
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

/** Runs the search once over a small made-up picture, so that its code is compiled before somebody waits for it. */
function warmUp(): void {
  if (warm) return
  warm = true
  const [width, height] = [240, 320]
  const data = new Uint8ClampedArray(4 * width * height).fill(200)
  for (let y = 60; y < 260; y++)
    for (let x = 70; x < 170; x++) data.fill(60 + (x % 7), 4 * (y * width + x), 4 * (y * width + x) + 3)
  for (let i = 3; i < data.length; i += 4) data[i] = 255
  const raster = { width, height, data }
  try {
    for (let k = 0; k < 2; k++)
      searchPhoto(raster, { up: { x: 0, y: -1 }, eye: { f: 900, centre: { x: width / 2, y: height / 2 } } })
  } catch {
    // Only its being run matters.
  }
}

const worker: PhotoWorker = {
  async prepare(request) {
    await pixelsOf(request)
    warmUp()
  },
  async search(request, onProgress) {
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
