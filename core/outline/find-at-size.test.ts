import { describe, expect, it } from 'vitest'
import { CoreError } from '../errors'
import { isPartOf, Unbelieved } from './find-at-size'
import type { MirrorFit } from './mirror'

describe('what is found in a smaller copy, where nothing was believed in the picture itself', () => {
  const input = { width: 600, height: 800, data: new Uint8Array(0) }
  /** What is so tall, px, about an axis that leans a little. */
  const tall = (px: number) => ({
    left: {
      points: Float64Array.of(300, 700, 250, 690, 250, 710 - px, 300, 700 - px),
      sd: new Float64Array(4),
      blur: 1,
    },
    mirror: { axis: { at: { x: 300, y: 400 }, up: { x: 0, y: -1 } } } as MirrorFit,
  })
  const why = new CoreError({ code: 'outline-unsure', message: 'Only 60 % of it shows an edge.' })

  it('is only a part of that where it is much shorter', () => {
    const unbelieved = new Unbelieved(why, 600 / 800)
    expect(unbelieved.message).toBe(why.message)
    expect(isPartOf(tall(400), input, unbelieved)).toBe(true)
    expect(isPartOf(tall(450), input, unbelieved)).toBe(false)
    expect(isPartOf(tall(700), input, unbelieved)).toBe(false)
  })

  it('may be anything where nothing was found', () => {
    expect(isPartOf(tall(100), input, why)).toBe(false)
  })
})
