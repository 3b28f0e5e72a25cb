import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { comparisonPanels, panelCamera, photoMatrix } from './comparison'

describe('the comparison picture', () => {
  const size = fc.double({ min: 5, max: 2000, noNaN: true })

  it('shows the whole piece in each panel, side by side, at one scale (property)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 300, max: 8000 }),
        size,
        size,
        fc.double({ min: -20, max: 20, noNaN: true }),
        (width, tall, breadth, lowestMm) => {
          const piece = { lowestMm, highestMm: lowestMm + tall, maxRadiusMm: breadth / 2 }
          const { panels, height, words } = comparisonPanels(width, piece)
          panels.forEach((p, k) => {
            expect(p.x).toBeGreaterThanOrEqual(k === 0 ? 0 : panels[k - 1]!.x + panels[k - 1]!.width)
            expect(p.x + p.width).toBeLessThanOrEqual(width)
            expect(p.y + p.height + words).toBeLessThanOrEqual(height)
            expect(p.pxPerMm).toBe(panels[0].pxPerMm)
            expect(p.axisX - piece.maxRadiusMm * p.pxPerMm).toBeGreaterThan(0)
            // Top and foot lie within, to a pixel of rounding.
            expect(p.groundY - piece.highestMm * p.pxPerMm).toBeGreaterThanOrEqual(0)
            expect(p.groundY - piece.lowestMm * p.pxPerMm).toBeLessThanOrEqual(p.height + 1)
          })
        },
      ),
    )
  })

  it('lays the photo with its axis upright on the panel’s, whatever way it was taken (property)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: 0.01, max: 2, noNaN: true }),
        size,
        (angle, mmPerPx, along) => {
          const frame = {
            origin: { x: 420, y: 900 },
            up: { x: Math.sin(angle), y: -Math.cos(angle) },
            mmPerPx,
          }
          const panel = { x: 0, y: 0, width: 300, height: 500, pxPerMm: 2, axisX: 150, groundY: 470 }
          const [a, b, c, d, e, f] = photoMatrix(frame, panel)
          const at = (x: number, y: number) => [a * x + c * y + e, b * x + d * y + f]
          const up = at(420 + (along / mmPerPx) * frame.up.x, 900 + (along / mmPerPx) * frame.up.y)
          expect(up[0]).toBeCloseTo(150, 5)
          expect(up[1]).toBeCloseTo(470 - 2 * along, 5)
          // To the right of the axis stays to the right: nothing is mirrored.
          expect(at(420 - frame.up.y, 900 + frame.up.x)[0]).toBeGreaterThan(150)
        },
      ),
    )
  })

  it('draws the solid from the side where the camera is far away', () => {
    const panel = { x: 0, y: 0, width: 300, height: 500, pxPerMm: 2, axisX: 150, groundY: 470 }
    const frame = { origin: { x: 0, y: 0 }, up: { x: 0, y: -1 }, mmPerPx: 0.1 }
    const view = {
      kind: 'distant' as const,
      lens: null,
      origin: { x: 0, y: 0 },
      up: { x: 0, y: -1 },
      mmPerPx: 0.1,
    }
    expect(panelCamera(panel, frame, view, 50)).toEqual({ azimuth: 0, elevation: 0, pxPerMm: 2, axisX: 150, middleY: 370, middleZ: 50, near: null }) // prettier-ignore
  })
})
