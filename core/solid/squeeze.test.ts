import Module from 'manifold-3d'
import { beforeAll, describe, expect, it } from 'vitest'
import { assemblyFigures, correctedBody } from '../measure/assembly-figures'
import { below, filledTo, levelOf } from '../measure/capacity'
import { isClosedAndOriented, meshVolume } from '../measure/mesh-measures'
import { build } from '../piece/build'
import { derive } from '../piece/derive'
import { newPiece, type Part, type PieceDocument } from '../piece/schema'
import { bodyQuantities } from '../measure/body'
import { cutAtLevels } from '../piece/zones'
import { vesselShare } from '../piece/plan-assembly'
import { flatten } from '../profile/flatten'
import { backwards, closedLevel } from '../profile/segments'
import { node } from '../profile/test-samples'
import { BODY } from './assemble'
import type { Kernel } from './kernel'
import { ON_AXIS } from './placement'
import { revolve } from './revolve'
import { requireSqueeze, squeezeArea, squeezePoint, squeezeShare, type Squeeze } from './squeeze'

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
  const { solid } = derive(document)
  const { assembly, problems } = build(document, solid!, { kernel })
  expect(problems).toEqual([])
  expect(isClosedAndOriented(assembly!.solids[0]!.mesh)).toBe(true)
  return { volume: correctedBody(bodyQuantities(solid!.segments), assemblyFigures(assembly!)).volumeMm3, solid: assembly!.solids[0]! } // prettier-ignore
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

describe('what a squeezed vessel holds', () => {
  const cup: PieceDocument = {
    ...newPiece('Cup'),
    profile: { side: 'right', nodes: [node(0, 0), node(20, 0), node(26, 80), node(0, 80)] },
    solid: { sides: 256, wall: { mm: 3, levels: [], floorMm: 5, way: 'inwards', lip: 'flat', bore: false } },
  }

  it('follows closed forms: an oval, a superellipse, and one after the other', () => {
    const whole = { fromMm: -10, toMm: 100, blendMm: 0, across: 1.25, deep: 0.8, square: 0 }
    expect(squeezeShare([whole])(40)).toBeCloseTo(1, 12)
    expect(squeezeShare([{ ...whole, deep: 0.6 }])(40)).toBeCloseTo(0.75, 9)
    expect(squeezeShare([{ ...whole, across: 1, deep: 1, square: 0.5 }])(40)).toBeCloseTo(squeezeArea({ ...whole, across: 1, deep: 1, square: 0.5 }), 3) // prettier-ignore
    expect(squeezeShare([whole, { ...whole, across: 0.5, deep: 1 }])(40)).toBeCloseTo(0.5, 9)
    expect(squeezeShare([whole])(200)).toBe(1)
    expect(squeezeShare([])(5)).toBe(1)
  })

  it('is what the mesh of its inside encloses, to any level, and levels are found for volumes', () => {
    for (const squeeze of [oval, square, { ...oval, across: 1.1, square: 0.4, blendMm: 15 }]) {
      const document = { ...cup, parts: [partOf(squeeze)] }
      const { solid } = derive(document)
      const inside = solid!.hollow!.inside
      const share = vesselShare(document)
      for (const level of [30, 55, 80]) {
        const holds = filledTo(inside, level, share)
        // The inside up to the level as a mesh of many rows, each point squeezed.
        const chain = flatten(closedLevel(backwards(below(inside, level))), { toleranceMm: 0.001 })
        const levels = Array.from({ length: 400 }, (_, k) => 5 + ((level - 5) * k) / 400)
        const mesh = revolve(cutAtLevels(chain, levels).points, { sides: 256 })
        for (let i = 0; i < mesh.positions.length; i += 3)
          mesh.positions.set(squeezePoint(squeeze, mesh.positions[i]!, mesh.positions[i + 1]!, mesh.positions[i + 2]!), i) // prettier-ignore
        const facets = (256 / (2 * Math.PI)) * Math.sin((2 * Math.PI) / 256)
        expect(Math.abs(holds.volumeMm3 / (meshVolume(mesh) / facets) - 1)).toBeLessThan(1e-3)
        expect(levelOf(inside, holds.volumeMm3, share).levelMm).toBeCloseTo(level, 6)
      }
    }
  })
})
