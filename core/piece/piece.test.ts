import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type CoreError } from '../errors'
import { applyCommand, type Command } from './commands'
import { derive } from './derive'
import { newHistory, redo, run, undo, type History } from './history'
import { readDocument } from './migrate'
import { newKnownSize } from '../calibrate/known-size'
import { newPiece, type PieceDocument } from './schema'
import { reportStages } from './stages'

const photo = {
  sha256: 'a'.repeat(64),
  fileName: 'bottle.jpg',
  mediaType: 'image/jpeg' as const,
  width: 1500,
  height: 2000,
  focalLength35mm: 85,
  quarterTurns: 0,
  crop: null,
}
const plumb = { foot: { x: 750, y: 1800 }, top: { x: 750, y: 200 }, by: 'hand' as const }
const known = (mm: number) =>
  newKnownSize({
    id: 's',
    kind: 'height',
    a: { x: 700, y: 1800 },
    b: { x: 700, y: 200 },
    mm,
    text: String(mm),
  })
const node = (id: string, r: number, z: number, x: number, y: number) => ({
  id,
  r,
  z,
  joint: 'corner' as const,
  next: 'line' as const,
  drawn: { x, y },
})

const calibrated: Command[] = [
  { type: 'set-plumb', plumb },
  { type: 'set-ground', ground: { x: 600, y: 1800 } },
  { type: 'set-known-size', size: known(160) },
]
const drawing: Command[] = [
  { type: 'add-node', at: 'last', node: node('a', 0, 0, 750, 1800) },
  { type: 'add-node', at: 'last', node: node('b', 40, 0, 1150, 1800) },
  { type: 'add-node', at: 'last', node: node('c', 20, 160, 950, 200) },
]
const play = (...commands: Command[]) =>
  commands.reduce<History>((h, c) => run(h, c), newHistory(newPiece('Bottle', photo)))

describe('document', () => {
  it('survives a round trip through JSON', () => {
    const { document } = play(...calibrated, ...drawing)
    expect(readDocument(JSON.parse(JSON.stringify(document)))).toEqual(document)
  })

  it.each([
    [null, 'document-unknown'],
    [{ schema: 'something-else' }, 'document-unknown'],
    [{ ...newPiece('x'), version: 99 }, 'document-newer'],
    [{ ...newPiece('x'), version: 0 }, 'document-invalid'],
    [{ ...newPiece('x'), name: '  ' }, 'document-invalid'],
    [{ ...newPiece('x'), solid: { sides: 2 } }, 'document-invalid'],
    [
      {
        ...newPiece('x'),
        profile: { side: 'left', nodes: [{ id: 'a', r: -1, z: 0, joint: 'corner', next: 'line' }] },
      },
      'document-invalid',
    ],
    [
      {
        ...newPiece('x'),
        profile: {
          side: 'left',
          nodes: [1, 2].map(() => ({ id: 'a', r: 1, z: 0, joint: 'corner', next: 'line' })),
        },
      },
      'document-invalid',
    ],
    [
      { ...newPiece('x'), calibration: { plumb: null, ground: { x: Infinity, y: 0 }, knownSizes: [] } },
      'document-invalid',
    ],
  ])('refuses %j', (input, code) => {
    try {
      readDocument(input)
      expect.unreachable()
    } catch (error) {
      expect((error as CoreError).code).toBe(code)
      expect((error as CoreError).message.length).toBeGreaterThan(10)
    }
  })
})

describe('derived piece', () => {
  it('measures a frustum from picture marks', () => {
    const d = derive(play(...calibrated, ...drawing).document)
    expect(d.calibration.frame.mmPerPx).toBeCloseTo(0.1, 12)
    expect(d.openEnds).toEqual([{ end: 'last', place: 'top', gapMm: 20 }])
    expect(d.solid?.closedForShow).toBe(true)
    expect(d.measures?.volumeMm3).toBeCloseTo((Math.PI * 160 * (1600 + 800 + 400)) / 3, 6)
  })

  it('closes on request, and is the same solid when drawn from the top down', () => {
    const closed = derive(
      play(...calibrated, ...drawing, { type: 'close-profile', ids: ['x', 'y'] }).document,
    )
    expect(closed.solid?.closedForShow).toBe(false)
    expect(closed.openEnds).toEqual([])
    const nodes = [...drawing].reverse()
    const down = derive(play(...calibrated, ...nodes).document)
    expect(down.measures!.volumeMm3).toBeCloseTo(closed.measures!.volumeMm3, 6)
    expect([...down.solid!.flat.points]).toEqual([...closed.solid!.flat.points])
  })

  it('lets the drawing follow a corrected size: 30 typed for 33 makes everything 9 % too small', () => {
    const wrong = play(
      ...calibrated,
      { type: 'set-known-size', size: known(30) },
      ...drawing.map(rescaled(30 / 160)),
    )
    const right = run(wrong, { type: 'set-known-size', size: known(33) })
    const ratio = derive(right.document).measures!.heightMm / derive(wrong.document).measures!.heightMm
    expect(ratio).toBeCloseTo(1.1, 9)
    expect(derive(right.document).measures!.heightMm).toBeCloseTo(33, 9)
  })
  const rescaled = (s: number) => (c: Command) =>
    c.type === 'add-node' ? { ...c, node: { ...c.node, r: c.node.r * s, z: c.node.z * s } } : c

  it('gives no solid and no numbers for a crossing profile', () => {
    const bow = play(
      ...calibrated,
      ...drawing,
      { type: 'add-node', at: 'last', node: node('d', 60, 100, 1350, 800) },
      { type: 'add-node', at: 'last', node: node('e', 10, 20, 850, 1600) },
    )
    const d = derive(bow.document)
    expect(d.faults.map((f) => f.code)).toEqual(['crosses-itself'])
    expect(d.solid).toBeNull()
  })

  it('draws on whichever side: mirrored picture points, same millimetres', () => {
    const right = play(...calibrated, ...drawing).document
    const left = applyCommand(right, { type: 'set-side', side: 'left' })
    expect(left.profile.nodes.map((n) => [n.r, n.z])).toEqual(right.profile.nodes.map((n) => [n.r, n.z]))
    expect(left.profile.nodes[1]!.drawn!.x).toBeCloseTo(350, 9)
    const moved = applyCommand(left, { type: 'set-known-size', size: known(320) })
    expect(moved.profile.nodes[1]!.r).toBeCloseTo(80, 9)
  })
})

describe('stages', () => {
  const states = (document: PieceDocument) =>
    Object.values(reportStages(document, derive(document))).map((r) => r.state)
  it('lead from an empty piece to files', () => {
    expect(states(newPiece('x'))).toEqual(Array(7).fill('waiting'))
    expect(states(play(...calibrated).document)).toEqual([
      'done',
      'done',
      'waiting',
      'waiting',
      'waiting',
      'waiting',
      'waiting',
    ])
    expect(states(play(...calibrated, ...drawing).document)).toEqual([
      'done',
      'done',
      'done',
      'doubt',
      'doubt',
      'done',
      'waiting',
    ])
    expect(
      states(play(...calibrated, ...drawing, { type: 'close-profile', ids: ['x', 'y'] }).document),
    ).toEqual(Array(7).fill('done'))
  })

  it('say in a few words what the panel says at length: the list of stages is narrow', () => {
    const { document } = play(...calibrated)
    const { calibration } = document
    const view = { ...calibration.view, kind: 'near' as const, distanceMm: 200 }
    const off = { ...document, calibration: { ...calibration, view } }
    const [problem] = derive(off).calibration.problems
    expect(problem!.code).toBe('distance-far-off')
    const { state, sentence } = reportStages(off, derive(off)).calibrate
    expect(state).toBe('doubt')
    expect(sentence.length).toBeLessThan(problem!.message.length / 2)
  })
})

describe('history', () => {
  const command: fc.Arbitrary<Command> = fc.oneof(
    fc.record({ type: fc.constant('rename' as const), name: fc.string({ minLength: 1 }) }),
    fc.record({ type: fc.constant('set-sides' as const), sides: fc.integer({ min: 3, max: 99 }) }),
    fc.record({
      type: fc.constant('move-node' as const),
      id: fc.constantFrom('a', 'b', 'c', 'none'),
      r: fc.integer({ min: 0, max: 50 }),
      z: fc.integer({ min: 0, max: 50 }),
    }),
    fc.record({
      type: fc.constant('set-side' as const),
      side: fc.constantFrom('left' as const, 'right' as const),
    }),
    fc.record({ type: fc.constant('delete-nodes' as const), ids: fc.subarray(['a', 'b', 'c']) }),
    fc.record({
      type: fc.constant('set-known-size' as const),
      size: fc.integer({ min: 1, max: 500 }).map(known),
    }),
    fc.constant({ type: 'set-plumb' as const, plumb: null }),
  )

  it('undo takes back to the start and redo to the end, whatever was done (property)', () => {
    fc.assert(
      fc.property(fc.array(command, { maxLength: 30 }), (commands) => {
        const start = newHistory(play(...calibrated, ...drawing).document)
        const end = commands.reduce((h, c) => run(h, c), start)
        let back = end
        while (back.done.length) back = undo(back)
        expect(back.document).toEqual(start.document)
        let again = back
        while (again.undone.length) again = redo(again)
        expect(again.document).toEqual(end.document)
      }),
    )
  })

  it('takes a run of nudges as one step, and names steps', () => {
    let h = play(...calibrated, ...drawing)
    const steps = h.done.length
    for (let r = 41; r < 50; r++) h = run(h, { type: 'move-node', id: 'b', r, z: 0 }, 'nudge-b')
    expect(h.done.length).toBe(steps + 1)
    expect(h.done.at(-1)!.label).toBe('move a node')
    expect(undo(h).document.profile.nodes[1]!.r).toBe(40)
  })
})
