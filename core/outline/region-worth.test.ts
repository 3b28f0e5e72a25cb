import { describe, expect, it } from 'vitest'
import { edgeBand, worthOf } from './edge-band'
import { backdropWithin, likenesses, worthByLikeness } from './region-worth'
import { paint } from './test-pictures'

const [EDGE, LINE, CHAIN, BLUR] = [100, 109, 103, 0.7]
/** Striped cloth to the right of a dark piece, one of whose lines runs beside it. */
const picture = paint(200, 200, (x) => x - EDGE, {
  inside: () => [0.1, 0.02, 0.02],
  outside: (x) => (x < LINE ? [0.3, 0.3, 0.05] : [0.42, 0.42, 0.1]),
  grain: 2,
})
const points = Float64Array.from({ length: 120 }, (_, i) => (i % 2 ? 160 - (i >> 1) : CHAIN))
const normals = Float64Array.from({ length: 120 }, (_, i) => (i % 2 ? 0 : 1))
const band = edgeBand(picture, points, normals, { reach: 14, blur: BLUR, step: 0.5 })
/** Only the piece is red: what a table of colours says once both have been seen. */
const isRed = (_: number, a: number, b: number) => (a > Math.abs(b) ? 1 : -1)

/** Where most is earned, px beyond the chain, the median over its points. */
function bestPlace(worth: Float32Array): number {
  const { count, places, step } = band
  const best = Array.from({ length: count }, (_, i) => {
    const row = worth.subarray(i * places, (i + 1) * places)
    return row.indexOf(Math.max(...row))
  }).sort((p, q) => p - q)
  return (best[count >> 1]! - (places - 1) / 2) * step
}

describe('an edge with a clear line of a patterned backdrop beyond it', () => {
  const [like] = likenesses(picture, [{ points, normals, band }], isRed) as [Float32Array]
  const isBackdrop = backdropWithin(band, like, BLUR)

  it('is known by colours to have nothing but backdrop within that line, and piece within the edge', () => {
    const { places, step, count } = band
    const shareAt = (x: number) => {
      const k = Math.round((x - CHAIN) / step) + (places - 1) / 2
      return (
        Array.from({ length: count }, (_, i) => isBackdrop[i * places + k]!).filter(Boolean).length / count
      )
    }
    expect(shareAt(LINE)).toBe(1)
    expect(shareAt(EDGE)).toBe(0)
  })

  it('is taken for an inner one without that, and for the piece’s own with it', () => {
    const region = worthByLikeness(band, [like], BLUR)
    const worth = (isLine: Uint8Array | null) =>
      worthOf(band, BLUR, false, isLine).map((v, i) => v + region[i]!)
    expect(bestPlace(worthOf(band, BLUR))).toBeCloseTo(LINE - CHAIN, 0)
    expect(bestPlace(worth(isBackdrop))).toBeCloseTo(EDGE - CHAIN, 0)
    const at = (all: Float32Array) => all[30 * band.places + Math.round((EDGE - CHAIN) / band.step) + (band.places - 1) / 2]! // prettier-ignore
    expect(at(worth(isBackdrop))).toBeGreaterThan(at(worth(null)) + 0.5)
  })
})
