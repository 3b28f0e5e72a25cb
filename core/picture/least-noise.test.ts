import { describe, expect, it } from 'vitest'
import { noise } from '../outline/test-pictures'
import { leastNoise } from './least-noise'

/** A grey picture with noise of so many codes. */
function grey(grain: number) {
  const gauss = noise(4)
  const data = new Uint8Array(4 * 200 * 200).fill(255)
  data.forEach((_, i) => {
    if (i % 4 < 3) data[i] = Math.round(150 + grain * gauss())
  })
  return { width: 200, height: 200, data }
}

describe('the least noise beside the edges of a picture', () => {
  it('is a code where smooth parts show none, since what compressing leaves beside edges isn’t told by them', () => {
    expect(leastNoise(grey(0))).toBe(1)
    expect(leastNoise(grey(1))).toBeLessThan(0.5)
  })

  it('is told of a picture once', () => {
    const picture = grey(0)
    const before = leastNoise(picture)
    picture.data.set(grey(2).data)
    expect(leastNoise(picture)).toBe(before)
  })
})
