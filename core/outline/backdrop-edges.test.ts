import { describe, expect, it } from 'vitest'
import type { Plane } from '../picture/raster'
import { withoutBackdropEdges } from './backdrop-edges'

const [WIDTH, HEIGHT] = [60, 20]

/** Evidence and upright edges by column. */
const planes = (evidenceAt: (x: number) => number, edges: readonly number[]) => {
  const plane = (at: (x: number) => number): Plane => ({
    width: WIDTH,
    height: HEIGHT,
    data: Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => at(i % WIDTH)),
  })
  const x = plane((column) => (edges.includes(column) ? 1 : 0))
  return { sharp: { x, y: plane(() => 0) }, evidence: plane(evidenceAt) }
}
const [STRIPE, OUTLINE, DRAWN] = [12, 25, 40]
const kept = (evidenceAt: (x: number) => number) => {
  const { sharp, evidence } = planes(evidenceAt, [STRIPE, OUTLINE, DRAWN])
  const { data } = withoutBackdropEdges(sharp, evidence).x
  return [STRIPE, OUTLINE, DRAWN].map((column) => data[8 * WIDTH + column]!)
}

describe('edges before a backdrop of many colours', () => {
  it('count less where both sides are backdrop, or piece; those between them stay', () => {
    const [stripe, outline, drawn] = kept((x) => (x < OUTLINE ? -0.8 : 1))
    expect(stripe).toBeCloseTo(0.3)
    expect(outline).toBeCloseTo(1)
    expect(drawn).toBeCloseTo(0.6)
  })

  it('stay where nothing is known of what is beside them: a piece may have the backdrop’s colours', () => {
    expect(kept((x) => (x < OUTLINE ? -0.8 : 0))[1]).toBeCloseTo(1)
    expect(kept(() => 0)).toEqual([1, 1, 1])
  })

  it('count less along thin lines of a colour that nothing is known of, too', () => {
    const onLine = kept((x) => (Math.abs(x - STRIPE) <= 1 ? 0 : x < OUTLINE ? -0.8 : 1))
    expect(onLine[0]).toBeLessThan(0.5)
  })
})
