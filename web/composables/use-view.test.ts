// @vitest-environment happy-dom
import fc from 'fast-check'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { EMPTY_CALIBRATION, type Calibration } from '../../core/calibrate/calibration'
import type { PieceDocument } from '../../core/piece/schema'
import { api } from '../api/client'
import { useBench } from '../stores/bench'
import { usePiece } from '../stores/piece'
import { bottle, height, plumb, stored } from '../stores/test-pieces'
import { keepPictureInPlace, useView } from './use-view'

vi.mock('../api/client')

const near = { ...EMPTY_CALIBRATION.view, kind: 'near' as const, pitchDegrees: 6 }

async function opened(change: Partial<Calibration> = {}, more: Partial<PieceDocument> = {}) {
  const document = { ...bottle({ knownSizes: [height], ...change }), ...more }
  vi.mocked(api.getPiece).mockResolvedValue(stored(document))
  const piece = usePiece()
  await piece.open('p')
  Object.assign(useBench().view, { pxPerMm: 3.5, groundY: 640, photoAxisX: 310, solidAxisX: 200 })
  return { piece, view: useView(), bench: useBench() }
}

beforeEach(() => {
  setActivePinia(createPinia())
})

const place = fc.record({
  sx: fc.double({ min: -500, max: 1500, noNaN: true }),
  sy: fc.double({ min: -200, max: 900, noNaN: true }),
})

describe('picture and screen', () => {
  it('lead to each other and back, near and distant (property)', async () => {
    for (const change of [{}, { view: near }]) {
      const { view } = await opened(change)
      fc.assert(
        fc.property(place, (s) => {
          const back = view.pictureToScreen(view.screenToPicture(s))
          expect(back.sx).toBeCloseTo(s.sx, 6)
          expect(back.sy).toBeCloseTo(s.sy, 6)
          const side = view.planeToScreen(view.screenToPlane(s))
          expect(side.sx).toBeCloseTo(s.sx, 5)
          expect(side.sy).toBeCloseTo(s.sy, 5)
          expect(view.screenToHeight(view.heightToScreen(s.sy / 5))).toBeCloseTo(s.sy / 5, 6)
        }),
      )
    }
  })

  it('the axis stands upright on the screen, foot on the ground and 160 mm below the top', async () => {
    const { view } = await opened()
    const [foot, top] = [plumb.foot, plumb.top].map((p) => view.pictureToScreen(p)) as [
      { sx: number; sy: number },
      { sx: number; sy: number },
    ]
    expect(foot).toEqual({ sx: 310, sy: 640 })
    expect(top.sx).toBeCloseTo(310, 9)
    expect(top.sy).toBeCloseTo(640 - 3.5 * 160, 6)
    expect(view.magnification.value).toBeCloseTo((3.5 * 160) / Math.hypot(30, 1599), 9)
  })

  it('the matrix for a canvas is the same way (property)', async () => {
    const { view } = await opened()
    const [a, b, c, d, e, f] = view.pictureMatrix(310)
    fc.assert(
      fc.property(fc.double({ min: 0, max: 2000, noNaN: true }), fc.double({ min: 0, max: 2000, noNaN: true }), (x, y) => {
        const s = view.pictureToScreen({ x, y })
        expect(a * x + c * y + e).toBeCloseTo(s.sx, 6)
        expect(b * x + d * y + f).toBeCloseTo(s.sy, 6)
      }), // prettier-ignore
    )
  })
})

describe('the look at it', () => {
  it('zooming keeps what lies under the pointer, in either pane, and ends at 64 screen px for one', async () => {
    const { view, bench } = await opened()
    const at = { sx: 420, sy: 222 }
    const under = view.screenToPicture(at)
    view.zoom(1.7, at, 'photo')
    const after = view.pictureToScreen(under)
    expect(after.sx).toBeCloseTo(at.sx, 9)
    expect(after.sy).toBeCloseTo(at.sy, 9)
    expect(bench.view.solidAxisX).toBe(200)
    const level = view.screenToHeight(at.sy)
    view.zoom(0.4, at, 'solid')
    expect(view.screenToHeight(at.sy)).toBeCloseTo(level, 9)
    expect(bench.view.solidAxisX).toBeCloseTo(at.sx + (200 - at.sx) * 0.4, 9)
    view.zoom(1e9, at, 'photo')
    expect(view.magnification.value).toBeCloseTo(64, 9)
    view.zoom(1e-12, at, 'photo')
    expect(view.magnification.value).toBeCloseTo(0.01, 9)
  })

  it('panning moves both panes up and down, and one of them aside', async () => {
    const { view, bench } = await opened()
    view.pan(10, 4, 'photo')
    view.pan(-3, 1, 'solid')
    expect(bench.view).toMatchObject({ groundY: 645, photoAxisX: 320, solidAxisX: 197 })
  })

  it('fitting shows the whole photo, or its crop, until the piece is closed; then the piece', async () => {
    const pane = { width: 500, height: 700 }
    const inside = (p: { sx: number; sy: number }) =>
      p.sx >= 0 && p.sy >= 0 && p.sx <= pane.width && p.sy <= pane.height
    const { view, piece } = await opened()
    view.fit(pane, pane)
    for (const x of [0, 1500])
      for (const y of [0, 2000]) expect(inside(view.pictureToScreen({ x, y }))).toBe(true)
    const whole = view.magnification.value
    piece.dispatch({ type: 'crop-photo', crop: { x: 600, y: 150, width: 300, height: 300 } })
    view.fit(pane, pane)
    expect(view.magnification.value).toBeGreaterThan(3 * whole)
    const node = (id: string, r: number, z: number) => ({ id, r, z, joint: 'corner' as const, next: 'line' as const }) // prettier-ignore
    const nodes = [node('a', 0, 0), node('b', 40, 0), node('c', 0, 160)]
    const closed = await opened({}, { profile: { side: 'right', nodes } })
    closed.view.fit(pane, pane)
    const [low, high] = [closed.view.heightToScreen(0), closed.view.heightToScreen(160)]
    expect(low).toBeLessThan(700)
    expect(high).toBeGreaterThan(0)
    expect(low - high).toBeGreaterThan(0.7 * 700)
  })

  it('a changed scale or plumb line leaves the picture where the eye has it', async () => {
    const { view, piece } = await opened()
    keepPictureInPlace(ref({ width: 500, height: 700 }))
    const middle = view.screenToPicture({ sx: 250, sy: 350 })
    const magnification = view.magnification.value
    piece.dispatch({ type: 'set-known-size', size: { ...height, mm: 240 } })
    piece.dispatch({ type: 'set-ground', ground: { x: 740, y: 1700 } })
    const now = view.pictureToScreen(middle)
    expect(now.sx).toBeCloseTo(250, 6)
    expect(now.sy).toBeCloseTo(350, 6)
    expect(view.magnification.value).toBeCloseTo(magnification, 9)
  })
})
