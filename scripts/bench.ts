import { writeFileSync } from 'node:fs'
import { cpus } from 'node:os'
import { BufferAttribute, BufferGeometry, LatheGeometry, Mesh, Vector2 } from 'three'
import { OBJExporter } from 'three/examples/jsm/exporters/OBJExporter.js'
import { PLYExporter } from 'three/examples/jsm/exporters/PLYExporter.js'
import { STLExporter } from 'three/examples/jsm/exporters/STLExporter.js'
import { writeObj } from '../core/formats/obj'
import { writePly } from '../core/formats/ply'
import { writeStl } from '../core/formats/stl'
import { derive } from '../core/piece/derive'
import Module from 'manifold-3d'
import { build } from '../core/piece/build'
import { newPart } from '../core/piece/new-part'
import { applyCommand } from '../core/piece/commands'
import { newPiece } from '../core/piece/schema'
import { flatten } from '../core/profile/flatten'
import { profileSegments } from '../core/profile/profile-segments'
import type { ProfileNode } from '../core/profile/profile'
import { revolve } from '../core/solid/revolve'
import { shadingBuffers } from '../core/solid/shading'

/**
 * `npm run bench [-- --json FILE]`: measures core against a general library in the same run. Medians of several runs
 * after warming up; both sides get the same profile and make the same number of triangles.
 */
interface Row {
  name: string
  ours: number
  peer?: number
  note: string
}

function median(run: () => unknown, times = 9): number {
  run()
  run()
  const taken = Array.from({ length: times }, () => {
    const started = performance.now()
    run()
    return performance.now() - started
  })
  return taken.sort((a, b) => a - b)[Math.floor(times / 2)]!
}

/** A vase of smooth nodes, closed at both ends. */
function vase(count: number): ProfileNode[] {
  return Array.from({ length: count }, (_, i) => {
    const t = i / (count - 1)
    const end = i === 0 || i === count - 1
    return {
      id: String(i),
      r: end ? 0 : 30 + 12 * Math.sin(7 * t),
      z: 150 * t,
      joint: 'smooth' as const,
      next: 'curve' as const,
    }
  })
}

/** `rings` points between two poles. */
function chain(rings: number): Float64Array {
  const points = [0, 0]
  for (let i = 0; i < rings; i++) points.push(30 + 12 * Math.sin((7 * i) / rings), (150 * (i + 0.5)) / rings)
  return Float64Array.from([...points, 0, 150])
}

const rows: Row[] = []
const million = chain(1000)
const vectors = Array.from(
  { length: million.length / 2 },
  (_, i) => new Vector2(million[2 * i], million[2 * i + 1]),
)
const lathe = median(() => new LatheGeometry(vectors, 500))
rows.push({
  name: 'revolve 1,000,000 triangles, mesh',
  ours: median(() => revolve(million, { sides: 500 })),
  peer: lathe,
  note: 'peer: LatheGeometry (it also makes normals and texture coordinates)',
})
const flatMillion = {
  points: million,
  corner: new Uint8Array(million.length / 2),
  segmentStart: new Uint32Array([0, million.length / 2 - 1]),
}
rows.push({
  name: 'revolve 1,000,000 triangles, drawing buffers with normals',
  ours: median(() => shadingBuffers(flatMillion, 500)),
  peer: lathe,
  note: 'peer: LatheGeometry',
})

const mesh = revolve(million, { sides: 500 })
const geometry = new BufferGeometry()
geometry.setAttribute('position', new BufferAttribute(Float32Array.from(mesh.positions), 3))
geometry.setIndex(new BufferAttribute(mesh.triangles, 1))
const threeMesh = new Mesh(geometry)
threeMesh.updateMatrixWorld()
const exporter = new STLExporter()
rows.push({
  name: 'binary STL of 1,000,000 triangles',
  ours: median(() => writeStl(mesh), 5),
  peer: median(() => exporter.parse(threeMesh, { binary: true }), 5),
  note: 'peer: STLExporter',
})

const obj = new OBJExporter()
const ply = new PLYExporter()
rows.push({
  name: 'OBJ of 1,000,000 triangles',
  ours: median(() => writeObj([{ name: 'vase', mesh }]), 3),
  peer: median(() => obj.parse(threeMesh), 3),
  note: 'peer: OBJExporter',
})
rows.push({
  name: 'binary PLY of 1,000,000 triangles',
  ours: median(() => writePly(mesh), 5),
  peer: median(() => ply.parse(threeMesh, undefined as never, { binary: true, littleEndian: true }), 5),
  note: 'peer: PLYExporter',
})

// One step of dragging a node: document, curve, chords, checks, measures, and the buffers of a 100,000-triangle solid.
const photo = {
  sha256: 'a'.repeat(64),
  fileName: '',
  mediaType: 'image/jpeg' as const,
  width: 1500,
  height: 2000,
  focalLength35mm: null,
  quarterTurns: 0,
  crop: null,
}
const document = { ...newPiece('vase', photo), profile: { side: 'right' as const, nodes: vase(24) } }
const rings = flatten(profileSegments(document.profile.nodes)).points.length / 2 - 2
const sides = Math.ceil(50_000 / rings)
let step = 0
const drag = median(() => {
  const moved = applyCommand(document, { type: 'move-node', id: '12', r: 35 + (step++ % 10) / 10, z: 78 })
  return shadingBuffers(derive(moved).solid!.flat, sides)
}, 31)
rows.push({
  name: `dragging, ${(2 * sides * rings).toLocaleString('en')} triangles recomputed`,
  ours: drag,
  note: 'wanted: within 16 ms, drawing not counted',
})

/** A profile of many nodes, every kind of segment among them, with upright locks and fillets. */
function many(count: number): ProfileNode[] {
  return vase(count).map((node, i) => {
    if (i === 0 || i === count - 1) return node
    const kind = (['line', 'arc', 'curve'] as const)[i % 3]!
    const joint = i % 2 ? ('corner' as const) : ('smooth' as const)
    const own = kind === 'arc' ? { bulge: 0.1 } : kind === 'curve' ? { handles: [0, 0.02, 0, -0.02] as [number, number, number, number] } : {} // prettier-ignore
    return { ...node, joint, next: kind, ...own }
  })
}
const large = { ...newPiece('many', photo), profile: { side: 'right' as const, nodes: many(2000) } }
let moves = 0
rows.push({
  name: 'editing a profile of 2,000 nodes: move, locks, tangents, curve, chords, checks, measures',
  ours: median(() => {
    const moved = applyCommand(large, { type: 'move-node', id: '900', r: 30 + (moves++ % 10) / 10, z: 67.5 })
    return derive(moved)
  }, 31),
  note: 'wanted: within 16 ms',
})

/** A cup with a wall of its own; its mesh of 256 sides has some 200,000 triangles. */
const cupNodes = vase(20).map((node, i) => {
  if (i === 18) return { ...node, joint: 'corner' as const, next: 'line' as const }
  return i === 19 ? { ...node, joint: 'corner' as const, z: (150 * 18) / 19 } : node
})
const cup = {
  ...newPiece('cup', photo),
  profile: { side: 'right' as const, nodes: cupNodes },
  solid: {
    sides: 256,
    wall: { mm: 2, levels: [], floorMm: 3, way: 'inwards' as const, lip: 'flat' as const, bore: false },
  },
}
const fine = { toleranceMm: 0.0012 }
const bands = derive(cup, fine).solid!.flat.points.length / 2
let thicker = 0
rows.push({
  name: `a change of the wall: profile to buffers of ${((2 * 256 * bands) / 1000).toFixed(0)},000 triangles`,
  ours: median(() => {
    const wall = { ...cup.solid.wall, mm: 2 + (thicker++ % 10) / 100 }
    const { solid } = derive({ ...cup, solid: { ...cup.solid, wall } }, fine)
    return shadingBuffers(solid!.flat, 256)
  }),
  note: 'wanted: within 50 ms',
})
let turned = 0
rows.push({
  name: 'a change of the sides of the same',
  ours: median(() => shadingBuffers(derive(cup, fine).solid!.flat, 250 + (turned++ % 12))),
  note: 'wanted: within 50 ms',
})
const kernel = await Module()
kernel.setup()
const flutes = newPart('flutes', 'f', {
  lowestMm: 0,
  highestMm: 150,
  maxRadiusMm: 42,
  radiusAt: () => 36,
  sides: 256,
  side: 'right',
  fill: null,
})
const fluted = { ...cup, solid: { sides: 256 }, parts: [flutes] }
const filled = derive(fluted, fine).solid!
rows.push({
  name: `booleans of a 12-fold round of cuts on ${((2 * 256 * filled.flat.points.length) / 2000).toFixed(0)},000 triangles`,
  ours: median(() => build(fluted, filled, { kernel }), 3),
  note: 'wanted: within 2 s',
})

for (const { name, ours, peer, note } of rows) {
  const against = peer === undefined ? '' : `  peer ${peer.toFixed(1)} ms  ratio ${(peer / ours).toFixed(1)}`
  console.log(`${name}  ours ${ours.toFixed(1)} ms${against}   (${note})`)
}
const at = process.argv.indexOf('--json')
if (at > 0) {
  const machine = { node: process.version, cpu: cpus()[0]?.model, cores: cpus().length }
  writeFileSync(
    process.argv[at + 1]!,
    JSON.stringify(
      {
        machine,
        rows: rows.map((r) => ({ ...r, ratio: r.peer === undefined ? undefined : r.peer / r.ours })),
      },
      null,
      1,
    ),
  )
}
