import type { DistantView } from '../camera/view'
import type { OutlineSide } from '../outline/refine'
import type { SolvedCalibration } from './calibrate'
import { readProfile, type ReadProfile } from './read-profile'

/** What the correction for the camera changed against reading with parallel rays. */
export interface CameraEffect {
  /** Parallel rays' radius less the corrected one over the height, mm. */
  differences: { z: number; mm: number }[]
  /** The largest of them in size, and where, mm. */
  most: { z: number; mm: number }
  /** Volume by parallel rays against the corrected one, %. */
  volumePercent: number
}

/** Heights compared. */
const ROWS = 160

/** Compares a reading through the camera with the plain one by the scale on the axis; null for a distant view. */
export function cameraEffect(
  { view, frame }: Pick<SolvedCalibration, 'view' | 'frame'>,
  sides: { left: OutlineSide; right: OutlineSide },
  corrected: ReadProfile,
): CameraEffect | null {
  if (view.kind !== 'near') return null
  const distant: DistantView = {
    kind: 'distant',
    lens: view.lens,
    origin: frame.origin,
    up: frame.up,
    mmPerPx: frame.mmPerPx,
  }
  const plain = readProfile(distant, sides, { foot: corrected.foot, top: corrected.top })
  const differences: { z: number; mm: number }[] = []
  let most = { z: 0, mm: 0 }
  for (let k = 1; k < ROWS; k++) {
    const z = corrected.foot + ((corrected.top - corrected.foot) * k) / ROWS
    const mm = radiusAtHeight(plain, z) - radiusAtHeight(corrected, z)
    if (!Number.isFinite(mm)) continue
    differences.push({ z, mm })
    if (Math.abs(mm) > Math.abs(most.mm)) most = { z, mm }
  }
  return {
    differences,
    most,
    volumePercent: 100 * (volumeOf(plain.points) / volumeOf(corrected.points) - 1),
  }
}

/** Largest radius of a read profile at a height, mm; NaN beyond its ends. */
export function radiusAtHeight({ points }: Pick<ReadProfile, 'points'>, z: number): number {
  let widest = NaN
  for (let i = 1; i < points.length; i++) {
    const [r0, z0] = points[i - 1]!
    const [r1, z1] = points[i]!
    if ((z < z0 && z < z1) || (z > z0 && z > z1)) continue
    const t = z1 === z0 ? 0 : (z - z0) / (z1 - z0)
    const r = r0 + (r1 - r0) * t
    if (!(r <= widest)) widest = r
  }
  return widest
}

/** Volume of the revolved polyline (sum of frusta), mm³. */
export function volumeOf(points: readonly (readonly [number, number])[]): number {
  let sum = 0
  for (let i = 1; i < points.length; i++) {
    const [a, z0] = points[i - 1]!
    const [b, z1] = points[i]!
    sum += (Math.PI * (z1 - z0) * (a * a + a * b + b * b)) / 3
  }
  return sum
}
