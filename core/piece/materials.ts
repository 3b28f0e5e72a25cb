import { encoded } from '../picture/raster'

/** How a material looks, in the terms of glTF 2.0. */
export interface Look {
  /** Base colour, linear red, green, blue in 0..1. */
  colour: readonly [number, number, number]
  metallic: number
  roughness: number
  /** Index of refraction of what lets light through. */
  ior?: number
}

/** A material by what it weighs and how it looks. Textures are another matter. */
export interface Material {
  id: string
  name: string
  /** g/cm³. */
  density: number
  /** Where the density comes from. */
  source: string
  look: Look
  /** It has a grain, which runs along the axis. */
  grain?: true
}

const HANDBOOK = 'handbook value, from memory'

const matt = (r: number, g: number, b: number, roughness: number): Look => ({ colour: [r, g, b], metallic: 0, roughness }) // prettier-ignore
const metal = (r: number, g: number, b: number, roughness: number): Look => ({ colour: [r, g, b], metallic: 1, roughness }) // prettier-ignore
const glass = (ior: number): Look => ({ colour: [1, 1, 1], metallic: 0, roughness: 0, ior })

/** Materials that pieces are made of. Woods at 12 % moisture; densities of woods and stonewares vary by a tenth. */
export const MATERIALS: readonly Material[] = [
  { id: 'soda-lime-glass', name: 'Glass, soda-lime', density: 2.5, source: HANDBOOK, look: glass(1.52) },
  {
    id: 'borosilicate-glass',
    name: 'Glass, borosilicate',
    density: 2.23,
    source: 'ISO 3585, from memory',
    look: glass(1.47),
  },
  { id: 'lead-crystal', name: 'Glass, lead crystal', density: 3.0, source: HANDBOOK, look: glass(1.55) },
  { id: 'stoneware', name: 'Stoneware', density: 2.3, source: HANDBOOK, look: matt(0.42, 0.36, 0.28, 0.75) },
  { id: 'porcelain', name: 'Porcelain', density: 2.4, source: HANDBOOK, look: matt(0.86, 0.85, 0.82, 0.25) },
  {
    id: 'earthenware',
    name: 'Earthenware',
    density: 1.9,
    source: HANDBOOK,
    look: matt(0.5, 0.23, 0.12, 0.85),
  },
  { id: 'plaster', name: 'Plaster', density: 1.2, source: HANDBOOK, look: matt(0.85, 0.84, 0.8, 0.95) },
  { id: 'marble', name: 'Marble', density: 2.7, source: HANDBOOK, look: matt(0.8, 0.79, 0.77, 0.3) },
  { id: 'oak', name: 'Oak', density: 0.7, source: HANDBOOK, look: matt(0.42, 0.27, 0.14, 0.5), grain: true },
  {
    id: 'beech',
    name: 'Beech',
    density: 0.72,
    source: HANDBOOK,
    look: matt(0.52, 0.33, 0.19, 0.45),
    grain: true,
  },
  {
    id: 'maple',
    name: 'Maple',
    density: 0.65,
    source: HANDBOOK,
    look: matt(0.66, 0.47, 0.29, 0.4),
    grain: true,
  },
  {
    id: 'pine',
    name: 'Pine',
    density: 0.52,
    source: HANDBOOK,
    look: matt(0.68, 0.48, 0.25, 0.55),
    grain: true,
  },
  {
    id: 'boxwood',
    name: 'Boxwood',
    density: 0.95,
    source: HANDBOOK,
    look: matt(0.66, 0.5, 0.24, 0.4),
    grain: true,
  },
  {
    id: 'walnut',
    name: 'Walnut',
    density: 0.64,
    source: HANDBOOK,
    look: matt(0.2, 0.11, 0.06, 0.45),
    grain: true,
  },
  { id: 'cork', name: 'Cork', density: 0.24, source: HANDBOOK, look: matt(0.52, 0.34, 0.19, 0.9) },
  { id: 'felt', name: 'Felt, wool', density: 0.25, source: HANDBOOK, look: matt(0.1, 0.22, 0.14, 1) },
  { id: 'rubber', name: 'Rubber', density: 1.1, source: HANDBOOK, look: matt(0.03, 0.03, 0.03, 0.85) },
  { id: 'slate', name: 'Slate', density: 2.75, source: HANDBOOK, look: matt(0.09, 0.1, 0.11, 0.7) },
  { id: 'granite', name: 'Granite', density: 2.65, source: HANDBOOK, look: matt(0.36, 0.33, 0.32, 0.4) },
  { id: 'enamel', name: 'Enamel', density: 2.5, source: HANDBOOK, look: matt(0.78, 0.79, 0.8, 0.15) },
  { id: 'brass', name: 'Brass', density: 8.5, source: HANDBOOK, look: metal(0.89, 0.68, 0.29, 0.25) },
  { id: 'bronze', name: 'Bronze', density: 8.8, source: HANDBOOK, look: metal(0.68, 0.44, 0.23, 0.35) },
  { id: 'steel', name: 'Steel', density: 7.85, source: HANDBOOK, look: metal(0.56, 0.57, 0.58, 0.3) },
  { id: 'aluminium', name: 'Aluminium', density: 2.7, source: HANDBOOK, look: metal(0.91, 0.92, 0.92, 0.35) },
  { id: 'pewter', name: 'Pewter', density: 7.3, source: HANDBOOK, look: metal(0.55, 0.54, 0.52, 0.45) },
  { id: 'copper', name: 'Copper', density: 8.96, source: HANDBOOK, look: metal(0.93, 0.46, 0.3, 0.3) },
  { id: 'silver', name: 'Silver', density: 10.5, source: HANDBOOK, look: metal(0.96, 0.95, 0.91, 0.2) },
  {
    id: 'polypropylene',
    name: 'Polypropylene',
    density: 0.905,
    source: HANDBOOK,
    look: matt(0.62, 0.64, 0.66, 0.45),
  },
  {
    id: 'polyethylene',
    name: 'Polyethylene, HD',
    density: 0.95,
    source: HANDBOOK,
    look: matt(0.7, 0.71, 0.7, 0.5),
  },
  { id: 'pla', name: 'PLA, printed full', density: 1.24, source: HANDBOOK, look: matt(0.3, 0.42, 0.5, 0.6) },
  { id: 'resin', name: 'Resin, printed', density: 1.18, source: HANDBOOK, look: matt(0.45, 0.45, 0.47, 0.4) },
]

/** Without a chosen material: turned wood by its colour, no claim about what it is. */
export const PLAIN_LOOK: Look = { colour: [0.48, 0.27, 0.15], metallic: 0, roughness: 0.6 }

/** A linear colour as sRGB #RRGGBB (IEC 61966-2-1). */
export function hexColour(linear: readonly [number, number, number]): string {
  return `#${linear.map((v) => Math.round(255 * encoded(v)).toString(16).padStart(2, '0')).join('')}`.toUpperCase() // prettier-ignore
}

/** Density of water near 20 °C, g/cm³: 0.998; what else is poured weighs about as much. */
export const WATER_DENSITY = 0.998

export function materialOf(id: string | null | undefined): Material | null {
  return MATERIALS.find((m) => m.id === id) ?? null
}
