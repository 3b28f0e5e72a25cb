import * as v from 'valibot'
import { EMPTY_CALIBRATION } from '../calibrate/calibration'
import { KNOWN_SIZE_KINDS, PLACES, SOURCES } from '../calibrate/known-size'
import { LEAST_SIDES, MOST_SIDES } from '../solid/revolve'
import { DISPLAY_UNITS } from '../units/units'

/** The version that this code writes; older documents are brought up to it by `migrate`. */
export const DOCUMENT_VERSION = 5

/** No coordinate of a picture or a piece comes near this; keeps nonsense and overflow out. */
const MOST = 1e7

const Coordinate = v.pipe(v.number(), v.finite(), v.minValue(-MOST), v.maxValue(MOST))
const Point = v.object({ x: Coordinate, y: Coordinate })
const Id = v.pipe(v.string(), v.minLength(1), v.maxLength(64))
const Positive = (most = MOST) => v.pipe(v.number(), v.finite(), v.gtValue(0), v.maxValue(most))
const Count = (least: number, most: number) =>
  v.pipe(v.number(), v.integer(), v.minValue(least), v.maxValue(most))

export const PieceName = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1, 'Give the piece a name.'),
  v.maxLength(120, 'The name may have up to 120 characters.'),
)

export const Sha256 = v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/, 'Not a SHA-256 in hexadecimal.'))

const Rectangle = v.object({ x: Coordinate, y: Coordinate, width: Positive(), height: Positive() })

const PhotoFile = v.object({
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

const Photo = v.object({
  ...PhotoFile.entries,
  /** The part that is worked on; the picture's true centre stays known, because the lens' model needs it. */
  crop: v.nullable(Rectangle),
})

/** Another photo of the piece, with a scale of its own, to look at and to measure in. */
const Reference = v.object({
  id: Id,
  name: v.pipe(v.string(), v.maxLength(120)),
  photo: PhotoFile,
  scale: v.nullable(
    v.object({ a: Point, b: Point, mm: Positive(), text: v.pipe(v.string(), v.maxLength(60)) }),
  ),
})

const Size = v.object({
  id: Id,
  kind: v.picklist(KNOWN_SIZE_KINDS),
  a: Point,
  b: Point,
  mm: v.nullable(Positive()),
  text: v.pipe(v.string(), v.maxLength(60)),
  radius: v.boolean(),
  lies: v.picklist(PLACES),
  beforeMm: Coordinate,
  source: v.picklist(SOURCES),
  toleranceMm: Positive(),
  on: v.boolean(),
})

const Plumb = v.object({
  foot: Point,
  top: Point,
  by: v.picklist(['hand', 'found', 'pairs']),
  sdAngle: v.optional(v.pipe(v.number(), v.finite(), v.minValue(0))),
  sdOffset: v.optional(v.pipe(v.number(), v.finite(), v.minValue(0))),
})

const Ring = v.object({
  id: Id,
  place: v.picklist(['foot', 'rim', 'band']),
  points: v.pipe(v.array(Point), v.minLength(4), v.maxLength(400)),
  sdPx: Positive(1000),
  by: v.picklist(['hand', 'found']),
  rounded: v.optional(v.boolean()),
  foundAt: v.optional(v.pipe(v.number(), v.minValue(-1.5), v.maxValue(1.5))),
  fromAbove: v.optional(v.boolean()),
})

const Coefficient = v.pipe(v.number(), v.finite(), v.minValue(-5), v.maxValue(5))
const Lens = v.object({
  k1: Coefficient,
  k2: Coefficient,
  unitPx: Positive(),
  by: v.picklist(['marks', 'typed']),
  edges: v.pipe(v.array(v.pipe(v.array(Point), v.maxLength(400))), v.maxLength(40)),
})

const ViewFacts = v.object({
  kind: v.picklist(['distant', 'near']),
  focalLength35mm: v.nullable(v.pipe(v.number(), v.minValue(1), v.maxValue(10_000))),
  distanceMm: v.nullable(Positive()),
  distanceText: v.pipe(v.string(), v.maxLength(60)),
  distanceSdMm: v.pipe(v.number(), v.finite(), v.minValue(0), v.maxValue(MOST)),
  pitchDegrees: v.nullable(v.pipe(v.number(), v.minValue(-89), v.maxValue(89))),
  cropped: v.boolean(),
  focalByRings: v.optional(v.object({ value: Positive(), sd: Positive() })),
})

const CalibrationSchema = v.object({
  plumb: v.nullable(Plumb),
  pairs: v.pipe(v.array(v.object({ id: Id, left: Point, right: Point })), v.maxLength(200)),
  ground: v.nullable(Point),
  rings: v.pipe(v.array(Ring), v.maxLength(20)),
  knownSizes: v.pipe(v.array(Size), v.maxLength(100)),
  lens: v.nullable(Lens),
  view: ViewFacts,
  correction: v.pipe(v.number(), v.minValue(1e-4), v.maxValue(1e4)),
  finish: v.object({
    factor: v.pipe(v.number(), v.minValue(1e-4), v.maxValue(1e4)),
    text: v.pipe(v.string(), v.maxLength(60)),
  }),
})

const Node = v.object({
  id: Id,
  r: v.pipe(Coordinate, v.minValue(0)),
  z: Coordinate,
  joint: v.picklist(['corner', 'smooth']),
  next: v.picklist(['line', 'arc', 'curve']),
  /** An arc of more than 359 degrees is a slip. */
  bulge: v.optional(v.pipe(v.number(), v.finite(), v.minValue(-500), v.maxValue(500))),
  handles: v.optional(v.tuple([Coordinate, Coordinate, Coordinate, Coordinate])),
  way: v.optional(v.picklist(['level', 'upright'])),
  radius: v.optional(Positive()),
  held: v.optional(v.array(v.picklist(['r', 'z']))),
  even: v.optional(v.literal(true)),
  edge: v.optional(v.object({ kind: v.picklist(['fillet', 'chamfer']), mm: Positive() })),
  drawn: v.optional(Point),
  typed: v.optional(v.array(v.picklist(['r', 'z']))),
  by: v.optional(v.literal('outline')),
})

const Tie = v.object({
  id: Id,
  coordinate: v.picklist(['r', 'z']),
  nodes: v.pipe(v.array(Id), v.maxLength(5000)),
})

const Flat = v.pipe(
  v.array(v.pipe(v.number(), v.finite())),
  v.maxLength(40_000, 'An outline may have up to 20,000 points a side.'),
  v.check((list) => list.length % 2 === 0, 'Points are pairs.'),
)
const OutlineEdge = v.pipe(
  v.object({
    /** [x y ...], picture px, from the lower axis crossing to the upper one. */
    points: Flat,
    /** Standard errors across the edge, px; null where no edge was found. */
    sd: v.array(v.nullable(v.pipe(v.number(), v.finite(), v.minValue(0)))),
  }),
  v.check(({ points, sd }) => points.length === 2 * sd.length, 'Every point needs its standard error.'),
)
const Height = v.pipe(v.number(), v.finite(), v.minValue(-1e7), v.maxValue(1e7))

/** The edges found in the photo, and what hands decided about them. */
const Outline = v.object({
  left: OutlineEdge,
  right: OutlineEdge,
  blur: v.pipe(v.number(), v.finite(), v.minValue(0)),
  /** Which side to believe between two heights, mm. */
  choices: v.pipe(
    v.array(v.object({ id: Id, from: Height, to: Height, side: v.picklist(['left', 'right']) })),
    v.maxLength(200),
  ),
  /** Edges drawn by hand, which replace what was found beside them. */
  strokes: v.pipe(
    v.array(v.object({ id: Id, side: v.picklist(['left', 'right']), points: Flat })),
    v.maxLength(200),
  ),
  /** Largest distance of the fitted nodes from the outline, mm, while nodes follow it; null once they don't. */
  fitMm: v.nullable(v.pipe(v.number(), v.finite(), v.minValue(0))),
})

/** Strokes of a brush, points of one, and marks on the edge that a piece keeps. */
export const MOST_GUIDES = 200
export const MOST_BRUSH_POINTS = 2000
const BrushStrokes = v.pipe(
  v.array(
    v.object({
      points: v.pipe(v.array(Point), v.minLength(1), v.maxLength(MOST_BRUSH_POINTS)),
      radius: Positive(),
    }),
  ),
  v.maxLength(MOST_GUIDES, 'Up to 200 strokes may be painted.'),
)
/** What hands painted and marked to help the search of the outline, picture px. */
const Guides = v.object({
  piece: BrushStrokes,
  backdrop: BrushStrokes,
  marks: v.pipe(v.array(Point), v.maxLength(MOST_GUIDES, 'Up to 200 places of the edge may be marked.')),
})

/** A named height, with the ⌀ that a caliper read there. */
const Station = v.object({
  id: Id,
  name: v.pipe(v.string(), v.trim(), v.minLength(1, 'Give the station a name.'), v.maxLength(60)),
  z: Coordinate,
  caliperMm: v.nullable(Positive()),
})

/** The wall of a hollow piece. */
const Wall = v.object({
  mm: Positive(),
  /** Thickness at heights, from the lowest to the highest; without any the wall is `mm` thick everywhere. */
  levels: v.pipe(
    v.array(v.object({ z: Coordinate, mm: Positive() })),
    v.maxLength(50, 'A wall may have up to 50 levels.'),
    v.check((list) => list.every((l, i) => i === 0 || l.z > list[i - 1]!.z), 'Levels go upwards.'),
  ),
  floorMm: Positive(),
  way: v.picklist(['inwards', 'outwards']),
  lip: v.picklist(['flat', 'round', 'bead']),
  beadMm: v.optional(Positive()),
  punt: v.optional(v.nullable(v.object({ diameterMm: Positive(), heightMm: Positive() }))),
  bore: v.boolean(),
})

const Profile = v.object({
  side: v.picklist(['left', 'right']),
  nodes: v.pipe(v.array(Node), v.maxLength(5000, 'A profile may have up to 5000 nodes.')),
  ties: v.optional(v.pipe(v.array(Tie), v.maxLength(500))),
  aside: v.optional(
    v.pipe(
      v.array(v.object({ id: Id, nodes: v.pipe(v.array(Node), v.maxLength(5000)) })),
      v.maxLength(50, 'A profile may have up to 50 strokes.'),
    ),
  ),
})

const Angle = v.pipe(v.number(), v.minValue(-2 * Math.PI), v.maxValue(2 * Math.PI))

const Fillet = v.pipe(Coordinate, v.minValue(0))

/** What a part is; see `PartShape` in core/solid. */
const Shape = v.variant('kind', [
  v.object({ kind: v.literal('turned'), profile: Profile }),
  v.object({
    kind: v.literal('cylinder'),
    diameterMm: Coordinate,
    topDiameterMm: Coordinate,
    heightMm: Coordinate,
  }),
  v.object({ kind: v.literal('ball'), diameterMm: Coordinate }),
  v.object({ kind: v.literal('block'), widthMm: Coordinate, depthMm: Coordinate, heightMm: Coordinate }),
  v.object({
    kind: v.literal('sector'),
    fromMm: Coordinate,
    toMm: Coordinate,
    innerDiameterMm: Coordinate,
    angle: v.pipe(v.number(), v.minValue(0), v.maxValue(2 * Math.PI)),
  }),
  v.object({ kind: v.literal('slot'), widthMm: Coordinate }),
  v.object({ kind: v.literal('flat'), fromMm: Coordinate, toMm: Coordinate }),
  v.object({
    kind: v.literal('thread'),
    diameterMm: Coordinate,
    pitchMm: Coordinate,
    depthMm: Coordinate,
    crestMm: Coordinate,
    rootMm: Coordinate,
    turns: v.pipe(v.number(), v.minValue(0.1), v.maxValue(200)),
    starts: Count(1, 12),
    hand: v.picklist(['right', 'left']),
  }),
  v.object({
    kind: v.literal('tube'),
    points: v.pipe(v.array(v.object({ x: Coordinate, z: Coordinate, mm: Coordinate })), v.maxLength(200)),
    flat: v.pipe(v.number(), v.minValue(0.05), v.maxValue(20)),
    ends: v.picklist(['flat', 'round']),
    /** Radius of the fillet that leads over to the body it is added to, mm. */
    filletMm: v.optional(Fillet),
  }),
  v.object({
    kind: v.literal('plate'),
    points: v.pipe(v.array(v.object({ x: Coordinate, z: Coordinate })), v.maxLength(200)),
    widthMm: Coordinate,
    roundMm: v.pipe(Coordinate, v.minValue(0)),
    smooth: v.boolean(),
    filletMm: v.optional(Fillet),
  }),
  v.object({
    kind: v.literal('squeeze'),
    fromMm: Coordinate,
    toMm: Coordinate,
    blendMm: Coordinate,
    across: v.pipe(v.number(), v.minValue(0.05), v.maxValue(20)),
    deep: v.pipe(v.number(), v.minValue(0.05), v.maxValue(20)),
    square: v.pipe(v.number(), v.minValue(0), v.maxValue(1)),
  }),
  /** What the vessel holds up to a level. */
  v.object({ kind: v.literal('filling'), levelMm: Coordinate }),
])

const Part = v.object({
  id: Id,
  name: v.pipe(v.string(), v.trim(), v.minLength(1, 'Give the part a name.'), v.maxLength(60)),
  relation: v.picklist(['added', 'cut', 'common', 'separate']),
  /** `body`, or the id of a separate part. */
  target: Id,
  /** Hidden parts have no effect and aren't handed over. */
  shown: v.boolean(),
  /** One of MATERIALS; null: as what it belongs to. */
  material: v.nullable(v.pipe(v.string(), v.maxLength(60))),
  shape: Shape,
  place: v.object({ z: Coordinate, r: Coordinate, azimuth: Angle, lean: Angle, turn: Angle }),
  /** Repeated about the axis; a rhythm shares out the sides of a faceted piece. */
  round: v.nullable(
    v.object({
      count: Count(1, 360),
      rhythm: v.nullable(v.object({ up: Count(1, 100), down: Count(1, 100) })),
    }),
  ),
  /** Room left about the body, mm: of separate parts. */
  clearanceMm: v.nullable(Positive(1000)),
})

const PICTURE_FILE = {
  sha256: Sha256,
  fileName: v.pipe(v.string(), v.maxLength(255)),
  mediaType: v.picklist(['image/jpeg', 'image/png', 'image/webp']),
  width: Count(1, 100_000),
  height: Count(1, 100_000),
}

/** A picture laid on a surface: its place in mm of the surface, its turn about its own middle. */
const SurfacePicture = v.object({
  ...PICTURE_FILE,
  /** How rough the surface is under it (green) and how metallic (blue), and its bumps as normals, as glTF 2.0 has them; laid as it is. */
  roughness: v.optional(v.object(PICTURE_FILE)),
  normals: v.optional(v.object(PICTURE_FILE)),
  /** How wide it is, around. */
  acrossMm: Positive(),
  turn: Angle,
  upMm: Coordinate,
  aroundMm: Coordinate,
})

/** A band between two levels with its own material. */
const Zone = v.object({
  id: Id,
  name: v.pipe(v.string(), v.trim(), v.minLength(1, 'Give the zone a name.'), v.maxLength(60)),
  fromMm: Coordinate,
  toMm: Coordinate,
  material: v.nullable(v.pipe(v.string(), v.maxLength(60))),
  picture: v.optional(v.nullable(SurfacePicture)),
})

/** What a piece is made of: kept whole by a checkpoint. */
const MAKING = {
  photo: v.nullable(Photo),
  references: v.pipe(v.array(Reference), v.maxLength(50, 'A piece may have up to 50 reference photos.')),
  calibration: CalibrationSchema,
  outline: v.nullable(Outline),
  guides: v.optional(v.nullable(Guides)),
  profile: Profile,
  stations: v.pipe(v.array(Station), v.maxLength(100, 'A piece may have up to 100 stations.')),
  solid: v.object({
    sides: Count(LEAST_SIDES, MOST_SIDES),
    wall: v.optional(v.nullable(Wall)),
    /** The inside drawn by hand, in place of a wall by rule. */
    inside: v.optional(v.nullable(Profile)),
    /** A part of a turn, radians; absent: a full one. */
    turn: v.optional(
      v.nullable(
        v.object({
          start: v.pipe(v.number(), v.minValue(-2 * Math.PI), v.maxValue(2 * Math.PI)),
          sweep: v.pipe(v.number(), v.minValue(0.01), v.maxValue(6.27)),
        }),
      ),
    ),
    /** It lies on its side, its axis level, as a wheel does; absent: it stands. */
    lies: v.optional(v.boolean()),
    /** A mesh of quads for modelling and subdivision, beside the solid's own. */
    cage: v.optional(
      v.object({
        sides: Count(LEAST_SIDES, 512),
        /** Largest distance of its rows' chords from the curve, mm. */
        errorMm: Positive(),
        ends: v.picklist(['fan', 'rings', 'quads']),
        corners: v.variant('by', [
          v.object({ by: v.literal('none') }),
          v.object({ by: v.literal('rings'), mm: Positive() }),
          v.object({ by: v.literal('crease'), sharpness: v.pipe(v.number(), v.minValue(0), v.maxValue(10)) }),
        ]),
      }),
    ),
    /** How the surface is unrolled for textures; absent: cut at +x, grain straight. */
    mapping: v.optional(v.object({ seam: Angle, way: v.picklist(['straight', 'even']) })),
    /** One of MATERIALS. */
    material: v.optional(v.nullable(v.pipe(v.string(), v.maxLength(60)))),
    picture: v.optional(v.nullable(SurfacePicture)),
  }),
  parts: v.pipe(v.array(Part), v.maxLength(60, 'A piece may have up to 60 parts.')),
  zones: v.pipe(v.array(Zone), v.maxLength(30, 'A piece may have up to 30 zones.')),
}

/** A state of the piece with a name, to go back to. */
const Checkpoint = v.object({
  id: Id,
  name: v.pipe(v.string(), v.trim(), v.minLength(1, 'Give the checkpoint a name.'), v.maxLength(120)),
  /** When it was kept, ISO 8601; the set-up checkpoint is kept by itself. */
  at: v.pipe(v.string(), v.maxLength(40)),
  by: v.picklist(['hand', 'set-up']),
  state: v.object(MAKING),
})

/** The document of a piece: all that can't be derived. See docs/architecture.md. */
export const PieceDocument = v.object({
  schema: v.literal('baldacchino-piece'),
  version: v.literal(DOCUMENT_VERSION),
  name: PieceName,
  unit: v.picklist(DISPLAY_UNITS),
  ...MAKING,
  checkpoints: v.pipe(v.array(Checkpoint), v.maxLength(60, 'A piece may have up to 60 checkpoints.')),
})

export type PieceDocument = v.InferOutput<typeof PieceDocument>
export type PieceOutline = NonNullable<PieceDocument['outline']>
export type PieceGuides = NonNullable<PieceDocument['guides']>
export type PiecePhoto = NonNullable<PieceDocument['photo']>
export type ReferencePhoto = PieceDocument['references'][number]
export type Station = PieceDocument['stations'][number]
export type Checkpoint = PieceDocument['checkpoints'][number]
export type Part = PieceDocument['parts'][number]
export type Zone = PieceDocument['zones'][number]
export type SurfacePicture = v.InferOutput<typeof SurfacePicture>

/** What a picture laid on a surface can say beside its colours. */
export const SURFACE_MAPS = ['roughness', 'normals'] as const
export type SurfaceMap = (typeof SURFACE_MAPS)[number]
export type SurfacePictureFile = NonNullable<SurfacePicture[SurfaceMap]>

/** The files of all pictures laid on a piece and its zones. */
export function laidPictures({ solid, zones }: Pick<PieceDocument, 'solid' | 'zones'>): SurfacePictureFile[] {
  const pictures = [solid.picture, ...zones.map((z) => z.picture)].flatMap((p) => p ?? [])
  return pictures.flatMap((p) => [p, ...SURFACE_MAPS.flatMap((map) => p[map] ?? [])])
}

/** The stored pictures that a document needs: its own photo, those kept for reference, those laid on surfaces, and those of its checkpoints. */
export function photosOf(document: PieceDocument): string[] {
  const states = [document, ...document.checkpoints.map((c) => c.state)]
  const all = states.flatMap(({ photo, references, ...making }) => [
    photo?.sha256,
    ...references.map((r) => r.photo.sha256),
    ...laidPictures(making).map((p) => p.sha256),
  ])
  return [...new Set(all.filter((sha) => sha !== undefined))]
}

/** A stored file as the photo of a piece: all of it, as it stands. */
export function photoOf(
  facts: Omit<PiecePhoto, 'fileName' | 'quarterTurns' | 'crop'>,
  fileName: string,
): PiecePhoto {
  return { ...facts, fileName: fileName.slice(0, 255), quarterTurns: 0, crop: null }
}

/** Sides a new piece starts with: round to the eye at a moderate number of triangles. */
export const DEFAULT_SIDES = 64

export function newPiece(name: string, photo: PiecePhoto | null = null): PieceDocument {
  return {
    schema: 'baldacchino-piece',
    version: DOCUMENT_VERSION,
    name,
    unit: 'mm',
    photo,
    references: [],
    calibration: EMPTY_CALIBRATION,
    outline: null,
    profile: { side: 'right', nodes: [] },
    stations: [],
    solid: { sides: DEFAULT_SIDES },
    parts: [],
    zones: [],
    checkpoints: [],
  }
}
