/** How thick a wall is: the same everywhere, or given at heights and blended straight between them. */
export interface Thickness {
  mm: number
  /** From the lowest to the highest; beyond the ends the nearest one counts. Empty: `mm` everywhere. */
  levels: readonly { z: number; mm: number }[]
}

/** Thickness at a height, mm. */
export function thicknessAt({ mm, levels }: Thickness, z: number): number {
  if (levels.length === 0) return mm
  const above = levels.findIndex((l) => l.z >= z)
  if (above === 0) return levels[0]!.mm
  if (above < 0) return levels[levels.length - 1]!.mm
  const [a, b] = [levels[above - 1]!, levels[above]!]
  return a.mm + ((b.mm - a.mm) * (z - a.z)) / (b.z - a.z)
}

/** Change of the thickness with the height. */
export function thicknessSlope({ levels }: Thickness, z: number): number {
  const above = levels.findIndex((l) => l.z >= z)
  if (above <= 0) return 0
  const [a, b] = [levels[above - 1]!, levels[above]!]
  return (b.mm - a.mm) / (b.z - a.z)
}

/** The largest thickness anywhere, mm. */
export function mostThickness({ mm, levels }: Thickness): number {
  return levels.length > 0 ? Math.max(...levels.map((l) => l.mm)) : mm
}
