import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { isClosedAndOriented, meshVolume } from '../measure/mesh-measures'
import { flatten } from '../profile/flatten'
import { profileSegments } from '../profile/profile-segments'
import { node } from '../profile/test-samples'
import { cageOf, type CageEnds, type PolyMesh } from './cage'
import { catmullClark, subdivided } from './catmull-clark'
import { trianglesOfPoly } from './poly-mesh'

const post = flatten(profileSegments([node(0, 0), node(20, 0), node(20, 60), node(0, 60)]))
const volume = (mesh: PolyMesh) => meshVolume(trianglesOfPoly(mesh))
const polygonArea = (r: number, n: number) => (n / 2) * r * r * Math.sin((2 * Math.PI) / n)
const SIDES = 12
const cage = (ends: CageEnds, corners: Parameters<typeof cageOf>[1]['corners'] = { by: 'none' }) =>
  cageOf(post, { sides: SIDES, ends, corners })

describe('cages of quads', () => {
  it.each(['fan', 'rings', 'quads'] as const)('ends as %s: closed, of the prism’s volume', (ends) => {
    const mesh = cage(ends)
    expect(isClosedAndOriented(trianglesOfPoly(mesh))).toBe(true)
    expect(volume(mesh)).toBeCloseTo(60 * polygonArea(20, SIDES), 6)
  })

  it('quads alone have no triangle and no pole; the fan has one pole an end; inset rings two rows more', () => {
    const sizes = (mesh: PolyMesh) => mesh.faces.map((f) => f.length)
    expect(sizes(cage('quads'))).toEqual(new Array(SIDES + 2 * (SIDES / 2 - 1)).fill(4))
    expect(sizes(cage('fan')).filter((n) => n === 3)).toHaveLength(2 * SIDES)
    expect(sizes(cage('rings')).filter((n) => n === 4)).toHaveLength(5 * SIDES)
    expect(() => cageOf(post, { sides: 7, ends: 'quads', corners: { by: 'none' } })).toThrow(/even number of sides; 7 is odd/) // prettier-ignore
  })

  it('support rings stand beside each corner at the typed distance and change no shape', () => {
    const mesh = cage('fan', { by: 'rings', mm: 1.5 })
    expect(volume(mesh)).toBeCloseTo(60 * polygonArea(20, SIDES), 6)
    const heights = new Set(
      [...mesh.positions].filter((_, i) => i % 3 === 2).map((z) => Number(z.toFixed(6))),
    )
    expect([...heights].sort((a, b) => a - b)).toEqual([0, 1.5, 58.5, 60])
    // Never past the middle of what lies between two corners.
    const wide = cage('fan', { by: 'rings', mm: 500 })
    expect(isClosedAndOriented(trianglesOfPoly(wide))).toBe(true)
  })
})

describe('subdivision after Catmull and Clark', () => {
  it('keeps closed meshes closed, all faces quads from the first level on, and their Euler number (property)', () => {
    const ends = fc.constantFrom<CageEnds>('fan', 'rings', 'quads')
    fc.assert(
      fc.property(
        ends,
        fc.integer({ min: 2, max: 8 }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        (e, half, sharpness) => {
          const mesh = catmullClark(
            cageOf(post, { sides: 2 * half, ends: e, corners: { by: 'crease', sharpness } }),
          )
          expect(mesh.faces.every((f) => f.length === 4)).toBe(true)
          expect(isClosedAndOriented(trianglesOfPoly(mesh))).toBe(true)
          expect(mesh.positions.length / 3 - 2 * mesh.faces.length + mesh.faces.length).toBe(2)
        },
      ),
      { numRuns: 40 },
    )
  })

  it('a cube tends to the known blob: its corners to (5/27) of the edge from the middle after one level', () => {
    // One level of a cube of edge 2 moves its corners to 5/9 (Catmull and Clark’s rule worked by hand).
    const cube: PolyMesh = {
      positions: Float64Array.from([
        -1, -1, -1, 1, -1, -1, 1, 1, -1, -1, 1, -1, -1, -1, 1, 1, -1, 1, 1, 1, 1, -1, 1, 1,
      ]),
      faces: [[0, 3, 2, 1], [4, 5, 6, 7], [0, 1, 5, 4], [1, 2, 6, 5], [2, 3, 7, 6], [3, 0, 4, 7]], // prettier-ignore
      creases: [],
    }
    const once = catmullClark(cube)
    for (let k = 0; k < 24; k++) expect(Math.abs(once.positions[k]!)).toBeCloseTo(5 / 9, 12)
    expect(volume(subdivided(cube, 4))).toBeGreaterThan(2.5)
  })

  it('without support corners melt; creases and rings hold them', () => {
    const melted = volume(subdivided(cage('fan'), 3))
    const ringed = volume(subdivided(cage('fan', { by: 'rings', mm: 1 }), 3))
    const creased = volume(subdivided(cage('fan', { by: 'crease', sharpness: 10 }), 3))
    // A creased ring of 12 tends to the cubic B-spline of its polygon: its radius is (2 + cos 30°) / 3 of the corners’.
    const limit = (20 * (2 + Math.cos(Math.PI / 6))) / 3
    expect(creased / (60 * Math.PI * limit * limit)).toBeCloseTo(1, 2)
    expect(melted).toBeLessThan(0.85 * creased)
    expect(ringed).toBeGreaterThan(0.97 * creased)
    expect(ringed).toBeLessThan(creased)
  })

  it('sharpness runs out level by level', () => {
    const mesh = cage('fan', { by: 'crease', sharpness: 1.5 })
    expect(mesh.creases).toHaveLength(2 * SIDES)
    const once = catmullClark(mesh)
    expect(once.creases).toHaveLength(4 * SIDES)
    expect(once.creases[0]!.sharpness).toBe(0.5)
    expect(catmullClark(once).creases).toHaveLength(0)
  })
})
