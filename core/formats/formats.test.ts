import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js'
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js'
import type { Mesh as ThreeMesh } from 'three'
import { describe, expect, it } from 'vitest'
import { meshVolume } from '../measure/mesh-measures'
import { profileSegments } from '../profile/profile-segments'
import type { ProfileNode } from '../profile/profile'
import { revolve } from '../solid/revolve'
import { obj, writeObj } from './obj'
import { fillPortably, stl, writeStl } from './stl'
import { writeProfileSvg } from './svg'
import { encodeText } from './text'

const mesh = revolve(Float64Array.from([0, 0, 30, 0, 36, 40, 12, 90, 12, 110, 0, 110]), { sides: 37 })
const text = (bytes: Uint8Array) => new TextDecoder().decode(bytes)

/** Volume of a triangle soup. */
function soupVolume(positions: ArrayLike<number>): number {
  const triangles = Uint32Array.from({ length: positions.length / 3 }, (_, i) => i)
  return meshVolume({ positions: Float64Array.from(positions), triangles })
}

describe('STL', () => {
  it("is read by three's loader with the same triangles, volume and normals", () => {
    const bytes = writeStl(mesh)
    expect(bytes.length).toBe(stl.byteLength(mesh.triangles.length / 3))
    const geometry = new STLLoader().parse(bytes.buffer)
    const position = geometry.getAttribute('position')
    expect(position.count).toBe(mesh.triangles.length)
    expect(soupVolume(position.array) / meshVolume(mesh)).toBeCloseTo(1, 6)
    const normal = geometry.getAttribute('normal')
    geometry.deleteAttribute('normal')
    geometry.computeVertexNormals()
    const computed = geometry.getAttribute('normal')
    for (let i = 0; i < normal.array.length; i++) expect(normal.array[i]).toBeCloseTo(computed.array[i]!, 4)
  })

  it('is the same, byte for byte, by the way for other byte orders (odd and even counts of triangles)', () => {
    for (const triangles of [mesh.triangles, mesh.triangles.slice(0, -3)]) {
      const fast = writeStl({ ...mesh, triangles })
      const portable = new Uint8Array(fast.length)
      portable.set(fast.subarray(0, 84))
      fillPortably(portable, mesh.positions, triangles)
      expect(portable).toEqual(fast)
    }
  })

  it('never begins like the text variant', () => {
    expect(text(writeStl(mesh, 'solid oak').slice(0, 5))).toBe('Solid')
  })
})

describe('OBJ', () => {
  it("is read by three's loader with the same volume; vertices are shared", () => {
    const source = text(writeObj([{ name: 'ink bottle', mesh }]))
    expect(source.match(/^v /gm)).toHaveLength(mesh.positions.length / 3)
    expect(source).toContain('o ink_bottle')
    // Four rings between the poles: three bands of quads, and a fan at each end.
    const faces = [...source.matchAll(/^f (.+)$/gm)].map((m) => m[1]!.split(' ').length)
    expect([faces.filter((n) => n === 4).length, faces.filter((n) => n === 3).length]).toEqual([
      3 * 37,
      2 * 37,
    ])
    const group = new OBJLoader().parse(source)
    const geometry = (group.children[0] as ThreeMesh).geometry
    expect(soupVolume(geometry.getAttribute('position').array) / meshVolume(mesh)).toBeCloseTo(1, 6)
    expect(obj.extension).toBe('obj')
  })

  it('encodes text as UTF-8', () => {
    for (const s of ['plain', 'Tür ⌀ 38', '灯台 🕯', '100%25'])
      expect(encodeText(s)).toEqual(new TextEncoder().encode(s))
  })
})

describe('half-profile SVG', () => {
  const nodes: ProfileNode[] = [
    { id: 'a', r: 0, z: 0, joint: 'corner', next: 'line' },
    { id: 'b', r: 25, z: 0, joint: 'corner', next: 'curve' },
    { id: 'c', r: 38, z: 60, joint: 'smooth', next: 'curve' },
    { id: 'd', r: 12, z: 138, joint: 'corner', next: 'line' },
    { id: 'e', r: 0, z: 138, joint: 'corner', next: 'line' },
  ]

  it('states real millimetres and keeps lines as lines and curves as curves', () => {
    const svg = text(writeProfileSvg(profileSegments(nodes), 'A & B <1>'))
    expect(svg).toContain('<title>A &amp; B &lt;1&gt;</title>')
    const [, width, height] = /width="([\d.]+)mm" height="([\d.]+)mm"/.exec(svg)!
    const view = /viewBox="([-\d. ]+)"/.exec(svg)![1]!.split(' ').map(Number)
    expect([view[2], view[3]]).toEqual([Number(width), Number(height)])
    expect(view[3]).toBe(148)
    const d = / d="(M0 0[^"]+)"/.exec(svg)![1]!
    expect(d.replace(/[^MLC]/g, '')).toBe('MLCCL')
    expect(d.endsWith('L0 -138')).toBe(true)
  })
})
