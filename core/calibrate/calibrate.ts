import { FOUND_PITCH_SD, LUMPY } from '../camera/closing-ends'
import { undistort, type Lens } from '../camera/lens'
import { solveNear, withRoundedError, type Known, type SolvedNear } from '../camera/solve-near'
import { project, toPicture, toUprightPlane, type DistantView, type Eye, type View } from '../camera/view'
import type { PicturePoint } from '../conventions'
import type { Problem } from '../errors'
import type { Calibration } from './calibration'
import { MARK_SD_PX, pixelsOf, seenLength, sizeProblem, toleranceOf, type KnownSize } from './known-size'
import { solveScale, type ScaleInput, type SolvedScale } from './scale'

export interface PhotoSize {
  /** After the EXIF turn, px. */
  width: number
  height: number
  /** Quarter turns clockwise that bring the piece roughly upright, 0 to 3. */
  quarterTurns: number
  /** 35 mm equivalent focal length from the file, mm. */
  focalLength35mm?: number | null
  /** Where the lens looks straight ahead, px; default the picture's middle. */
  principalPoint?: PicturePoint
  /** The part that is worked on. */
  crop?: { x: number; y: number; width: number; height: number } | null
}

/** How the picture is shown: axis upright, one scale. The screen's similarity, whatever the view. */
export interface PictureFrame {
  /** Where the axis meets the ground, px. */
  origin: PicturePoint
  /** Unit direction of the axis towards the top, there. */
  up: PicturePoint
  /** Along the axis. */
  mmPerPx: number
}

export interface SolvedCalibration {
  /** Always usable: what is unknown is assumed (picture's middle, lower edge, 1 mm a pixel) so that drawing can begin. */
  view: View
  frame: PictureFrame
  known: { axis: boolean; ground: boolean; scale: boolean }
  /** Angle of the axis against the picture's (turned) vertical, radians, positive clockwise. */
  tilt: number
  /** The scale with each size's deviation; null while there is none. */
  scale: SolvedScale | null
  /** The solved camera of a near view, lengths in camera distances. */
  near: SolvedNear | null
  problems: Problem[]
}

/** Ends of the plumb line closer than this, px, don't give a direction: half a pixel each would be over a degree. */
export const LEAST_PLUMB_LENGTH_PX = 30
/** Diagonal of the 36 × 24 mm film frame that 35 mm equivalents refer to, mm (CIPA DCG-001, from memory). */
const FILM_DIAGONAL_MM = 43.2666
/**
 * A 35 mm equivalent is rounded to whole mm (a standard deviation of 0.29 mm), and what lenses say of themselves is right
 * to about 0.7 % (an estimate, no source).
 */
const focalError = (mm: number) => Math.hypot(0.29 / mm, 0.007)

/** Up in the picture, for a number of clockwise quarter turns. */
export function upAfterTurns(quarterTurns: number): PicturePoint {
  // Turning the picture clockwise brings its left side to the top after one turn, its foot after two.
  const ups: PicturePoint[] = [
    { x: 0, y: -1 },
    { x: -1, y: 0 },
    { x: 0, y: 1 },
    { x: 1, y: 0 },
  ]
  return ups[((quarterTurns % 4) + 4) % 4]!
}

/** Focal length in px from a 35 mm equivalent, by the diagonals. */
export function focalPx(focalLength35mm: number, photo: Pick<PhotoSize, 'width' | 'height'>): number {
  return (focalLength35mm * Math.hypot(photo.width, photo.height)) / FILM_DIAGONAL_MM
}

/** The 35 mm equivalent of a focal length in px, mm. */
export function focal35mm(px: number, photo: Pick<PhotoSize, 'width' | 'height'>): number {
  return (px * FILM_DIAGONAL_MM) / Math.hypot(photo.width, photo.height)
}

/** A focal length in px in words: its 35 mm equivalent and how well it is known. */
export function lensWords({ value, sd }: Known, photo: Pick<PhotoSize, 'width' | 'height'>): string {
  const share = Math.min(100, Math.ceil((100 * sd) / value))
  return `${focal35mm(value, photo).toFixed(0)} mm ± ${share} %`
}

/** The principal point. */
export function centreOf({ width, height, principalPoint }: PhotoSize): PicturePoint {
  return principalPoint ?? { x: width / 2, y: height / 2 }
}

/** The lens of a calibration, or null where nothing is distorted. */
export function lensOf({ lens }: Calibration, photo: PhotoSize): Lens | null {
  if (!lens || (lens.k1 === 0 && lens.k2 === 0)) return null
  const { k1, k2, unitPx } = lens
  return { k1, k2, unitPx, centre: centreOf(photo) }
}

/**
 * Everything that follows from the calibration: axis, view, scale, and what is wrong. Never throws for finite input.
 *
 * The view is solved in its own unit first (px, or camera distances); the known sizes, read through it, give the
 * millimetres for that unit.
 */
export function solveCalibration(calibration: Calibration, photo: PhotoSize): SolvedCalibration {
  const problems: Problem[] = []
  const turned = upAfterTurns(photo.quarterTurns)
  const lens = lensOf(calibration, photo)
  const axis = axisOf(calibration, photo, turned, problems)
  const straight = { foot: undistort(lens, axis.foot), top: undistort(lens, axis.top) }
  const up = unit({ x: straight.top.x - straight.foot.x, y: straight.top.y - straight.foot.y })
  const sizes = usableSizes(calibration.knownSizes, up, problems)

  const solved =
    calibration.view.kind === 'near' ? solveEye(calibration, photo, lens, straight, sizes, problems) : null
  const groundPoint = calibration.ground ?? lowestPoint(photo, turned)
  // The view with its unit as "mm": one camera distance, or one pixel.
  const distant: DistantView = { kind: 'distant', lens, origin: straight.foot, up, mmPerPx: 1 }
  const own: View = solved ? ownView(solved.eye, lens) : distant
  const scaled = scaleThrough(own, sizes, calibration, solved !== null)
  const k = (scaled?.scale ?? (solved ? 1 / unitsPerPx(own, axis) : 1)) * calibration.correction

  // A ring laid by hand is the foot; of one that was found the ground mark knows best, which was read off it with its rounding.
  const footRing = calibration.rings.findIndex((r) => r.place === 'foot' && !r.rounded)
  const zGround = solved && footRing >= 0 ? solved.rings[footRing]!.z : toUprightPlane(own, groundPoint, 0).z
  const view: View = solved
    ? { kind: 'near', lens, eye: solved.eye, distance: k, height: -zGround * k, pitchSd: solved.pitch.sd }
    : {
        ...distant,
        origin: { x: straight.foot.x + zGround * up.x, y: straight.foot.y + zGround * up.y },
        mmPerPx: k,
      }
  checkCrop(calibration, photo, problems)
  if (solved) {
    // What lens and sizes alone say: the distance grows with the focal length.
    const alone = scaleThrough(own, sizes, calibration, false)?.scale ?? null
    const f = focalOf(calibration, photo)
    checkNear(alone && f ? (alone * f) / solved.eye.f : null, calibration, problems)
  }
  const frame = frameOf(view, axis, up)
  const cross = turned.x * frame.up.y - turned.y * frame.up.x
  const dot = turned.x * frame.up.x + turned.y * frame.up.y
  return {
    view,
    frame,
    known: { axis: axis.known, ground: calibration.ground !== null, scale: scaled !== null },
    tilt: Math.atan2(cross, dot),
    scale: scaled,
    near: solved,
    problems,
  }
}

/** A crop through the piece's own marks cuts the piece. */
function checkCrop(
  { plumb, ground, knownSizes, rings }: Calibration,
  { crop }: PhotoSize,
  problems: Problem[],
): void {
  if (!crop) return
  const marks = [
    ...(plumb ? [plumb.foot, plumb.top] : []),
    ...(ground ? [ground] : []),
    ...knownSizes.flatMap((s) => [s.a, s.b]),
    ...rings.flatMap((r) => r.points),
  ]
  const outside = marks.filter(
    (p) => p.x < crop.x || p.y < crop.y || p.x > crop.x + crop.width || p.y > crop.y + crop.height,
  )
  if (outside.length === 0) return
  problems.push({
    code: 'crop-cuts',
    message: `The crop cuts through the piece: ${outside.length} of its marks lie outside. Crop again with some air around it, or show the whole picture.`,
    where: 'photo.crop',
  })
}

interface Axis {
  foot: PicturePoint
  top: PicturePoint
  known: boolean
}

function axisOf({ plumb }: Calibration, photo: PhotoSize, turned: PicturePoint, problems: Problem[]): Axis {
  const middle = { x: photo.width / 2, y: photo.height / 2 }
  if (plumb) {
    const { foot, top } = plumb
    const length = Math.hypot(top.x - foot.x, top.y - foot.y)
    if (length >= LEAST_PLUMB_LENGTH_PX) return { foot, top, known: true }
    problems.push({
      code: 'plumb-too-short',
      message: `The ends of the plumb line are only ${length.toFixed(1)} px apart; set one near the foot and one near the top.`,
      where: 'plumb',
      expected: `at least ${LEAST_PLUMB_LENGTH_PX} px`,
      received: `${length.toFixed(1)} px`,
    })
  }
  const half = (Math.abs(turned.x) * photo.width + Math.abs(turned.y) * photo.height) / 2
  return {
    foot: { x: middle.x - half * turned.x, y: middle.y - half * turned.y },
    top: { x: middle.x + half * turned.x, y: middle.y + half * turned.y },
    known: false,
  }
}

function lowestPoint(photo: PhotoSize, turned: PicturePoint): PicturePoint {
  return {
    x: photo.width / 2 - (turned.x * photo.width) / 2,
    y: photo.height / 2 - (turned.y * photo.height) / 2,
  }
}

function usableSizes(sizes: readonly KnownSize[], up: PicturePoint, problems: Problem[]): KnownSize[] {
  return sizes.filter((size) => {
    if (!size.on) return false
    const problem = sizeProblem(size, up)
    if (problem) problems.push(problem)
    return problem === null
  })
}

/** Focal length, px, as typed or as the file says; null when neither does or a crop made the file's useless. */
export function focalOf({ view }: Pick<Calibration, 'view'>, photo: PhotoSize): number | null {
  const mm = view.focalLength35mm ?? (view.cropped ? null : (photo.focalLength35mm ?? null))
  return mm ? focalPx(mm, photo) : null
}

/** Measured tilts are known to half a degree. */
const PITCH_SD = (0.5 * Math.PI) / 180

/** What is known of the camera's tilt besides the rings themselves. */
function pitchOf({ view, rings }: Calibration): Known | null {
  if (view.pitchDegrees !== null) return known((view.pitchDegrees * Math.PI) / 180, PITCH_SD)
  // All that one search found were found at one.
  const at = rings[0]?.foundAt
  return at !== undefined && rings.every((r) => r.foundAt !== undefined) ? known(at, FOUND_PITCH_SD) : null
}

/** The camera from what is known of it, or null (and why) when that isn't enough. */
function solveEye(
  calibration: Calibration,
  photo: PhotoSize,
  lens: Lens | null,
  plumb: { foot: PicturePoint; top: PicturePoint },
  sizes: readonly KnownSize[],
  problems: Problem[],
): SolvedNear | null {
  const { view } = calibration
  const f = focalOf(calibration, photo)
  const focal: Known | null = f ? known(f, focalError(focal35mm(f, photo)) * f) : (view.focalByRings ?? null)
  const distance = view.distanceMm
    ? known(view.distanceMm, Math.max(view.distanceSdMm, 0.002 * view.distanceMm))
    : null
  const byRings = f || distance ? null : view.focalByRings
  // Rings that have to tell the focal length as well are known the worse.
  const lumpy = byRings ? LUMPY : 1
  const scaleOf = (eye: Eye) => scaleThrough(ownView(eye, lens), sizes, calibration, false)?.scale ?? null
  const solved = solveNear(
    {
      plumb,
      centre: centreOf(photo),
      rings: calibration.rings.map((r) => ({
        ...r,
        sdPx: lumpy * r.sdPx,
        points: r.points.map((p) => undistort(lens, p)),
      })),
      focal,
      pitch: pitchOf(calibration),
      distance: sizes.length > 0 ? distance : null,
      scaleOf: sizes.length > 0 ? scaleOf : undefined,
    },
    Math.hypot(photo.width, photo.height),
  )
  if (!solved) {
    problems.push({
      code: 'view-unknown',
      message:
        'The near view needs the lens: a focal length from the file or typed, or the camera’s distance beside a known size, or two rings of the piece.',
      where: 'view',
    })
  } else if (solved.rings.some((ring, i) => ring.rmsPx > IMPOSSIBLE * calibration.rings[i]!.sdPx)) {
    const worst = Math.max(...solved.rings.map((r) => r.rmsPx))
    problems.push({
      code: 'rings-impossible',
      message: `No camera with this lens sees the rings like this; they miss by ${worst.toFixed(1)} px. Drag the ellipses onto the real edges, or take one away.`,
      where: 'rings',
    })
  }
  if (!solved) return null
  checkSteep(solved, calibration, problems)
  // The fit bends to the rings' own errors; the search asked how much worse they look by other lenses.
  const sd = Math.max(solved.focal.sd, byRings?.sd ?? 0)
  return withRoundedError({ ...solved, focal: { ...solved.focal, sd } }, calibration.rings)
}

/** Side views are taken within some 10° of level (common practice, no source); what tells of twice as much, radians, may be no ring. */
const STEEP = (20 * Math.PI) / 180
export const VIEW_STEEP = 'view-steep'

/** Where nobody typed the tilt, rings that a search found with a known lens may tell a camera far off level: a rounded end looks like a ring from far above. */
function checkSteep({ pitch }: SolvedNear, { view, rings }: Calibration, problems: Problem[]): void {
  const isFound = view.pitchDegrees === null && rings.some(({ foundAt }) => foundAt !== undefined)
  if (!isFound || Math.abs(pitch.value) <= STEEP) return
  const degrees = Math.round((Math.abs(pitch.value) * 180) / Math.PI)
  problems.push({
    code: VIEW_STEEP,
    message: `What was taken for rings of foot or rim says that the camera looked ${pitch.value > 0 ? 'down' : 'up'} by ${degrees}°. If it was about level, one of them is none, a rounded end perhaps, and the half-profile is wrong there: take its ellipse away or lay it anew, or type the tilt.`,
    where: 'rings',
    received: `${degrees}°`,
  })
}

/** Rings that miss by so many of their standard errors aren't images of circles about this axis. */
const IMPOSSIBLE = 4

const known = (value: number, sd: number): Known => ({ value, sd })

function ownView(eye: Eye, lens: Lens | null): View {
  return { kind: 'near', lens, eye, distance: 1, height: 0 }
}

/** The scale from all sizes as seen through a view whose unit isn't mm yet; null without any. */
function scaleThrough(
  own: View,
  sizes: readonly KnownSize[],
  { view }: Calibration,
  near: boolean,
): SolvedScale | null {
  if (sizes.length === 0) return null
  let scale = NaN
  let solved: SolvedScale | null = null
  // Only things before or behind the axis need the scale to be seen right; three rounds settle it.
  const rounds = sizes.some((s) => s.beforeMm !== 0 && (s.lies === 'near' || s.lies === 'off')) ? 4 : 1
  for (let round = 0; round < rounds; round++) {
    const inputs: ScaleInput[] = sizes.map((size) => {
      const seen = seenLength(size, own, Number.isFinite(scale) ? size.beforeMm / scale : 0)
      const px = own.kind === 'distant' ? seen : pixelsOf(size, upOf(own, size))
      return {
        id: size.id,
        mm: size.mm!,
        sdMm: toleranceOf(size),
        seen,
        sdSeen: (Math.SQRT2 * MARK_SD_PX * seen) / px,
      }
    })
    // By tape: the camera distance is itself a size whose seen length is one.
    if (near && view.distanceMm)
      inputs.push({
        id: 'distance',
        mm: view.distanceMm,
        sdMm: Math.max(view.distanceSdMm, 0.002 * view.distanceMm),
        seen: 1,
        sdSeen: 1e-6,
      })
    solved = solveScale(inputs)
    scale = solved.scale
  }
  return solved
}

/** Direction of the axis in the picture near a size. */
function upOf(own: View, size: KnownSize): PicturePoint {
  const z = toUprightPlane(own, size.a, 0).z
  const a = project(own, [0, 0, z])
  const b = project(own, [0, 0, z + 1e-3])
  return unit({ x: b.x - a.x, y: b.y - a.y })
}

/** The camera's distance by lens and sizes, and by tape: so many times apart they contradict each other, or one of them is no more than a guess. */
const CONTRADICTS = 1.1
const FAR_OFF = 1.3
/** Codes of the problems that the two contradict each other, and that they are far off each other. */
export const DISTANCE_CONTRADICTS = 'distance-contradicts'
export const DISTANCE_FAR_OFF = 'distance-far-off'

function checkNear(byLens: number | null, { view, knownSizes }: Calibration, problems: Problem[]): void {
  const widest = Math.max(
    0,
    ...knownSizes.filter((s) => s.on && s.kind === 'diameter' && s.mm).map((s) => s.mm! / 2),
  )
  const tape = view.distanceMm
  if (tape !== null && tape <= widest) {
    problems.push({
      code: 'distance-inside',
      message: `A camera ${tape} mm from the axis would stand inside the piece, whose radius is ${widest} mm. Measure from the lens to the axis.`,
      where: 'view.distanceMm',
    })
  } else if (tape !== null && byLens !== null) {
    const times = Math.max(byLens / tape, tape / byLens)
    const stood = `By the lens and the known sizes the camera stood ${Math.round(byLens)} mm away, not ${Math.round(tape)} mm.`
    if (times > FAR_OFF)
      problems.push({
        code: DISTANCE_FAR_OFF,
        message: `${stood} One of focal length (cropping a photo changes it), tape and sizes is far off, or the outline is only a part of the piece.`,
        where: 'view.distanceMm',
      })
    else if (times > CONTRADICTS)
      problems.push({
        code: DISTANCE_CONTRADICTS,
        message: `${stood} One of focal length, tape and sizes is wrong.`,
        where: 'view.distanceMm',
      })
  }
}

/** View units for one pixel along the axis. */
function unitsPerPx(own: View, axis: Axis): number {
  const z = toUprightPlane(own, axis.top, 0).z - toUprightPlane(own, axis.foot, 0).z
  return z / Math.hypot(axis.top.x - axis.foot.x, axis.top.y - axis.foot.y)
}

function frameOf(view: View, axis: Axis, up: PicturePoint): PictureFrame {
  if (view.kind === 'distant' && !view.lens)
    return { origin: view.origin, up: view.up, mmPerPx: view.mmPerPx }
  const origin = toPicture(view, { x: 0, z: 0 })
  const length = Math.hypot(axis.top.x - axis.foot.x, axis.top.y - axis.foot.y)
  const rise = Math.abs(toUprightPlane(view, axis.top, 0).z - toUprightPlane(view, axis.foot, 0).z)
  const along = { x: axis.top.x - axis.foot.x, y: axis.top.y - axis.foot.y }
  return { origin, up: length > 0 ? unit(along) : up, mmPerPx: rise / length }
}

function unit(v: PicturePoint): PicturePoint {
  const l = Math.hypot(v.x, v.y) || 1
  return { x: v.x / l, y: v.y / l }
}
