import { describe, expect, it } from 'vitest'
import { newKnownSize } from '../calibrate/known-size'
import { stateOf, wantsSetUp, withCheckpoint } from './checkpoints'
import { applyCommand, type Command } from './commands'
import { newHistory, run, undo } from './history'
import { readDocument } from './migrate'
import { newPiece, photosOf, type PieceDocument } from './schema'

const photo = { sha256: 'c'.repeat(64), fileName: 'x.jpg', mediaType: 'image/jpeg' as const, width: 1000, height: 1000, focalLength35mm: null, quarterTurns: 0, crop: null } // prettier-ignore
const start = newPiece('Jar', photo)
const size = newKnownSize({ id: 'h', kind: 'overall', a: { x: 500, y: 900 }, b: { x: 500, y: 100 }, mm: 160 })
const placing: Command[] = [
  { type: 'set-plumb', plumb: { foot: { x: 500, y: 900 }, top: { x: 500, y: 100 }, by: 'hand' } },
  { type: 'set-ground', ground: { x: 500, y: 900 } },
  { type: 'set-known-size', size },
]
const placed = placing.reduce((d: PieceDocument, c) => applyCommand(d, c), start)
const drawn = applyCommand(placed, {
  type: 'add-node',
  node: { id: 'a', r: 20, z: 0, joint: 'corner', next: 'line' },
  at: 'last',
})

describe('checkpoints', () => {
  it('the set-up is worth keeping once the photo is placed and scaled, and before anything is drawn', () => {
    expect(wantsSetUp(start)).toBe(false)
    expect(wantsSetUp(applyCommand(start, placing[0]!))).toBe(false)
    expect(wantsSetUp(placed)).toBe(true)
    expect(wantsSetUp(drawn)).toBe(false)
    const kept = withCheckpoint(placed, { id: 'set-up', name: 'Set-up', at: '', by: 'set-up' })
    expect(wantsSetUp(kept)).toBe(false)
    // A corrected scale makes a newer one, in place of the old.
    const corrected = applyCommand(kept, { type: 'correct-scale', factor: 1.1 })
    expect(wantsSetUp(corrected)).toBe(true)
    const again = withCheckpoint(corrected, { id: 'set-up', name: 'Set-up', at: '', by: 'set-up' })
    expect(again.checkpoints).toHaveLength(1)
    expect(again.checkpoints[0]!.state.calibration.correction).toBe(1.1)
  })

  it('are restored as a step: undo brings back what was there, and nothing kept is lost', () => {
    const keep: Command = { type: 'keep-checkpoint', id: 'k', name: 'Empty', at: '2026-11-25T09:00:00Z', by: 'hand' } // prettier-ignore
    let history = run(newHistory(placed), keep)
    history = run(history, { type: 'add-node', node: drawn.profile.nodes[0]!, at: 'last' })
    history = run(history, { ...keep, id: 'l', name: 'Drawn' })
    const full = history.document
    history = run(history, { type: 'restore-checkpoint', id: 'k' })
    expect(history.document.profile.nodes).toEqual([])
    expect(history.document.checkpoints.map((c) => c.name)).toEqual(['Empty', 'Drawn'])
    expect(stateOf(history.document)).toEqual(stateOf(placed))
    expect(undo(history).document).toEqual(full)
    expect(readDocument(JSON.parse(JSON.stringify(full)))).toEqual(full)
  })

  it('keep their photos from being thrown away', () => {
    const kept = withCheckpoint(placed, { id: 'k', name: 'Old photo', at: '', by: 'hand' })
    const other = applyCommand(kept, { type: 'set-photo', photo: { ...photo, sha256: 'd'.repeat(64) } })
    expect(photosOf(other).sort()).toEqual(['c'.repeat(64), 'd'.repeat(64)])
  })

  it('documents from before them are read with none', () => {
    const old: Record<string, unknown> = { ...drawn, version: 3 }
    delete old.checkpoints
    delete old.stations
    expect(readDocument(old)).toEqual(drawn)
  })
})
