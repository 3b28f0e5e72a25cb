import { beforeAll, describe, expect, it } from 'vitest'
import { findOutline } from '../outline/find-outline'
import { misses, paint, skittle } from '../outline/test-pictures'
import { withoutDrawnMarks } from './drawn-marks'
import { withinEvenBorders } from './even-borders'
import type { Raster } from './raster'

type Colour = readonly [number, number, number]

const [WIDTH, HEIGHT] = [620, 960]
const { distance } = skittle(280, 820, 120, 0.02)

/** A crisp stroke over a picture, blended as editors do: from one place to another, so wide. */
function stroke(
  { width, height, data }: Raster,
  [x0, y0]: readonly [number, number],
  [x1, y1]: readonly [number, number],
  { wide = 2, ink }: { wide?: number; ink: Colour },
): void {
  const length = Math.hypot(x1 - x0, y1 - y0)
  const [ux, uy] = [(x1 - x0) / length, (y1 - y0) / length]
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [dx, dy] = [x + 0.5 - x0, y + 0.5 - y0]
      const beyond = Math.max(-(dx * ux + dy * uy), dx * ux + dy * uy - length)
      const cover = Math.max(
        0,
        Math.min(1, 0.5 + wide / 2 - Math.max(Math.abs(dx * uy - dy * ux), beyond + wide / 2)),
      )
      if (cover === 0) continue
      const i = 4 * (y * width + x)
      for (let c = 0; c < 3; c++) data[i + c] = Math.round(cover * ink[c]! + (1 - cover) * data[i + c]!)
    }
}

/** Its height beside the skittle and its width below it, with arrowheads and a figure. */
function drawDimensions(photo: Raster, ink: Colour): Raster {
  const out = { ...photo, data: new Uint8Array(photo.data) }
  const line = (from: [number, number], to: [number, number], wide = 2) =>
    stroke(out, from, to, { wide, ink })
  line([410, 120.3], [480, 120.3])
  line([410, 820.6], [480, 820.6])
  line([470.4, 120], [470.4, 821])
  for (const [y, into] of [
    [121, 1],
    [820, -1],
  ] as const)
    for (let k = 1; k <= 14; k++)
      line([470.4 - k / 4, y + into * k], [470.4 + k / 4 + 0.01, y + into * k], 1.5)
  line([200, 870.5], [350, 870.5])
  for (const x of [200, 350]) line([x, 860], [x, 880])
  // "H": what no round piece looks like, below it.
  line([270, 884], [270, 900])
  line([270, 892], [280, 892])
  line([280, 884], [280, 900])
  return out
}

/** Letters as strokes, in a box one wide and one high, from its upper left. */
const LETTERS: Record<string, [number, number, number, number][]> = {
  E: [[0, 0, 0, 1], [0, 0, 0.7, 0], [0, 0.5, 0.6, 0.5], [0, 1, 0.7, 1]], // prettier-ignore
  F: [[0, 0, 0, 1], [0, 0, 0.7, 0], [0, 0.5, 0.6, 0.5]], // prettier-ignore
  H: [[0, 0, 0, 1], [0.7, 0, 0.7, 1], [0, 0.5, 0.7, 0.5]], // prettier-ignore
  L: [[0, 0, 0, 1], [0, 1, 0.6, 1]], // prettier-ignore
  N: [[0, 0, 0, 1], [0.7, 0, 0.7, 1], [0, 0, 0.7, 1]], // prettier-ignore
  T: [[0.35, 0, 0.35, 1], [0, 0, 0.7, 0]], // prettier-ignore
}

/** Words over a photo, from the upper left on, so high. */
function write(
  photo: Raster,
  text: string,
  [left, top]: readonly [number, number],
  { high, ink }: { high: number; ink: Colour },
): Raster {
  const out = { ...photo, data: new Uint8Array(photo.data) }
  ;[...text].forEach((letter, k) => {
    const x = left + 0.95 * high * k
    for (const [x0, y0, x1, y1] of LETTERS[letter] ?? [])
      stroke(out, [x + high * x0, top + high * y0], [x + high * x1, top + high * y1], {
        wide: high / 8,
        ink,
      })
  })
  return out
}

const greatestDifference = (p: Raster, q: Raster, at: (x: number, y: number) => boolean) => {
  let most = 0
  for (let y = 0; y < p.height; y++)
    for (let x = 0; x < p.width; x++)
      if (at(x, y))
        for (let c = 0; c < 3; c++) {
          const i = 4 * (y * p.width + x) + c
          most = Math.max(most, Math.abs(p.data[i]! - q.data[i]!))
        }
  return most
}

describe('what somebody drew over a photo', () => {
  let photo: Raster
  beforeAll(() => {
    photo = paint(WIDTH, HEIGHT, distance)
  })

  it('is led over: dimension lines, arrowheads and figures, whatever they are drawn in', () => {
    for (const ink of [
      [200, 16, 46],
      [20, 20, 20],
      [255, 255, 255],
      [30, 80, 190],
    ] as const) {
      const bare = withoutDrawnMarks(drawDimensions(photo, ink))
      expect(bare, String(ink)).not.toBeNull()
      // The photo's noise is a code strong, and light falls off by a few codes within a mark's halo.
      expect(
        greatestDifference(bare!, photo, () => true),
        String(ink),
      ).toBeLessThan(12)
    }
  })

  it('leaves the photo as it is away from it', () => {
    const bare = withoutDrawnMarks(drawDimensions(photo, [200, 16, 46]))
    expect(greatestDifference(bare!, photo, (x, y) => x < 380 && y < 820)).toBe(0)
  })

  it('is led over where it crosses the piece’s edge, along that', () => {
    const marked = drawDimensions(photo, [200, 16, 46])
    stroke(marked, [240, 600.5], [560, 600.5], { ink: [200, 16, 46] })
    const { left, right } = findOutline(withoutDrawnMarks(marked)!)
    const off = misses([left, right], distance)
    expect(off.length).toBeGreaterThan(500)
    expect(off[off.length >> 1]).toBeLessThan(0.1)
    expect(off[Math.floor(0.98 * off.length)]).toBeLessThan(0.6)
  })

  it('is told from what was photographed: noise, a horizon, boards, grain, lines that aren’t quite level', () => {
    const ink = [90, 84, 76] as const
    const copy = () => ({ ...photo, data: new Uint8Array(photo.data) })
    const horizon = copy()
    stroke(horizon, [0, 700], [WIDTH, 700], { ink })
    const boards = copy()
    for (const x of [60, 180, 420, 560]) stroke(boards, [x, 0], [x, HEIGHT], { ink })
    const grain = copy()
    stroke(grain, [0, 700], [WIDTH, 700], { ink })
    for (const x of [60, 180, 420, 560]) stroke(grain, [x, 300], [x, 450], { ink })
    const tilted = copy()
    stroke(tilted, [400, 200], [610, 206], { ink })
    stroke(tilted, [500, 100], [492, 500], { ink })
    for (const picture of [photo, horizon, boards, grain, tilted])
      expect(withoutDrawnMarks(picture)).toBeNull()
  })

  it('is all there is in a line drawing, which stays as it is', () => {
    const paper = { width: WIDTH, height: HEIGHT, data: new Uint8Array(4 * WIDTH * HEIGHT).fill(255) }
    const ink = [20, 20, 20] as const
    for (const x of [200, 360]) stroke(paper, [x, 200], [x, 800], { ink })
    for (const y of [200, 800]) stroke(paper, [200, y], [360, y], { ink })
    expect(withoutDrawnMarks(drawDimensions(paper, ink))).toBeNull()
  })

  it('isn’t looked for in cut-outs', () => {
    expect(
      withoutDrawnMarks(drawDimensions(paint(WIDTH, HEIGHT, distance, { alpha: true }), [200, 16, 46])),
    ).toBeNull()
  })

  it('is led over: words above the piece and below it, large and small, dark and light', () => {
    for (const [text, place, high, ink] of [
      ['THE LEFT HEEL FELT', [130, 30], 20, [20, 20, 20]],
      ['TEN FELT', [180, 860], 34, [255, 255, 255]],
      ['HELEN', [20, 920], 14, [140, 28, 19]],
    ] as const) {
      const bare = withoutDrawnMarks(write(photo, text, place, { high, ink }))
      expect(bare, text).not.toBeNull()
      expect(
        greatestDifference(bare!, photo, () => true),
        text,
      ).toBeLessThan(12)
    }
  })

  it('is led over in pictures where lines and letters are a px wide, and the foot above a caption stays', () => {
    const { distance } = skittle(140, 280, 40, 0.02)
    const small = paint(280, 340, (x, y) => distance(x, y) + 40)
    const captioned = write(small, 'LEFT HEEL', [90, 296], { high: 12, ink: [20, 20, 20] })
    stroke(captioned, [40.2, 40], [40.2, 280], { wide: 0.8, ink: [20, 20, 20] })
    for (const y of [40.4, 279.6]) stroke(captioned, [30, y], [60, y], { wide: 0.8, ink: [20, 20, 20] })
    const bare = withoutDrawnMarks(captioned)!
    expect(greatestDifference(bare, small, () => true)).toBeLessThan(14)
    const { left, right } = findOutline(bare)
    const off = misses([left, right], (x, y) => distance(x, y) + 40)
    expect(off.length).toBeGreaterThan(300)
    expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(0.4)
  })

  it('is led over in a bar below the photo, too, which is an even one then', () => {
    const bar = 100
    const card = { width: WIDTH, height: HEIGHT + bar, data: new Uint8Array(4 * WIDTH * (HEIGHT + bar)) }
    card.data.set(photo.data)
    for (let i = photo.data.length; i < card.data.length; i += 4) card.data.set([27, 42, 65, 255], i)
    const captioned = write(card, 'THE LEFT HEEL', [150, 990], { high: 26, ink: [244, 241, 232] })
    expect(withinEvenBorders(captioned)).toBeNull()
    const within = withinEvenBorders(withoutDrawnMarks(captioned)!)!
    expect(within).toMatchObject({ left: 0, top: 0, width: WIDTH })
    expect(HEIGHT - within.height).toBeGreaterThanOrEqual(0)
    expect(HEIGHT - within.height).toBeLessThan(4)
  })

  it('is told from rows of what are no letters: a scale’s ticks, beads, tiles', () => {
    const ink = [20, 20, 20] as const
    const copy = () => ({ ...photo, data: new Uint8Array(photo.data) })
    const ticks = copy()
    for (let x = 40; x < 580; x += 12) stroke(ticks, [x, 880], [x, 880 + (x % 60 === 40 ? 20 : 12)], { ink })
    const beads = copy()
    for (let x = 40; x < 580; x += 24) stroke(beads, [x, 40], [x + 0.1, 40], { wide: 16, ink })
    const tiles = copy()
    for (let x = 40; x < 580; x += 24) stroke(tiles, [x, 60], [x + 16, 60], { wide: 16, ink })
    for (const picture of [ticks, beads, tiles]) expect(withoutDrawnMarks(picture)).toBeNull()
  })

  it('leaves what is led over as grainy as the photo', () => {
    const grainy = paint(WIDTH, HEIGHT, distance, { grain: 4 })
    const bare = withoutDrawnMarks(write(grainy, 'TEN FELT', [180, 860], { high: 34, ink: [20, 20, 20] }))!
    // What hardly differs across a row but for the grain: one px from the next.
    const grainIn = (picture: Raster) => {
      const steps = Array.from({ length: 200 }, (_, k) => {
        const i = 4 * (877 * WIDTH + 190 + k)
        return (picture.data[i + 5]! - picture.data[i + 1]!) / Math.SQRT2
      })
      return Math.sqrt(steps.reduce((sum, v) => sum + v * v, 0) / steps.length)
    }
    expect(grainIn(grainy)).toBeGreaterThan(3)
    expect(grainIn(bare) / grainIn(grainy)).toBeGreaterThan(0.6)
    expect(grainIn(bare) / grainIn(grainy)).toBeLessThan(1.4)
  })
})
