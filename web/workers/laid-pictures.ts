import type { PictureFile } from '../../core/piece/hand-over'
import { laidPictures, type PieceDocument } from '../../core/piece/schema'
import { api } from '../api/client'

/** The pictures laid on a piece, as a GLB takes them: WebP becomes PNG, the others go as they are. */
export async function loadPictures(document: PieceDocument): Promise<Map<string, PictureFile>> {
  const out = new Map<string, PictureFile>()
  for (const { sha256, fileName } of laidPictures(document)) {
    if (out.has(sha256)) continue
    const response = await fetch(api.photoUrl(sha256)).catch(() => null)
    if (!response?.ok)
      throw new Error(`The picture “${fileName}” could not be read. Reload the page and try again.`)
    out.set(sha256, await pictureFile(await response.blob()))
  }
  return out
}

async function pictureFile(blob: Blob): Promise<PictureFile> {
  const { type } = blob
  if (type === 'image/png' || type === 'image/jpeg')
    return { bytes: new Uint8Array(await blob.arrayBuffer()), mediaType: type }
  const bitmap = await createImageBitmap(blob)
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height)
  canvas.getContext('2d')!.drawImage(bitmap, 0, 0)
  bitmap.close()
  const png = await canvas.convertToBlob({ type: 'image/png' })
  return { bytes: new Uint8Array(await png.arrayBuffer()), mediaType: 'image/png' }
}
