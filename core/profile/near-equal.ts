import type { HalfProfile } from './profile'

/** Two upright sides whose diameters are hardly to be told apart. */
export interface NearEqual {
  /** A node of each. */
  ids: [string, string]
  diametersMm: [number, number]
}

/**
 * Cylinders of a profile that were likely meant to have one ⌀: their radii differ by no more than a tolerance, but they do
 * differ. To be offered, never to be forced.
 */
export function nearEqualDiameters({ nodes }: HalfProfile, toleranceMm: number): NearEqual[] {
  const sides = nodes
    .filter((n, i) => n.r > 0 && n.next === 'line' && nodes[i + 1]?.r === n.r)
    .sort((a, b) => a.r - b.r)
  return sides.flatMap((b, i): NearEqual[] => {
    const a = sides[i - 1]
    if (!a || a.r === b.r || b.r - a.r > toleranceMm) return []
    return [{ ids: [a.id, b.id], diametersMm: [2 * a.r, 2 * b.r] }]
  })
}
