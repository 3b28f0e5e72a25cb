import { describe, expect, it } from 'vitest'
import { reduceToLab } from '../picture/reduce'
import { mayBeTextured, pieceEvidence } from './evidence'
import { texturedEvidence } from './textured-evidence'
import { findOutline } from './find-outline'
import { noise, paint } from './test-pictures'

describe('a wall whose borders look alike along lines across the picture', () => {
  const [width, height] = [600, 800]
  const gauss = noise(9)
  const grains = Float32Array.from({ length: 100 * 100 }, () => 0.012 * gauss())
  /** A golden egg before one large grey brick, which no border shows. */
  const wall = (grain: number, isBrick: boolean) =>
    paint(width, height, (x, y) => Math.hypot((x - 300) / 0.84, y - 400) - 250, {
      inside: () => [0.5, 0.36, 0.1],
      outside: (x, y) => {
        if (y > 560) return [0.3, 0.3, 0.3]
        const c = grain * grains[(y >> 3) * 100 + (x >> 3)]!
        const beyond = Math.max(Math.abs(x - 330) - 215, Math.abs(y - 190) - 125)
        if (isBrick && Math.abs(beyond) < 12 && ((x + y) >> 5) % 3) return [0.55 + c, 0.53 + c, 0.5 + c]
        return isBrick && beyond < 0 ? [0.3 + c, 0.3 + c, 0.31 + c] : [0.2 + c, 0.15 + c, 0.12 + c]
      },
      grain: 3,
      blur: 2,
    })
  const bricks = wall(1, true)

  it('is taken for plain, but for one that may be textured; an even wall isn’t', () => {
    const evidence = pieceEvidence(reduceToLab(bricks, 2))
    expect(evidence.kind).toBe('plain')
    expect(mayBeTextured(evidence)).toBe(true)
    const even = pieceEvidence(reduceToLab(wall(0, false), 2))
    expect(even.kind).toBe('plain')
    expect(mayBeTextured(even)).toBe(false)
    expect(mayBeTextured(texturedEvidence(reduceToLab(bricks, 2)))).toBe(false)
  })

  it('is looked at as a textured one where what is found before a plain one can’t be believed', () => {
    const { left, right } = findOutline(bricks)
    for (const { points } of [left, right]) {
      const [xs, ys] = [0, 1].map((k) => points.filter((_, i) => i % 2 === k)) as [Float64Array, Float64Array]
      expect(Math.abs(Math.max(...xs.map((x) => Math.abs(x - 300))) - 210)).toBeLessThan(4)
      expect(Math.abs(Math.min(...ys) - 150)).toBeLessThan(4)
      expect(Math.abs(Math.max(...ys) - 650)).toBeLessThan(4)
    }
  })
})
