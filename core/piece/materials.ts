/** A material by what it weighs. Look and textures are another matter. */
export interface Material {
  id: string
  name: string
  /** g/cm³. */
  density: number
  /** Where the density comes from. */
  source: string
}

const HANDBOOK = 'handbook value, from memory'

/** Materials that pieces are made of. Woods at 12 % moisture; densities of woods and stonewares vary by a tenth. */
export const MATERIALS: readonly Material[] = [
  { id: 'soda-lime-glass', name: 'Glass, soda-lime', density: 2.5, source: HANDBOOK },
  { id: 'borosilicate-glass', name: 'Glass, borosilicate', density: 2.23, source: 'ISO 3585, from memory' },
  { id: 'lead-crystal', name: 'Glass, lead crystal', density: 3.0, source: HANDBOOK },
  { id: 'stoneware', name: 'Stoneware', density: 2.3, source: HANDBOOK },
  { id: 'porcelain', name: 'Porcelain', density: 2.4, source: HANDBOOK },
  { id: 'earthenware', name: 'Earthenware', density: 1.9, source: HANDBOOK },
  { id: 'plaster', name: 'Plaster', density: 1.2, source: HANDBOOK },
  { id: 'marble', name: 'Marble', density: 2.7, source: HANDBOOK },
  { id: 'oak', name: 'Oak', density: 0.7, source: HANDBOOK },
  { id: 'beech', name: 'Beech', density: 0.72, source: HANDBOOK },
  { id: 'maple', name: 'Maple', density: 0.65, source: HANDBOOK },
  { id: 'pine', name: 'Pine', density: 0.52, source: HANDBOOK },
  { id: 'boxwood', name: 'Boxwood', density: 0.95, source: HANDBOOK },
  { id: 'brass', name: 'Brass', density: 8.5, source: HANDBOOK },
  { id: 'bronze', name: 'Bronze', density: 8.8, source: HANDBOOK },
  { id: 'steel', name: 'Steel', density: 7.85, source: HANDBOOK },
  { id: 'aluminium', name: 'Aluminium', density: 2.7, source: HANDBOOK },
  { id: 'pewter', name: 'Pewter', density: 7.3, source: HANDBOOK },
  { id: 'pla', name: 'PLA, printed full', density: 1.24, source: HANDBOOK },
  { id: 'resin', name: 'Resin, printed', density: 1.18, source: HANDBOOK },
]

/** Density of water near 20 °C, g/cm³: 0.998; what else is poured weighs about as much. */
export const WATER_DENSITY = 0.998

export function materialOf(id: string | null | undefined): Material | null {
  return MATERIALS.find((m) => m.id === id) ?? null
}
