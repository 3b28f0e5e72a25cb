import { onScopeDispose, shallowRef, watch } from 'vue'
import { api } from '../api/client'
import { levelsClient } from '../workers/levels-client'

/** The photo at full resolution and halved copies for looking at it from afar. */
export interface PhotoLevels {
  sha256: string
  /** Level k is reduced by 2^k; level 0 is the picture itself. */
  levels: ImageBitmap[]
}

/** Decodes the photo with this address once; honours the EXIF turn as the stored size does. */
export function usePhotoBitmap(sha256: () => string | null) {
  const photo = shallowRef<PhotoLevels | null>(null)
  const error = shallowRef<string | null>(null)
  let turn = 0

  watch(
    sha256,
    async (sha) => {
      const mine = ++turn
      release()
      error.value = null
      if (!sha) return
      try {
        const levels = await levelsClient.call((worker) => worker.levels(api.photoUrl(sha)))
        if (mine === turn) photo.value = { sha256: sha, levels }
        else levels.forEach((level) => level.close())
      } catch {
        if (mine === turn)
          error.value =
            'The photo can’t be shown. Reload the page; if that doesn’t help, drop the photo again.'
      }
    },
    { immediate: true },
  )

  function release() {
    photo.value?.levels.forEach((level) => level.close())
    photo.value = null
  }
  onScopeDispose(() => {
    turn++
    release()
  })
  return { photo, error }
}

export interface PaintOptions {
  /** Of the canvas, CSS px. It isn't asked for its own: that would have the page laid out anew within a frame. */
  size: { width: number; height: number }
  opacity?: number
  /** Only this part of the picture is shown, picture px. */
  crop?: { x: number; y: number; width: number; height: number } | null
}

/** Paints the photo through a picture-to-screen matrix; single pixels show as squares when enlarged. */
export function paintPhoto(
  canvas: HTMLCanvasElement,
  photo: PhotoLevels | null,
  matrix: [number, number, number, number, number, number],
  { size, opacity = 1, crop = null }: PaintOptions,
): void {
  const ratio = window.devicePixelRatio || 1
  const width = Math.round(size.width * ratio)
  const height = Math.round(size.height * ratio)
  if (canvas.width !== width || canvas.height !== height) {
    canvas.width = width
    canvas.height = height
  }
  const context = canvas.getContext('2d')!
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.clearRect(0, 0, width, height)
  if (!photo) return
  const scale = Math.hypot(matrix[0], matrix[1]) * ratio
  let level = 0
  while (level + 1 < photo.levels.length && scale * 2 ** (level + 1) <= 1) level++
  const bitmap = photo.levels[level]!
  const full = photo.levels[0]!
  const [a, b, c, d, e, f] = matrix.map((m) => m * ratio) as typeof matrix
  context.setTransform(a, b, c, d, e, f)
  context.globalAlpha = opacity
  context.imageSmoothingEnabled = scale < 3
  context.imageSmoothingQuality = 'high'
  if (crop) {
    context.beginPath()
    context.rect(crop.x, crop.y, crop.width, crop.height)
    context.save()
    context.clip()
  }
  context.drawImage(bitmap, 0, 0, full.width, full.height)
  if (crop) context.restore()
}
