// @vitest-environment happy-dom
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { newKnownSize } from '../../../core/calibrate/known-size'
import type { PhotoSearch } from '../../../core/camera/search-photo'
import type { PieceDocument } from '../../../core/piece/schema'
import { settledFound } from '../../../core/piece/settled-found'
import { api } from '../../api/client'
import { usePiece } from '../../stores/piece'
import { bottle, stored } from '../../stores/test-pieces'
import type { SearchRequest } from '../../workers/protocol'
import { useSearch } from './use-search'

vi.mock('../../api/client')
vi.mock('comlink', () => ({ proxy: (f: unknown) => f }))
const worker = vi.hoisted(() => ({
  prepare: vi.fn(),
  searchAhead: vi.fn(),
  search: vi.fn(),
  settle: vi.fn(),
}))
vi.mock('../../workers/photo-client', () => ({
  photoClient: { call: (job: (w: typeof worker) => Promise<unknown>) => job(worker), stop: vi.fn() },
  pixelsOf: ({ sha256, crop }: { sha256: string; crop: unknown }) => ({ url: `/photos/${sha256}`, crop }),
}))

type Progress = (fraction: number) => void
/** A call that ends when it is told to. */
function pending<T>() {
  let end!: (value: T) => void
  const ended = new Promise<T>((resolve) => (end = resolve))
  return { end, ended }
}

/** A place in the picture, to a hundredth of a px: settled ends go through a camera and back. */
const at = ({ x, y }: { x: number; y: number }) => ({ x: expect.closeTo(x, 2), y: expect.closeTo(y, 2) })

/** What a search of the bottle finds. */
const foot = { x: 740, y: 1800 }
const top = { x: 770, y: 201 }
/** A cylinder of 300 px between them. */
const side = (sign: 1 | -1, moved = (p: typeof foot) => p) => {
  const length = Math.hypot(top.x - foot.x, top.y - foot.y)
  const across = { x: (sign * 150 * (foot.y - top.y)) / length, y: (sign * 150 * (top.x - foot.x)) / length }
  const corners = [foot, top].map((p) => ({ x: p.x + across.x, y: p.y + across.y }))
  const points = Float64Array.from([foot, ...corners, top].map(moved).flatMap(({ x, y }) => [x, y]))
  return { points, sd: Float64Array.of(0.1, 0.1, 0.1, 0.1), blur: 1 }
}
const result: PhotoSearch = {
  plumb: { foot, top, sdAngle: 1e-4, sdOffset: 0.1 },
  foot,
  top,
  rings: [],
  focal: null,
  difference: [],
  spread: 0.1,
  agreeing: 1,
  blur: 1,
  others: false,
  mirrored: false,
  besideLeftOut: false,
  mayBeCutOff: false,
  checkered: false,
  marksLeftOut: false,
  outline: { left: side(-1), right: side(1) },
}

async function opened(document: PieceDocument) {
  vi.mocked(api.getPiece).mockResolvedValue(stored(document))
  await usePiece().open('p')
  return { piece: usePiece(), search: useSearch() }
}
const untouched = () => ({ ...bottle(), calibration: { ...bottle().calibration, plumb: null, ground: null } })

beforeEach(() => {
  setActivePinia(createPinia())
  vi.resetAllMocks()
  for (const call of Object.values(worker)) call.mockResolvedValue(undefined)
  worker.settle.mockImplementation((...asked: Parameters<typeof settledFound>) =>
    Promise.resolve(settledFound(...asked)),
  )
  vi.useFakeTimers({ shouldAdvanceTime: true })
})
afterEach(() => {
  vi.useRealTimers()
})

describe('searching ahead', () => {
  it('asks for what a press would ask for, once it has settled', async () => {
    const { search } = await opened(untouched())
    worker.search.mockResolvedValue(result)
    for (let k = 0; k < 5; k++) {
      search.searchAhead(false)
      await vi.advanceTimersByTimeAsync(100)
    }
    expect(worker.searchAhead).not.toHaveBeenCalled()
    await vi.advanceTimersByTimeAsync(1000)
    expect(worker.searchAhead).toHaveBeenCalledTimes(1)
    const ahead = worker.searchAhead.mock.calls[0]![0] as SearchRequest
    expect(ahead).toMatchObject({ up: { x: 0, y: -1 }, axis: null, guides: null, crop: null })
    await search.run()
    expect(worker.search.mock.calls[0]![0]).toEqual(ahead)
  })

  it('keeps an axis that a hand has set where the outline is asked for, and looks for one where the axis is', async () => {
    const { piece, search } = await opened(bottle())
    const { photo } = piece.document
    const kept = search.requestOf(photo!, true).axis!
    // The bottle's plumb line leans by 30 px on 1599.
    expect(kept.at).toEqual({ x: 755, y: 1000.5 })
    expect(Math.atan2(kept.up.x, -kept.up.y)).toBeCloseTo(Math.atan(30 / 1599), 9)
    expect(search.requestOf(photo!, false).axis).toBeNull()
  })

  it('tells the camera’s distance in heights where a tape and a height say it', async () => {
    const { piece, search } = await opened(bottle())
    const { photo } = piece.document
    expect(search.requestOf(photo!, true).eye.away).toBeNull()
    piece.dispatch({ type: 'set-view', view: { distanceMm: 1150, distanceText: '1150', distanceSdMm: 10 } })
    piece.dispatch({ type: 'set-known-size', size: newKnownSize({ id: 'h', kind: 'overall', a: foot, b: top, mm: 115 }) }) // prettier-ignore
    expect(search.requestOf(photo!, true).eye.away).toEqual({ times: 10, size: 'height' })
  })

  it('only reads the pixels where an outline is there or the search is guided', async () => {
    const { piece, search } = await opened(untouched())
    piece.dispatch({ type: 'set-guides', guides: { piece: [], backdrop: [], marks: [{ x: 600, y: 900 }] } })
    search.searchAhead(true)
    await vi.advanceTimersByTimeAsync(1000)
    expect(worker.searchAhead).not.toHaveBeenCalled()
    expect(worker.prepare).toHaveBeenCalledTimes(1)
  })

  it('is not begun any more when somebody presses first', async () => {
    const { search } = await opened(untouched())
    worker.search.mockResolvedValue(result)
    search.searchAhead(false)
    await search.run()
    await vi.advanceTimersByTimeAsync(1000)
    expect(worker.searchAhead).not.toHaveBeenCalled()
  })

  it('whoever presses meanwhile sees how far it is, if it is the same they ask for', async () => {
    const { piece, search } = await opened(untouched())
    search.searchAhead(false)
    await vi.advanceTimersByTimeAsync(1000)
    const [request, report] = worker.searchAhead.mock.calls[0] as [SearchRequest, Progress]
    report(0.3)
    expect(search.fraction).toBe(0)
    const { end, ended } = pending<PhotoSearch>()
    worker.search.mockReturnValue(ended)
    const pressed = search.run()
    expect(search.running).toBe(true)
    report(0.6)
    expect(search.fraction).toBe(0.6)
    end(result)
    await pressed
    expect(piece.document.calibration.plumb).toMatchObject({ foot: at(foot), top: at(top), by: 'found' })

    // A crop makes it another search.
    piece.dispatch({ type: 'crop-photo', crop: { x: 300, y: 100, width: 900, height: 1800 } })
    const other = search.requestOf(piece.document.photo!, false)
    expect(JSON.stringify(other)).not.toBe(JSON.stringify(request))
    worker.search.mockReturnValue(pending<PhotoSearch>().ended)
    void search.run()
    report(0.9)
    expect(search.fraction).toBe(0)
  })

  it('what goes wrong ahead is nobody’s concern; pressed for, it is said, and the next press tries again', async () => {
    const { search } = await opened(untouched())
    worker.searchAhead.mockRejectedValue(new Error('No round piece stands out.'))
    search.searchAhead(false)
    await vi.advanceTimersByTimeAsync(1000)
    expect(search.problem).toBe('')
    worker.search.mockRejectedValue(new Error('No round piece stands out.'))
    expect(await search.run()).toBeNull()
    expect(search.problem).toBe('No round piece stands out.')
    expect(search.running).toBe(false)
    worker.search.mockResolvedValue(result)
    await search.run()
    expect(search.problem).toBe('')
    expect(search.found?.foot).toEqual(foot)
  })
})

describe('a search for the outline', () => {
  const over = ({ x, y }: { x: number; y: number }) => ({ x: x + 400, y })
  const elsewhere: PhotoSearch = {
    ...result,
    plumb: { ...result.plumb, foot: over(foot), top: over(top) },
    foot: over(foot),
    top: over(top),
    outline: { left: side(-1, over), right: side(1, over) },
  }
  /** The bottle with an axis as a search (or a hand) has left it, in which another search finds something. */
  async function searched(by: 'found' | 'hand', finds: PhotoSearch, ground = foot) {
    const plumb = by === 'found' ? { ...result.plumb, by } : { foot, top, by }
    const { piece, search } = await opened({ ...bottle(), calibration: { ...bottle().calibration, plumb, ground } }) // prettier-ignore
    worker.search.mockResolvedValue(finds)
    // Settled on the page then.
    worker.settle.mockRejectedValue(new Error('No worker.'))
    await search.findOutline()
    return piece
  }

  it('takes the axis along where it finds another one than a search before, in one step', async () => {
    const piece = await searched('found', elsewhere)
    const { plumb, ground } = piece.document.calibration
    expect(plumb).toMatchObject({ foot: at(over(foot)), top: at(over(top)), by: 'found' })
    expect(ground).toEqual(at(over(foot)))
    expect(piece.document.outline).not.toBeNull()
    expect(piece.steps.done).toBe(1)
    piece.undo()
    expect(piece.document.calibration.plumb).toMatchObject({ foot, top })
    expect(piece.document.outline ?? null).toBeNull()
  })

  it('goes on for whoever waits until the outline is there; what is found is taken over without a stop', async () => {
    const { piece, search } = await opened(untouched())
    worker.search.mockResolvedValue(result)
    const solving = pending<string>()
    // Settled on the page then.
    worker.settle.mockReturnValue(solving.ended.then((why) => Promise.reject(new Error(why))))
    const pressed = search.findOutline()
    expect([search.running, search.taking]).toEqual([true, false])
    await vi.waitFor(() => expect(worker.settle).toHaveBeenCalled())
    expect([search.running, search.taking]).toEqual([true, true])
    // A second press meanwhile asks for nothing more.
    await search.findOutline()
    expect(worker.search).toHaveBeenCalledTimes(1)
    expect(piece.document.outline ?? null).toBeNull()
    solving.end('No worker.')
    await pressed
    expect(piece.document.outline).not.toBeNull()
    expect([search.running, search.taking]).toEqual([false, false])
  })

  it('leaves an axis by hand alone, one that it finds again, and a ground line that was moved by hand', async () => {
    expect((await searched('hand', elsewhere)).document.calibration.plumb).toMatchObject({ foot, by: 'hand' })
    expect((await searched('found', result)).document.calibration.plumb).toMatchObject({ foot, by: 'found' })
    const ground = { x: 750, y: 1700 }
    const moved = await searched('found', elsewhere, ground)
    expect(moved.document.calibration).toMatchObject({ ground, plumb: { foot: at(over(foot)) } })
  })
})
