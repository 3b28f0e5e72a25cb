import { unzipSync } from 'fflate'
import { validateBytes } from 'gltf-validator'
import Module from 'manifold-3d'
import occt from 'occt-import-js'
import { beforeAll, describe, expect, it } from 'vitest'
import { assemblyFigures, correctedBody } from '../measure/assembly-figures'
import { filledTo } from '../measure/capacity'
import { isClosedAndOriented, meshArea, meshVolume } from '../measure/mesh-measures'
import { bodyQuantities } from '../measure/body'
import { standing } from '../measure/standing'
import { node } from '../profile/test-samples'
import { ON_AXIS } from '../solid/placement'
import type { Kernel } from '../solid/kernel'
import { build, meshesOf } from './build'
import { applyCommand, commandLabel } from './commands'
import { derive } from './derive'
import { handOver } from './hand-over'
import { newHistory, redo, run, undo } from './history'
import { readDocument } from './migrate'
import { newPart, PART_KINDS, type PartKind } from './new-part'
import { newPiece, type Part, type PieceDocument } from './schema'
import { zonedProfile } from './zones'

let kernel: Kernel
beforeAll(async () => {
  kernel = await Module()
  kernel.setup()
})

/** A jar of 60 mm ⌀ and 100 mm, its neck 40 mm wide. */
const nodes = [node(0, 0), node(30, 0), node(30, 70), node(20, 78), node(20, 100), node(0, 100)]
const jar: PieceDocument = {
  ...newPiece('Jar'),
  profile: { side: 'right', nodes },
  solid: {
    sides: 48,
    material: 'soda-lime-glass',
    wall: { mm: 2, levels: [], floorMm: 3, way: 'inwards', lip: 'flat', bore: false },
  },
}
const solid = derive(jar).solid!
const about = {
  lowestMm: 0,
  highestMm: 100,
  maxRadiusMm: 30,
  radiusAt: (z: number) => (z <= 70 ? 30 : z < 78 ? 30 - (10 * (z - 70)) / 8 : 20),
  sides: 48,
  side: 'right' as const,
  fill: { bottomMm: 3, brimMm: 100 },
}
const cap: Part = {
  ...newPart('turned', 'cap', about),
  shape: { kind: 'turned', profile: { side: 'right', nodes: [node(0, 85), node(24, 85), node(24, 106), node(0, 106)] } }, // prettier-ignore
}
const filling: Part = { ...newPart('filling', 'ink', about), shape: { kind: 'filling', levelMm: 60 } }
const withParts = (...parts: Part[]): PieceDocument => ({ ...jar, parts })

describe('parts of a document', () => {
  it('can be put, changed, moved and removed, each a step that is taken back', () => {
    let history = newHistory(jar)
    const steps = [
      { type: 'set-part', part: cap },
      { type: 'set-part', part: filling },
      { type: 'set-part', part: { ...cap, name: 'Lid' } },
      { type: 'move-part', id: 'ink', by: -1 },
      { type: 'shape-part', id: 'cap', command: { type: 'type-coordinate', id: nodesOf(cap)[1]!.id, coordinate: 'r', mm: 25 } }, // prettier-ignore
      { type: 'remove-part', id: 'ink' },
    ] as const
    for (const command of steps) history = run(history, command)
    expect(history.document.parts.map((p) => p.name)).toEqual(['Lid'])
    expect(nodesOf(history.document.parts[0]!)[1]!.r).toBe(25)
    expect(commandLabel(steps[4])).toBe('type a coordinate of a part')
    const after = history.document
    for (let k = 0; k < steps.length; k++) history = undo(history)
    expect(history.document).toEqual(jar)
    for (let k = 0; k < steps.length; k++) history = redo(history)
    expect(history.document).toEqual(after)
    // Beyond the ends of the list nothing moves.
    expect(applyCommand(after, { type: 'move-part', id: 'cap', by: 1 }).parts).toEqual(after.parts)
  })

  it('are read back as they were written; documents of version 4 have none', () => {
    const document = { ...withParts(cap, filling), zones: [{ id: 'z', name: 'Felt', fromMm: 0, toMm: 4, material: null }] } // prettier-ignore
    expect(readDocument(JSON.parse(JSON.stringify(document)))).toEqual(document)
    const old = Object.fromEntries(Object.entries(jar).filter(([key]) => key !== 'parts' && key !== 'zones'))
    const state = { photo: null, references: [], calibration: jar.calibration, outline: null, profile: jar.profile, stations: [], solid: jar.solid } // prettier-ignore
    const checkpoints = [{ id: 'c', name: 'Before', at: '2026-01-01T00:00:00Z', by: 'hand', state }]
    const read = readDocument(JSON.parse(JSON.stringify({ ...old, version: 4, checkpoints })))
    expect([read.version, read.parts, read.zones, read.checkpoints[0]!.state.parts]).toEqual([5, [], [], []])
  })

  it('every kind that can be added does something to the jar, and nothing of it is refused', () => {
    for (const { kind } of PART_KINDS) {
      const part = kind === 'turned' ? cap : newPart(kind as PartKind, kind, about)
      expect(readDocument(JSON.parse(JSON.stringify(withParts(part))))).toEqual(withParts(part))
      const { problems, assembly } = build(withParts(part), solid, { kernel })
      expect([kind, problems]).toEqual([kind, []])
      const figures = assemblyFigures(assembly!)
      const changed = Math.abs(figures.solids[0]!.volumeMm3 - figures.plain.volumeMm3) > 1
      expect([kind, changed || figures.solids.length === 2]).toEqual([kind, true])
    }
  })

  it('a handle and a lever with fillets grow where they meet the jar, and keep out of its inside', () => {
    for (const kind of ['tube', 'plate'] as const) {
      const plain = newPart(kind, kind, about)
      const led = { ...plain, shape: { ...plain.shape, filletMm: 2 } } as Part
      expect(readDocument(JSON.parse(JSON.stringify(withParts(led))))).toEqual(withParts(led))
      const [before, after] = [plain, led].map((part) => build(withParts(part), solid, { kernel }))
      expect(after!.problems).toEqual([])
      const [a, b] = [before!.assembly!.solids[0]!, after!.assembly!.solids[0]!]
      expect(b.pieces).toBe(1)
      expect(isClosedAndOriented(b.mesh)).toBe(true)
      expect(b.volumeMm3).toBeGreaterThan(a.volumeMm3 + 5)
      // What it holds is unchanged: nothing stands in the room inside.
      for (let i = 0; i < b.mesh.positions.length; i += 3) {
        const [x, y, z] = [0, 1, 2].map((k) => b.mesh.positions[i + k]!) as [number, number, number]
        if (z > 3.01 && z < 69) expect(Math.hypot(x, y)).toBeGreaterThan(28 * Math.cos(Math.PI / 48) - 1e-3)
      }
    }
  })

  it('a fillet to a squeezed body is refused, and says what to do', () => {
    const handle = newPart('tube', 't', about)
    const led = { ...handle, shape: { ...handle.shape, filletMm: 2 } } as Part
    const { problems, assembly } = build(withParts(newPart('squeeze', 's', about), led), solid, { kernel })
    expect(problems.map((p) => p.message)).toEqual([expect.stringMatching(/only lead over to a round body/)])
    expect(assembly!.solids).toHaveLength(1)
  })

  it('without a kernel say so; hidden ones need none', () => {
    expect(() => build(withParts(cap), solid)).toThrow(/could not be loaded/)
    expect(build(withParts({ ...cap, shown: false }), solid).assembly).toBeNull()
  })

  it('a rhythm that the sides don’t carry, an unfinished profile and a bad level are named', () => {
    const battlements: Part = { ...newPart('notches', 'n', about), round: { count: 7, rhythm: { up: 2, down: 1 } } } // prettier-ignore
    const empty = newPart('turned', 'e', about)
    const high: Part = { ...filling, shape: { kind: 'filling', levelMm: 300 } }
    const { problems } = build(withParts(battlements, empty, high), solid, { kernel })
    expect(problems.map((p) => p.message)).toEqual([
      '“Battlements”: 7 repeats of 2 up, 1 down need 42 or 63 sides; 48 sides carry 16.',
      '“Cap”: Its profile bounds no solid yet. Draw it from the axis and back to it.',
      '“Filling”: Its level must lie between 3.0 and 100.0 mm.',
    ])
  })
})

const nodesOf = (part: Part) => (part.shape.kind === 'turned' ? part.shape.profile.nodes : [])

describe('figures of an assembly', () => {
  it('the filling has the volume that the jar holds to its level', () => {
    const figures = assemblyFigures(build(withParts(filling), solid, { kernel }).assembly!)
    const share = (48 / (2 * Math.PI)) * Math.sin((2 * Math.PI) / 48)
    const holds = filledTo(solid.hollow!.inside, 60).volumeMm3
    expect(figures.solids[1]!.volumeMm3 / (share * holds)).toBeCloseTo(1, 5)
    expect(holds).toBeCloseTo(Math.PI * 28 ** 2 * 57, 3)
    expect(figures.solids[1]!.gapMm).toBe(0)
  })

  it('of the body: exact where it is turned, corrected by what the meshes changed', () => {
    const hole: Part = {
      ...newPart('hole', 'h', about),
      shape: { kind: 'cylinder', diameterMm: 10, topDiameterMm: 10, heightMm: 60 },
      place: { ...ON_AXIS, r: 0, z: 40, lean: Math.PI / 2 },
    }
    const filled = { ...jar, solid: { sides: 48 }, parts: [hole] }
    const body = derive(filled).solid!
    const exact = derive(filled).measures!
    const figures = assemblyFigures(build(filled, body, { kernel }).assembly!)
    const corrected = correctedBody(bodyQuantities(body.segments), figures)
    // From the axis outwards to one side: a cylinder of 30 mm less its round end, 25 π long by about 29.79.
    const bore = Math.PI * 25 * 29.79
    expect((exact.volumeMm3 - corrected.volumeMm3) / bore).toBeCloseTo(1, 1)
    expect(corrected.centre[0]).toBeLessThan(-0.05)
    expect(corrected.centre[1]).toBeCloseTo(0, 3)
    // It tips sooner to the side that its centre of gravity lies on.
    const { segments } = body
    const aside = Math.hypot(corrected.centre[0], corrected.centre[1])
    expect(standing(segments, 40, aside).tippingAngle).toBeCloseTo(Math.atan2(30 - aside, 40), 9)
  })
})

describe('zones', () => {
  it('part the profile at their levels and leave the shape as it is; the inside belongs to none', () => {
    const zones = [
      { fromMm: 0, toMm: 5 },
      { fromMm: 20, toMm: 50 },
      { fromMm: 40, toMm: 60 },
    ]
    const { flat, surfaces } = zonedProfile(solid.flat, zones, solid.hollow)
    expect(surfaces).toHaveLength(flat.points.length / 2 - 1)
    // Up the outside: foot and first 5 mm; bare; second; third over it; bare to the rim and down the inside.
    const runs = surfaces.filter((s, k) => k === 0 || s !== surfaces[k - 1])
    expect(runs).toEqual([1, 0, 2, 3, 0])
    expect(flat.corner).toHaveLength(flat.points.length / 2)
    expect(flat.segmentStart.at(-1)).toBe(flat.points.length / 2 - 1)
    const document = {
      ...jar,
      zones: zones.map((z, k) => ({ ...z, id: String(k), name: 'Z', material: null })),
    }
    const [plain, zoned] = [jar, document].map((d) => meshesOf(d, solid, build(d, solid))[0]!.mesh)
    expect(meshVolume(zoned!)).toBeCloseTo(meshVolume(plain!), 6)
    expect(meshArea(zoned!)).toBeCloseTo(meshArea(plain!), 6)
  })

  it('keep their triangles through booleans', () => {
    const zone = { id: 'z', name: 'Felt', fromMm: 0, toMm: 10, material: 'brass' }
    const { solids, surfaces } = build({ ...withParts(cap), zones: [zone] }, solid, { kernel })
    expect(surfaces.map((s) => s.material)).toEqual(['soda-lime-glass', 'brass', 'soda-lime-glass'])
    const { runs, buffers } = solids[0]!
    const heights = runs.flatMap(({ from, surface }, k) => {
      const indices = buffers.indices.subarray(from, runs[k + 1]?.from)
      return surface === 1 ? [...indices].map((v) => buffers.positions[3 * v + 2]!) : []
    })
    expect(Math.min(...heights)).toBe(0)
    expect(Math.max(...heights)).toBeCloseTo(10, 5)
  })
})

describe('handing over a piece of several parts', () => {
  const document: PieceDocument = {
    ...withParts({ ...cap, material: 'brass', clearanceMm: 0.2 }, filling),
    zones: [{ id: 'z', name: 'Felt', fromMm: 0, toMm: 4, material: 'plaster' }],
  }

  it('GLB: a node a solid, a material each, and no error or warning of the Khronos validator', async () => {
    const bytes = handOver(document, 'glb', { kernel })
    const report = await validateBytes(bytes)
    expect([report.issues.numErrors, report.issues.numWarnings]).toEqual([0, 0])
    const length = new DataView(bytes.buffer).getUint32(12, true)
    const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length))) as {
      nodes: { name: string; children?: number[] }[]
      meshes: { name: string; primitives: { material: number }[] }[]
      materials: { name: string }[]
    }
    expect(json.nodes.map((n) => n.name)).toEqual(['Jar', 'Jar', 'Cap', 'Filling'])
    expect(json.nodes[0]!.children).toEqual([1, 2, 3])
    const used = json.meshes.map((m) => m.primitives.map((p) => json.materials[p.material]!.name))
    expect(used).toEqual([['Glass, soda-lime', 'Plaster'], ['Brass'], ['Glass, soda-lime']])
  })

  it('3MF and OBJ: an object a solid; STL and PLY: all of them together', () => {
    const model = new TextDecoder().decode(
      unzipSync(handOver(document, '3mf', { kernel }))['3D/3dmodel.model'],
    )
    expect([...model.matchAll(/<object [^>]*name="([^"]+)"/g)].map((m) => m[1])).toEqual(['Jar', 'Cap', 'Filling']) // prettier-ignore
    expect(model.match(/<item /g)).toHaveLength(3)
    expect(model).toMatch(/<base name="Brass" displaycolor="#[0-9A-F]{6}"\/>/)
    const obj = new TextDecoder().decode(handOver(document, 'obj', { kernel }))
    expect([...obj.matchAll(/^o (.+)$/gm)].map((m) => m[1])).toEqual(['Jar', 'Cap', 'Filling'])
    const vertices = [...obj.matchAll(/^v /gm)].length
    const faces = [...obj.matchAll(/^f (.+)$/gm)].map((m) =>
      m[1]!.split(' ').map((corner) => Number(corner.split('/')[0])),
    )
    const indices = faces.flat()
    expect([Math.min(...indices), Math.max(...indices)]).toEqual([1, vertices])
    const triangles = faces.reduce((n, face) => n + face.length - 2, 0)
    expect(new DataView(handOver(document, 'stl', { kernel }).buffer).getUint32(80, true)).toBe(triangles)
  })

  it('STEP: separate turned parts as exact solids; what isn’t exact is refused and named', async () => {
    const exact = withParts(cap, filling)
    const reader = await occt()
    const options = { linearUnit: 'millimeter', linearDeflectionType: 'absolute_value', linearDeflection: 0.01, angularDeflection: 0.1 } as const // prettier-ignore
    const read = reader.ReadStepFile(handOver(exact, 'step'), options)
    expect(read.success).toBe(true)
    expect(read.meshes).toHaveLength(3)
    expect(() => handOver(document, 'step')).toThrow(/“Cap” is none. Hide it/)
    const hole = newPart('hole', 'h', about)
    expect(() => handOver(withParts(hole), 'step')).toThrow(/“Hole” is none/)
    expect(handOver(withParts({ ...hole, shown: false }), 'step').length).toBeGreaterThan(1000)
  })

  it('is refused when a part couldn’t be made, and follows the finished size', () => {
    const lost: Part = { ...newPart('hole', 'h', about), place: { ...ON_AXIS, z: 500 } }
    expect(() => handOver(withParts(lost), 'stl', { kernel })).toThrow(/Mend or hide that part first/)
    const double = { ...jar.calibration, finish: { factor: 2, text: '2' } }
    const [once, twice] = [jar.calibration, double].map((calibration) => {
      const bytes = handOver({ ...document, calibration }, 'obj', { kernel })
      return Math.max(...[...new TextDecoder().decode(bytes).matchAll(/^v \S+ \S+ (\S+)$/gm)].map((m) => Number(m[1]))) // prettier-ignore
    })
    expect(twice! / once!).toBeCloseTo(2, 6)
  })
})
