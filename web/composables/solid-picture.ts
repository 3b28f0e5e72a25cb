import type { SurfaceLook, ShownSolid, SolidCamera } from './use-solid-scene'
import { SolidScene } from './use-solid-scene'

/** What a picture of solids shows. */
export interface SolidPicture {
  solids: readonly ShownSolid[]
  looks: readonly SurfaceLook[]
  camera: SolidCamera
  /** px. */
  width: number
  height: number
  /** Behind them; null: nothing, so that the picture can be laid over anything. */
  ground: string | null
  /** Where they stand, for their shadow; null: none. */
  shadow: { z: number; across: number; deep: number } | null
  ink: string
}

/** Lowest and highest point of solids, how far they reach from the axis, and how far to its side as seen from the front, mm. */
export function boundsOf(solids: readonly Pick<ShownSolid, 'buffers'>[]) {
  let [low, high, reach, aside] = [Infinity, -Infinity, 0, 0]
  for (const { buffers } of solids) {
    const p = buffers.positions
    for (let i = 0; i < p.length; i += 3) {
      low = Math.min(low, p[i + 2]!)
      high = Math.max(high, p[i + 2]!)
      reach = Math.max(reach, Math.hypot(p[i]!, p[i + 1]!))
      aside = Math.max(aside, Math.abs(p[i]!))
    }
  }
  return { low, high, reach, aside }
}

/** Browsers allow few drawing contexts; all pictures share one. */
let shared: { scene: SolidScene; canvas: HTMLCanvasElement } | null = null

function sharedScene() {
  if (!shared) {
    const canvas = document.createElement('canvas')
    shared = { canvas, scene: new SolidScene(canvas) }
  }
  return shared
}

/**
 * Draws solids at any size, into a canvas of its own.
 * @throws Error when the browser gives no WebGL, or not at this size
 */
export function paintSolids(picture: SolidPicture): HTMLCanvasElement {
  const { scene, canvas } = sharedScene()
  const { solids, looks, camera, width, height, ground, shadow, ink } = picture
  scene.setSolids(solids, looks.length - 1)
  scene.setLook(looks, ink, false)
  scene.setShadow(camera.elevation > 0 ? shadow : null)
  scene.render(camera, width, height, 1)
  if (ground && camera.elevation > 0) scene.refine(ground)
  const out = Object.assign(document.createElement('canvas'), { width, height })
  const context = out.getContext('2d')
  if (!context || canvas.width !== width)
    throw new Error('This browser can’t draw a picture as large. Choose a smaller one.')
  if (ground) {
    context.fillStyle = ground
    context.fillRect(0, 0, width, height)
  }
  // In the same tick: afterwards the drawing buffer is empty.
  context.drawImage(canvas, 0, 0)
  return out
}

/** A canvas as the bytes of a picture file. */
export async function pictureBytes(
  canvas: HTMLCanvasElement,
  mediaType: 'image/png' | 'image/webp' | 'image/jpeg',
): Promise<Uint8Array<ArrayBuffer>> {
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, mediaType, 0.92))
  if (!blob) throw new Error('The picture could not be written. Choose a smaller one.')
  return new Uint8Array(await blob.arrayBuffer())
}
