import type { PicturePoint } from '../conventions'
import { CoreError } from '../errors'
import { requireRaster, type Plane, type Raster } from '../picture/raster'
import { reduceToLab, type LabPicture } from '../picture/reduce'
import { placeAt, type AxisLine } from './axis-line'
import { colourEvidence, pieceEvidence, type Evidence } from './evidence'
import { fitMirror, type MirrorFit } from './mirror'
import { refineSide, type OutlineSide } from './refine'
import { findSilhouette, stripAbout, type Silhouette } from './silhouette'
import { sameLine, symmetryAxes } from './symmetry'

export interface FindOutlineOptions {
  /** Rough direction of the piece's top in the picture; one of the four. Default upwards. */
  up?: PicturePoint
  /** Outline points along the picture's longer side, at most; more cost time. Default 750. */
  pointsAlong?: number
  /** Reports the share of the work that is done, 0..1. */
  onProgress?: (fraction: number) => void
}

/** The outline of the piece in the picture, both sides, and the axis between them. Full-resolution px. */
export interface FoundOutline {
  axis: AxisLine
  mirror: MirrorFit
  left: OutlineSide
  right: OutlineSide
  /** Px of the reduced picture the piece was looked for in; the search can't see details below it. */
  factor: number
}

/** The rough search runs on a picture about this long, px. */
const SEARCH_SIZE = 360
/** A lower share of evidence pixels or rows than this is no piece. */
const LEAST_ROWS = 12

/**
 * Finds the piece and its edges: evidence for the piece, its mirror axis, the best symmetric silhouette (twice, the
 * second time with the colours of the first), then the edges to a fraction of a pixel and the axis from them.
 * @throws CoreError `outline-not-found` when nothing symmetric stands out from the backdrop
 */
export function findOutline(input: Raster, options: FindOutlineOptions = {}): FoundOutline {
  const { up = { x: 0, y: -1 }, pointsAlong, onProgress } = options
  requireRaster(input)
  const factor = Math.max(1, Math.round(Math.max(input.width, input.height) / SEARCH_SIZE))
  const asTaken = reduceToLab(input, factor)
  // What colour transparent pixels have is anybody's guess; a cut-out is seen by its coverage alone.
  const raster = asTaken.alpha ? coverageAsLight(input) : input
  const picture = asTaken.alpha ? { ...reduceToLab(raster, factor), alpha: asTaken.alpha } : asTaken
  onProgress?.(0.1)
  const evidence = pieceEvidence(picture)
  onProgress?.(0.2)
  const guide = evidence.unshadowed ?? evidence.plane
  const axes = symmetryAxes(picture, evidence.plane, up)
  if (evidence.unshadowed) {
    const others = symmetryAxes(picture, evidence.unshadowed, up)
    axes.push(...others.filter((a) => !axes.some((b) => sameLine(a, b))))
  }
  const small = labAsRaster(picture)
  const judged = axes.map((axis, i) => {
    onProgress?.(0.25 + (0.2 * i) / axes.length)
    return judgeAxis(picture, small, guide, axis)
  })
  const best = judged.reduce((p, q) => (q.worth > p.worth ? q : p))
  const silhouette = bestSilhouette(picture, evidence, best.axis)
  requirePiece(silhouette)
  onProgress?.(0.5)
  const reach = 2.5 * factor + 2
  const sides = ([-1, 1] as const).map((side) =>
    refineSide(raster, roughSide(silhouette, side, factor), {
      reach,
      // Going up the left side of an upright piece the outside is on the left hand.
      turn: side,
      pointsAlong,
      onProgress: (f) => onProgress?.(0.5 + (side < 0 ? 0.2 : 0.4) + 0.2 * (f - 1)),
    }),
  ) as [OutlineSide, OutlineSide]
  const { at, up: upwards } = silhouette.axis
  const axis = { at: { x: at.x * factor, y: at.y * factor }, up: upwards }
  const mirror = fitMirror(seen(sides[0]), seen(sides[1]), axis)
  if (!mirror) throw notFound()
  onProgress?.(1)
  return { axis: mirror.axis, mirror, left: sides[0], right: sides[1], factor }
}

/** A grey picture whose light is the alpha of another. */
function coverageAsLight({ width, height, data }: Raster): Raster {
  const out = new Uint8Array(data.length)
  for (let i = 0; i < data.length; i += 4) {
    const light = data[i + 3]! / 255
    const grey = light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055
    out.fill(Math.round(255 * grey), i, i + 3)
    out[i + 3] = 255
  }
  return { width, height, data: out }
}

/** The points of a side where an edge was found. */
export function seen({ points, sd }: OutlineSide): Float64Array {
  return points.filter((_, i) => Number.isFinite(sd[i >> 1]!))
}

function requirePiece({ half }: Silhouette): void {
  if (half.filter((r) => r > 0).length < LEAST_ROWS) throw notFound()
}

function notFound(): CoreError {
  return new CoreError({
    code: 'outline-not-found',
    message:
      'No round piece stands out from the backdrop here. Crop the photo to the piece, turn it upright, or set the plumb line by hand.',
    where: 'photo',
  })
}

/** The three planes of a reduced picture as a raster, so that edges can be looked for in it. */
function labAsRaster({ width, height, l, a, b }: LabPicture): Raster {
  const data = new Uint8ClampedArray(4 * width * height)
  for (let i = 0; i < l.length; i++) {
    data[4 * i] = 255 * l[i]!
    data[4 * i + 1] = 128 + 400 * a[i]!
    data[4 * i + 2] = 128 + 400 * b[i]!
    data[4 * i + 3] = 255
  }
  return { width, height, data }
}

/** The search of an axis ends when a round moves it by less than this, reduced px and radians. */
const SETTLED_PX = 0.5
const SETTLED_LEAN = 0.002
const AXIS_ROUNDS = 3
/** Edges in the reduced picture are looked for so far from the silhouette, px. */
const SMALL_REACH = 4

/**
 * Betters a candidate of the axis by the edges of its own silhouette in the reduced picture, and says what it is worth:
 * many edge points that agree closely with the mirror image of the other side. A wrong axis finds some edges, but
 * none that agree to a fraction of a pixel.
 */
function judgeAxis(
  picture: LabPicture,
  small: Raster,
  evidence: Plane,
  start: AxisLine,
): { axis: AxisLine; worth: number } {
  let axis = start
  let worth = 0
  for (let round = 0; round < AXIS_ROUNDS; round++) {
    const silhouette = findSilhouette(stripAbout(picture, axis), evidence)
    if (silhouette.edges === 0) return { axis, worth }
    const [left, right] = ([-1, 1] as const).map((turn) =>
      refineSide(small, roughSide(silhouette, turn, 1), { reach: SMALL_REACH, turn }),
    ) as [OutlineSide, OutlineSide]
    const mirror = fitMirror(seen(left), seen(right), axis)
    if (!mirror) return { axis, worth }
    const points = (left.sd.length + right.sd.length) / 2
    const now = (points * mirror.agreeing) / (0.1 + mirror.spread)
    if (now < worth) return { axis, worth }
    const moved = mirror.axis
    const lean = Math.abs(moved.up.x * axis.up.y - moved.up.y * axis.up.x)
    // Compared at the silhouette's middle, where the fit is best known.
    const m = placeAt(moved, 0, silhouette.top - silhouette.half.length / 2)
    const off = Math.abs(-(m.x - axis.at.x) * axis.up.y + (m.y - axis.at.y) * axis.up.x)
    axis = moved
    worth = now
    if (off < SETTLED_PX && lean < SETTLED_LEAN) break
  }
  return { axis, worth }
}

/**
 * The silhouette about an axis from what the backdrop says; as if the piece were clear, through which a plain backdrop
 * shows; and with the colours inside and outside of that one, which tell the floor's shadow from the piece. What runs
 * well along edges on both sides is taken.
 */
function bestSilhouette(picture: LabPicture, evidence: Evidence, axis: AxisLine): Silhouette {
  const strip = stripAbout(picture, axis)
  const whole = findSilhouette(strip, evidence.plane)
  const bare = withoutShadow(evidence)
  const bright = bare ? findSilhouette(strip, bare) : whole
  const first = bright.edges > MAY_LOSE_WITH_SHADOW * whole.edges ? bright : whole
  const base = first === whole ? evidence.plane : bare!
  if (evidence.kind === 'cut-out') return first
  const clear = evidence.kind === 'plain' ? findSilhouette(strip, base, SEE_THROUGH) : first
  const plain = clear.edges > CLEARLY_BETTER * first.edges ? clear : first
  if (plain.edges === 0) return plain
  const colours = colourEvidence(picture, outsideOf(plain, picture.width))
  const share = evidence.kind === 'textured' ? 0.2 : 0.5
  const data = colours.data.map((v, i) => (1 - share) * v + share * base.data[i]!)
  const second = findSilhouette(strip, { ...colours, data })
  return second.edges > MAY_LOSE[evidence.kind] * plain.edges ? second : plain
}

/** Evidence in which what may be a shadow on the backdrop counts as backdrop; null where nothing may be. */
function withoutShadow({ plane, unshadowed }: Evidence): Plane | null {
  if (!unshadowed) return null
  const data = plane.data.map((v, i) => (v > 0 && unshadowed.data[i]! < v ? SHADOW_AS_BACKDROP : v))
  return { ...plane, data }
}

const SHADOW_AS_BACKDROP = -0.25
/** Without its shadow a piece keeps its edges; a grey piece that was taken for a shadow loses them. */
const MAY_LOSE_WITH_SHADOW = 0.95

/** What a pixel that looks like the backdrop says against a clear piece, as a share of what it says otherwise. */
const SEE_THROUGH = 0.12
/** Taking a piece for clear is daring, so it must run along clearly more edge. */
const CLEARLY_BETTER = 1.03
/** The silhouette by colours may lose edges that were the floor's and the wall's: few before a plain backdrop. */
const MAY_LOSE = { plain: 0.97, textured: 0.5 }

/** Pixels well outside a silhouette. */
function outsideOf({ axis, top, half }: Silhouette, width: number): (i: number) => boolean {
  const { at, up } = axis
  const air = 3
  return (i) => {
    const x = (i % width) + 0.5 - at.x
    const y = Math.floor(i / width) + 0.5 - at.y
    const row = Math.round(top - (x * up.x + y * up.y))
    const r = Math.abs(-x * up.y + y * up.x)
    let most = 0
    for (let k = Math.max(0, row - air); k <= Math.min(half.length - 1, row + air); k++)
      most = Math.max(most, half[k]!)
    return r > (most > 0 ? most + air : 0)
  }
}

/** One side of the silhouette as a chain [x y ...] from the lower axis crossing to the upper one, full-resolution px. */
function roughSide({ axis, top, half }: Silhouette, side: 1 | -1, factor: number): number[] {
  const { at, up } = axis
  const first = half.findIndex((r) => r > 0)
  const last = half.length - 1 - [...half].reverse().findIndex((r) => r > 0)
  const out: number[] = []
  const push = (v: number, r: number) =>
    out.push(factor * (at.x + v * up.x - side * r * up.y), factor * (at.y + v * up.y + side * r * up.x))
  push(top - last - 0.5, 0)
  push(top - last - 0.5, half[last]!)
  for (let row = last; row >= first; row--) push(top - row, half[row]!)
  push(top - first + 0.5, half[first]!)
  push(top - first + 0.5, 0)
  return out
}
