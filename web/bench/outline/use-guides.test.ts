// @vitest-environment happy-dom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { useView } from '../../composables/use-view'
import { useBench } from '../../stores/bench'
import { usePiece } from '../../stores/piece'
import { BRUSH_PX, useGuides } from './use-guides'

vi.mock('../../api/client')

beforeEach(() => {
  setActivePinia(createPinia())
})

function painter(tool: 'paint-piece' | 'paint-backdrop' = 'paint-piece') {
  useBench().tool = tool
  useBench().view.pxPerMm = 2
  return { guides: useGuides(), piece: usePiece(), view: useView() }
}
const at = (sx: number, sy: number) => ({ sx, sy })

describe('painting for the search', () => {
  it('shows the stroke as it is drawn, and keeps it as one step when it is let go', () => {
    const { guides, piece, view } = painter()
    guides.begin(at(100, 100))
    for (let x = 100; x <= 160; x += 1) guides.paint(at(x, 100))
    expect(piece.steps.done).toBe(0)
    expect(guides.shown.value!.piece).toHaveLength(1)
    guides.end(true)
    expect(guides.shown.value).toBeNull()
    expect(piece.steps).toMatchObject({ done: 1, labels: ['help the search'] })
    const [stroke] = piece.document.guides!.piece
    // In px of the picture, as wide as the brush on the screen, and with no more points than it takes.
    expect(stroke!.radius).toBeCloseTo(BRUSH_PX / view.magnification.value, 9)
    expect(view.pictureToScreen(stroke!.points[0]!).sx).toBeCloseTo(100, 2)
    expect(view.pictureToScreen(stroke!.points.at(-1)!).sx).toBeGreaterThan(160 - BRUSH_PX)
    expect(stroke!.points.length).toBeLessThan(25)
  })

  it('a press alone is a dab; what the system takes away leaves nothing', () => {
    const { guides, piece } = painter('paint-backdrop')
    guides.begin(at(10, 10))
    guides.end(true)
    expect(piece.document.guides).toMatchObject({ piece: [], backdrop: [{ points: [{}] }] })
    guides.begin(at(50, 50))
    guides.paint(at(90, 90))
    guides.end(false)
    expect(piece.document.guides!.backdrop).toHaveLength(1)
    expect(guides.shown.value).toBeNull()
    guides.paint(at(200, 200))
    expect(guides.shown.value).toBeNull()
  })

  it('strokes and marks add up, each taken back by itself', () => {
    const { guides, piece } = painter()
    guides.begin(at(10, 10))
    guides.end(true)
    useBench().tool = 'paint-backdrop'
    guides.begin(at(70, 10))
    guides.end(true)
    guides.mark(at(30, 40))
    const counts = () => Object.values(piece.document.guides ?? {}).map((list) => list.length)
    expect(counts()).toEqual([1, 1, 1])
    piece.undo()
    expect(counts()).toEqual([1, 1, 0])
    piece.undo()
    piece.undo()
    expect(piece.document.guides ?? null).toBeNull()
  })

  it('only the brushes paint', () => {
    const { guides } = painter()
    expect(guides.painting()).toBe(true)
    for (const tool of ['none', 'mark', 'edge', 'crop'] as const) {
      useBench().tool = tool
      expect(guides.painting()).toBe(false)
    }
  })
})
