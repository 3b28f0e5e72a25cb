import { strFromU8, unzipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { loadFonts } from '../../cli/fonts'
import { isClosedAndOriented, meshVolume } from '../measure/mesh-measures'
import { node } from '../profile/test-samples'
import { deliver, DELIVERABLES, deliverTogether, type Deliverable } from './deliver'
import { finishedMeshes, requireSolid } from './finished'
import { handOver } from './hand-over'
import { readDocument } from './migrate'
import { newPiece, type Part, type PieceDocument } from './schema'
import { sheetPages } from './sheets'

const nodes = [node(0, 0), node(30, 0), node(30, 70), node(20, 80), node(20, 100), node(0, 100)]
const jar: PieceDocument = {
  ...newPiece('Jar'),
  profile: { side: 'right', nodes },
  solid: { sides: 24, wall: { mm: 4, levels: [], floorMm: 6, way: 'inwards', lip: 'flat', bore: false } },
}
const time = '2026-03-14T10:00:00'
const options = { paper: 'A4' as const, fonts: loadFonts, timeStamp: time }
const place = { z: 0, r: 0, azimuth: 0, lean: 0, turn: 0 }
const cap: Part = { id: 'cap', name: 'Cap', relation: 'separate', target: 'body', shown: true, material: null, place: { ...place, z: 100 }, round: null, clearanceMm: null, shape: { kind: 'turned', profile: { side: 'right', nodes: [node(0, 0), node(22, 0), node(22, 12), node(0, 12)] } } } // prettier-ignore
const handle: Part = { ...cap, id: 'h', name: 'Handle', relation: 'added', shape: { kind: 'ball', diameterMm: 20 }, place: { ...place, r: 30, z: 40 } } // prettier-ignore
const textsOf = (document: PieceDocument) => sheetPages(document, 'section.svg', 'A4', time).flatMap((p) => p.marks.flatMap((m) => (m.kind === 'text' ? [m.text] : []))) // prettier-ignore

describe('a delivery', () => {
  it('writes every kind there is, each by its name, with rising progress', async () => {
    const wanted = Object.keys(DELIVERABLES) as Deliverable[]
    const progress: number[] = []
    const files = await deliver(jar, wanted, 'jar', { ...options, onProgress: (f) => progress.push(f) })
    const names = wanted.map((w) => `jar.${DELIVERABLES[w].extension}`)
    expect(files.map(([name]) => name).sort()).toEqual([...names, 'jar.mtl'].sort())
    for (const [, bytes] of files) expect(bytes.length).toBeGreaterThan(90)
    expect(progress.every((f, i) => i === 0 || f >= progress[i - 1]!)).toBe(true)
    expect(progress.at(-1)).toBe(1)
  })

  it('of what lies on its side has meshes with the axis along x, on the ground, as closed and as large as what stands', () => {
    const lies = { ...jar, solid: { ...jar.solid, lies: true } }
    const boxOf = (document: PieceDocument) => {
      const { mesh, buffers } = finishedMeshes(document, requireSolid(document), {}).solids[0]!
      const along = (k: number) => Array.from(mesh.positions).filter((_, i) => i % 3 === k)
      const box = [0, 1, 2].map((k) => [Math.min(...along(k)), Math.max(...along(k))])
      return { mesh, buffers, box }
    }
    const [up, down] = [boxOf(jar), boxOf(lies)]
    expect(down.box[0]).toEqual([expect.closeTo(0, 9), expect.closeTo(100, 9)])
    expect(down.box[1]).toEqual(up.box[1])
    expect(down.box[2]).toEqual([expect.closeTo(0, 9), expect.closeTo(60, 9)])
    expect(isClosedAndOriented(down.mesh)).toBe(true)
    expect(meshVolume(down.mesh)).toBeCloseTo(meshVolume(up.mesh), 6)
    // A normal of the level top points along x now.
    const top = Array.from({ length: down.buffers.positions.length / 3 }, (_, i) => i).filter((i) => down.buffers.positions[3 * i]! > 99.9 && down.buffers.normals[3 * i]! > 0.99) // prettier-ignore
    expect(top.length).toBeGreaterThan(20)
    // STEP keeps its axis, and so does what is measured.
    expect(handOver(lies, 'step')).toEqual(handOver(jar, 'step'))
    expect(handOver(lies, 'stl')).not.toEqual(handOver(jar, 'stl'))
    expect(readDocument(JSON.parse(JSON.stringify(lies)))).toEqual(lies)
  })

  it('is one file where one is wanted, and an archive of several otherwise', async () => {
    const [name, bytes] = await deliverTogether(jar, ['stl'], 'jar', options)
    expect([name, bytes]).toEqual(['jar.stl', handOver(jar, 'stl', { timeStamp: time })])
    const [zip, packed] = await deliverTogether(jar, ['csv', 'template.svg'], 'jar', options)
    expect(zip).toBe('jar.zip')
    const inside = unzipSync(packed)
    expect(Object.keys(inside)).toEqual(['jar.csv', 'jar.template.svg'])
    expect(strFromU8(inside['jar.template.svg']!)).toContain('Counter-profile')
    expect((await deliverTogether(jar, ['obj'], 'jar', options))[0]).toBe('jar.obj.zip')
  })

  it('of an open profile is refused in words, whatever is wanted', async () => {
    const open = { ...jar, solid: { sides: 24 }, profile: { ...jar.profile, nodes: nodes.slice(0, 4) } }
    for (const wanted of ['stl', 'section.pdf'] as const)
      await expect(deliver(open, [wanted], 'jar', options)).rejects.toThrow(/can’t be handed over.*close it/)
  })

  it('leaves out the solids that aren’t chosen, and says so when none is', () => {
    const two = { ...jar, parts: [cap] }
    const solids = (only?: string[]) =>
      strFromU8(handOver(two, 'step', { only })).match(/MANIFOLD_SOLID_BREP/g)?.length
    expect([solids(), solids(['body']), solids(['cap'])]).toEqual([2, 1, 1])
    expect(() => solids([])).toThrow(/No solid is chosen/)
    // What is added to the body is no matter to a cap that goes alone.
    const three = { ...jar, parts: [cap, handle] }
    expect(() => handOver(three, 'step')).toThrow(/“Handle” is none/)
    expect(strFromU8(handOver(three, 'step', { only: ['cap'] }))).toContain('MANIFOLD_SOLID_BREP')
  })
})

describe('what a sheet says of a piece', () => {
  it('names its wall, and what isn’t drawn because it isn’t turned about the axis', () => {
    const texts = textsOf({ ...jar, parts: [cap, handle] })
    expect(texts).toContain('Wall 4.0, floor 6.0 mm.')
    expect(texts.some((t) => t.includes('not turned about the axis: Handle.'))).toBe(true)
    // The cap makes it taller.
    expect(texts).toContain('112.0')
  })

  it('is at the finished size, and says by how much; a piece that was drawn says that', () => {
    const grown = { ...jar, calibration: { ...jar.calibration, finish: { factor: 1.5, text: '' } } }
    const texts = textsOf(grown)
    expect(texts).toContain('150.0')
    expect(texts).toContain('Drawn at its finished size: 1.5 × what was measured.')
    expect(texts).toContain('Sizes were drawn, not measured in a photo.')
  })

  it('writes inches where the piece is in inches', () => {
    const texts = textsOf({ ...jar, unit: 'in' })
    expect(texts).toContain('in')
    expect(texts.some((t) => t.startsWith('⌀ 2.36'))).toBe(true)
  })
})
