import { DISTANCE_CONTRADICTS, DISTANCE_FAR_OFF, VIEW_STEEP } from '../calibrate/calibrate'
import type { DerivedPiece } from './derive'
import { readOutline } from './outline'
import { seenShare, unsureStretches } from './outline-report'
import type { PieceDocument } from './schema'

export const STAGES = ['photo', 'calibrate', 'outline', 'profile', 'solid', 'check', 'hand-over'] as const

export type Stage = (typeof STAGES)[number]

export interface StageReport {
  state: 'done' | 'waiting' | 'doubt'
  /** One sentence: what is there, what is missing, or what is in doubt. */
  sentence: string
}

/** What each stage of the way from photo to files has to say about a piece. */
export function reportStages(document: PieceDocument, derived: DerivedPiece): Record<Stage, StageReport> {
  const profile = profileReport(document, derived)
  return {
    photo: photoReport(document, derived),
    calibrate: calibrateReport(document, derived),
    outline: outlineReport(document, derived),
    profile,
    solid: solidReport(document, derived, profile),
    check: checkReport(document, derived),
    'hand-over': handOverReport(derived),
  }
}

const done = (sentence: string): StageReport => ({ state: 'done', sentence })
const waiting = (sentence: string): StageReport => ({ state: 'waiting', sentence })
const doubt = (sentence: string): StageReport => ({ state: 'doubt', sentence })

/** Below this the shorter picture side is too few pixels to judge an edge by eye: 1 px is 0.3 % of the piece. */
const SMALL_PICTURE_PX = 300

function photoReport({ photo }: PieceDocument, { calibration }: DerivedPiece): StageReport {
  if (!photo) return waiting('Drop a side-view photo here.')
  const size = `${photo.width} × ${photo.height} px`
  const least = Math.min(photo.width, photo.height)
  if (least < SMALL_PICTURE_PX) {
    const pixel = calibration.known.scale
      ? `${calibration.frame.mmPerPx.toPrecision(2)} mm`
      : `${(100 / least).toFixed(1)} % of the picture`
    return doubt(`Only ${size}: one pixel is ${pixel}.`)
  }
  return done(`${size}.`)
}

function outlineReport(document: PieceDocument, { calibration }: DerivedPiece): StageReport {
  const { outline, photo, profile } = document
  if (!photo) return waiting('Needs a photo.')
  if (!outline)
    return profile.nodes.length > 0
      ? done('Not looked for: the half-profile was drawn by hand.')
      : waiting('One press finds both edges.')
  const read = readOutline(outline, calibration.view)
  const unsure = unsureStretches(read, 'mm').filter((s) => s.state === 'bridged')
  const share = seenShare(read)
  if (unsure.length > 0)
    return doubt(
      `${unsure.length === 1 ? 'One stretch shows' : `${unsure.length} stretches show`} no edge on either side.`,
    )
  return done(`Seen over ${Math.floor(100 * share)} % of the height.`)
}

/** What the stage's own panel says at length. */
const IN_SHORT: Readonly<Record<string, string>> = {
  [DISTANCE_CONTRADICTS]: 'Lens, tape and sizes contradict each other.',
  [DISTANCE_FAR_OFF]: 'Lens, tape and sizes are far off each other.',
  [VIEW_STEEP]: 'Rings tell a camera far off level: are they the piece’s?',
}

function calibrateReport(document: PieceDocument, { calibration }: DerivedPiece): StageReport {
  if (!document.photo) return waiting('Needs a photo.')
  const problem = calibration.problems[0]
  if (problem?.code === 'size-untyped') return waiting(problem.message)
  if (problem) return doubt(IN_SHORT[problem.code] ?? problem.message)
  if (!calibration.known.axis) return waiting('Set the plumb line.')
  if (!calibration.known.ground) return waiting('Set the ground line.')
  if (!calibration.known.scale) return waiting('Mark one known size.')
  const { scale, near } = calibration
  const px = `1 px is ${calibration.frame.mmPerPx.toPrecision(4)} mm`
  if (scale?.outlier) return doubt('One known size disagrees with the others.')
  if (scale?.disagree) return doubt('The known sizes disagree.')
  if (near?.assumed.pitch) return doubt(`${px}; the camera’s tilt is taken for level.`)
  if (scale && scale.sizes.length > 1) return done(`${px}; ${scale.sizes.length} sizes agree.`)
  return done(`${px}; one size, nothing checks it.`)
}

function profileReport(document: PieceDocument, derived: DerivedPiece): StageReport {
  const count = document.profile.nodes.length
  if (count < 2) return waiting('Click along one side, from the axis up.')
  const fault = derived.faults[0]
  if (fault) return doubt(fault.message)
  const aside = document.profile.aside?.length ?? 0
  if (aside > 0) return doubt(aside === 1 ? 'One stroke is not joined.' : `${aside} strokes are not joined.`)
  const open = derived.openEnds.map((e) => e.place)
  if (open.length === 2) return doubt('Open at foot and top.')
  if (open.length === 1) return doubt(`Open at the ${open[0]}.`)
  return done(`${count} nodes, closed at both ends.`)
}

function solidReport(
  { solid: { wall } }: PieceDocument,
  { solid, wallNotes }: DerivedPiece,
  profile: StageReport,
): StageReport {
  if (!solid)
    return waiting(profile.state === 'doubt' ? 'The profile bounds no solid yet.' : 'Follows the profile.')
  if (solid.closedForShow) return doubt('Closed flat for show only.')
  if (wallNotes[0]) return doubt(wallNotes[0].message)
  return done(wall ? 'Hollow, watertight.' : 'Watertight.')
}

function checkReport(document: PieceDocument, { calibration, solid, measures }: DerivedPiece): StageReport {
  if (!solid || !measures) return waiting('Nothing to measure yet.')
  if (document.photo && !calibration.known.scale) return doubt('No scale: sizes are in pixels.')
  if (measures.lowestMm < -0.005 * measures.heightMm || measures.lowestMm > 0.005 * measures.heightMm) {
    return doubt(
      `The foot is ${Math.abs(measures.lowestMm).toFixed(1)} mm ${measures.lowestMm > 0 ? 'above' : 'below'} the ground.`,
    )
  }
  return done('Measured from the exact curve.')
}

function handOverReport({ solid, calibration }: DerivedPiece): StageReport {
  if (!solid) return waiting('Needs a closed profile.')
  if (solid.closedForShow) return waiting('Close the profile first.')
  return calibration.known.scale
    ? done('Meshes, exact solid and half-profile are ready.')
    : doubt('No scale: 1 px would be 1 mm.')
}
