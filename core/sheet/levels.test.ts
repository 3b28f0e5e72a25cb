import { describe, expect, it } from 'vitest'
import { arcOf } from '../profile/arc'
import { lineSegment, type Segment } from '../profile/segments'
import { edgesOf, heightsOf, levelsOf, radiiOf } from './levels'

const arc = (a: [number, number], b: [number, number], bulge: number, index = 0): Segment => ({
  kind: 'arc',
  index,
  ends: [...a, ...b],
  arc: arcOf(a, b, bulge),
})
const chain = (...places: [number, number][]) => places.slice(1).map((p, k) => lineSegment(places[k]!, p, k))
/** Half a circle's bulge. */
const HALF = 1

/** A bottle: foot, body, shoulder, neck, lip. */
const bottle = chain([0, 0], [30, 0], [30, 80], [12, 100], [12, 130], [15, 130], [15, 135], [0, 135])

describe('levels of a drawing', () => {
  it('are the largest ⌀, cylinders and edges, none twice on one cylinder', () => {
    const levels = levelsOf(bottle, [], 1)
    expect(levels[0]!.r).toBe(30)
    const onBody = levels.filter(({ r }) => r === 30)
    expect(onBody).toHaveLength(1)
    expect(levels.some(({ r, z }) => r === 12 && z > 99 && z < 131)).toBe(true)
    expect(levels.filter(({ r }) => r === 12)).toHaveLength(1)
    expect(levels.some(({ r }) => r === 15)).toBe(true)
    // None on the axis has a ⌀.
    expect(levels.every(({ r }) => r > 0)).toBe(true)
  })

  it('begin with the stations, by their names, at the curve’s own radius; those off it are left out', () => {
    const levels = levelsOf(bottle, [{ name: 'label', z: 40 }, { name: 'sky', z: 400 }], 1) // prettier-ignore
    expect(levels[0]).toEqual({ r: 30, z: 40, name: 'label' })
    expect(levels.map(({ name }) => name)).not.toContain('sky')
  })

  it('lie apart: of two close to each other the more wanted one stays', () => {
    const levels = levelsOf(bottle, [{ name: 'lip', z: 132 }], 6)
    const near = levels.filter(({ z }) => z > 126)
    expect(near.map(({ z, name }) => [z, name])).toEqual([[132, 'lip']])
    levels.forEach((a, i) => levels.forEach((b, k) => expect(i === k || Math.abs(a.z - b.z) >= 6).toBe(true)))
  })

  it('count bellies and necks of curves', () => {
    const bead = [arc([10, 0], [10, 20], HALF)]
    // Half a circle of radius 10 bulging outwards: widest at half height.
    const [widest] = levelsOf(bead, [], 1)
    expect(widest!.r).toBeCloseTo(20, 1)
    expect(widest!.z).toBeCloseTo(10, 0)
  })

  it('edges are joints that turn by more than 8°', () => {
    expect(edgesOf(bottle)).toHaveLength(6)
    const slight = chain([10, 0], [10, 50], [11, 100])
    expect(edgesOf(slight)).toEqual([])
  })

  it('heights are stations, edges and bellies, each once', () => {
    const heights = heightsOf(bottle, [{ z: 40 }], 2).map(({ z }) => z)
    expect(heights).toEqual([...new Set(heights)])
    expect(heights).toEqual(expect.arrayContaining([40, 0, 80, 100, 130, 135]))
  })

  it('radii are those of arcs, longest first, each radius once, and none that is too short', () => {
    const list = [arc([10, 0], [10, 20], HALF), arc([10, 20], [10, 24], HALF, 1), arc([10, 24], [10, 44], HALF, 2), arc([10, 44], [10, 44.4], HALF, 3)] // prettier-ignore
    expect(radiiOf(list, 2).map(({ radius }) => Math.round(1e6 * radius) / 1e6)).toEqual([10, 2])
  })
})
