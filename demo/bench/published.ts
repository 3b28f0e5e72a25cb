import type { PhotoSpec } from '../maker/photo'
import { shape } from '../maker/shape'

const QUARTER = Math.tan(Math.PI / 8)

const scene: PhotoSpec['scene'] = {
  backdrop: 'graded',
  wallTop: [0.12, 0.14, 0.16],
  wallBottom: [0.26, 0.28, 0.3],
  floor: [0.24, 0.24, 0.24],
  stand: 'foot',
  key: [-0.6, 0.8, 0.6],
  seed: 5,
}
const shell = {
  kind: 'opaque' as const,
  look: () => ({
    colour: [0.62, 0.5, 0.38] as [number, number, number],
    gloss: 0.02,
    metal: false,
    roughness: 0.6,
  }),
}

/** An egg of 58 by 44 mm. */
export const EGG: PhotoSpec = {
  name: 'Egg',
  shape: shape(0, 0).cubic([12.2, 0], [22, 11.6], [22, 26]).cubic([22, 43.5], [11.4, 58], [0, 58]).done(),
  materials: [shell],
  camera: { width: 1200, height: 1600, focalLength35mm: 190, distance: 480, cameraHeight: 40, pitch: 0.022 },
  scene,
  lens: { blur: 0.75, noise: 1.5 },
  jpegQuality: 92,
}

/** A ball ⌀ 60 mm seen from so many diameters away. */
export function ball(diameters: number): PhotoSpec {
  const distance = 60 * diameters
  return {
    ...EGG,
    name: `Ball ${diameters}`,
    shape: shape(0, 0).arc(30, 30, QUARTER).arc(0, 60, QUARTER).done(),
    camera: { ...EGG.camera, distance, cameraHeight: 30, pitch: 0, focalLength35mm: 0.29 * distance },
  }
}
