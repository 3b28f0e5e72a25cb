import { describe, expect, it } from 'vitest'
import { radiusAt } from '../measure/profile-measures'
import { flatten } from '../profile/flatten'
import { fitCurve } from '../profile/fit-curve'
import { profileSegments } from '../profile/profile-segments'
import { EMPTY_CALIBRATION } from '../calibrate/calibration'
import { newKnownSize } from '../calibrate/known-size'
import { applyCommand, type Command } from './commands'
import { solvedOf } from './solved'
import { derive } from './derive'
import { newHistory, run, undo } from './history'
import { readDocument } from './migrate'
import { readOutline, storedSide } from './outline'
import { unsureStretches } from './outline-report'
import { MOST_BRUSH_POINTS, MOST_GUIDES, newPiece, type PieceDocument } from './schema'
import { reportStages } from './stages'

/** A cylinder ⌀ 200 px with a neck ⌀ 100 px from half its height, 800 px tall, its axis at x = 500, foot at y = 900. */
function side(sign: 1 | -1, change: (y: number) => { x?: number; sd?: number } = () => ({})) {
  const points: number[] = [500, 900]
  for (let r = 4; r <= 100; r += 4) points.push(500 + sign * r, 900)
  for (let y = 898; y > 500; y -= 2) points.push(500 + sign * 100, y)
  for (let r = 100; r >= 50; r -= 4) points.push(500 + sign * r, 500)
  for (let y = 498; y > 100; y -= 2) points.push(500 + sign * 50, y)
  for (let r = 50; r >= 0; r -= 2) points.push(500 + sign * r, 100)
  const all = Float64Array.from(points)
  const sd = new Float64Array(all.length / 2).fill(0.08)
  for (let i = 0; i < sd.length; i++) {
    const c = change(all[2 * i + 1]!)
    if (c.x && Math.abs(all[2 * i]! - 500) >= 50) all[2 * i]! += sign * c.x
    if (c.sd) sd[i] = c.sd
  }
  return { points: all, sd, blur: 1 }
}
const size = (mm: number) => newKnownSize({ id: 'h', kind: 'overall', a: { x: 500, y: 900 }, b: { x: 500, y: 100 }, mm, source: 'caliper' }) // prettier-ignore
const calibrated: PieceDocument = {
  ...newPiece('Bottle'),
  photo: { sha256: 'a'.repeat(64), fileName: 'x.jpg', mediaType: 'image/jpeg', width: 1000, height: 1000, focalLength35mm: null, quarterTurns: 0, crop: null }, // prettier-ignore
  calibration: {
    ...EMPTY_CALIBRATION,
    plumb: { foot: { x: 500, y: 900 }, top: { x: 500, y: 100 }, by: 'hand' },
    ground: { x: 500, y: 900 },
    knownSizes: [size(160)],
  },
}
const take = (left = side(-1), right = side(1)): Command => ({
  type: 'take-outline',
  left: storedSide(left),
  right: storedSide(right),
  blur: 1,
  idPrefix: 'o',
})
const taken = applyCommand(calibrated, take())
const read = (d: PieceDocument) => readOutline(d.outline!, solvedOf(d)!.view)

describe('outline of a piece', () => {
  it('one command gives a closed half-profile of few nodes in true millimetres', () => {
    const { nodes } = taken.profile
    expect(nodes.length).toBeLessThan(25)
    expect(nodes.every((n) => n.by === 'outline')).toBe(true)
    const { measures, faults } = derive(taken)
    expect(faults).toEqual([])
    expect(measures!.heightMm).toBeCloseTo(160, 1)
    // π (20² · 80 + 10² · 80), 1 px is 0.2 mm.
    expect(measures!.volumeMm3 / (Math.PI * (400 + 100) * 80)).toBeCloseTo(1, 2)
    expect(reportStages(taken, derive(taken)).outline.state).toBe('done')
    expect(readDocument(JSON.parse(JSON.stringify(taken)))).toEqual(taken)
  })

  it('follows a changed scale in place, and one undo takes both back', () => {
    let history = run(newHistory(calibrated), take())
    const before = history.document
    history = run(history, { type: 'set-known-size', size: size(320) })
    const after = history.document
    expect(derive(after).measures!.heightMm).toBeCloseTo(320, 0)
    expect(after.profile.nodes.length).toBe(before.profile.nodes.length)
    expect(undo(history).document).toEqual(before)
  })

  it('what a hand set stays where it is when the outline is taken again', () => {
    const belly = taken.profile.nodes.find((n) => n.r > 15 && n.z > 60)!
    const moved = applyCommand(taken, { type: 'type-coordinate', id: belly.id, coordinate: 'r', mm: 25 })
    expect(moved.profile.nodes.find((n) => n.id === belly.id)!.by).toBeUndefined()
    const again = applyCommand(moved, { type: 'fit-outline', toleranceMm: 0.05, idPrefix: 'p' })
    expect(again.profile.nodes.find((n) => n.id === belly.id)).toMatchObject({ r: 25 })
    expect(again.profile.nodes.filter((n) => n.by === 'outline').length).toBeGreaterThan(3)
  })

  it('leaves a half-profile alone that hands have drawn, until it is asked', () => {
    const node = { id: 'a', r: 7, z: 0, joint: 'corner' as const, next: 'line' as const }
    const drawn = applyCommand(calibrated, { type: 'add-node', node, at: 'last' })
    const found = applyCommand(drawn, take())
    expect(found.profile).toEqual(drawn.profile)
    expect(found.outline).not.toBeNull()
  })

  it('ends level where its rim bulges as rings do seen from above, so that the piece can be hollowed', () => {
    // The rim as an ellipse 12 px high over the neck's end, whose middle lies at y = 100.
    const bulging = (found: ReturnType<typeof side>) => ({
      ...found,
      points: found.points.map((v, i, all) =>
        i % 2 && v === 100 ? 100 - 6 * Math.sqrt(1 - ((all[i - 1]! - 500) / 50) ** 2) : v,
      ),
    })
    const rimmed = applyCommand(calibrated, take(bulging(side(-1)), bulging(side(1))))
    const [edge, axis] = [rimmed.profile.nodes.at(-2)!, rimmed.profile.nodes.at(-1)!]
    expect(axis.r).toBe(0)
    expect(edge.r).toBeCloseTo(10, 0)
    expect(Math.abs(edge.z - axis.z)).toBeLessThan(0.01)
    // The ring's middle lies 160 mm up; half a px is lost where its corner was smoothed.
    expect(Math.abs(axis.z - 160)).toBeLessThan(0.1)
    const hollow = applyCommand(rimmed, { type: 'set-wall', wall: { mm: 2, levels: [], floorMm: 2, way: 'inwards', lip: 'flat', bore: false } }) // prettier-ignore
    const { solid, wallNotes } = derive(hollow)
    expect(wallNotes).toEqual([])
    expect(solid?.hollow).toBeTruthy()
  })

  it('deleted nodes don’t come back with the next change of scale', () => {
    const gone = applyCommand(taken, { type: 'delete-nodes', ids: [taken.profile.nodes[2]!.id] })
    const scaled = applyCommand(gone, { type: 'set-known-size', size: size(161) })
    expect(scaled.profile.nodes.length).toBe(gone.profile.nodes.length)
  })

  it('another size only scales the curve, as a fit of what is read then would', () => {
    const wavy = (px: number) => (y: number) => ({ x: px * Math.sin(y / 40) })
    const bent = applyCommand(calibrated, take(side(-1, wavy(3)), side(1, wavy(3.6))))
    const scaled = applyCommand(bent, { type: 'set-known-size', size: size(176) })
    const factor = 176 / 160
    expect(scaled.profile.nodes.length).toBe(bent.profile.nodes.length)
    scaled.profile.nodes.forEach((node, i) => {
      const was = bent.profile.nodes[i]!
      expect(node.r).toBeCloseTo(factor * was.r, 6)
      expect(node.z).toBeCloseTo(factor * was.z, 6)
      node.handles?.forEach((v, k) => expect(v).toBeCloseTo(factor * was.handles![k]!, 6))
    })
    const afresh = fitCurve(read(scaled).points, { toleranceMm: scaled.outline!.fitMm!, newId: () => '' })
    expect(afresh.nodes.length).toBe(scaled.profile.nodes.length)
    afresh.nodes.forEach(({ r, z }, i) => {
      expect(r).toBeCloseTo(scaled.profile.nodes[i]!.r, 4)
      expect(z).toBeCloseTo(scaled.profile.nodes[i]!.z, 4)
    })
    // A stretch believed of one side alone is another profile, and fitted anew.
    const chosen = applyCommand(scaled, { type: 'choose-side', choice: { id: 'c', from: 20, to: 60, side: 'left' } }) // prettier-ignore
    expect(chosen.profile.nodes).not.toEqual(scaled.profile.nodes)
  })

  it('another piece of the photo is read about its own axis, with the height that was marked between found ends', () => {
    const plumb = { ...calibrated.calibration.plumb!, by: 'found' as const }
    const first = applyCommand({ ...calibrated, calibration: { ...calibrated.calibration, plumb } }, take())
    const over = (p: { x: number; y: number }) => ({ x: p.x + 300, y: p.y })
    const beside = (s: ReturnType<typeof side>) => ({ ...s, points: s.points.map((v, i) => v + (i % 2 ? 0 : 300)) }) // prettier-ignore
    const other = { ...take(beside(side(-1)), beside(side(1))) } as Extract<Command, { type: 'take-outline' }>
    // Read about the first one's axis, the second would be a disc of more than twice the width.
    expect(derive(applyCommand(first, other)).measures!.maxRadiusMm).toBeGreaterThan(40)
    const camera = {
      type: 'take-found' as const,
      plumb: { ...plumb, foot: over(plumb.foot), top: over(plumb.top) },
      ground: over(plumb.foot),
      rings: [],
      overall: null,
      focal: null,
      near: false,
    }
    const history = run(newHistory(first), { ...other, camera })
    const second = history.document
    expect(derive(second).measures!.maxRadiusMm).toBeCloseTo(20, 1)
    expect(derive(second).measures!.heightMm).toBeCloseTo(160, 1)
    expect(second.calibration.knownSizes[0]!.a).toEqual(over(plumb.foot))
    expect(undo(history).document).toEqual(first)
  })

  it('found again keeps what hands chose and drew on it, another piece of the photo doesn’t', () => {
    const hands: Command[] = [
      { type: 'choose-side', choice: { id: 'c', from: 20, to: 60, side: 'left' } },
      { type: 'lay-edge', stroke: { id: 's', side: 'right', points: [600, 800, 598, 700, 600, 600] } },
      { type: 'fit-outline', toleranceMm: 0.3, idPrefix: 'p' },
    ]
    const drawn = hands.reduce(applyCommand, taken)
    const kept = { choices: [{ id: 'c' }], strokes: [{ id: 's' }], fitMm: 0.3 }
    expect(drawn.outline).toMatchObject(kept)
    // A little of it was found otherwise.
    const wider = (sign: -1 | 1) => side(sign, (y) => (y > 500 ? { x: 2 } : {}))
    expect(applyCommand(drawn, take(wider(-1), wider(1))).outline).toMatchObject(kept)
    const beside = (s: ReturnType<typeof side>) => ({ ...s, points: s.points.map((v, i) => v + (i % 2 ? 0 : 300)) }) // prettier-ignore
    const history = run(newHistory(drawn), take(beside(side(-1)), beside(side(1))))
    expect(history.document.outline).toMatchObject({ choices: [], strokes: [] })
    expect(history.document.outline!.fitMm).not.toBe(0.3)
    expect(undo(history).document).toEqual(drawn)
  })

  it('another photo takes away what was found and painted in the first; a hand’s marks stay', () => {
    const found = { ...taken.calibration.plumb!, by: 'found' as const }
    const ring = { id: 'r', place: 'foot' as const, by: 'found' as const, sdPx: 1, points: Array(5).fill({ x: 1, y: 2 }) } // prettier-ignore
    const before = [
      { type: 'set-guides', guides: { piece: [], backdrop: [], marks: [{ x: 5, y: 6 }] } },
      { type: 'set-plumb', plumb: found },
      { type: 'set-ring', ring },
      { type: 'set-ring', ring: { ...ring, id: 'mine', by: 'hand' } },
    ].reduce((document, command) => applyCommand(document, command as Command), taken)
    const other = { ...taken.photo!, sha256: 'b'.repeat(64) }
    const after = applyCommand(before, { type: 'set-photo', photo: other })
    expect(after).toMatchObject({ photo: other, outline: null, guides: null })
    expect(after.calibration).toMatchObject({ plumb: null, rings: [{ id: 'mine' }] })
    expect(after.calibration.knownSizes).toEqual(taken.calibration.knownSizes)
    const byHand = applyCommand(taken, { type: 'set-plumb', plumb: { ...found, by: 'hand' } })
    expect(applyCommand(byHand, { type: 'set-photo', photo: other }).calibration.plumb).toMatchObject({ foot: found.foot, by: 'hand' }) // prettier-ignore
  })
})

describe('what a hand painted for the search', () => {
  const stroke = (count: number) => ({ points: Array.from({ length: count }, (_, i) => ({ x: 100 + i / 7, y: 20 })), radius: 9 }) // prettier-ignore
  const paint = (...piece: ReturnType<typeof stroke>[]): Command => ({ type: 'set-guides', guides: { piece, backdrop: [stroke(1)], marks: [{ x: 1 / 3, y: 2 }] } }) // prettier-ignore

  it('is one step, is saved, and comes back from a checkpoint', () => {
    const history = run(newHistory(taken), paint(stroke(3)))
    const { document } = history
    expect(document.guides).toEqual({
      piece: [{ points: [{ x: 100, y: 20 }, { x: 100.143, y: 20 }, { x: 100.286, y: 20 }], radius: 9 }],
      backdrop: [stroke(1)],
      marks: [{ x: 0.333, y: 2 }],
    }) // prettier-ignore
    expect(undo(history).document.guides ?? null).toBeNull()
    expect(readDocument(JSON.parse(JSON.stringify(document)))).toEqual(document)
    const kept = applyCommand(document, { type: 'keep-checkpoint', id: 'c', name: 'C', at: '', by: 'hand' })
    const wiped = applyCommand(kept, { type: 'set-guides', guides: null })
    expect(wiped.guides).toBeNull()
    expect(applyCommand(wiped, { type: 'restore-checkpoint', id: 'c' }).guides).toEqual(document.guides)
  })

  it('is thinned where a stroke has more points than are kept, and refused where strokes are too many', () => {
    const { guides } = applyCommand(taken, paint(stroke(9000)))
    const points = guides!.piece[0]!.points
    expect(points.length).toBeLessThanOrEqual(MOST_BRUSH_POINTS)
    expect(points.length).toBeGreaterThan(MOST_BRUSH_POINTS / 2)
    expect(points[0]!.x).toBe(100)
    expect(points.at(-1)!.x).toBeGreaterThan(100 + (9000 - 10) / 7)
    const many = paint(...Array.from({ length: MOST_GUIDES + 1 }, () => stroke(2)))
    expect(() => applyCommand(taken, many)).toThrow(/200 strokes and marks/)
  })
})

describe('a stretch fitted anew', () => {
  it('follows the outline between its ends again; what hands made beyond them stays', () => {
    // A hand spoils the neck and the foot; only the neck is fitted again.
    const { nodes } = taken.profile
    const neck = nodes.findIndex((n) => n.z > 81 && n.r > 9)
    const foot = nodes.findIndex((n) => n.r > 19)
    const dent = { dr: -3, dz: 0 }
    const spoilt = [neck, foot].reduce<PieceDocument>(
      (d, i) => applyCommand(d, { type: 'move-nodes', ids: [nodes[i]!.id], ...dent }),
      taken,
    )
    const ids = [nodes[neck - 1]!.id, nodes.at(-1)!.id]
    const fitted = applyCommand(spoilt, { type: 'fit-stretch', ids, toleranceMm: 0.02, idPrefix: 'again' })
    const radius = (d: PieceDocument, z: number) => radiusAt(flatten(profileSegments(d.profile.nodes)), z)!
    expect(radius(spoilt, 120)).toBeLessThan(9)
    expect(radius(fitted, 120)).toBeCloseTo(10, 1)
    expect(fitted.profile.nodes.find((n) => n.id === nodes[foot]!.id)).toMatchObject({ r: spoilt.profile.nodes[foot]!.r }) // prettier-ignore
    expect(() => applyCommand(taken, { type: 'fit-stretch', ids: ids.slice(0, 1), toleranceMm: 1, idPrefix: 'x' })).toThrow(/needs two/) // prettier-ignore
  })
})

describe('unsure stretches', () => {
  it('say which edge is lost, where, and where it was taken from', () => {
    const lost = applyCommand(
      calibrated,
      take(side(-1, (y) => (y < 760 && y > 680 ? { sd: Infinity, x: 9 } : {}))),
    )
    const [stretch, ...more] = unsureStretches(read(lost), 'mm')
    expect(more).toEqual([])
    expect(stretch!.sentence).toMatch(
      /^Left edge between 28.\d+ and 44.\d+ mm isn’t seen; taken from the right\.$/,
    )
    // Without a scale nobody speaks of millimetres.
    expect(unsureStretches(read(lost), 'px')[0]!.sentence).toMatch(/^Left edge between \d+ and \d+ px isn’t/)
    // The profile keeps the radius of the right edge, 100 px of 0.2 mm.
    const inside = read(lost).points.filter(([, z]) => z > 30 && z < 42)
    for (const [r] of inside) expect(r).toBeCloseTo(20, 1)
  })

  it('a handle lies apart, and the other side can be chosen', () => {
    const handled = applyCommand(
      calibrated,
      take(
        side(-1),
        side(1, (y) => (y < 760 && y > 680 ? { x: 12 } : {})),
      ),
    )
    const stretch = unsureStretches(read(handled), 'mm').find((s) => s.state === 'left')!
    expect(stretch.sentence).toMatch(/Right edge between .* lies apart; taken from the left/)
    expect(stretch.why).toMatch(/handle/)
    const choice = { id: 'c', from: stretch.from, to: stretch.to, side: 'right' as const }
    const chosen = applyCommand(handled, { type: 'choose-side', choice })
    const middle = read(chosen).points.find(([, z]) => z > 35)!
    expect(middle[0]).toBeCloseTo(22.4, 0)
    expect(read(applyCommand(chosen, { type: 'forget-choice', id: 'c' })).points.find(([, z]) => z > 35)![0]).toBeCloseTo(20, 1) // prettier-ignore
  })

  it('what neither side shows puts the stage in doubt, and a stroke of the pen mends it', () => {
    const gap = (y: number) => (y < 760 && y > 680 ? { sd: Infinity } : {})
    const bridged = applyCommand(calibrated, take(side(-1, gap), side(1, gap)))
    expect(reportStages(bridged, derive(bridged)).outline).toMatchObject({ state: 'doubt' })
    const points = Array.from({ length: 60 }, (_, i) => [605, 775 - 2 * i]).flat()
    const mended = applyCommand(bridged, { type: 'lay-edge', stroke: { id: 's', side: 'right', points } })
    expect(reportStages(mended, derive(mended)).outline.state).toBe('done')
    expect(unsureStretches(read(mended), 'mm').map((s) => s.state)).toContain('hand')
    expect(read(mended).points.find(([, z]) => z > 35)![0]).toBeCloseTo(21, 1)
    expect(applyCommand(mended, { type: 'lift-edge', id: 's' }).outline!.strokes).toEqual([])
  })
})
