import { describe, expect, it } from 'vitest'
import { straightEdges } from './straight-edges'

const [width, height] = [200, 260]
/** A plane with edges where a row has them, from one row to another. */
const planeOf = (...lines: { column: (row: number) => number; from: number; to: number }[]) => {
  const data = new Float32Array(width * height)
  for (const { column, from, to } of lines)
    for (let row = from; row < to; row++) data[row * width + Math.round(column(row))] = 0.8
  return { width, height, data }
}
const degrees = (radians: number) => (180 / Math.PI) * radians

describe('long straight edges', () => {
  it('are found with their place, their lean and their ends', () => {
    const slope = Math.tan((2.5 * Math.PI) / 180)
    const found = straightEdges(
      planeOf({ column: (row) => 60 + slope * (row - height / 2), from: 40, to: 230 }),
      true,
    )
    expect(found.length).toBe(1)
    const { line, low, high } = found[0]!
    expect(line.at.x).toBeCloseTo(60.5, 0)
    expect(degrees(Math.atan2(line.up.x, line.up.y))).toBeCloseTo(2.5, 0)
    expect(low).toBeCloseTo(40 - height / 2, -0.5)
    expect(high).toBeCloseTo(230 - height / 2, -0.5)
  })

  it('are told from each other, the longest first, and short and curved ones are none', () => {
    const found = straightEdges(
      planeOf(
        { column: () => 30, from: 0, to: 150 },
        { column: () => 150, from: 0, to: 250 },
        { column: () => 90, from: 0, to: 60 },
        { column: (row) => 110 + 25 * Math.sin(row / 30), from: 0, to: 260 },
      ),
      true,
    )
    expect(found.map(({ line }) => Math.floor(line.at.x))).toEqual([150, 30])
  })

  it('are found level, too', () => {
    const upright = planeOf({ column: () => 50, from: 20, to: 240 })
    const data = new Float32Array(width * height)
    for (let i = 0; i < data.length; i++) data[(i % width) * height + Math.floor(i / width)] = upright.data[i]! // prettier-ignore
    const line = straightEdges({ width: height, height: width, data }, false)[0]!.line
    expect(line.at.y).toBeCloseTo(50.5, 0)
    expect(Math.abs(line.up.x)).toBeCloseTo(1, 3)
  })
})
