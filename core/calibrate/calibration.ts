import type { Known } from '../camera/solve-near'
import type { PicturePoint } from '../conventions'
import type { EdgePair } from './edge-pairs'
import type { KnownSize } from './known-size'

/** What is known about where the piece stands in the photo, how the camera saw it, and how large it is. */
export interface Calibration {
  /** The axis in the picture, from a point near the foot to a point near the top. */
  plumb: PlumbLine | null
  /** Left and right edge points marked by hand; while there are any, the plumb line follows them. */
  pairs: EdgePair[]
  /** A point of the axis at height zero. */
  ground: PicturePoint | null
  /** Rings of the piece as they are seen: foot, rim, bands. */
  rings: Ring[]
  knownSizes: KnownSize[]
  lens: LensMarks | null
  view: ViewFacts
  /** Factor by which the piece was corrected after measuring the finished one against the real one; 1 for none. */
  correction: number
  /** The finished piece's size against the real one (shrinkage, prop scale), applied when files are handed over. */
  finish: { factor: number; text: string }
}

export interface PlumbLine {
  foot: PicturePoint
  top: PicturePoint
  by: 'hand' | 'found' | 'pairs'
  /** Standard errors where they are known: direction, radians, and place across, px. */
  sdAngle?: number
  sdOffset?: number
}

/** A circle about the axis, by points of its image. */
export interface Ring {
  id: string
  place: 'foot' | 'rim' | 'band'
  points: PicturePoint[]
  /** Standard error of the points across the ellipse, px. */
  sdPx: number
  by: 'hand' | 'found'
  /** The points run over the rounding of the edge, as the closing outline does, rather than along one circle. */
  rounded?: boolean
  /** Pitch of the camera, radians, at which the search found it; where the solution is looked for first. */
  foundAt?: number
  /** Its near half was seen in front of the piece: the camera looks down on it. */
  fromAbove?: boolean
}

/** Radial distortion, marked or typed. Coefficients belong to radii in units of `unitPx`. */
export interface LensMarks {
  k1: number
  k2: number
  unitPx: number
  by: 'marks' | 'typed'
  /** Edges that are straight in reality. */
  edges: PicturePoint[][]
}

/** What is known about the camera. */
export interface ViewFacts {
  kind: 'distant' | 'near'
  /** 35 mm equivalent focal length, mm, typed over what the file says; null: as in the file. */
  focalLength35mm: number | null
  /** Camera to axis by tape measure, mm, with its standard error; null when not measured. */
  distanceMm: number | null
  distanceText: string
  distanceSdMm: number
  /** Looking down, degrees, by a phone or an inclinometer; null when not measured. */
  pitchDegrees: number | null
  /** The picture was cropped before it came here, so that its centre isn't the lens' centre. */
  cropped: boolean
  /** Focal length, px, as the rings told the search where neither file nor user says it. */
  focalByRings?: Known
}

export const EMPTY_CALIBRATION: Calibration = {
  plumb: null,
  pairs: [],
  ground: null,
  rings: [],
  knownSizes: [],
  lens: null,
  view: {
    kind: 'distant',
    focalLength35mm: null,
    distanceMm: null,
    distanceText: '',
    distanceSdMm: 0,
    pitchDegrees: null,
    cropped: false,
  },
  correction: 1,
  finish: { factor: 1, text: '' },
}
