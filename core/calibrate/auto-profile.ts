import type { AxisLine } from '../outline/axis-line'
import { ringsTellLens } from '../camera/closing-ends'
import { searchPhoto, type PhotoSearch, type SearchEye } from '../camera/search-photo'
import { toPlane } from '../camera/view'
import { outlineDoubts } from '../outline/outline-doubts'
import type { PicturePoint } from '../conventions'
import { CoreError } from '../errors'
import type { Raster } from '../picture/raster'
import {
  centreOf,
  DISTANCE_FAR_OFF,
  focalOf,
  lensOf,
  lensWords,
  solveCalibration,
  type PhotoSize,
  type SolvedCalibration,
} from './calibrate'
import { EMPTY_CALIBRATION, type Calibration } from './calibration'
import { newKnownSize } from './known-size'
import { readDoubts } from './read-doubts'
import { readProfile, type ReadProfile } from './read-profile'
import { settledEnds, type PieceEnds } from './settled-ends'

/** What is known of a photo besides its pixels. */
export interface AutoFacts {
  photo: PhotoSize
  /** One of the two gives the scale, mm. */
  heightMm: number | null
  diameterMm: number | null
  view: 'auto' | 'distant' | 'near'
  /** Camera to axis, mm; null when not measured. */
  distanceMm: number | null
  /** 35 mm equivalent, mm, over what the file says. */
  focalLength35mm: number | null
  /** Radial distortion, radii in focal lengths (half the diagonal when there is none). */
  k1: number
  up: PicturePoint
  axis: AxisLine | null
  pointsAlong?: number
}

export interface AutoProfile {
  found: PhotoSearch
  solved: SolvedCalibration
  read: ReadProfile
  /** [r, z], mm, foot at 0. */
  profile: [number, number][]
  /** Why this view, and what to know of the result. */
  warnings: string[]
}

/** A ring must rise this much in the picture, px, for `auto` to trust the near view. */
const LEAST_ARC_PX = 5

/** What is said of what was found in the photo, or left out of it. */
const SAID = [
  [
    'others',
    'Something else stands in the picture too; the most regular thing was taken. Crop the photo to choose.',
  ],
  [
    'besideLeftOut',
    'What was taken to stand beside the piece or lie before it, as a ruler or a box does, was left out. If it is the piece, crop the photo to it.',
  ],
  [
    'checkered',
    'The picture shows grey squares about the piece, as editors show what is clear; it was read as the cut-out that it is a copy of. Where the piece is as grey as they are its edge is less sure: the original file tells more.',
  ],
  [
    'marksLeftOut',
    'Lines, figures and words drawn over the photo were left out; where they cross the piece’s edge, that is led on across them.',
  ],
  [
    'mayBeCutOff',
    'The cut-out is as wide at the picture’s border as a little farther in. If the border cuts the piece off there, the half-profile is only a part of it: take a picture that shows all of it.',
  ],
  [
    'mirrored',
    'What lies below the foot was taken for its mirror image in a glossy floor, and left out. If it is piece, take a photo with more room below it.',
  ],
] as const satisfies readonly (readonly [keyof PhotoSearch, string])[]

/**
 * The whole way from a photo to its half-profile without a hand.
 * @throws CoreError `outline-not-found` and its kin; `profile-impossible`; `distance-far-off` where lens, sizes and tape contradict each other by far
 */
export function autoProfile(raster: Raster, facts: AutoFacts): AutoProfile {
  const { photo, k1 } = facts
  const warnings: string[] = []
  const typed = { ...EMPTY_CALIBRATION.view, focalLength35mm: facts.focalLength35mm }
  const f = focalOf({ view: typed }, photo)
  const unitPx = f ?? Math.hypot(photo.width, photo.height) / 2
  const base: Calibration = {
    ...EMPTY_CALIBRATION,
    view: typed,
    lens: k1 === 0 ? null : { k1, k2: 0, unitPx, by: 'typed', edges: [] },
  }
  const found = searchPhoto(raster, {
    up: facts.up,
    axis: facts.axis,
    lens: lensOf(base, photo),
    // A known lens also tells where foot and top are when the profile is read with parallel rays.
    eye: { f, centre: centreOf(photo), away: awayBy(facts) },
    pointsAlong: facts.pointsAlong ?? 1500,
  })
  const near = wantsNear(facts, f, found, warnings)
  const isByRings = near && f === null && facts.distanceMm === null
  const heightOf = (read: ReadProfile) =>
    facts.heightMm ?? ((read.top - read.foot) * facts.diameterMm!) / widest(read)
  const solvedBy = (ends: PieceEnds, rough: ReadProfile | null) =>
    solveCalibration(
      calibrationOf(
        base,
        found,
        ends,
        rough ? heightOf(rough) : facts.heightMm,
        near ? facts.distanceMm : null,
        near,
      ),
      photo,
    )
  const lensKnown = f !== null
  // By parallel rays a search that knows the lens knows better where the piece ends than they do.
  const readBy = ({ view }: SolvedCalibration) =>
    readProfile(view, found.outline, view.kind === 'distant' && lensKnown ? { foot: 0, top: toPlane(view, found.top).z } : {}) // prettier-ignore
  const { ends, solved: settled } = settledEnds(found.outline, found, lensKnown, solvedBy)
  // Where only a ⌀ was measured the scale follows what is read, as it has already through a near camera.
  const isScaled = facts.heightMm !== null || settled.view.kind === 'near'
  const solved = isScaled ? settled : solvedBy(ends, readBy(settled))
  const read = readBy(solved)
  const heightMm = heightOf(read)
  const scale = heightMm / (read.top - read.foot)
  for (const [fact, sentence] of SAID) if (found[fact]) warnings.push(sentence)
  warnings.push(...outlineDoubts(found.outline), ...readDoubts(read))
  if (!(read.top > read.foot) || !read.points.every(([r, z]) => Number.isFinite(r) && Number.isFinite(z)))
    throw new CoreError({
      code: 'profile-impossible',
      message:
        'The edges were found, but no camera sees a round piece like this. Check the focal length, give the distance, or read it with parallel rays.',
      where: 'view',
    })
  // What isn't the whole piece is told by nothing else: no profile is better than one of a part.
  const farOff = solved.problems.find((p) => p.code === DISTANCE_FAR_OFF)
  if (farOff)
    throw new CoreError({
      ...farOff,
      message: `${farOff.message} Check them; without the distance the profile is read all the same.`,
    })
  warnings.push(...solved.problems.map((p) => p.message))
  if (isByRings) warnings.push(byRingsWords(solved, photo))
  if (solved.near?.assumed.pitch)
    warnings.push(
      'No ring with a clear edge closes the outline, so the camera’s tilt is assumed to be level.',
    )
  return {
    found,
    solved,
    read,
    profile: read.points.map(([r, z]) => [r * scale, (z - read.foot) * scale]),
    warnings,
  }
}

/** The camera's distance in sizes of the piece; null where no tape tells it. */
function awayBy({ distanceMm, heightMm, diameterMm }: AutoFacts): SearchEye['away'] {
  if (distanceMm === null) return null
  return heightMm !== null
    ? { times: distanceMm / heightMm, size: 'height' }
    : { times: distanceMm / diameterMm!, size: 'diameter' }
}

const byRingsWords = ({ near }: SolvedCalibration, photo: PhotoSize) =>
  `Neither a focal length nor the camera’s distance is known: the rings of foot and rim told both (a lens of ${lensWords(near!.focal, photo)} on 35 mm film). Give either, and the profile is surer.`

const widest = (read: ReadProfile) => 2 * Math.max(...read.points.map((p) => p[0]))

function wantsNear(
  { view, distanceMm }: AutoFacts,
  f: number | null,
  found: PhotoSearch,
  warnings: string[],
): boolean {
  if (view === 'distant') return false
  if (f === null && distanceMm === null && !ringsTellLens(found)) {
    warnings.push(
      'Read with parallel rays: neither a focal length nor the camera’s distance is known, and no two rings tell them.',
    )
    return false
  }
  if (f === null && found.rings.length === 0) {
    warnings.push(
      'Read with parallel rays: without a focal length the near view needs a ring with a clear edge.',
    )
    return false
  }
  if (view === 'auto' && !found.rings.some((ring) => riseOf(ring.points, found) >= LEAST_ARC_PX)) {
    warnings.push(
      `Read with parallel rays: no closing arc is ${LEAST_ARC_PX} px high, so nothing shows the camera’s tilt.`,
    )
    return false
  }
  return true
}

/** Extent of points along the axis, px. */
function riseOf(points: readonly PicturePoint[], { plumb }: PhotoSearch): number {
  const [dx, dy] = [plumb.top.x - plumb.foot.x, plumb.top.y - plumb.foot.y]
  const along = points.map((p) => (p.x * dx + p.y * dy) / Math.hypot(dx, dy))
  return Math.max(...along) - Math.min(...along)
}

function calibrationOf(
  base: Calibration,
  found: PhotoSearch,
  { foot, top }: { foot: PicturePoint; top: PicturePoint },
  heightMm: number | null,
  distanceMm: number | null,
  near: boolean,
): Calibration {
  return {
    ...base,
    plumb: { ...found.plumb, foot, top, by: 'found' },
    ground: foot,
    rings: found.rings.map((r, i) => ({ ...r, id: String(i), by: 'found' as const })),
    knownSizes:
      heightMm === null
        ? []
        : [newKnownSize({ id: 'height', kind: 'overall', a: foot, b: top, mm: heightMm, source: 'caliper' })],
    view: {
      ...base.view,
      kind: near ? 'near' : 'distant',
      distanceMm,
      distanceSdMm: 0.005 * (distanceMm ?? 0),
      focalByRings: found.focal ?? undefined,
    },
  }
}
