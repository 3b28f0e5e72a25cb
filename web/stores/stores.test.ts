// @vitest-environment happy-dom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { newPart } from '../../core/piece/new-part'
import { newPiece, type PieceDocument } from '../../core/piece/schema'
import { api } from '../api/client'
import type { ListedPiece } from '../api/types'
import { useCabinet } from './cabinet'
import { usePiece } from './piece'
import { bottle, height, stored } from './test-pieces'

vi.mock('../api/client')

const node = (id: string, r: number, z: number) => ({ id, r, z, joint: 'corner' as const, next: 'line' as const }) // prettier-ignore
const cone: PieceDocument = {
  ...newPiece('Cone'),
  profile: { side: 'right', nodes: [node('a', 0, 0), node('b', 30, 0), node('c', 0, 90)] },
}

beforeEach(() => {
  setActivePinia(createPinia())
  vi.resetAllMocks()
  vi.mocked(api.getPiece).mockResolvedValue(stored(cone))
  vi.mocked(api.savePiece).mockImplementation(async (_, revision) => ({ revision: revision + 1, updatedAt: '' }) as never) // prettier-ignore
})

const surroundings = { lowestMm: 0, highestMm: 90, maxRadiusMm: 30, radiusAt: (z: number) => 30 - z / 3, sides: 64, side: 'right' as const, fill: null } // prettier-ignore

describe('the piece on the bench', () => {
  async function opened() {
    const piece = usePiece()
    await piece.open('p')
    return piece
  }

  it('is changed in steps that go back and forth, and saved by itself', async () => {
    const piece = await opened()
    expect(piece.undoLabel).toBeNull()
    piece.dispatch({ type: 'rename', name: 'Hat' })
    piece.dispatch({ type: 'set-sides', sides: 12 })
    expect(piece.document).toMatchObject({ name: 'Hat', solid: { sides: 12 } })
    expect(piece.steps).toMatchObject({ done: 2, labels: ['rename the piece', 'change the sides'] })
    piece.undo()
    expect(piece.document.solid.sides).toBe(cone.solid.sides)
    expect([piece.undoLabel, piece.redoLabel]).toEqual(['rename the piece', 'change the sides'])
    piece.goTo(-1)
    expect(piece.document).toEqual(cone)
    piece.goTo(1)
    expect(piece.document.solid.sides).toBe(12)
    await piece.flush()
    expect(vi.mocked(api.savePiece).mock.calls.at(-1)!.slice(0, 3)).toMatchObject(['p', 4, { name: 'Hat' }])
    await vi.waitFor(() => expect(piece.saveState.kind).toBe('saved'))
  })

  it('shows a change under way, which is no step until it is let go', async () => {
    const piece = await opened()
    piece.preview = { type: 'set-sides', sides: 7 }
    expect(piece.document.solid.sides).toBe(7)
    expect(piece.settled.solid.sides).toBe(cone.solid.sides)
    expect(piece.steps.done).toBe(0)
    piece.dispatch(piece.preview)
    expect(piece.preview).toBeNull()
    expect(piece.steps.done).toBe(1)
  })

  it('a run of small changes with one key is one step', async () => {
    const piece = await opened()
    for (const sides of [20, 21, 22]) piece.dispatch({ type: 'set-sides', sides }, 'sides')
    expect(piece.steps.done).toBe(1)
    piece.undo()
    expect(piece.document.solid.sides).toBe(cone.solid.sides)
  })

  it('says why a change is refused, changes nothing, and forgets it with the next that works', async () => {
    const piece = await opened()
    const marks = Array.from({ length: 300 }, () => ({ x: 1, y: 1 }))
    piece.dispatch({ type: 'set-guides', guides: { piece: [], backdrop: [], marks } })
    expect(piece.refusal).toMatch(/keeps 200 strokes/)
    expect(piece.document).toBe(cone)
    expect(piece.steps.done).toBe(0)
    piece.dispatch({ type: 'rename', name: 'Hat' })
    expect(piece.refusal).toBe('')
  })

  it('the half-profile of a part in hand takes the changes of the piece’s own, which stays', async () => {
    const piece = await opened()
    const part = newPart('turned', 'q', surroundings)
    piece.dispatch({ type: 'set-part', part })
    piece.inHand = 'q'
    const before = piece.document.profile.nodes
    expect(before).not.toEqual(cone.profile.nodes)
    piece.dispatch({ type: 'set-side', side: 'left' })
    expect(piece.document.profile.side).toBe('left')
    expect(piece.whole.profile).toEqual(cone.profile)
    piece.inHand = null
    expect(piece.document.profile).toEqual(cone.profile)
  })

  it('keeps the set-up as soon as the photo is placed and scaled', async () => {
    vi.mocked(api.getPiece).mockResolvedValue(stored(bottle()))
    const piece = await opened()
    expect(piece.document.checkpoints).toEqual([])
    piece.dispatch({ type: 'set-known-size', size: height })
    expect(piece.document.checkpoints).toMatchObject([{ by: 'set-up', name: 'Photo placed and scaled' }])
    // It is no step of its own.
    expect(piece.steps.done).toBe(1)
  })
})

describe('the cabinet', () => {
  const listed = (id: string, name: string, setName: string | null, place: number | null, heightMm: number | null): ListedPiece => ({ id, name, setName, place, revision: 1, updatedAt: '', photoSha256: null, summary: { unit: 'mm', heightMm, maxDiameterMm: null, silhouette: null } }) // prettier-ignore
  async function filled() {
    vi.mocked(api.listPieces).mockResolvedValue([
      listed('1', 'Rook', 'Game', 2, 44),
      listed('2', 'Lamp chimney', null, null, 210),
      listed('3', 'King', 'Game', 1, 95),
      listed('4', 'Pawn', 'Game', null, null),
    ])
    const cabinet = useCabinet()
    await cabinet.load()
    return cabinet
  }

  it('shows pieces by set in their order, those without a set first, all at one scale', async () => {
    const cabinet = await filled()
    expect(cabinet.groups.map((g) => [g.name, g.pieces.map((p) => p.name)])).toEqual([
      [null, ['Lamp chimney']],
      ['Game', ['King', 'Rook', 'Pawn']],
    ])
    expect(cabinet.setNames).toEqual(['Game'])
    expect(cabinet.tallestMm).toBe(210)
  })

  it('finds by words of name and set, in any order', async () => {
    const cabinet = await filled()
    const names = () => cabinet.groups.flatMap((g) => g.pieces.map((p) => p.name))
    cabinet.search = 'game ki'
    expect(names()).toEqual(['King'])
    cabinet.search = ' CHIM '
    expect(names()).toEqual(['Lamp chimney'])
    cabinet.search = 'king rook'
    expect(names()).toEqual([])
    // What isn't shown keeps the scale.
    expect(cabinet.tallestMm).toBe(210)
  })

  it('puts a piece at the end of a set, wherever it was', async () => {
    const cabinet = await filled()
    await cabinet.moveToSet('2', 'Game')
    expect(api.arrange).toHaveBeenCalledWith('Game', ['1', '3', '4', '2'])
    await cabinet.moveToSet('3', 'Game')
    expect(api.arrange).toHaveBeenLastCalledWith('Game', ['1', '4', '3'])
  })

  it('names a new piece after its photo, and is free again when that fails', async () => {
    const cabinet = await filled()
    const facts = { sha256: 'b'.repeat(64), mediaType: 'image/png' as const, width: 10, height: 20, focalLength35mm: null } // prettier-ignore
    vi.mocked(api.uploadPhoto).mockResolvedValue(facts)
    vi.mocked(api.createPiece).mockResolvedValue({ id: 'new' } as never)
    expect(await cabinet.createFromPhoto(new File([], 'IMG_2041-ink__bottle.JPG'))).toBe('new')
    const made = vi.mocked(api.createPiece).mock.calls[0]![0]
    expect(made).toMatchObject({ name: 'IMG 2041 ink bottle', photo: { width: 10, quarterTurns: 0 } })
    vi.mocked(api.uploadPhoto).mockRejectedValue(new Error('too large'))
    await expect(cabinet.createFromPhoto(new File([], 'x.png'))).rejects.toThrow('too large')
    expect(cabinet.busy).toBeNull()
    await expect(cabinet.createFromDocument(new File(['{'], 'x.json'))).rejects.toThrow(
      /“x.json” is not JSON/,
    )
  })
})
