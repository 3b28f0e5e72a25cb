import { describe, expect, it } from 'vitest'
import { newKnownSize } from '../calibrate/known-size'
import { focal35mm } from '../calibrate/calibrate'
import { applyCommand, type Command, type TakeFound } from './commands'
import { derive } from './derive'
import { storedSide } from './outline'
import { newPiece, type PieceDocument } from './schema'
import { settledFound } from './settled-found'

/** Px; the picture's middle, and the focal length. */
const [CENTRE, F] = [1000, 4500]
/** A ball's radius and its distance from a camera that is level with its middle, mm. */
const [RADIUS, DISTANCE] = [50, 600]
/** Its outline is a circle as wide as the cone of rays that touch it (perspective of a sphere; any textbook of projective geometry). */
const SEEN_PX = F * Math.tan(Math.asin(RADIUS / DISTANCE))
/** Its ends, which lie on the axis, are seen nearer to its middle. */
const ENDS_PX = (F * RADIUS) / DISTANCE

function side(sign: 1 | -1) {
  const count = 900
  const points = Float64Array.from({ length: 2 * count }, (_, i) => {
    const a = (Math.PI * Math.floor(i / 2)) / (count - 1)
    return CENTRE + SEEN_PX * (i % 2 ? Math.cos(a) : sign * Math.sin(a))
  })
  return { points, sd: new Float64Array(count).fill(0.05), blur: 1 }
}
const sides = { left: side(-1), right: side(1) }

const photographed = (focalLength35mm: number | null): PieceDocument =>
  newPiece('Ball', {
    sha256: 'a'.repeat(64),
    fileName: 'ball.jpg',
    mediaType: 'image/jpeg',
    width: 2 * CENTRE,
    height: 2 * CENTRE,
    focalLength35mm,
    quarterTurns: 0,
    crop: null,
  })

/** As a search may say it that doesn't know the camera well: its top so many px below the outline's upper crossing of the axis. */
function found(near: boolean, off: number): TakeFound {
  const foot = { x: CENTRE, y: CENTRE + SEEN_PX }
  const top = { x: CENTRE, y: CENTRE - SEEN_PX + off }
  return {
    type: 'take-found',
    plumb: { foot, top, by: 'found' },
    ground: foot,
    rings: [],
    overall: newKnownSize({ id: 'h', kind: 'overall', a: foot, b: top, mm: 2 * RADIUS }),
    focal: null,
    near,
  }
}

function taken(document: PieceDocument, camera: TakeFound): PieceDocument {
  const [left, right] = [storedSide(sides.left), storedSide(sides.right)]
  return applyCommand(document, { type: 'take-outline', left, right, blur: 1, idPrefix: 'o', camera })
}
const heightOf = (document: PieceDocument, camera: TakeFound) => derive(taken(document, camera)).measures!.heightMm // prettier-ignore

describe('ends of what was found', () => {
  const byLens = focal35mm(F, { width: 2 * CENTRE, height: 2 * CENTRE })

  it('are where the half-profile ends through a near camera: it is as high as was typed', () => {
    const [document, asFound] = [photographed(byLens), found(true, -4)]
    expect(Math.abs(heightOf(document, asFound) / (2 * RADIUS) - 1)).toBeGreaterThan(0.005)
    const { command } = settledFound(document, asFound, sides)
    expect(command.plumb.foot.y - CENTRE).toBeCloseTo(ENDS_PX, 1)
    expect(CENTRE - command.plumb.top.y).toBeCloseTo(ENDS_PX, 1)
    expect(heightOf(document, command)).toBeCloseTo(2 * RADIUS, 1)
  })

  it('are where the outline crosses the axis where rays are taken for parallel', () => {
    const [document, asFound] = [photographed(null), found(false, 4)]
    expect(Math.abs(heightOf(document, asFound) / (2 * RADIUS) - 1)).toBeGreaterThan(0.005)
    const { command, solved } = settledFound(document, asFound, sides)
    expect(solved.view.kind).toBe('distant')
    expect(CENTRE - command.overall!.b.y).toBeCloseTo(SEEN_PX, 1)
    expect(heightOf(document, command)).toBeCloseTo(2 * RADIUS, 1)
  })

  it('are left where a search with a known lens found them, which knows better than parallel rays', () => {
    const asFound = found(false, 4)
    const { command, solved } = settledFound(photographed(byLens), asFound, sides)
    expect(solved.view.kind).toBe('distant')
    expect(command).toEqual(asFound)
  })

  it('follow a camera that is told later, unless a hand has moved them', () => {
    const document = photographed(null)
    const parallel = taken(document, settledFound(document, found(false, 0), sides).command)
    const lens: Command = { type: 'set-view', view: { kind: 'near', focalLength35mm: byLens } }
    const near = derive(applyCommand(parallel, lens)).measures!
    // By marks where the outline crosses the axis it would be 0.35 % lower.
    expect(near.heightMm).toBeCloseTo(2 * RADIUS, 1)
    expect(2 * near.maxRadiusMm).toBeCloseTo(2 * RADIUS, 1)
    // While a lens is typed it is one of a mm for a moment, by which they would lie far within.
    const begun: Command = { type: 'set-view', view: { kind: 'near', focalLength35mm: 1 } }
    expect(applyCommand(parallel, begun).calibration.plumb).toEqual(parallel.calibration.plumb)
    const typed = [begun, lens].reduce(applyCommand, parallel)
    expect(derive(typed).measures!.heightMm).toBeCloseTo(2 * RADIUS, 1)
    const [size] = parallel.calibration.knownSizes
    const byHand: Command = { type: 'set-known-size', size: { ...size!, b: { x: CENTRE, y: CENTRE } } }
    const half = [byHand, lens].reduce(applyCommand, parallel)
    expect(half.calibration.knownSizes[0]).toMatchObject({ a: size!.a, b: { x: CENTRE, y: CENTRE } })
  })

  it('leave a ground that was set by hand alone', () => {
    const ground = { x: CENTRE, y: CENTRE + 380 }
    const bare = photographed(byLens)
    const document = { ...bare, calibration: { ...bare.calibration, ground } }
    const { command } = settledFound(document, { ...found(true, 4), ground: null }, sides)
    expect(command.ground).toBeNull()
    expect(applyCommand(document, command).calibration.ground).toEqual(ground)
  })

  it('stay as they were found where no piece is seen through the camera', () => {
    const inside = {
      left: { ...sides.left, points: sides.left.points.map(() => CENTRE) },
      right: sides.right,
    }
    const asFound = found(false, 4)
    const nothing = { left: inside.left, right: inside.left }
    expect(settledFound(photographed(null), asFound, nothing).command).toEqual(asFound)
  })
})
