import { validateBytes } from 'gltf-validator'
import { describe, expect, it } from 'vitest'
import { writePng } from '../picture/png'
import { profileSegments } from '../profile/profile-segments'
import { flatten } from '../profile/flatten'
import { node } from '../profile/test-samples'
import { shadingBuffers } from '../solid/shading'
import { newHistory, run, undo } from './history'
import { handOver } from './hand-over'
import { newPiece, photosOf, type PieceDocument, type SurfacePicture } from './schema'
import { laidPicture } from './surface-picture'

/** A drum of ⌀ 60 on a foot of ⌀ 20: its mean radius is not its own. */
const nodes = [node(0, 0), node(10, 0), node(10, 20), node(30, 20), node(30, 80), node(0, 80)]
const flat = flatten(profileSegments(nodes))
const zone = { id: 'z', name: 'Label', fromMm: 30, toMm: 70, material: null }
const around = 2 * Math.PI * 30
const picture: SurfacePicture = { sha256: 'b'.repeat(64), fileName: 'label.png', mediaType: 'image/png', width: 400, height: 100, acrossMm: around, turn: 0, upMm: 0, aroundMm: 0 } // prettier-ignore

/** Where the vertices of a round drum at a height lie on the picture, by azimuth. */
function onPicture(own: SurfacePicture, way: 'straight' | 'even', seam = 0.4) {
  const { positions, uvs } = shadingBuffers(flat, 72, undefined, { seam, way })
  const [a, b, c, d, e, f] = laidPicture(own, flat, { way }, zone).matrix
  const out: { azimuth: number; z: number; s: number; t: number }[] = []
  for (let i = 0; i < positions.length / 3; i++) {
    const [x, y, z] = [positions[3 * i]!, positions[3 * i + 1]!, positions[3 * i + 2]!]
    if (Math.abs(Math.hypot(x, y) - 30) > 1e-4) continue
    const [u, v] = [uvs![2 * i]!, uvs![2 * i + 1]!]
    out.push({ azimuth: Math.atan2(y, x), z, s: a * u + b * v + c, t: d * u + e * v + f })
  }
  return { places: out, seam }
}

describe('a picture laid on a zone', () => {
  it.each(['straight', 'even'] as const)(
    'goes once round, upright, its middle opposite the seam, its lower edge on the zone’s (%s)',
    (way) => {
      const { places, seam } = onPicture(picture, way)
      const tall = around / 4
      for (const { azimuth, z, s, t } of places.filter((p) => p.z === 20 || p.z === 80)) {
        // The level faces lie elsewhere; what stands upright runs up by mm of the picture.
        if (Math.abs(t - (z - 30) / tall) > 0.2) continue
        expect(t).toBeCloseTo((z - 30) / tall, 4)
        // To the right, seen from outside, is counter-clockwise.
        const turn = ((((azimuth - seam) / (2 * Math.PI)) % 1) + 1) % 1
        const off = Math.abs(s - turn)
        expect(Math.min(off, Math.abs(off - 1))).toBeLessThan(1e-4)
      }
      expect(places.length).toBeGreaterThan(100)
    },
  )

  it('moves up and around by mm of the surface, and turns about its own middle', () => {
    const at = (own: SurfacePicture) => laidPicture(own, flat, { way: 'even' }, zone).matrix
    const [, b, c, d, , f] = at(picture)
    const moved = at({ ...picture, upMm: 5, aroundMm: 7 })
    expect(moved[2] - c).toBeCloseTo(-7 / around, 9)
    expect(moved[5] - f).toBeCloseTo(-5 / (around / 4), 9)
    const turned = at({ ...picture, turn: Math.PI / 2 })
    // A quarter turn to the left: what ran up now runs to the right.
    expect([turned[0], turned[1]]).toEqual([expect.closeTo(d / 4, 9), expect.closeTo(0, 9)])
    expect([turned[3], turned[4]]).toEqual([expect.closeTo(0, 9), expect.closeTo(-4 * b, 9)])
    const middle = (m: typeof turned) => {
      // Over the foot, up, out, and up to the zone: 10 + 20 + 20 + 10 mm.
      const u = 60 + around / 8
      return [m[0] * u + m[2], m[3] * u + m[5]]
    }
    expect(middle(turned)[0]).toBeCloseTo(middle(at(picture))[0]!, 6)
  })

  it('is kept with the piece, is one step back, and goes into GLB where the file is at hand', async () => {
    const base: PieceDocument = {
      ...newPiece('Drum'),
      profile: { side: 'right', nodes },
      zones: [{ ...zone, picture }],
    }
    expect(photosOf(base)).toEqual([picture.sha256])
    const laid = run(newHistory(newPiece('Drum')), { type: 'set-picture', picture })
    expect(laid.document.solid.picture).toEqual(picture)
    expect(undo(laid).document.solid.picture).toBeUndefined()
    const file = {
      bytes: writePng(new Uint8Array(3 * 8 * 4).fill(120), 8, 4),
      mediaType: 'image/png' as const,
    }
    const bytes = handOver(base, 'glb', { pictures: new Map([[picture.sha256, file]]) })
    const report = await validateBytes(bytes)
    expect([report.issues.numErrors, report.issues.numWarnings]).toEqual([0, 0])
    const length = new DataView(bytes.buffer).getUint32(12, true)
    const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length))) as { images: unknown[]; materials: { pbrMetallicRoughness: { baseColorTexture?: unknown } }[] } // prettier-ignore
    expect(json.images).toHaveLength(1)
    expect(json.materials.map((m) => m.pbrMetallicRoughness.baseColorTexture !== undefined)).toEqual([
      false,
      true,
    ])
    expect(new TextDecoder().decode(handOver(base, 'glb')).includes('"images"')).toBe(false)
  })
})
