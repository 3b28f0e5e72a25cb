import { describe, expect, it } from 'vitest'
import { newKnownSize } from '../calibrate/known-size'
import { profileMeasures } from '../measure/profile-measures'
import { applyCommand, commandLabel, type Command } from './commands'
import { solvedOf } from './solved'
import { derive } from './derive'
import { handOver } from './hand-over'
import { newHistory, redo, run, undo } from './history'
import { readDocument } from './migrate'
import { DOCUMENT_VERSION, newPiece, photosOf, type PieceDocument } from './schema'
import { reportStages } from './stages'

const photo = {
  sha256: 'a'.repeat(64),
  fileName: 'bottle.jpg',
  mediaType: 'image/jpeg' as const,
  width: 1500,
  height: 2000,
  focalLength35mm: 100,
  quarterTurns: 0,
  crop: null,
}
const plumb = { foot: { x: 750, y: 1800 }, top: { x: 750, y: 200 }, by: 'hand' as const }
const overall = newKnownSize({ id: 'h', kind: 'overall', a: plumb.foot, b: plumb.top, mm: 160, text: '160' })
const ring = (id: string, by: 'hand' | 'found') => ({
  id,
  place: 'foot' as const,
  by,
  sdPx: 1,
  points: [0, 1, 2, 3, 4, 5].map((i) => ({ x: 750 + 200 * Math.cos(i), y: 1800 + 20 * Math.sin(i) })),
})

/** A calibrated bottle with a drawn cone: radius 40 at the foot, height 160. */
function cone(): PieceDocument {
  const start = newPiece('Cone', photo)
  const nodes = [
    { id: 'a', r: 0, z: 0, joint: 'corner' as const, next: 'line' as const, drawn: { x: 750, y: 1800 } },
    { id: 'b', r: 40, z: 0, joint: 'corner' as const, next: 'line' as const, drawn: { x: 1150, y: 1800 } },
    { id: 'c', r: 0, z: 160, joint: 'corner' as const, next: 'line' as const, drawn: { x: 750, y: 200 } },
  ]
  const calibration = { ...start.calibration, plumb, ground: plumb.foot, knownSizes: [overall] }
  return { ...start, calibration, profile: { side: 'right', nodes } }
}
const after = (...commands: Command[]) => commands.reduce(applyCommand, cone())

describe('calibration commands', () => {
  it('what was found replaces what was found before; ellipses by hand and a kept ground stay', () => {
    const found: Command = {
      type: 'take-found',
      plumb: { ...plumb, by: 'found', sdAngle: 1e-4, sdOffset: 0.02 },
      ground: null,
      rings: [ring('new', 'found')],
      overall: null,
      focal: { value: 9000, sd: 900 },
      near: true,
    }
    const { calibration } = after(
      { type: 'set-ring', ring: ring('mine', 'hand') },
      { type: 'set-ring', ring: ring('old', 'found') },
      found,
    )
    expect(calibration.rings.map((r) => r.id)).toEqual(['mine', 'new'])
    expect(calibration.ground).toEqual(plumb.foot)
    expect(calibration.view).toMatchObject({ kind: 'near', focalByRings: { value: 9000, sd: 900 } })
    expect(calibration.knownSizes).toHaveLength(1)
    // A search that knows the lens leaves nothing of what rings said of it before.
    expect(applyCommand(after(found), { ...found, focal: null }).calibration.view.focalByRings).toBeUndefined() // prettier-ignore
  })

  it('pairs move the plumb line; setting it by hand forgets them', () => {
    const pairs = [
      { id: '1', left: { x: 500, y: 1700 }, right: { x: 1020, y: 1700 } },
      { id: '2', left: { x: 600, y: 300 }, right: { x: 940, y: 300 } },
    ]
    const paired = after({ type: 'set-pairs', pairs })
    expect(paired.calibration.plumb).toMatchObject({
      by: 'pairs',
      foot: { x: 760, y: 1700 },
      top: { x: 770, y: 300 },
    })
    const again = applyCommand(paired, { type: 'set-plumb', plumb })
    expect([again.calibration.plumb, again.calibration.pairs]).toEqual([plumb, []])
  })

  it('a corrected scale moves everything drawn about the foot', () => {
    const corrected = after({ type: 'correct-scale', factor: 1.1098 })
    const { measures } = derive(corrected)
    expect(measures!.heightMm).toBeCloseTo(160 * 1.1098, 6)
    expect(measures!.lowestMm).toBeCloseTo(0, 9)
    const back = applyCommand(corrected, { type: 'correct-scale', factor: 1 / 1.1098 })
    expect(derive(back).measures!.maxRadiusMm).toBeCloseTo(40, 9)
  })

  it('a near view reads the drawn nodes again through the camera', () => {
    const near = after({ type: 'set-view', view: { kind: 'near' } })
    const f = (100 * 2500) / 43.2666
    const D = (f * 160) / 1600
    // The node drawn 400 px beside the axis at the foot: its level angle from the camera, at distance D.
    const node = near.profile.nodes[1]!
    expect(node.r).toBeLessThan(40)
    expect(node.r).toBeGreaterThan(40 * Math.cos(Math.asin(40 / D)) - 0.05)
    expect(near.profile.nodes[0]!.r).toBe(0)
    expect(solvedOf(near)!.view.kind).toBe('near')
  })

  it('the finished size changes the files, not the piece', () => {
    const half = after({ type: 'set-finish', finish: { factor: 0.5, text: '1:2' } })
    expect(profileMeasures(derive(half).solid!.segments).heightMm).toBeCloseTo(160, 9)
    const zOf = (document: PieceDocument) => {
      const text = new TextDecoder().decode(handOver(document, 'obj', { sides: 8 }))
      return Math.max(...[...text.matchAll(/^v \S+ \S+ (\S+)/gm)].map((m) => Number(m[1])))
    }
    expect(zOf(cone())).toBeCloseTo(160, 4)
    expect(zOf(half)).toBeCloseTo(80, 4)
    const svg = new TextDecoder().decode(handOver(half, 'svg'))
    expect(svg).toContain('finished size')
  })

  const file = {
    sha256: 'b'.repeat(64),
    fileName: 'top.jpg',
    mediaType: 'image/jpeg' as const,
    width: 800,
    height: 800,
    focalLength35mm: null,
    quarterTurns: 0,
  }
  const reference = {
    id: 'r',
    name: 'top',
    photo: file,
    scale: null,
  }
  const all: Command[] = [
    { type: 'crop-photo', crop: { x: 100, y: 50, width: 1300, height: 1900 } },
    { type: 'set-pairs', pairs: [{ id: 'p', left: { x: 1, y: 2 }, right: { x: 3, y: 2 } }] },
    { type: 'set-ring', ring: ring('x', 'hand') },
    { type: 'set-lens', lens: { k1: -0.05, k2: 0, unitPx: 5000, by: 'typed', edges: [] } },
    { type: 'set-view', view: { kind: 'near', distanceMm: 900, distanceText: '900', distanceSdMm: 9 } },
    { type: 'correct-scale', factor: 1.02 },
    { type: 'set-finish', finish: { factor: 1.08, text: '108 %' } },
    { type: 'set-reference', reference: reference },
    { type: 'remove-known-size', id: 'h' },
  ]
  it.each(all.map((c) => [c.type, c] as const))(
    '%s has words, can be taken back, and its document can be stored',
    (_type, command) => {
      const start = newHistory(cone())
      const changed = run(start, command)
      expect(changed.document).not.toEqual(start.document)
      expect(commandLabel(command).length).toBeGreaterThan(5)
      expect(undo(changed).document).toEqual(start.document)
      expect(redo(undo(changed)).document).toEqual(changed.document)
      expect(readDocument(JSON.parse(JSON.stringify(changed.document)))).toEqual(changed.document)
    },
  )

  it('knows all photos that a document needs', () => {
    const document = after({ type: 'set-reference', reference: reference })
    expect(photosOf(document)).toEqual(['a'.repeat(64), 'b'.repeat(64)])
    expect(photosOf(applyCommand(document, { type: 'remove-reference', id: 'r' }))).toEqual(['a'.repeat(64)])
  })
})

describe('documents of version 1', () => {
  it('are read with what they had, and with nothing known of the camera', () => {
    const { calibration, ...rest } = cone()
    const old = {
      ...rest,
      references: undefined,
      version: 1,
      photo: { ...photo, crop: undefined },
      calibration: {
        plumb: { foot: plumb.foot, top: plumb.top },
        ground: plumb.foot,
        knownSizes: [{ id: 'h', kind: 'height', a: plumb.foot, b: plumb.top, mm: 160, text: '160' }],
      },
    }
    const read = readDocument(JSON.parse(JSON.stringify(old)))
    expect(read.version).toBe(DOCUMENT_VERSION)
    expect(read.outline).toBeNull()
    expect(read.calibration.plumb).toEqual(plumb)
    expect(read.calibration.knownSizes[0]).toMatchObject({ mm: 160, on: true, lies: 'axis', source: 'ruler' })
    expect([read.references, read.photo!.crop, read.calibration.view]).toEqual([[], null, calibration.view])
    expect(derive(read).measures!.heightMm).toBeCloseTo(160, 9)
  })
})

describe('stage of calibrating', () => {
  const stage = (document: PieceDocument) => reportStages(document, derive(document)).calibrate
  const diameter = (id: string, mm: number, px: number) =>
    newKnownSize({ id, kind: 'diameter', a: { x: 750 - px / 2, y: 900 }, b: { x: 750 + px / 2, y: 900 }, mm })

  it('says what nothing checks, what agrees, what disagrees and what is only assumed', () => {
    expect(stage(cone()).sentence).toMatch(/nothing checks it/)
    const two = after({ type: 'set-known-size', size: diameter('d', 50, 500) })
    expect(stage(two)).toMatchObject({
      state: 'done',
      sentence: expect.stringContaining('2 sizes agree') as string,
    })
    const torn = after({ type: 'set-known-size', size: diameter('d', 60, 500) })
    expect(stage(torn)).toMatchObject({ state: 'doubt', sentence: 'The known sizes disagree.' })
    const named = after(
      { type: 'set-known-size', size: diameter('d', 50, 500) },
      { type: 'set-known-size', size: diameter('e', 45, 400) },
    )
    expect(stage(named).sentence).toMatch(/One known size disagrees/)
    // The one that disagrees doesn't count.
    expect(derive(named).calibration.frame.mmPerPx).toBeCloseTo(0.1, 4)
    const near = after({ type: 'set-view', view: { kind: 'near' } })
    expect(stage(near)).toMatchObject({
      state: 'doubt',
      sentence: expect.stringContaining('taken for level') as string,
    })
  })
})
