import type { PicturePoint } from '../conventions'
import type { Problem } from '../errors'
import type { PictureFrame } from './frame'
import { scaleFromKnownSize, type KnownSize } from './known-size'

/** What is known about where the piece stands in the photo and how large it is. */
export interface Calibration {
  /** The axis in the picture, from a point near the foot to a point near the top. */
  plumb: { foot: PicturePoint; top: PicturePoint } | null
  /** Any point of the ground line, which runs square to the axis. */
  ground: PicturePoint | null
  knownSizes: KnownSize[]
}

export interface PhotoSize {
  /** After the EXIF turn, px. */
  width: number
  height: number
  /** Quarter turns clockwise that bring the piece roughly upright, 0 to 3. */
  quarterTurns: number
}

export interface SolvedCalibration {
  /** Always usable: what is unknown is assumed (picture's middle, lower edge, 1 mm a pixel) so that drawing can begin. */
  frame: PictureFrame
  known: { axis: boolean; ground: boolean; scale: boolean }
  /** Angle of the axis against the picture's (turned) vertical, radians, positive clockwise. */
  tilt: number
  problems: Problem[]
}

/** Ends of the plumb line closer than this, px, don't give a direction: half a pixel each would be over a degree. */
export const LEAST_PLUMB_LENGTH_PX = 30

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

/** Axis, ground and scale -> the similarity between picture and axis plane. Never throws for finite input. */
export function solveCalibration(calibration: Calibration, photo: PhotoSize): SolvedCalibration {
  const problems: Problem[] = []
  const turned = upAfterTurns(photo.quarterTurns)
  let up = turned
  let axisPoint: PicturePoint = { x: photo.width / 2, y: photo.height / 2 }
  let axisKnown = false
  if (calibration.plumb) {
    const { foot, top } = calibration.plumb
    const length = Math.hypot(top.x - foot.x, top.y - foot.y)
    if (length >= LEAST_PLUMB_LENGTH_PX) {
      up = { x: (top.x - foot.x) / length, y: (top.y - foot.y) / length }
      axisPoint = foot
      axisKnown = true
    } else {
      problems.push({
        code: 'plumb-too-short',
        message: `The ends of the plumb line are only ${length.toFixed(1)} px apart; set one near the foot and one near the top.`,
        where: 'plumb',
        expected: `at least ${LEAST_PLUMB_LENGTH_PX} px`,
        received: `${length.toFixed(1)} px`,
      })
    }
  }
  const lowest: PicturePoint = {
    x: photo.width / 2 - (turned.x * photo.width) / 2,
    y: photo.height / 2 - (turned.y * photo.height) / 2,
  }
  const groundPoint = calibration.ground ?? lowest
  const along = (groundPoint.x - axisPoint.x) * up.x + (groundPoint.y - axisPoint.y) * up.y
  const origin = { x: axisPoint.x + along * up.x, y: axisPoint.y + along * up.y }

  let mmPerPx = 1
  let scaleKnown = false
  for (const size of calibration.knownSizes) {
    const scale = scaleFromKnownSize(size, up)
    if (!scale.ok) problems.push(scale.problem)
    else if (!scaleKnown) {
      mmPerPx = scale.mmPerPx
      scaleKnown = true
    }
  }
  const cross = turned.x * up.y - turned.y * up.x
  const dot = turned.x * up.x + turned.y * up.y
  return {
    frame: { origin, up, mmPerPx },
    known: { axis: axisKnown, ground: calibration.ground !== null, scale: scaleKnown },
    tilt: Math.atan2(cross, dot),
    problems,
  }
}
