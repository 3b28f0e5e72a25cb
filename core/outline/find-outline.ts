import type { PicturePoint } from '../conventions'
import { CoreError } from '../errors'
import { requireRaster, type Plane, type Raster } from '../picture/raster'
import { sharpness, type Sharpness } from '../picture/sharpness'
import { reduceToLab, type LabPicture } from '../picture/reduce'
import type { AxisLine } from './axis-line'
import { colourEvidence, pieceEvidence, type Evidence } from './evidence'
import { withoutBareBulges } from './bulges'
import { edgeMiddleAxes } from './edge-middles'
import { marked, painted, type OutlineGuides } from './guides'
import { fitMirror, type MirrorFit } from './mirror'
import { refineSides, type OutlineSide } from './refine'
import {
  findSilhouette,
  rowMiddles,
  rowsOf,
  stripAbout,
  type RowMiddle,
  type Silhouette,
  type Strip,
} from './silhouette'
import { sameLine, symmetryAxes, turn } from './symmetry'

export interface FindOutlineOptions {
  /** Rough direction of the piece's top in the picture; one of the four. Default upwards. */
  up?: PicturePoint
  /** The axis where it is known already, full-resolution px; it is looked for only when it isn't. */
  axis?: AxisLine | null
  /** What a user painted or marked; full-resolution px. */
  guides?: OutlineGuides | null
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
  /** True when about as many edges stand elsewhere before the backdrop: another thing is in the picture. */
  others: boolean
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
  const { up = { x: 0, y: -1 }, axis: given = null, guides = null, pointsAlong, onProgress } = options
  requireRaster(input)
  const factor = Math.max(1, Math.round(Math.max(input.width, input.height) / SEARCH_SIZE))
  const asTaken = reduceToLab(input, factor)
  // What colour transparent pixels have is anybody's guess; a cut-out is seen by its coverage alone.
  const raster = asTaken.alpha ? coverageAsLight(input) : input
  const picture = asTaken.alpha ? { ...reduceToLab(raster, factor), alpha: asTaken.alpha } : asTaken
  onProgress?.(0.1)
  const bare = sharpness(raster, factor)
  const sharp = guides ? { x: marked(bare.x, guides, factor), y: marked(bare.y, guides, factor) } : bare
  const decided = (plane: Plane) => (guides ? painted(plane, guides, factor) : plane)
  const evidence = withPlanes(pieceEvidence(picture), decided)
  onProgress?.(0.2)
  const start = given
    ? { at: { x: given.at.x / factor, y: given.at.y / factor }, up: given.up }
    : bestAxis(sharp, evidence, up, onProgress)
  const strip = stripAbout(sharp, start)
  const silhouette = snapped(strip, evidence.plane, bestSilhouette(strip, picture, evidence, decided))
  requirePiece(silhouette)
  requireWhole(silhouette, sharp.x)
  onProgress?.(0.5)
  const reach = 2.5 * factor + 2
  const rough = ([-1, 1] as const).map((side) => roughSide(silhouette, side, factor))
  const sides = refineSides(raster, rough as [number[], number[]], {
    reach,
    pointsAlong,
    onProgress: (f) => onProgress?.(0.5 + 0.4 * f),
  })
  const { at, up: upwards } = silhouette.axis
  const axis = { at: { x: at.x * factor, y: at.y * factor }, up: upwards }
  const mirror = fitMirror(seen(sides[0]), seen(sides[1]), axis)
  if (!mirror) throw notFound()
  requireClosing(sides, raster)
  requireLikeness(sides, mirror)
  onProgress?.(1)
  return {
    axis: given ?? mirror.axis,
    mirror,
    left: sides[0],
    right: sides[1],
    factor,
    others: evidence.kind === 'plain' && edgesElsewhere(sharp, silhouette) > OTHERS_SHARE,
  }
}

/** Evidence with what a user decided; a painted shadow is no longer doubted. */
function withPlanes(evidence: Evidence, decided: (plane: Plane) => Plane): Evidence {
  const { plane, unshadowed } = evidence
  return { ...evidence, plane: decided(plane), unshadowed: unshadowed && decided(unshadowed) }
}

/** The candidate whose silhouette has most edge that agrees left and right. */
function bestAxis(
  sharp: Sharpness,
  evidence: Evidence,
  up: PicturePoint,
  onProgress?: (fraction: number) => void,
): AxisLine {
  const guide = evidence.unshadowed ?? evidence.plane
  const axes = symmetryAxes(sharp, guide, up)
  axes.push(...edgeMiddleAxes(sharp, up).filter((a) => !axes.some((b) => sameLine(a, b))))
  const judged = axes.map((axis, i) => {
    onProgress?.(0.25 + (0.2 * i) / axes.length)
    return judgeAxis(sharp, evidence.kind, guide, axis)
  })
  return judged.reduce((p, q) => (q.worth > p.worth ? q : p)).axis
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

/** So near to the picture's border, reduced px, the piece touches it. */
const BORDER_PX = 1.5
/** A piece that touches the border over more than this share of its rows or width is cut by it. */
const CUT_SHARE = 0.06

/** @throws CoreError `piece-cut` when the picture's border cuts through the piece */
function requireWhole({ axis, top, half }: Silhouette, { width, height }: Plane): void {
  const { at, up } = axis
  const touches = (x: number, y: number) =>
    x < BORDER_PX || y < BORDER_PX || x > width - BORDER_PX || y > height - BORDER_PX
  const place = (row: number, r: number): [number, number] => {
    const v = top - row
    return [at.x + v * up.x - r * up.y, at.y + v * up.y + r * up.x]
  }
  const rows = Array.from(half.keys()).filter((row) => half[row]! > 0)
  const widest = Math.max(...half)
  const atSides = rows.filter(
    (row) => touches(...place(row, half[row]!)) || touches(...place(row, -half[row]!)),
  )
  const ends = [rows[0]!, rows[rows.length - 1]!].map((row) =>
    touches(...place(row, 0)) ? half[row]! / widest : 0,
  )
  if (atSides.length / rows.length <= CUT_SHARE && Math.max(...ends) <= CUT_SHARE) return
  throw pieceCut()
}

function pieceCut(): CoreError {
  return new CoreError({
    code: 'piece-cut',
    message:
      'The piece reaches the border of the picture, which cuts it off or leaves no backdrop beside it. Take a photo with some air around the piece, make the crop wider, or draw the half-profile by hand.',
    where: 'photo',
  })
}

/** An end this near to the border, as a share of the picture, of which less than the other share shows an edge, is cut off. */
const NEAR_BORDER = 0.05
const LEAST_CLOSED = 0.3
/** Share of a side's points that close it. */
const CLOSING = 0.08

/** @throws CoreError `piece-cut` when an end of the outline lies near the border and shows no edge */
function requireClosing(sides: readonly OutlineSide[], { width, height }: Raster): void {
  for (const end of ['foot', 'top'] as const) {
    let seenPoints = 0
    let all = 0
    let near = false
    for (const { points, sd } of sides) {
      const n = sd.length
      const count = Math.ceil(CLOSING * n)
      for (let k = 0; k < count; k++) if (Number.isFinite(sd[end === 'foot' ? k : n - 1 - k]!)) seenPoints++
      all += count
      const i = end === 'foot' ? 0 : n - 1
      const [x, y] = [points[2 * i]! / width, points[2 * i + 1]! / height]
      near ||= Math.min(x, y, 1 - x, 1 - y) < NEAR_BORDER
    }
    if (near && seenPoints < LEAST_CLOSED * all) throw pieceCut()
  }
}

/** Less of both edges than this, while they also disagree, is no outline; and less than the least is none anyway. */
const LIKELY_SEEN = 0.6
const LEAST_SEEN = 0.4
const LIKELY_SPREAD_PX = 0.5

/** @throws CoreError `outline-unsure` when what was found isn't the outline of one round piece */
function requireLikeness(sides: readonly [OutlineSide, OutlineSide], mirror: MirrorFit): void {
  const shares = sides.map(({ sd }) => sd.filter(Number.isFinite).length / sd.length)
  const share = (shares[0]! + shares[1]!) / 2
  if (share >= LIKELY_SEEN || (share >= LEAST_SEEN && mirror.spread < LIKELY_SPREAD_PX)) return
  throw new CoreError({
    code: 'outline-unsure',
    message: `What was found doesn’t look like one round piece: only ${Math.round(100 * share)} % of it shows an edge, and left and right differ by ${mirror.spread.toFixed(1)} px. If there are several things in the picture, crop it to one; else paint what is piece and what is not, mark places on its edge, or set the plumb line by hand.`,
    where: 'photo',
  })
}

/** Edges elsewhere, as a share of those along the silhouette, from which on another thing is in the picture. */
const OTHERS_SHARE = 0.5
const CLEAR_EDGE = 0.5

/** Clear edges farther than a few px outside a silhouette, against those on it and within. */
function edgesElsewhere(sharp: Sharpness, silhouette: Silhouette): number {
  const { width } = sharp.x
  const outside = outsideOf(silhouette, width)
  let elsewhere = 0
  let own = 0
  sharp.x.data.forEach((v, i) => {
    if (Math.max(v, sharp.y.data[i]!) < CLEAR_EDGE) return
    if (outside(i)) elsewhere++
    else own++
  })
  return elsewhere / Math.max(1, own)
}

function notFound(): CoreError {
  return new CoreError({
    code: 'outline-not-found',
    message:
      'No round piece stands out from the backdrop here. Crop the photo to the piece, turn it upright, paint what is piece, or set the plumb line by hand.',
    where: 'photo',
  })
}

const AXIS_ROUNDS = 4
/** Middles of rows that lie farther off the line through them, px, don't speak for it. */
const AGREE_PX = 0.8
/** The search of an axis ends when a round moves it by less than this, px at the ends of the piece. */
const SETTLED_PX = 0.1

/**
 * Betters a candidate of the axis by the sharp edges of its own silhouette, and says what it is worth: the sharpness of
 * all rows whose two edges lie evenly about it. A wrong axis finds some edges, but few that agree.
 */
function judgeAxis(
  sharp: Sharpness,
  kind: Evidence['kind'],
  evidence: Plane,
  start: AxisLine,
): { axis: AxisLine; worth: number } {
  let best = { axis: start, worth: 0 }
  let axis = start
  for (let round = 0; round < AXIS_ROUNDS; round++) {
    const strip = stripAbout(sharp, axis)
    const opaque = findSilhouette(strip, evidence)
    const clear = kind === 'plain' ? findSilhouette(strip, evidence, { seeThrough: SEE_THROUGH }) : opaque
    const silhouette = clear.edges > opaque.edges ? clear : opaque
    const rows = rowMiddles(sharp, silhouette)
    const line = lineThrough(rows)
    if (!line) break
    const worth = rows.reduce(
      (s, m) => s + (Math.abs(m.offset - line.c - line.a * m.v) < AGREE_PX ? m.edge : 0),
      0,
    )
    const { at, up } = axis
    const moved = turn(up, Math.atan(line.a))
    axis = { at: { x: at.x - line.c * up.y, y: at.y + line.c * up.x }, up: moved }
    if (worth > best.worth) best = { axis, worth }
    if (Math.abs(line.c) + Math.abs(line.a) * silhouette.half.length < SETTLED_PX) break
  }
  return best
}

/** Offset c + a·v of most middles, by reweighted least squares that starts from their median. */
function lineThrough(rows: readonly RowMiddle[]): { a: number; c: number } | null {
  if (rows.length < LEAST_ROWS) return null
  const offsets = rows.map((m) => m.offset).sort((p, q) => p - q)
  let line = { a: 0, c: offsets[offsets.length >> 1]! }
  for (const limit of [6, 3, 2, 1.5, 1.5, 1.5]) {
    let [w, wv, wvv, wo, wvo] = [0, 0, 0, 0, 0]
    for (const { v, offset, edge } of rows) {
      const t = (offset - line.c - line.a * v) / limit
      if (Math.abs(t) >= 1) continue
      const k = edge * (1 - t * t) ** 2
      w += k
      wv += k * v
      wvv += k * v * v
      wo += k * offset
      wvo += k * v * offset
    }
    const det = w * wvv - wv * wv
    if (!(det > 1e-6 * w * wvv)) return null
    line = { a: (w * wvo - wv * wo) / det, c: (wvv * wo - wv * wvo) / det }
  }
  return line
}

/**
 * The silhouette about an axis from what the backdrop says; as if the piece were clear, through which a plain backdrop
 * shows; and with the colours inside and outside of that one, which tell the floor's shadow from the piece. What runs
 * well along edges on both sides is taken.
 */
function bestSilhouette(
  strip: Strip,
  picture: LabPicture,
  evidence: Evidence,
  decided: (plane: Plane) => Plane,
): Silhouette {
  const whole = findSilhouette(strip, evidence.plane)
  const bare = withoutShadow(evidence)
  const bright = bare ? findSilhouette(strip, bare) : whole
  const first = bright.edges > MAY_LOSE_WITH_SHADOW * whole.edges ? bright : whole
  const base = first === whole ? evidence.plane : bare!
  if (evidence.kind === 'cut-out') return first
  const clear = evidence.kind === 'plain' ? findSilhouette(strip, base, { seeThrough: SEE_THROUGH }) : first
  const plain = clear.edges > CLEARLY_BETTER * first.edges ? clear : first
  if (plain.edges === 0) return plain
  const colours = colourEvidence(picture, outsideOf(plain, picture.width))
  const share = evidence.kind === 'textured' ? 0.2 : 0.5
  const data = colours.data.map((v, i) => (1 - share) * v + share * base.data[i]!)
  const second = findSilhouette(strip, decided({ ...colours, data }))
  return second.edges > MAY_LOSE[evidence.kind] * plain.edges ? second : plain
}

/** Beside a silhouette that is found, the evidence counts this much: the edges lead now. */
const SNAP_WEIGHT = 0.08
const SNAP_STEP_COST = 1.6

/** The silhouette on the sharp edges near it: what it took along of soft shadows falls off. */
function snapped(strip: Strip, evidence: Plane, found: Silhouette): Silhouette {
  const { half } = withoutBareBulges(strip, found)
  return findSilhouette(strip, evidence, { weight: SNAP_WEIGHT, stepCost: SNAP_STEP_COST, near: half })
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
const SEE_THROUGH = 0.03
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
  const [first, last] = rowsOf({ half })
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
