import { beforeEach, describe, expect, it, vi } from 'vitest'
import { newPiece } from '../core/piece/schema'
import { plainFileName } from '../core/piece/file-name'
import type { Surface } from '../core/piece/plan-assembly'
import { snapNode, type SnapRequest } from './bench/snapping'
import { surfaceLooks } from './bench/solid/surface-looks'
import { formatArea, formatVolume } from './bench/use-figures'
import { Saver, type SaveState } from './stores/saving'
import { latestOnly } from './workers/solid-client'

describe('snapping', () => {
  const wish = (change: Partial<SnapRequest>): SnapRequest => ({
    r: 30,
    z: 50,
    mayEndOnAxis: true,
    neighbours: [{ r: 40, z: 20 }],
    mmPerScreenPx: 0.25,
    straight: false,
    free: false,
    ...change,
  })

  it.each([
    ['nothing near', {}, { r: 30, z: 50, to: [] }],
    ['the axis', { r: 2 }, { r: 0, z: 50, to: ['on the axis'] }],
    ['the axis, but not an end', { r: 2, mayEndOnAxis: false }, { r: 2, z: 50, to: [] }],
    ['the axis, kept off by a key', { r: 2, free: true }, { r: 2, z: 50, to: [] }],
    ['touching the axis in spite of the key', { r: 0.1, free: true }, { r: 0, z: 50, to: ['on the axis'] }],
    ['the ground', { z: -1 }, { r: 30, z: 0, to: ['on the ground'] }],
    ["the neighbour's height", { z: 20.9 }, { r: 30, z: 20, to: ['level'] }],
    ["the neighbour's ⌀", { r: 39.2 }, { r: 40, z: 50, to: ['same ⌀'] }],
    [
      'Shift, mostly sideways',
      { r: 5, z: 30, mayEndOnAxis: false, straight: true },
      { r: 5, z: 20, to: ['level'] },
    ],
    ['Shift, mostly upwards', { r: 35, z: 70, straight: true }, { r: 40, z: 70, to: ['upright'] }],
    [
      'Shift, level onto the axis',
      { r: 1, z: 30, straight: true },
      { r: 0, z: 20, to: ['level', 'on the axis'] },
    ],
  ] as [string, Partial<SnapRequest>, object][])('%s', (_what, change, expected) =>
    expect(snapNode(wish(change))).toEqual({ ...expected, guides: [] }),
  )

  // Five px are 1.25 mm here.
  const others = [{ r: 12, z: 80 }]
  const edge: [number, number][] = [[0, 0], [28, 0], [28.5, 40], [29.5, 60], [10, 90]] // prettier-ignore
  it.each([
    [
      "another node's height, pointed out",
      { z: 79.2, others },
      { r: 30, z: 80, to: ['same height'], guides: others },
    ],
    ["another node's ⌀", { r: 12.4, others }, { r: 12, z: 50, to: ['same ⌀'], guides: others }],
    [
      'a station',
      { z: 51, levels: [{ z: 50, name: 'Belly' }] },
      { r: 30, z: 50, to: ['at Belly'], guides: [] },
    ],
    [
      'the edge of the photo',
      { edge },
      { r: expect.closeTo(29, 2), z: expect.closeTo(50.05, 2), to: ['on the edge'], guides: [] },
    ],
    [
      'the edge at the height of a node',
      { z: 48.9, edge, others: [{ r: 5, z: 50 }] },
      { r: 29, z: 50, to: ['on the edge', 'same height'], guides: [{ r: 5, z: 50 }] },
    ],
    [
      'the edge straight beside a neighbour',
      { r: 29.6, z: 22, edge, straight: true },
      { r: 28.25, z: 20, to: ['level', 'on the edge'], guides: [] },
    ],
    [
      'the grid, in both ways',
      { gridMm: 0.5, r: 30.13, z: 49.9 },
      { r: 30, z: 50, to: ['on the grid', 'on the grid'], guides: [] },
    ],
    [
      "a stroke's end before all else",
      { edge, ends: [{ r: 31, z: 51, stroke: 's' }] },
      { r: 31, z: 51, to: ['joins'], guides: [], joins: 's' },
    ],
    [
      'nothing while a key is held',
      { edge, others, gridMm: 1, free: true, z: 79.5 },
      { r: 30, z: 79.5, to: [], guides: [] },
    ],
  ] as [string, Partial<SnapRequest>, object][])('%s', (_what, change, expected) =>
    expect(snapNode(wish(change))).toEqual(expected),
  )
})

describe('figures', () => {
  it('show volumes and areas with four figures', () => {
    expect(formatVolume(293_912, 'mm')).toBe('293.9 ml')
    expect(formatVolume(1_234_567, 'cm')).toBe('1235 ml')
    expect(formatVolume(25.4 ** 3 * 12, 'in-16')).toBe('12.00 in³')
    expect(formatArea(26_640, 'mm')).toBe('266.4 cm²')
  })

  it('make file names that every system takes', () => {
    expect(
      ['Ink bottle', 'Flacon d’été № 3', '../../etc/passwd', '灯台', 'CON: a/b'].map(plainFileName),
    ).toEqual(['ink-bottle', 'flacon-d-ete-no-3', 'etc-passwd', 'piece', 'con-a-b'])
  })
})

describe('saving', () => {
  const states: SaveState['kind'][] = []
  let saver: Saver
  beforeEach(() => {
    vi.useFakeTimers()
    states.length = 0
    saver = new Saver('id', 1, (s) => states.push(s.kind))
  })
  const answer = (status: number, body: object) => new Response(JSON.stringify(body), { status })

  it('gathers quick changes into one save, and saves what came meanwhile next', async () => {
    const sent: [string, string][] = []
    let revision = 1
    vi.stubGlobal('fetch', async (_url: string, init: RequestInit) => {
      sent.push([
        (init.headers as Record<string, string>)['If-Match']!,
        JSON.parse(String(init.body)).document.name,
      ])
      if (sent.length === 1) saver.save(newPiece('c'))
      return answer(200, { revision: ++revision, updatedAt: '' })
    })
    saver.save(newPiece('a'))
    saver.save(newPiece('b'))
    await vi.advanceTimersByTimeAsync(1000)
    expect(sent).toEqual([['"1"', 'b'], ['"2"', 'c']]) // prettier-ignore
    expect(states.at(-1)).toBe('saved')
    expect(saver.dirty).toBe(false)
  })

  it('tries again after a failure with the newest state, and never says saved before it is', async () => {
    let up = false
    const sent: string[] = []
    vi.stubGlobal('fetch', async (_url: string, init: RequestInit) => {
      if (!up) throw new TypeError('refused')
      sent.push(JSON.parse(String(init.body)).document.name)
      return answer(200, { revision: 2, updatedAt: '' })
    })
    saver.save(newPiece('a'))
    await vi.advanceTimersByTimeAsync(500)
    expect(states).not.toContain('saved')
    expect(states.at(-1)).toBe('failed')
    saver.save(newPiece('b'))
    up = true
    await vi.advanceTimersByTimeAsync(5000)
    expect(sent).toEqual(['b'])
    expect(states.at(-1)).toBe('saved')
  })

  it('stops at a conflict until the user has decided', async () => {
    const calls: string[] = []
    vi.stubGlobal('fetch', async (_url: string, init: RequestInit) => {
      const match = (init.headers as Record<string, string>)['If-Match']!
      calls.push(match)
      return match === '"7"'
        ? answer(200, { revision: 8, updatedAt: '' })
        : answer(412, { type: '/problems/changed-elsewhere', currentRevision: 7 })
    })
    saver.save(newPiece('a'))
    await vi.advanceTimersByTimeAsync(10_000)
    expect(calls).toEqual(['"1"'])
    expect(states.at(-1)).toBe('conflict')
    saver.rebase(7, newPiece('a'))
    await vi.advanceTimersByTimeAsync(10)
    expect(states.at(-1)).toBe('saved')
  })
})

describe('latestOnly', () => {
  it('runs one job at a time and skips those that are overtaken', async () => {
    const ran: number[] = []
    const finish: (() => void)[] = []
    const done: number[] = []
    const ask = latestOnly(
      (n: number) => new Promise<number>((resolve) => (ran.push(n), finish.push(() => resolve(n)))),
      (n) => done.push(n),
      () => undefined,
    )
    for (const n of [1, 2, 3, 4]) ask(n)
    finish[0]!()
    await vi.waitFor(() => expect(ran).toEqual([1, 4]))
    finish[1]!()
    await vi.waitFor(() => expect(done).toEqual([1, 4]))
  })
})

describe('looks of surfaces', () => {
  const surfaces: Surface[] = [{ kind: 'body', material: 'soda-lime-glass' }]
  const looks = (options: Partial<Parameters<typeof surfaceLooks>[1]>) =>
    surfaceLooks(surfaces, { dark: false, shows: 'materials', painted: false, ...options })[0]!

  it('glass bends what stands behind it, by its index, and is seen through where nothing does', () => {
    // Soda-lime glass, n = 1.52 (handbook, from memory).
    expect(looks({ bendsMm: 2.5 }).glass).toEqual({ ior: 1.52, thicknessMm: 2.5 })
    expect(looks({ bendsMm: 2.5 }).opacity).toBe(1)
    expect(looks({}).opacity).toBeLessThan(0.5)
    expect(looks({}).glass).toBeUndefined()
    expect(looks({ shows: 'plain', bendsMm: 2.5 }).glass).toBeUndefined()
  })
})
