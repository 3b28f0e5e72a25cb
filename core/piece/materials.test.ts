import { describe, expect, it } from 'vitest'
import { MATERIALS } from './materials'

const densityOf = (id: string) => MATERIALS.find((m) => m.id === id)!.density

describe('materials', () => {
  it('have names and ids of their own', () => {
    for (const key of ['id', 'name'] as const)
      expect(new Set(MATERIALS.map((m) => m[key])).size).toBe(MATERIALS.length)
  })

  it('weigh what handbooks say, within their usual spread (values from memory)', () => {
    // Soda-lime glass 2.4 to 2.6, borosilicate 3.3 glass 2.23 (ISO 3585), cut crystal from 2.9 on, oak at 12 % 0.6 to 0.75 g/cm³.
    const usual: [string, number, number][] = [
      ['soda-lime-glass', 2.4, 2.6],
      ['borosilicate-glass', 2.2, 2.26],
      ['lead-crystal', 2.9, 3.3],
      ['oak', 0.6, 0.75],
      ['beech', 0.65, 0.75],
      ['marble', 2.6, 2.8],
    ]
    for (const [id, least, most] of usual) {
      expect(densityOf(id)).toBeGreaterThanOrEqual(least)
      expect(densityOf(id)).toBeLessThanOrEqual(most)
    }
  })

  it('say where their density comes from, and look like something glTF 2.0 can say', () => {
    for (const { source, density, look } of MATERIALS) {
      expect(source.length).toBeGreaterThan(5)
      expect(density).toBeGreaterThan(0.05)
      expect(density).toBeLessThan(20)
      for (const share of [...look.colour, look.metallic, look.roughness]) {
        expect(share).toBeGreaterThanOrEqual(0)
        expect(share).toBeLessThanOrEqual(1)
      }
      // KHR_materials_ior takes 1 and more.
      if (look.ior !== undefined) expect(look.ior).toBeGreaterThan(1)
    }
  })

  it('only woods have a grain, and float', () => {
    const grained = MATERIALS.filter((m) => m.grain)
    expect(grained.length).toBeGreaterThan(2)
    for (const { density, look } of grained) {
      expect(density).toBeLessThan(1.1)
      expect(look.metallic).toBe(0)
    }
  })
})
