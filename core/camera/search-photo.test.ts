import { describe, expect, it } from 'vitest'
import { paint } from '../outline/test-pictures'
import { searchPhoto } from './search-photo'

/** A ball on a cone whose foot, seen from above, closes in half an ellipse of 130 by 22 px. */
const [cx, ball, foot, wide, deep] = [300, 200, 650, 130, 22]
function distance(x: number, y: number): number {
  const u = Math.abs(x - cx)
  const body = Math.max(u - (60 + (70 * (y - ball)) / (foot - ball)), ball - y, y - foot)
  const below = Math.max((Math.hypot(u / wide, (y - foot) / deep) - 1) * deep, foot - y)
  return Math.min(Math.hypot(u, y - ball) - 110, body, below)
}
const picture = paint(600, 800, distance)
const up = { x: 0, y: -1 }
const centre = { x: 300, y: 400 }
const degrees = 180 / Math.PI

describe('the pitch at which a ring was found', () => {
  it('is told with the lens: what its ellipse says, less how far below the line of sight it lies', () => {
    const f = 3000
    const [ring, ...others] = searchPhoto(picture, { up, eye: { f, centre } }).rings
    expect(others).toEqual([])
    expect(ring!.place).toBe('foot')
    const seenFrom = Math.asin(deep / wide) - Math.atan((foot - centre.y) / f)
    expect(Math.abs(ring!.foundAt! - seenFrom) * degrees).toBeLessThan(0.5)
  })

  it('isn’t told where the lens is unknown: by one that is typed later it is another', () => {
    const { rings, focal } = searchPhoto(picture, { up, eye: { f: null, centre } })
    expect(focal).toBeNull()
    expect(rings.map(({ place }) => place)).toEqual(['foot'])
    expect(rings[0]!.foundAt).toBeUndefined()
  })
})
