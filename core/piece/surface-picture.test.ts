import { validateBytes } from 'gltf-validator'
import { describe, expect, it } from 'vitest'
import { writePng } from '../picture/png'
import { profileSegments } from '../profile/profile-segments'
import { flatten } from '../profile/flatten'
import { node } from '../profile/test-samples'
import { shadingBuffers } from '../solid/shading'
import { newHistory, run, undo } from './history'
import { handOver } from './hand-over'
import { readDocument } from './migrate'
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

  it('brings its roughness and its bumps along, which are kept with the piece', async () => {
    const file = (letter: string) => ({ ...picture, sha256: letter.repeat(64) })
    const { sha256, fileName, mediaType, width, height } = file('c')
    const roughness = { sha256, fileName, mediaType, width, height }
    const normals = { ...roughness, sha256: 'd'.repeat(64) }
    const own = { ...picture, roughness, normals }
    const base: PieceDocument = { ...newPiece('Drum'), profile: { side: 'right', nodes }, zones: [{ ...zone, picture: own }] } // prettier-ignore
    expect(readDocument(JSON.parse(JSON.stringify(base)))).toEqual(base)
    expect(photosOf(base)).toEqual([picture.sha256, roughness.sha256, normals.sha256])
    const bytes = writePng(new Uint8Array(3 * 8 * 4).fill(120), 8, 4)
    const files = new Map(photosOf(base).map((sha) => [sha, { bytes, mediaType: 'image/png' as const }]))
    const made = handOver(base, 'glb', { pictures: files })
    const report = await validateBytes(made)
    expect([report.issues.numErrors, report.issues.numWarnings]).toEqual([0, 0])
    const length = new DataView(made.buffer).getUint32(12, true)
    const json = JSON.parse(new TextDecoder().decode(made.subarray(20, 20 + length))) as { images: unknown[]; materials: { normalTexture?: { index: number }; pbrMetallicRoughness: { roughnessFactor: number; metallicRoughnessTexture?: { index: number } } }[] } // prettier-ignore
    expect(json.images).toHaveLength(3)
    const { normalTexture, pbrMetallicRoughness: pbr } = json.materials[1]!
    expect([pbr.metallicRoughnessTexture?.index, normalTexture?.index, pbr.roughnessFactor]).toEqual([
      1, 2, 1,
    ])
    // To the right on the picture is counter-clockwise about the drum, seen from above; up lies to its left.
    const at = (name: 'POSITION' | 'TANGENT') => {
      const json2 = json as unknown as { meshes: { primitives: { attributes: Record<string, number>; material: number }[] }[]; accessors: { bufferView: number; count: number }[]; bufferViews: { byteOffset: number }[] } // prettier-ignore
      const primitive = json2.meshes[0]!.primitives.find((q) => q.material === 1)!
      const { bufferView, count } = json2.accessors[primitive.attributes[name]!]!
      const from = 28 + length + json2.bufferViews[bufferView]!.byteOffset
      return new Float32Array(made.slice(from, from + 4 * count * (name === 'TANGENT' ? 4 : 3)).buffer)
    }
    const [places, tangents] = [at('POSITION'), at('TANGENT')]
    let seen = 0
    for (let i = 0; i < places.length / 3; i++) {
      const [x, y, z] = [places[3 * i]!, places[3 * i + 1]!, places[3 * i + 2]!]
      // On the zone's own wall, 30 mm from the axis; y is up here.
      if (Math.abs(Math.hypot(x, z) - 0.03) > 1e-6 || Math.abs(y - 0.05) > 0.0201) continue
      const [tx, ty, tz, side] = [0, 1, 2, 3].map((k) => tangents[4 * i + k]!) as [number, number, number, number] // prettier-ignore
      // Counter-clockwise from above, where z points to whoever looks: (x, z) -> (z, -x).
      expect((tx * z - tz * x) / 0.03).toBeGreaterThan(0.99)
      expect(Math.abs(ty)).toBeLessThan(0.01)
      expect(side).toBe(1)
      seen++
    }
    expect(seen).toBeGreaterThan(60)
    // Without the picture that they lie on they have no place.
    const bare = handOver(base, 'glb', { pictures: new Map([...files].slice(1)) })
    expect(new TextDecoder().decode(bare).includes('"images"')).toBe(false)
  })
})
