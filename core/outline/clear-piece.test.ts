import { describe, expect, it } from 'vitest'
import { reduceToLab } from '../picture/reduce'
import { isClear } from './clear-piece'
import { pieceEvidence } from './evidence'
import { likeness, type Silhouette } from './silhouette'
import { paint } from './test-pictures'

const [WIDTH, HEIGHT, MIDDLE, HALF, TOP, FOOT] = [240, 320, 120, 50, 40, 280]
const WALL = 0.3

/** A post about as light as the wall, whose light across, by how far aside of its axis in half-widths, is so many times the wall's. */
function seen(lightAt: (aside: number) => number) {
  const raster = paint(WIDTH, HEIGHT, (x, y) => Math.max(Math.abs(x - MIDDLE) - HALF, TOP - y, y - FOOT), {
    inside: (x) => Array(3).fill(WALL * lightAt((x - MIDDLE) / HALF)) as number[],
    outside: () => [WALL, WALL, WALL],
    grain: 0.8,
  })
  const picture = reduceToLab(raster, 1)
  const silhouette: Silhouette = {
    axis: { at: { x: MIDDLE, y: 0 }, up: { x: 0, y: -1 } },
    top: 0,
    half: Float32Array.from({ length: HEIGHT }, (_, y) => (y >= TOP && y < FOOT ? HALF : 0)),
    edges: 1,
  }
  const evidence = pieceEvidence(picture)
  return {
    isFaint: likeness(silhouette, evidence.loose) < 0.4,
    clear: isClear(picture, silhouette, evidence),
  }
}

describe('a piece that is hardly told from a plain backdrop', () => {
  it('is seen through where it is about as much darker, or lighter, all across', () => {
    for (const light of [0.9, 1, 1.1]) expect(seen(() => light)).toEqual({ isFaint: true, clear: true })
  })

  it('is seen through though its walls are dark and a window shines in it', () => {
    const glass = (aside: number) => (Math.abs(aside) > 0.85 ? 0.5 : Math.abs(aside - 0.2) < 0.1 ? 1.8 : 0.95)
    expect(seen(glass)).toEqual({ isFaint: true, clear: true })
  })

  it('is opaque where it is lighter towards the light and darker away from it', () => {
    expect(seen((aside) => 1.05 - 0.35 * aside)).toEqual({ isFaint: true, clear: false })
    expect(seen((aside) => 1.15 - 1.1 * aside * aside)).toEqual({ isFaint: true, clear: false })
  })
})
