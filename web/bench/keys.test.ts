import { describe, expect, it } from 'vitest'
import { BENCH_KEYS } from './keys'
import { COMPANIONS } from './solid/companions'

describe('the sheet of keys', () => {
  it('names each key once a group, and says something of it', () => {
    for (const { title, keys } of BENCH_KEYS) {
      expect(title).toMatch(/^[A-Z]/)
      const names = keys.map(([key]) => key)
      expect(new Set(names).size).toBe(names.length)
      for (const [, does] of keys) expect(does.length).toBeGreaterThan(3)
    }
  })

  it('one key does one thing in a stage: nothing that counts everywhere is taken again', () => {
    const everywhere = BENCH_KEYS.filter(({ title }) => ['Everywhere', 'Looking'].includes(title)).flatMap((g) => g.keys.map(([key]) => key)) // prettier-ignore
    for (const { title, keys } of BENCH_KEYS) {
      if (['Everywhere', 'Looking'].includes(title)) continue
      for (const [key] of keys) expect(everywhere).not.toContain(key)
    }
  })
})

describe('things to compare a piece with', () => {
  /** The numbers of a path's absolute commands are places; those of relative ones aren't looked at. */
  const placesOf = (d: string) =>
    [...d.matchAll(/([A-Z])([^A-Za-z]*)/g)].flatMap(([, command, numbers]) => {
      const list = [...numbers!.matchAll(/-?\d+(?:\.\d+)?/g)].map(([text]) => Number(text))
      if (command === 'H') return list.map((x) => [x, 0] as const)
      if (command === 'V') return list.map((y) => [0, y] as const)
      const ends = command === 'A' ? list.slice(-2) : list
      return Array.from({ length: Math.floor(ends.length / 2) }, (_, k) => [ends[2 * k]!, ends[2 * k + 1]!] as const) // prettier-ignore
    })

  it('are as large as they say: an identity card as ISO/IEC 7810 has it, 85.60 × 53.98 mm', () => {
    const card = COMPANIONS.find(({ id }) => id === 'card')!
    expect([card.widthMm, card.heightMm]).toEqual([85.6, 53.98])
  })

  it('are drawn within their own size', () => {
    for (const { widthMm, heightMm, parts } of COMPANIONS)
      for (const { d, stroke = 0 } of parts)
        for (const [x, y] of placesOf(d)) {
          const slack = stroke / 2 + 0.05
          expect(x).toBeGreaterThanOrEqual(-slack)
          expect(x).toBeLessThanOrEqual(widthMm + slack + 6)
          expect(y).toBeGreaterThanOrEqual(-slack)
          expect(y).toBeLessThanOrEqual(heightMm + slack)
        }
  })

  it('have names of their own', () => {
    expect(new Set(COMPANIONS.map(({ id }) => id)).size).toBe(COMPANIONS.length)
  })
})
