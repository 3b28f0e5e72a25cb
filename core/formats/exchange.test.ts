import DxfParser, { type IArcEntity, type ILineEntity, type ISplineEntity } from 'dxf-parser'
import { strFromU8, unzipSync } from 'fflate'
import { validateBytes } from 'gltf-validator'
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { isClosedAndOriented, meshVolume } from '../measure/mesh-measures'
import { loadFonts } from '../../cli/fonts'
import { deliverTogether } from '../piece/deliver'
import { handOver } from '../piece/hand-over'
import { newPiece, type PieceDocument } from '../piece/schema'
import { hollowOut } from '../profile/hollow'
import { grainPicture } from '../picture/grain'
import { profileSegments } from '../profile/profile-segments'
import { endOf, pointOn, startOf } from '../profile/segments'
import { node } from '../profile/test-samples'
import { revolve } from '../solid/revolve'
import { writeCsv } from './csv'
import { writeDxf } from './dxf'
import { writePly } from './ply'
import { writeThreemf } from './threemf'

const mesh = revolve(Float64Array.from([0, 0, 30, 0, 36, 40, 12, 90, 12, 110, 0, 110]), { sides: 37 })
const text = (bytes: Uint8Array) => new TextDecoder().decode(bytes)
/** A glass of lines, arcs either way and a curve. */
const nodes = [
  node(0, 0),
  node(30, 0, 'corner', { next: 'arc', bulge: 0.3 }),
  node(33, 8),
  node(34, 40, 'corner', { next: 'curve', handles: [2, 12, 0, -14] }),
  node(28, 90, 'corner', { next: 'arc', bulge: -0.2 }),
  node(26, 96),
  node(0, 96),
]
const segments = profileSegments(nodes)
const piece: PieceDocument = {
  ...newPiece('Water glass & co'),
  profile: { side: 'right', nodes },
  solid: {
    sides: 48,
    material: 'soda-lime-glass',
    wall: { mm: 1.5, levels: [], floorMm: 4, way: 'inwards', lip: 'round', bore: false },
  },
}

describe('GLB', () => {
  it('passes the Khronos validator without an error or a warning, hollow, glassy and in part', async () => {
    const turn = { start: 0.2, sweep: 4 }
    for (const document of [piece, { ...piece, solid: { ...piece.solid, turn, material: 'brass' } }]) {
      const report = await validateBytes(handOver(document, 'glb'))
      // Texture coordinates wait for a texture: that they aren't used yet is no more than a remark.
      expect(report.issues.messages.filter((m) => m.code !== 'UNUSED_OBJECT')).toEqual([])
      expect([report.issues.numErrors, report.issues.numWarnings]).toEqual([0, 0])
      expect(report.info.totalTriangleCount).toBeGreaterThan(1000)
    }
  })

  it('embeds the grain of a wood as a picture in mm, and the validator is content', async () => {
    const bytes = handOver({ ...piece, solid: { sides: 24, material: 'walnut' } }, 'glb')
    const report = await validateBytes(bytes)
    expect(report.issues.messages).toEqual([])
    const length = new DataView(bytes.buffer).getUint32(12, true)
    const json = JSON.parse(text(bytes.subarray(20, 20 + length))) as {
      images: { bufferView: number }[]
      bufferViews: { byteOffset: number; byteLength: number }[]
      materials: { pbrMetallicRoughness: { baseColorTexture: unknown } }[] // prettier-ignore
    }
    expect(json.materials[0]!.pbrMetallicRoughness.baseColorTexture).toEqual({ index: 0 })
    const { byteOffset, byteLength } = json.bufferViews[json.images[0]!.bufferView]!
    const file = bytes.subarray(28 + length + byteOffset, 28 + length + byteOffset + byteLength)
    const { data, info } = await sharp(file).raw().toBuffer({ resolveWithObject: true })
    expect([info.width, info.height, info.channels]).toEqual([256, 256, 3])
    expect(Buffer.from(grainPicture()).equals(data)).toBe(true)
  })

  it('carries lighter levels in scenes of their own, named by their sides, and shows its own first', async () => {
    const bytes = handOver(piece, 'glb', { lighter: [16, 8] })
    const report = await validateBytes(bytes)
    expect([report.issues.numErrors, report.issues.numWarnings]).toEqual([0, 0])
    const length = new DataView(bytes.buffer).getUint32(12, true)
    const json = JSON.parse(text(bytes.subarray(20, 20 + length))) as {
      scene: number
      scenes: { name: string; nodes: number[] }[]
      nodes: { mesh: number; extras: { sides: number } }[]
      meshes: { primitives: { indices: number }[] }[]
      accessors: { count: number }[]
    }
    expect([json.scene, ...json.scenes.map((s) => s.name)]).toEqual([0, 'Water glass & co', 'Water glass & co, 16 sides', 'Water glass & co, 8 sides']) // prettier-ignore
    const triangles = json.scenes.map(({ nodes: [root] }) => json.accessors[json.meshes[json.nodes[root!]!.mesh]!.primitives[0]!.indices]!.count / 3) // prettier-ignore
    expect(triangles[0]! / triangles[1]!).toBeCloseTo(3, 1)
    expect(triangles[1]! / triangles[2]!).toBeCloseTo(2, 1)
  })

  it('is in metres, y up, and says what it is', () => {
    const bytes = handOver(piece, 'glb')
    const length = new DataView(bytes.buffer).getUint32(12, true)
    const json = JSON.parse(text(bytes.subarray(20, 20 + length))) as {
      nodes: { name: string; extras: Record<string, number> }[]
      accessors: { min?: number[]; max?: number[] }[]
      materials: { extensions: { KHR_materials_ior: { ior: number } } }[]
    }
    expect(json.nodes[0]!.name).toBe('Water glass & co')
    expect(json.nodes[0]!.extras['height']).toBeCloseTo(96, 6)
    expect(json.accessors[0]!.min![1]).toBeCloseTo(0, 9)
    expect(json.accessors[0]!.max![1]).toBeCloseTo(0.096, 6)
    expect(json.materials[0]!.extensions.KHR_materials_ior.ior).toBe(1.52)
  })
})

describe('3MF', () => {
  it('unzips to the parts of the core specification, with the mesh in millimetres', () => {
    const files = unzipSync(writeThreemf([{ name: 'A & B', mesh }], 'A & B'))
    expect(Object.keys(files).sort()).toEqual(['3D/3dmodel.model', '[Content_Types].xml', '_rels/.rels'])
    const model = strFromU8(files['3D/3dmodel.model']!)
    expect(model).toContain('<model unit="millimeter"')
    expect(model).toContain('name="A &amp; B"')
    expect(strFromU8(files['_rels/.rels']!)).toContain('Target="/3D/3dmodel.model"')
    const numbers = (line: string) => [...line.matchAll(/"([-\d.e]+)"/g)].map((m) => Number(m[1]))
    const positions = [...model.matchAll(/<vertex [^>]+>/g)].flatMap((m) => numbers(m[0]))
    const triangles = [...model.matchAll(/<triangle [^>]+>/g)].flatMap((m) => numbers(m[0]))
    const read = { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) }
    expect(isClosedAndOriented(read)).toBe(true)
    expect(meshVolume(read) / meshVolume(mesh)).toBeCloseTo(1, 7)
    expect(writeThreemf([{ name: 'a', mesh }])).toEqual(writeThreemf([{ name: 'a', mesh }]))
  })
})

describe('PLY', () => {
  it("is read by three's loader with the same volume", () => {
    const bytes = writePly(mesh, 'Tür')
    const geometry = new PLYLoader().parse(bytes.buffer)
    const read = {
      positions: Float64Array.from(geometry.getAttribute('position').array),
      triangles: Uint32Array.from(geometry.getIndex()!.array),
    }
    expect(isClosedAndOriented(read)).toBe(true)
    expect(meshVolume(read) / meshVolume(mesh)).toBeCloseTo(1, 6)
  })
})

describe('DXF, read by dxf-parser', () => {
  const dxf = new DxfParser().parseSync(text(writeDxf(segments, 'Glass')))!
  const drawn = dxf.entities.filter((e) => e.layer === 'HALF-PROFILE')
  it('keeps lines, arcs and curves, with their ends to a millionth of a millimetre', () => {
    expect(dxf.header['$INSUNITS']).toBe(4)
    expect(drawn.map((e) => e.type)).toEqual(segments.map((s) => ({ line: 'LINE', arc: 'ARC', cubic: 'SPLINE' })[s.kind])) // prettier-ignore
    segments.forEach((s, k) => {
      const [a, b] = [startOf(s), endOf(s)]
      const near = (p: { x: number; y: number }, q: readonly [number, number]) => expect(Math.hypot(p.x - q[0], p.y - q[1])).toBeLessThan(1e-6) // prettier-ignore
      if (s.kind === 'line') {
        const { vertices } = drawn[k] as ILineEntity
        near(vertices[0]!, a)
        near(vertices[1]!, b)
      } else if (s.kind === 'arc') {
        const arc = drawn[k] as IArcEntity
        expect(arc.radius).toBeCloseTo(s.arc.radius, 6)
        const at = (angle: number) => ({ x: arc.center.x + arc.radius * Math.cos(angle), y: arc.center.y + arc.radius * Math.sin(angle) }) // prettier-ignore
        const ends = s.arc.sweep > 0 ? [a, b] : [b, a]
        near(at(arc.startAngle), ends[0]!)
        near(at(arc.endAngle), ends[1]!)
        const middle = arc.startAngle + ((arc.endAngle - arc.startAngle + 2 * Math.PI) % (2 * Math.PI)) / 2
        near(at(middle), pointOn(s, 0.5))
      } else {
        const spline = drawn[k] as ISplineEntity
        expect(spline.controlPoints).toHaveLength(4)
        expect(spline.knotValues).toEqual([0, 0, 0, 0, 1, 1, 1, 1])
        near(spline.controlPoints![0]!, a)
        near(spline.controlPoints![3]!, b)
      }
    })
  })
})

describe('CSV of diameters', () => {
  it('says ⌀, inner ⌀ and wall by height, jumps on both sides', () => {
    const outer = profileSegments([node(0, 0), node(30, 0), node(30, 50), node(20, 50), node(20, 80), node(0, 80)]) // prettier-ignore
    const { outside, inside } = hollowOut(outer, { mm: 2, levels: [], floorMm: 3, way: 'inwards', lip: 'flat', bore: false }) // prettier-ignore
    const rows = text(writeCsv({ outside, inside })).trim().split('\r\n').map((r) => r.split(',')) // prettier-ignore
    expect(rows[0]).toEqual(['height_mm', 'diameter_mm', 'inner_diameter_mm', 'wall_mm'])
    const at = (z: number) => rows.slice(1).reduce((p, q) => (Math.abs(Number(q[0]) - z) < Math.abs(Number(p[0]) - z) ? q : p)) // prettier-ignore
    expect(at(1.6).slice(1)).toEqual(['60', '', ''])
    expect(at(20).slice(1)).toEqual(['60', '56', '2'])
    expect(at(70).slice(1)).toEqual(['40', '36', '2'])
    const jump = rows.slice(1).filter((r) => Math.abs(Number(r[0]) - 50) < 0.001)
    expect(new Set(jump.map((r) => r[1]))).toEqual(new Set(['60', '40']))
    expect(rows.every((r) => r.length === 4)).toBe(true)
  })
})

describe('a piece handed over', () => {
  it('goes out in several formats as one archive, each file the one it is alone', async () => {
    const options = { paper: 'A4' as const, fonts: loadFonts }
    const [, bytes] = await deliverTogether(piece, ['stl', 'step', 'csv'], 'water-glass', options)
    const files = unzipSync(bytes)
    expect(Object.keys(files)).toEqual(['water-glass.stl', 'water-glass.step', 'water-glass.csv'])
    expect(files['water-glass.step']).toEqual(handOver(piece, 'step'))
    const part = { ...piece, solid: { ...piece.solid, turn: { start: 0, sweep: 1 } } }
    await expect(deliverTogether(part, ['stl', 'step'], 'x', options)).rejects.toThrow(/whole turns only/)
  })

  it('is refused where a format can’t say it: STEP of a part of a turn', () => {
    const part = { ...piece, solid: { ...piece.solid, turn: { start: 0, sweep: 1 } } }
    expect(() => handOver(part, 'step')).toThrow(/whole turns only/)
  })
})
