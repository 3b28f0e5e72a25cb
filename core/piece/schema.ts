import * as v from 'valibot'
import { KNOWN_SIZE_KINDS } from '../calibrate/known-size'
import { LEAST_SIDES, MOST_SIDES } from '../solid/revolve'
import { DISPLAY_UNITS } from '../units/units'

/** The version that this code writes; older documents are brought up to it by `migrate`. */
export const DOCUMENT_VERSION = 1

/** No coordinate of a picture or a piece comes near this; keeps nonsense and overflow out. */
const MOST = 1e7

const Coordinate = v.pipe(v.number(), v.finite(), v.minValue(-MOST), v.maxValue(MOST))
const Point = v.object({ x: Coordinate, y: Coordinate })
const Id = v.pipe(v.string(), v.minLength(1), v.maxLength(64))
const Count = (least: number, most: number) =>
  v.pipe(v.number(), v.integer(), v.minValue(least), v.maxValue(most))

export const PieceName = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1, 'Give the piece a name.'),
  v.maxLength(120, 'The name may have up to 120 characters.'),
)

export const Sha256 = v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/, 'Not a SHA-256 in hexadecimal.'))

const Photo = v.object({
  sha256: Sha256,
  fileName: v.pipe(v.string(), v.maxLength(255)),
  mediaType: v.picklist(['image/jpeg', 'image/png', 'image/webp']),
  /** After the EXIF turn, px. */
  width: Count(1, 100_000),
  height: Count(1, 100_000),
  /** 35 mm equivalent focal length from EXIF, mm; null when the file doesn't say. */
  focalLength35mm: v.nullable(v.pipe(v.number(), v.minValue(1), v.maxValue(10_000))),
  quarterTurns: Count(0, 3),
})

const Size = v.object({
  id: Id,
  kind: v.picklist(KNOWN_SIZE_KINDS),
  a: Point,
  b: Point,
  mm: v.nullable(v.pipe(v.number(), v.finite(), v.gtValue(0), v.maxValue(MOST))),
  text: v.pipe(v.string(), v.maxLength(60)),
})

const Node = v.object({
  id: Id,
  r: v.pipe(Coordinate, v.minValue(0)),
  z: Coordinate,
  joint: v.picklist(['corner', 'smooth']),
  next: v.picklist(['line', 'curve']),
  drawn: v.optional(Point),
  typed: v.optional(v.array(v.picklist(['r', 'z']))),
})

/** The document of a piece: all that can't be derived. See docs/architecture.md. */
export const PieceDocument = v.object({
  schema: v.literal('baldacchino-piece'),
  version: v.literal(DOCUMENT_VERSION),
  name: PieceName,
  unit: v.picklist(DISPLAY_UNITS),
  photo: v.nullable(Photo),
  calibration: v.object({
    plumb: v.nullable(v.object({ foot: Point, top: Point })),
    ground: v.nullable(Point),
    knownSizes: v.pipe(v.array(Size), v.maxLength(100)),
  }),
  profile: v.object({
    side: v.picklist(['left', 'right']),
    nodes: v.pipe(v.array(Node), v.maxLength(5000, 'A profile may have up to 5000 nodes.')),
  }),
  solid: v.object({ sides: Count(LEAST_SIDES, MOST_SIDES) }),
})

export type PieceDocument = v.InferOutput<typeof PieceDocument>
export type PiecePhoto = NonNullable<PieceDocument['photo']>

/** Sides a new piece starts with: round to the eye at a moderate number of triangles. */
export const DEFAULT_SIDES = 64

export function newPiece(name: string, photo: PiecePhoto | null = null): PieceDocument {
  return {
    schema: 'baldacchino-piece',
    version: DOCUMENT_VERSION,
    name,
    unit: 'mm',
    photo,
    calibration: { plumb: null, ground: null, knownSizes: [] },
    profile: { side: 'right', nodes: [] },
    solid: { sides: DEFAULT_SIDES },
  }
}
