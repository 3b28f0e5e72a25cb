import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { leastAbout, opened } from './opened'

const [WIDTH, HEIGHT] = [40, 30]
const plane = (at: (x: number, y: number) => number) => ({
  width: WIDTH,
  height: HEIGHT,
  data: Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => at(i % WIDTH, Math.floor(i / WIDTH))),
})
const at = ({ data }: { data: Float32Array }, x: number, y: number) => data[y * WIDTH + x]

describe('an opened plane', () => {
  /** Lines across, along and to the border, and a post wider than they are. */
  const isLine = (x: number, y: number) => y === 8 || y === 9 || x === 5
  const isPost = (x: number, y: number) => x >= 20 && x < 27 && y >= 12
  const room = plane((x, y) => (isLine(x, y) || isPost(x, y) ? 1 : -0.8))

  it('has no lines, but what is wider, as it was', () => {
    const without = opened(room, 2)
    for (const [x, y] of [[30, 8], [0, 9], [5, 20], [39, 8]] as const) expect(at(without, x, y)).toBeCloseTo(-0.8, 6) // prettier-ignore
    for (let y = 12; y < HEIGHT; y++)
      for (let x = 18; x < 29; x++) expect(at(without, x, y)).toBeCloseTo(isPost(x, y) ? 1 : -0.8, 6)
  })

  it('lies nowhere above what it was made of, nowhere below the least about, and doesn’t change once more', () => {
    fc.assert(
      fc.property(
        fc.array(fc.float({ min: -1, max: 1, noNaN: true }), {
          minLength: WIDTH * HEIGHT,
          maxLength: WIDTH * HEIGHT,
        }),
        fc.integer({ min: 0, max: 4 }),
        (values, reach) => {
          // prettier-ignore
          const any = { width: WIDTH, height: HEIGHT, data: Float32Array.from(values) }
          const once = opened(any, reach)
          const least = leastAbout(any, reach)
          once.data.forEach((v, i) => {
            expect(v).toBeLessThanOrEqual(any.data[i]!)
            expect(v).toBeGreaterThanOrEqual(least[i]!)
          })
          expect(opened(once, reach).data).toEqual(once.data)
        },
      ),
      { numRuns: 20 },
    )
  })
})
