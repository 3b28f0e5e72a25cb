import type { FlatProfile } from '../profile/flatten'
import type { HollowProfile } from '../profile/hollow'
import type { Zone } from './schema'

/** Levels nearer to a point of the profile than this, mm, fall on it. */
const SAME_LEVEL = 1e-6

/**
 * The profile parted at the zones' levels, and the zone of each of its chords: its number counted from 1, 0 for none. A zone
 * that comes later lies over the earlier ones; the inside of a hollow piece belongs to none.
 */
export function zonedProfile(
  flat: FlatProfile,
  zones: readonly Pick<Zone, 'fromMm' | 'toMm'>[],
  hollow: HollowProfile | null,
): { flat: FlatProfile; surfaces: number[] } {
  const outside = hollow ? flat.segmentStart[hollow.outside.length]! : flat.points.length / 2 - 1
  const levels = zones.flatMap((z) => [z.fromMm, z.toMm])
  const { flat: parted, moved } = parting(flat, levels, outside)
  const surfaces = Array.from({ length: parted.points.length / 2 - 1 }, (_, k) => {
    const middle = (parted.points[2 * k + 1]! + parted.points[2 * k + 3]!) / 2
    return k < moved[outside]! ? zoneAt(zones, middle) : 0
  })
  return { flat: parted, surfaces }
}

/** The profile with points where its chords pass levels: the same shape, with rows there. */
export function cutAtLevels(flat: FlatProfile, levels: readonly number[]): FlatProfile {
  return parting(flat, levels, flat.points.length / 2 - 1).flat
}

/** Cuts the chords before one of them at levels; with where each of the old points has come to. */
function parting(flat: FlatProfile, levels: readonly number[], before: number) {
  const chords = flat.points.length / 2 - 1
  const points: number[] = [flat.points[0]!, flat.points[1]!]
  const corner: number[] = [flat.corner[0]!]
  const moved = [0]
  for (let k = 0; k < chords; k++) {
    const [r0, z0, r1, z1] = [0, 1, 2, 3].map((i) => flat.points[2 * k + i]!) as [number, number, number, number] // prettier-ignore
    for (const level of k < before ? crossedLevels(levels, z0, z1) : []) {
      points.push(r0 + ((r1 - r0) * (level - z0)) / (z1 - z0), level)
      corner.push(0)
    }
    points.push(r1, z1)
    corner.push(flat.corner[k + 1]!)
    moved.push(corner.length - 1)
  }
  const segmentStart = flat.segmentStart.map((at) => moved[at]!)
  return { flat: { points: Float64Array.from(points), corner: Uint8Array.from(corner), segmentStart }, moved }
}

/** Levels strictly between two heights, in the order in which they are met. */
function crossedLevels(levels: readonly number[], z0: number, z1: number): number[] {
  const [low, high] = [Math.min(z0, z1) + SAME_LEVEL, Math.max(z0, z1) - SAME_LEVEL]
  const met = [...new Set(levels)].filter((z) => z > low && z < high)
  return met.sort((a, b) => (z1 > z0 ? a - b : b - a))
}

function zoneAt(zones: readonly Pick<Zone, 'fromMm' | 'toMm'>[], z: number): number {
  return zones.findLastIndex(({ fromMm, toMm }) => z >= fromMm - SAME_LEVEL && z <= toMm + SAME_LEVEL) + 1
}
