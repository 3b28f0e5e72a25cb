import Module from 'manifold-3d'
import { beforeAll, describe, expect, it } from 'vitest'
import { assemblyFigures, correctedBody } from '../measure/assembly-figures'
import { isClosedAndOriented } from '../measure/mesh-measures'
import { build } from '../piece/build'
import { derive } from '../piece/derive'
import { newPiece, type Part, type PieceDocument } from '../piece/schema'
import { moments } from '../measure/moments'
import { node } from '../profile/test-samples'
import { BODY } from './assemble'
import type { Kernel } from './kernel'
import { ON_AXIS } from './placement'
import { requireSqueeze, squeezeArea, squeezePoint, type Squeeze } from './squeeze'

let kernel: Kernel
beforeAll(async () => {
  kernel = await Module()
  kernel.setup()
})

const oval: Squeeze = { fromMm: 20, toMm: 60, blendMm: 10, across: 1, deep: 0.6, square: 0 }
const square: Squeeze = { ...oval, deep: 1, square: 1 }
const partOf = (squeeze: Squeeze): Part => ({
  id: 's',
  name: 'Squeeze',
  relation: 'cut',
  target: BODY,
  shown: true,
  material: null,
  shape: { kind: 'squeeze', ...squeeze },
  place: ON_AXIS,
  round: null,
  clearanceMm: null,
})
const post: PieceDocument = {
  ...newPiece('Post'),
  profile: { side: 'right', nodes: [node(0, 0), node(20, 0), node(20, 80), node(0, 80)] },
  solid: { sides: 96 },
}
/** Volume and soundness of the post under a squeeze. */
function squeezedPost(squeeze: Squeeze) {
  const document = { ...post, parts: [partOf(squeeze)] }
  const { solid, measures } = derive(document)
  const { assembly, problems } = build(document, solid!, { kernel })
  expect(problems).toEqual([])
  expect(isClosedAndOriented(assembly!.solids[0]!.mesh)).toBe(true)
  return { volume: correctedBody({ ...measures!, ...moments(solid!.segments) }, assemblyFigures(assembly!)).volumeMm3, solid: assembly!.solids[0]! } // prettier-ignore
}
/** ∫ of the share by which a section's area grows or shrinks, over the blend: the smoothstep's mean is a half. */
const round = Math.PI * 400

describe('a squeeze', () => {
  it('to an oval takes its share of the sections, half of it where it blends', () => {
    // Across stays, deep goes to 0.6: sections are linear in the weight.
    const taken = round * (1 - 0.6) * (40 + 2 * 10 * 0.5)
    expect(squeezedPost(oval).volume / (round * 80 - taken)).toBeCloseTo(1, 3)
  })

  it('to a square grows up to the superellipse’s area (n = 12: 3.9 of 4 times r², by its gamma functions)', () => {
    // 4 Γ(1 + 1/12)² / Γ(1 + 1/6) from tables of Γ (from memory): 0.9583² · 4 / 0.92772.
    expect((squeezeArea(square) * Math.PI) / ((4 * 0.9583 ** 2) / 0.92772)).toBeCloseTo(1, 3)
    const { volume } = squeezedPost({ ...square, blendMm: 0.001 })
    expect(volume / (round * 40 + round * 40 * squeezeArea(square))).toBeCloseTo(1, 2)
  })

  it('leaves what lies beyond its blend alone, and its flats touch the circle', () => {
    expect(squeezePoint(oval, 12, 16, 5)).toEqual([12, 16, 5])
    expect(squeezePoint(square, 20, 0, 40)[0]).toBeCloseTo(20, 9)
    const [x, y] = squeezePoint(square, 20 * Math.SQRT1_2, 20 * Math.SQRT1_2, 40)
    expect(x).toBeCloseTo(y, 9)
    expect(x).toBeGreaterThan(18)
    expect(x).toBeLessThan(20)
  })

  it('turns the normals as it turns the surface', () => {
    const { buffers } = squeezedPost({ ...oval, blendMm: 20, fromMm: 40, toMm: 40 }).solid
    const { positions: p, normals: n, indices } = buffers
    let worst = 1
    for (let i = 0; i < indices.length; i += 3) {
      const [a, b, c] = [3 * indices[i]!, 3 * indices[i + 1]!, 3 * indices[i + 2]!]
      const u = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!] as const
      const v = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!] as const
      const f = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]] as const
      const size = Math.hypot(...f)
      if (size > 1e-3) worst = Math.min(worst, (f[0] * n[a]! + f[1] * n[a + 1]! + f[2] * n[a + 2]!) / size)
    }
    // Within some 10° of the flat facets.
    expect(worst).toBeGreaterThan(0.97)
  })

  it('that makes no sense is refused in words', () => {
    expect(() => requireSqueeze({ ...oval, toMm: 10 })).toThrow(/upper height/)
    expect(() => requireSqueeze({ ...oval, deep: 0 })).toThrow(/more than 0/)
    expect(() => requireSqueeze({ ...oval, blendMm: -1 })).toThrow(/0 mm or more/)
    expect(() => requireSqueeze({ ...oval, square: 2 })).toThrow(/between 0 and 1/)
  })
})
