import { CoreError, type Problem } from '../errors'
import { solveCalibration, type SolvedCalibration } from '../calibrate/calibrate'
import { closeToAxis, reversed } from '../profile/edit'
import { extent, flatten, type FlatProfile } from '../profile/flatten'
import { firstCrossing, openEnds, profileFaults, signedArea, type OpenEnd } from '../profile/check'
import { hollowByHand } from '../profile/inside-by-hand'
import { hollowOut, type HollowProfile } from '../profile/hollow'
import { profileSegments, roundedSegments } from '../profile/profile-segments'
import type { EdgeNote } from '../profile/edges'
import type { Segment } from '../profile/segments'
import { isClosed, type ProfileNode } from '../profile/profile'
import { profileMeasures, type ProfileMeasures } from '../measure/profile-measures'
import { solvedOf } from './solved'
import type { PieceDocument } from './schema'

/** All that follows from a document and is cheap enough to follow every change. */
export interface DerivedPiece {
  calibration: SolvedCalibration
  /** The curve as drawn, node by node, open or closed. */
  segments: Segment[]
  /** Chords of the curve as drawn. */
  drawn: FlatProfile
  openEnds: OpenEnd[]
  /** What the wall had to do without, or why there is none. */
  wallNotes: Problem[]
  /** Fillets and chamfers that had to be made smaller than asked for. */
  edgeNotes: EdgeNote[]
  faults: Problem[]
  /** The closed, outwards-oriented chain that the solid is made of; open ends closed level to the axis. Null when there is no solid. */
  solid: SolidProfile | null
  measures: ProfileMeasures | null
}

export interface SolidProfile {
  segments: Segment[]
  flat: FlatProfile
  /** True when an end had to be closed for show; such a solid isn't handed over. */
  closedForShow: boolean
  /** Both sides of the wall; null where it is filled. */
  hollow: HollowProfile | null
}

export interface DeriveOptions {
  /** Largest distance of the solid's rows from the exact curve, mm; undefined: 1/5000 of its extent. */
  toleranceMm?: number
}

/** Derives everything from the document. Pure; well under a millisecond for usual profiles. */
export function derive(document: PieceDocument, options: DeriveOptions = {}): DerivedPiece {
  const calibration =
    solvedOf(document) ??
    solveCalibration(document.calibration, { width: 1000, height: 1000, quarterTurns: 0 })
  const { nodes } = document.profile
  const { segments, notes } = roundedSegments(nodes)
  const drawn = flatten(segments, options)
  const ends = openEnds(nodes)
  const faults = segments.length ? profileFaults(nodes, drawn) : []
  const filled = faults.length === 0 ? solidProfile(nodes, { segments, flat: drawn }, options) : null
  const { solid, notes: wallNotes } = hollowed(filled, document, ends, options)
  return {
    calibration,
    segments,
    drawn,
    // The mouth of a hollow piece may be open.
    openEnds: solid?.hollow ? ends.filter((e) => e.place !== 'top') : ends,
    wallNotes,
    edgeNotes: notes,
    faults,
    solid,
    measures: solid ? profileMeasures(solid.segments) : null,
  }
}

/** The closed profile that a part is turned from; null where its nodes bound none. */
export function turnedProfile(
  nodes: readonly ProfileNode[],
  options: DeriveOptions = {},
): SolidProfile | null {
  const { segments } = roundedSegments(nodes)
  const drawn = flatten(segments, options)
  return profileFaults(nodes, drawn).length > 0
    ? null
    : solidProfile(nodes, { segments, flat: drawn }, options)
}

/** @param drawn the curve as drawn: where it is closed and runs upwards it serves as it is */
function solidProfile(
  nodes: readonly ProfileNode[],
  drawn: Pick<SolidProfile, 'segments' | 'flat'>,
  options: DeriveOptions,
): SolidProfile | null {
  if (nodes.length < 2) return null
  let count = 0
  const closed = closeToAxis({ side: 'right', nodes: [...nodes] }, () => `closing-${count++}`).nodes
  if (!isClosed(closed)) return null
  const asDrawn = count === 0
  let segments = asDrawn ? drawn.segments : profileSegments(closed)
  let flat = asDrawn ? drawn.flat : flatten(segments, options)
  const area = signedArea(flat.points)
  // Less than a billionth of the bounding square is rounding, not a piece: a line drawn up the axis, say.
  if (Math.abs(area) <= 1e-9 * extent(segments) ** 2) return null
  if (area < 0) {
    segments = profileSegments(reversed(closed))
    flat = flatten(segments, options)
  }
  if (!asDrawn && profileFaults(closed, flat).length > 0) return null
  return { segments, flat, closedForShow: count > 0, hollow: null }
}

/** The solid with its wall; where that can't be, filled, and why. */
function hollowed(
  filled: SolidProfile | null,
  { solid: { wall, inside } }: PieceDocument,
  ends: readonly OpenEnd[],
  options: DeriveOptions,
): { solid: SolidProfile | null; notes: Problem[] } {
  if (!filled || !(inside ?? wall)) return { solid: filled, notes: [] }
  try {
    const hollow = inside
      ? hollowByHand(filled.segments, profileSegments(inside.nodes), wall?.punt)
      : hollowOut(filled.segments, wall!)
    const flat = flatten(hollow.segments, options)
    const crossing = firstCrossing(flat.points)
    if (crossing) return { solid: filled, notes: [wallCrosses(crossing.z)] }
    const closedForShow = ends.some((e) => e.place !== 'top')
    return { solid: { segments: hollow.segments, flat, closedForShow, hollow }, notes: hollow.notes }
  } catch (error) {
    if (error instanceof CoreError) return { solid: filled, notes: [error] }
    throw error
  }
}

const wallCrosses = (z: number): Problem => ({
  code: 'wall-crosses',
  message: `Inside and outside would cross at a height of ${z.toFixed(1)} mm, so it is shown filled. Make the wall thinner there.`,
  where: `z=${z}`,
})
