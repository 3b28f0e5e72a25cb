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
    const [dr, dz] = [chain[2 * i + 2]! - a, chain[2 * i + 3]! - b]
    const l2 = dr * dr + dz * dz
    const share = l2 > 0 ? Math.max(0, Math.min(1, ((r - a) * dr + (z - b) * dz) / l2)) : 0
    const at = [a + share * dr, b + share * dz] as const
    const distance = Math.hypot(r - at[0], z - at[1])
    if (distance < best.distance) best = { chord: i, distance, at }
  }
  return best
}
