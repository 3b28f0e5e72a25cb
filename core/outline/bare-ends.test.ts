import { describe, expect, it } from 'vitest'
import { withoutBareEnds } from './bare-ends'
import type { OutlineSide } from './refine'
import { paint } from './test-pictures'

const axis = { at: { x: 300, y: 700 }, up: { x: 0, y: -1 } }
const options = { blur: 0.7, step: 2, clear: false, backdrop: null }
const [wide, narrow, rim, above] = [140, 110, 300, 250]
const cup = (x: number, y: number) => Math.max(Math.abs(x - 300) - wide, rim - y, y - 700)
const lid = (x: number, y: number) => Math.max(Math.abs(x - 300) - narrow, above - y, y - rim)
const wall = () => [0.5, 0.48, 0.44]

/** A side of the cup whose way goes on above its rim as a lid's would, where every so many points show an edge. */
function side(left: boolean, every: number): OutlineSide {
  const places: [number, number, boolean][] = []
  let beyond = 0
  const isSeen = () => ++beyond % every === 0
  for (let u = 0; u < wide; u += 2) places.push([u, 700, true])
  for (let y = 700; y > rim; y -= 2) places.push([wide, y, true])
  for (let u = wide; u > narrow; u -= 2) places.push([u, rim, false])
  for (let y = rim; y > above; y -= 2) places.push([narrow, y, isSeen()])
  for (let u = narrow; u >= 0; u -= 2) places.push([u, above, isSeen()])
  const points = Float64Array.from(places.flatMap(([u, y]) => [300 + (left ? -u : u), y]))
  return { points, sd: Float64Array.from(places, ([, , seen]) => (seen ? 0.1 : Infinity)), blur: 0.7 }
}
const sides = (every: number) => [side(true, every), side(false, every)] as [OutlineSide, OutlineSide]
const levels = (chain: Float64Array) => chain.filter((_, i) => i % 2)

describe('ways that go on where hardly an edge shows them', () => {
  it.each([1000, 4, 2])('are cut off at the rim that does, one point in %d seen beyond it', (every) => {
    const chains = withoutBareEnds(paint(600, 900, cup, { outside: wall }), sides(every), axis, options)
    for (const [k, chain] of chains!.entries()) {
      expect(Math.abs(levels(chain).reduce((p, q) => Math.min(p, q)) - rim)).toBeLessThan(1.5)
      expect(Math.abs(levels(chain).reduce((p, q) => Math.max(p, q)) - 700)).toBeLessThan(0.01)
      for (let i = 0; i < chain.length; i += 2)
        expect((chain[i]! - 300) * (k === 0 ? -1 : 1)).toBeLessThan(wide + 1)
    }
  })

  it('stay where a lid shows its edges there, and where no rim shows', () => {
    const lidded = paint(600, 900, (x, y) => Math.min(cup(x, y), lid(x, y)), { outside: wall })
    expect(withoutBareEnds(lidded, sides(4), axis, options)).toBeNull()
    expect(withoutBareEnds(paint(600, 900, () => 50, { outside: wall }), sides(4), axis, options)).toBeNull() // prettier-ignore
  })

  it('are none where all of an end is seen', () => {
    const seen = sides(4)
    for (const { sd } of seen) sd.fill(0.1)
    expect(withoutBareEnds(paint(600, 900, cup, { outside: wall }), seen, axis, options)).toBeNull()
  })
})
