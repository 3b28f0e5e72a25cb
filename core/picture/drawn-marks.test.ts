import { beforeAll, describe, expect, it } from 'vitest'
import { findOutline } from '../outline/find-outline'
import { misses, paint, skittle } from '../outline/test-pictures'
import { withoutDrawnMarks } from './drawn-marks'
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

  it('is told from what was photographed: noise, a horizon, boards, lines that aren’t quite level', () => {
    const ink = [90, 84, 76] as const
    const copy = () => ({ ...photo, data: new Uint8Array(photo.data) })
    const horizon = copy()
    stroke(horizon, [0, 700], [WIDTH, 700], { ink })
    const boards = copy()
    for (const x of [60, 180, 420, 560]) stroke(boards, [x, 0], [x, HEIGHT], { ink })
    const tilted = copy()
    stroke(tilted, [400, 200], [610, 206], { ink })
    stroke(tilted, [500, 100], [492, 500], { ink })
    for (const picture of [photo, horizon, boards, tilted]) expect(withoutDrawnMarks(picture)).toBeNull()
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
})
