import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { normalCdf } from './edge-fit'
import { areSoft, lightAcross } from './soft-steps'
import { noise, paint } from './test-pictures'

/** Samples px apart on either side of an edge, as they are read in a picture of this blur. */
const [step, half] = [0.5, 12]

/** Lines of light across steps of this blur, on a slope, each a little aside, with some noise. */
function lines(
  sigma: number,
  { height = 0.3, slope = 0.01, grain = 0.004, aside = 0.4 } = {},
): Float32Array[] {
  const gauss = noise(7)
  return Array.from({ length: 40 }, () => {
    const place = aside * gauss()
    return Float32Array.from({ length: 2 * half + 1 }, (_, k) => {
      const d = (k - half) * step
      return 0.4 + slope * d + height * normalCdf((d - place) / sigma) + grain * gauss()
    })
  })
}

describe('steps across an edge', () => {
  it('are sharp as the picture’s own edges are, and those half as sharp, whatever slopes beside them (property)', () => {
    const number = (min: number, max: number) => fc.double({ min, max, noNaN: true })
    fc.assert(
      fc.property(number(0.7, 1.5), number(0.05, 0.5), number(-0.03, 0.03), fc.boolean(), (sigma, height, slope, isFall) => {
        expect(areSoft(lines(sigma, { height: isFall ? -height : height, slope }), 1)).toBe(false)
      }),
      { numRuns: 60 },
    ) // prettier-ignore
  })

  it('are soft as a shadow’s border is (property)', () => {
    fc.assert(
      fc.property(fc.double({ min: 2.7, max: 5, noNaN: true }), fc.double({ min: 0.2, max: 0.5, noNaN: true }), (sigma, height) => {
        expect(areSoft(lines(sigma, { height }), 1)).toBe(true)
      }),
      { numRuns: 40 },
    ) // prettier-ignore
  })

  it('are told by the picture’s own blur', () => {
    // A dark disc that fades into a light ground: sharply above, softly below.
    const [cx, cy, r] = [100, 100, 60]
    const softly = (y: number) => (y > cy ? 4 : 1)
    const raster = paint(200, 200, (x, y) => (Math.hypot(x - cx, y - cy) - r) / softly(y), {
      outside: () => [0.5, 0.5, 0.5],
      blur: 1,
    })
    const angles = Array.from({ length: 60 }, (_, i) => ((i + 0.5) * Math.PI) / 30)
    // Near the middle of either half; between them the edge changes.
    const inside = (i: number) => Math.abs(Math.sin(angles[i]!)) > 0.5
    const soft = (isBelow: boolean, blur: number) =>
      areSoft(
        angles.flatMap((a, i) => {
          if (!inside(i) || Math.sin(a) > 0 !== isBelow) return []
          const [nx, ny] = [Math.cos(a), Math.sin(a)]
          return [lightAcross(raster, { x: cx + r * nx, y: cy + r * ny }, { x: nx, y: ny }, blur)]
        }),
        blur,
      )
    expect(soft(true, 1)).toBe(true)
    expect(soft(false, 1)).toBe(false)
    // In a picture as soft all over it is as sharp as any.
    expect(soft(true, 4)).toBe(false)
  })
})
