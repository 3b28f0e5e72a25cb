import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bestPath, FORBIDDEN, type PathCost } from './best-path'

/** What a path earns. */
function earned(
  path: ArrayLike<number>,
  worth: Float32Array,
  places: number,
  { step, most }: PathCost,
): number {
  let sum = worth[path[0]!]!
  for (let i = 1; i < path.length; i++) {
    const [a, b] = [Math.min(path[i - 1]!, path[i]!), Math.max(path[i - 1]!, path[i]!)]
    let change = 0
    for (let k = a + 1; k <= b; k++) change += step(i, k)
    sum += worth[i * places + path[i]!]! - Math.min(change, most)
  }
  return sum
}

/** The most that any path earns, by trying every one. */
function mostOfAll(worth: Float32Array, count: number, places: number, cost: PathCost): number {
  let most = -Infinity
  const path = new Array<number>(count).fill(0)
  for (let n = 0; n < places ** count; n++) {
    for (let i = 0, rest = n; i < count; i++, rest = Math.floor(rest / places)) path[i] = rest % places
    most = Math.max(most, earned(path, worth, places, cost))
  }
  return most
}

const small = fc.record({
  places: fc.integer({ min: 2, max: 5 }),
  count: fc.integer({ min: 1, max: 5 }),
  numbers: fc.array(fc.float({ min: -4, max: 4, noNaN: true }), { minLength: 25, maxLength: 25 }),
  steps: fc.array(fc.float({ min: 0, max: 3, noNaN: true }), { minLength: 25, maxLength: 25 }),
  most: fc.float({ min: 0, max: 8, noNaN: true }),
})

describe('the best path through lines of places', () => {
  it('earns as much as the best of all paths (property)', () => {
    fc.assert(
      fc.property(small, ({ places, count, numbers, steps, most }) => {
        const worth = Float32Array.from({ length: count * places }, (_, i) => numbers[i % 25]!)
        const cost = { step: (i: number, k: number) => steps[(i * places + k) % 25]!, most }
        const path = bestPath(worth, count, places, cost)
        expect(path).toHaveLength(count)
        expect(earned(path, worth, places, cost)).toBeCloseTo(mostOfAll(worth, count, places, cost), 3)
      }),
      { numRuns: 150 },
    )
  })

  it('follows a ridge, and jumps where a corner is worth it', () => {
    const [count, places] = [40, 60]
    const ridge = (i: number) => (i < 20 ? 10 + Math.round(i / 4) : 45)
    const worth = new Float32Array(count * places)
    for (let i = 0; i < count; i++) worth[i * places + ridge(i)] = 1
    const path = bestPath(worth, count, places, { step: () => 0.4, most: 5 })
    expect([...path]).toEqual(Array.from({ length: count }, (_, i) => ridge(i)))
    // Where changes may cost whatever they do, the corner costs more than half of the ridge earns.
    const stiff = bestPath(worth, count, places, { step: () => 1.1, most: Infinity })
    expect(Math.abs(stiff[39]! - stiff[0]!)).toBeLessThan(10)
  })

  it('goes round places that are forbidden', () => {
    const [count, places] = [30, 20]
    const worth = new Float32Array(count * places)
    for (let i = 0; i < count; i++) worth[i * places + 8] = 1
    for (let k = 3; k < 14; k++) worth[15 * places + k] = FORBIDDEN
    const path = bestPath(worth, count, places, { step: () => 0.2, most: 2 })
    expect(path[15]! < 3 || path[15]! >= 14).toBe(true)
    expect(path[5]).toBe(8)
    expect(path[25]).toBe(8)
  })
})
