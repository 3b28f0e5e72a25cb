import type { PicturePoint } from '../conventions'
import { findOutline, seen } from '../outline/find-outline'
import { inAxis, placeAt, type AxisLine } from '../outline/axis-line'
import { reversed } from '../outline/chain'
import { fitMirror, type MirrorFit } from '../outline/mirror'
import type { Raster } from '../picture/raster'
import type { OutlineGuides } from '../outline/guides'
import type { OutlineSide } from '../outline/refine'
import { endLevel, endsInBall, fitEnd, levelled, roughPitch } from './fit-end'
import { halfOutline } from './half-outline'
import { distort, undistort, type Lens } from './lens'
import { closingArc, type ClosingArc } from './ring-arc'
import { solveNear, type Known } from './solve-near'
import { topFaceSeen } from './top-face'
import type { End } from './rounded-ring'
import { makeEye, rayOf, seenAt, type Eye, type NearView } from './view'

export interface SearchOptions {
  /** Rough direction of the piece's top in the picture; one of the four. */
  up: PicturePoint
  /** Where the raster's first pixel lies in the full picture, px (a crop). Default 0, 0. */
  offset?: PicturePoint
  lens?: Lens | null
  /** Focal length, px, and principal point, when known: a camera turned aside sees the mirror image skewed. */
  eye?: { f: number; centre: PicturePoint } | null
  /** The axis where it is known already, px in the full picture; it is kept. */
  axis?: AxisLine | null
  /** What a user painted or marked, px in the full picture. */
  guides?: OutlineGuides | null
  /** As in `findOutline`. */
  pointsAlong?: number
  onProgress?: (fraction: number) => void
}

/** What a search of the photo found. Full picture px throughout. */
export interface PhotoSearch {
  plumb: { foot: PicturePoint; top: PicturePoint; sdAngle: number; sdOffset: number }
  /** Where foot and top of the piece are on the axis: centres of their rings, or where the outline crosses it. */
  foot: PicturePoint
  top: PicturePoint
  rings: FoundRing[]
  /** Left minus right along the axis, for a plot: height above the foot and difference, px. */
  difference: MirrorFit['difference']
  /** Robust spread of left minus right, px, and the share of edge points that agree. */
  spread: number
  agreeing: number
  /** Blur of the edges, px. */
  blur: number
  /** True when another thing seems to be in the picture. */
  others: boolean
  outline: { left: OutlineSide; right: OutlineSide }
}

export interface FoundRing {
  place: 'foot' | 'rim'
  points: PicturePoint[]
  sdPx: number
  /** The points run over the rounding of the edge. */
  rounded: boolean
  /** Pitch of the camera, radians, at which it was found. */
  foundAt?: number
  /** Its near half is seen in front of the piece. */
  fromAbove?: boolean
}

/** Points kept of a ring: their number carries no more than the pixels do. */
const RING_POINTS = 120
/** No ring's edge is better known than this, px: light and rounding at the edge, not noise, set the limit. */
const LEAST_RING_SD = 0.3
/** Neighbouring points of an edge that wanders (a foot in its shadow) err alike, so that many say hardly more than few. */
const LUMPY = 3

/**
 * Finds plumb line, foot, top and the rings that close the outline, in one photo. With a known lens the axis is found
 * in the picture of the camera turned towards it, where the mirror image is exact.
 * @throws CoreError `outline-not-found`
 */
export function searchPhoto(raster: Raster, options: SearchOptions): PhotoSearch {
  const {
    up,
    offset = { x: 0, y: 0 },
    lens = null,
    eye = null,
    axis: given = null,
    guides = null,
    pointsAlong,
    onProgress,
  } = options
  const found = findOutline(raster, {
    up,
    pointsAlong,
    guides: guides && movedGuides(guides, offset),
    axis: given && { at: { x: given.at.x - offset.x, y: given.at.y - offset.y }, up: given.up },
    onProgress: (f) => onProgress?.(0.9 * f),
  })
  const left = straightened(seen(found.left), offset, lens)
  const right = straightened(seen(found.right), offset, lens)
  const start: AxisLine = {
    at: { x: found.axis.at.x + offset.x, y: found.axis.at.y + offset.y },
    up: found.axis.up,
  }
  let fit = fitMirror(left, right, start) ?? found.mirror
  let axis = given ?? fit.axis
  if (eye && !given) {
    const turned = turnedFit(left, right, axis, eye)
    if (turned) {
      axis = turned.axis
      fit = { ...turned.fit, axis }
    }
  }
  onProgress?.(0.95)
  const left0 = movedSide(found.left, offset)
  const right0 = movedSide(found.right, offset)
  const halves: [Float64Array, Float64Array] = [inAxis(left, axis), inAxis(right, axis)]
  const fromAbove = () => topFaceSeen(raster, downwards(halves), { axis, offset, blur: found.left.blur })
  const ends = eye
    ? endsByCamera({ left: left0, right: right0 }, axis, eye, lens, fromAbove())
    : endsByEllipses(halves, axis)
  const seenAs = (p: PicturePoint) => distort(lens, p)
  const foot = seenAs(ends.foot)
  const top = seenAs(ends.top)
  const footV = alongAxis(axis, ends.foot)
  onProgress?.(1)
  return {
    plumb: { foot, top, sdAngle: fit.sdAngle, sdOffset: fit.sdOffset },
    foot,
    top,
    rings: ends.rings.map((r) => ({ ...r, points: r.points.map(seenAs) })),
    difference: fit.difference.map((d) => ({ ...d, along: d.along - footV })),
    spread: fit.spread,
    agreeing: fit.agreeing,
    blur: found.left.blur,
    others: found.others,
    outline: { left: left0, right: right0 },
  }
}

function movedGuides(guides: OutlineGuides, { x, y }: PicturePoint): OutlineGuides {
  const back = (p: PicturePoint) => ({ x: p.x - x, y: p.y - y })
  const strokes = (list: OutlineGuides['piece']) =>
    list.map((stroke) => ({ ...stroke, points: stroke.points.map(back) }))
  return { piece: strokes(guides.piece), backdrop: strokes(guides.backdrop), marks: guides.marks.map(back) }
}

function moved(points: Float64Array, by: PicturePoint): Float64Array {
  return points.map((v, i) => v + (i % 2 ? by.y : by.x))
}

function straightened(points: Float64Array, offset: PicturePoint, lens: Lens | null): Float64Array {
  const out = moved(points, offset)
  if (!lens) return out
  for (let i = 0; i < out.length; i += 2) {
    const p = undistort(lens, { x: out[i]!, y: out[i + 1]! })
    out[i] = p.x
    out[i + 1] = p.y
  }
  return out
}

/** Refits the axis in the picture of the camera turned towards it; three rounds settle it to a thousandth px. */
function turnedFit(
  left: Float64Array,
  right: Float64Array,
  start: AxisLine,
  { f, centre }: { f: number; centre: PicturePoint },
): { axis: AxisLine; fit: MirrorFit } | null {
  let axis = start
  let fit: MirrorFit | null = null
  const reach = span(left, axis)
  for (let round = 0; round < 3; round++) {
    const plumb = { foot: placeAt(axis, 0, reach.low), top: placeAt(axis, 0, reach.high) }
    const eye = makeEye(f, centre, plumb, 0)
    const turn = (points: Float64Array) => {
      const out = new Float64Array(points.length)
      for (let i = 0; i < points.length; i += 2) {
        const [x, y, z] = rayOf(eye, { x: points[i]!, y: points[i + 1]! })
        out[i] = (f * x) / y
        out[i + 1] = (-f * z) / y
      }
      return out
    }
    const middle = rayOf(eye, placeAt(axis, 0, (reach.low + reach.high) / 2))
    const at = { x: 0, y: (-f * middle[2]) / middle[1] }
    fit = fitMirror(turn(left), turn(right), { at, up: { x: 0, y: -1 } })
    if (!fit) return null
    const half = (reach.high - reach.low) / 2
    const back = (v: number) => {
      const p = placeAt(fit!.axis, 0, v)
      return seenAt(eye, [p.x / f, 1, -p.y / f])
    }
    const a = back(-half)
    const b = back(half)
    if (!a || !b) return null
    const l = Math.hypot(b.x - a.x, b.y - a.y)
    axis = { at: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }, up: { x: (b.x - a.x) / l, y: (b.y - a.y) / l } }
    const now = span(left, axis)
    reach.low = now.low
    reach.high = now.high
  }
  return fit && { axis, fit }
}

function span(points: Float64Array, axis: AxisLine): { low: number; high: number } {
  const sides = inAxis(points, axis)
  let low = Infinity
  let high = -Infinity
  for (let i = 1; i < sides.length; i += 2) {
    low = Math.min(low, sides[i]!)
    high = Math.max(high, sides[i]!)
  }
  return { low, high }
}

/** At most `RING_POINTS` of the points of an arc, evenly. */
function pairsOf(points: Float64Array): [number, number][] {
  const n = points.length / 2
  const step = Math.max(1, n / RING_POINTS)
  const out: [number, number][] = []
  for (let i = 0; i < n; i += step) {
    const k = 2 * Math.floor(i)
    out.push([points[k]!, points[k + 1]!])
  }
  return out
}

/** Foot and top on the axis, and the rings, undistorted px. */
interface Ends {
  foot: PicturePoint
  top: PicturePoint
  rings: FoundRing[]
}

/** An edge that spreads more than this about its rounded ring, px, tells no tilt. */
const MOST_RING_SPREAD_PX = 1

const ENDS = [
  { place: 'foot', end: 'foot' },
  { place: 'rim', end: 'top' },
] as const

/** Beyond this nobody speaks of a side view, radians. */
const MOST_PITCH = (35 * Math.PI) / 180
/**
 * A pitch known no better than this, radians, rests on roundings rather than rings. A piece stands on an edge; its top may
 * be a dome, which looks like an edge at a wrong pitch, so that a top alone must say more.
 */
const MOST_PITCH_SD = { foot: (1.6 * Math.PI) / 180, top: (0.9 * Math.PI) / 180 }
/** … but one that lies so many standard errors off level, of a foot, is nearer to the truth than level is, up to so many times as unsure. */
const FAR_FROM_LEVEL = 6
const AS_UNSURE = 2

/**
 * Ends of the piece with a known focal length: the rounded edges that close the outline tell the camera's tilt, and the
 * tilt where on the axis the piece ends. Domes tell no tilt; without any ring the camera is taken for level.
 */
function endsByCamera(
  sides: { left: OutlineSide; right: OutlineSide },
  axis: AxisLine,
  { f, centre }: { f: number; centre: PicturePoint },
  lens: Lens | null,
  fromAbove: boolean,
): Ends {
  const reach = span(sides.right.points, axis)
  const plumb = { foot: placeAt(axis, 0, reach.low), top: placeAt(axis, 0, reach.high) }
  const viewOf = (eye: Eye): NearView => ({ kind: 'near', lens, eye, distance: 1, height: 0 })
  const straight = halfOutline(viewOf(makeEye(f, centre, plumb, 0)), sides.left, sides.right)
  const closings = ENDS.filter(({ end }) => !endsInBall(straight, end))
  const pitch = closings.length > 0 ? roughPitch(straight, closings.map(({ end }) => end), fromAbove) : 0 // prettier-ignore
  const level = makeEye(f, centre, plumb, pitch)
  const half = levelled(straight, pitch)
  const rings: FoundRing[] = []
  for (const { place, end } of closings) {
    const fitted = fitEnd(half, end)
    if (!fitted || fitted.dome || fitted.spreadPx > MOST_RING_SPREAD_PX) continue
    const points = fitted.indices.flatMap((i) => {
      const [x, w] = [half.points[2 * i]!, half.points[2 * i + 1]!]
      return [-x, x].flatMap((side) => seenAt(level, [side, 1, w]) ?? [])
    })
    rings.push({
      place,
      points,
      sdPx: Math.max(LEAST_RING_SD, LUMPY * fitted.spreadPx, fitted.farPx),
      rounded: true,
      foundAt: pitch,
      ...(place === 'rim' && fromAbove ? { fromAbove } : {}),
    })
  }
  const solved = solveNear(
    { plumb, centre, rings, focal: { value: f, sd: 0.01 * f }, pitch: null, distance: null },
    f,
  )
  // A pitch that no side view has means that what was taken for rings are none.
  const believable = solved && isBelievable(solved.pitch, rings.some((r) => r.place === 'foot') ? 'foot' : 'top') // prettier-ignore
  if (!believable) rings.length = 0
  const eye = believable ? solved.eye : makeEye(f, centre, plumb, 0)
  const turned = halfOutline(viewOf(eye), sides.left, sides.right)
  const at = (end: End, crossing: number) => {
    const fitted = fitEnd(turned, end)
    return seenAt(eye, [0, 1, fitted ? endLevel(fitted, end) : crossing])!
  }
  const n = turned.points.length
  return { foot: at('foot', turned.points[1]!), top: at('top', turned.points[n - 1]!), rings }
}

/** Whether rings tell a pitch: of both ends, or of the top alone. */
function isBelievable({ value, sd }: Known, end: End): boolean {
  const off = Math.abs(value)
  if (off >= MOST_PITCH) return false
  const usual = MOST_PITCH_SD[end]
  return sd < usual || (end === 'foot' && sd < AS_UNSURE * usual && off > FAR_FROM_LEVEL * sd)
}

/** Halves of an outline run from their upper crossing of the axis down. */
const downwards = (halves: readonly [Float64Array, Float64Array]) =>
  halves.map(reversed) as [Float64Array, Float64Array]

/** Ends of the piece by ellipses alone, for parallel rays: the middles of the closing rings, or the crossings. */
function endsByEllipses(sides: [Float64Array, Float64Array], axis: AxisLine): Ends {
  const bottom = closing(sides)
  const top = closing(downwards(sides))
  const rings: FoundRing[] = []
  const add = (place: FoundRing['place'], { ring }: Closing) => {
    if (!ring) return
    const points = pairsOf(ring.points).map(([u, v]) => placeAt(axis, u, v))
    rings.push({ place, points, sdPx: Math.max(LEAST_RING_SD, 1.5 * ring.rms), rounded: false })
  }
  add('foot', bottom)
  add('rim', top)
  return {
    foot: placeAt(axis, 0, bottom.ring?.ellipse.v0 ?? bottom.crossing),
    top: placeAt(axis, 0, top.ring?.ellipse.v0 ?? top.crossing),
    rings,
  }
}

function alongAxis({ at, up }: AxisLine, p: PicturePoint): number {
  return (p.x - at.x) * up.x + (p.y - at.y) * up.y
}

function movedSide(side: OutlineSide, by: PicturePoint): OutlineSide {
  return { ...side, points: moved(side.points, by) }
}

/** Points about the crossing whose mean is taken for it. */
const CROSSING_POINTS = 6

interface Closing {
  ring: ClosingArc | null
  /** Where the outline crosses the axis, along it, px. */
  crossing: number
}

function closing(halves: readonly [Float64Array, Float64Array]): Closing {
  let sum = 0
  let count = 0
  for (const half of halves)
    for (let i = 0; i < Math.min(half.length, 2 * CROSSING_POINTS); i += 2) {
      sum += half[i + 1]!
      count++
    }
  return { ring: closingArc(halves), crossing: sum / count }
}
