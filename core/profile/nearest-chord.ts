/** A place of a chain of chords. */
export interface ChordPlace {
  /** Index of the chord. */
  chord: number
  at: readonly [number, number]
  distance: number
}

/** The place of some chords of a chain [r z ...] that is nearest to a point. @param to first chord that isn't looked at */
export function nearestChord(
  chain: Float64Array,
  r: number,
  z: number,
  from = 0,
  to = chain.length / 2 - 1,
): ChordPlace {
  let best: ChordPlace = { chord: from, distance: Infinity, at: [r, z] }
  for (let i = from; i < to; i++) {
    const [a, b] = [chain[2 * i]!, chain[2 * i + 1]!]
    // Farther away by its height alone.
    if (Math.min(b, chain[2 * i + 3]!) - z > best.distance || z - Math.max(b, chain[2 * i + 3]!) > best.distance) continue // prettier-ignore
    const [dr, dz] = [chain[2 * i + 2]! - a, chain[2 * i + 3]! - b]
    const l2 = dr * dr + dz * dz
    const share = l2 > 0 ? Math.max(0, Math.min(1, ((r - a) * dr + (z - b) * dz) / l2)) : 0
    const at = [a + share * dr, b + share * dz] as const
    const distance = Math.hypot(r - at[0], z - at[1])
    if (distance < best.distance) best = { chord: i, distance, at }
  }
  return best
}

/** The nearest place of a closed half-profile [r z ...], with its distance negative for a point within. */
export function signedPlace(profile: Float64Array, r: number, z: number): ChordPlace {
  const place = nearestChord(profile, r, z)
  return isInside(profile, r, z) ? { ...place, distance: -place.distance } : place
}

/** True inside of the closed profile (the axis counts as its other side): an odd number of chords lies farther out. */
function isInside(profile: Float64Array, r: number, z: number): boolean {
  let inside = false
  for (let i = 0; i + 3 < profile.length; i += 2) {
    const [r0, z0, r1, z1] = [profile[i]!, profile[i + 1]!, profile[i + 2]!, profile[i + 3]!]
    if (z0 > z !== z1 > z && r < r0 + ((z - z0) / (z1 - z0)) * (r1 - r0)) inside = !inside
  }
  return inside
}
