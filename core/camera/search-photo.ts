import type { PicturePoint } from '../conventions'
import { findOutline, seen } from '../outline/find-outline'
import { inAxis, placeAt, type AxisLine } from '../outline/axis-line'
import { fitMirror, type MirrorFit } from '../outline/mirror'
import type { Raster } from '../picture/raster'
import { distort, undistort, type Lens } from './lens'
import { closingArc, type ClosingArc } from './ring-arc'
import { solveNear } from './solve-near'
import { makeEye, rayOf, seenAt, toPlane, type View } from './view'

export interface SearchOptions {
  /** Rough direction of the piece's top in the picture; one of the four. */
  up: PicturePoint
  /** Where the raster's first pixel lies in the full picture, px (a crop). Default 0, 0. */
  offset?: PicturePoint
  lens?: Lens | null
  /** Focal length, px, and principal point, when known: a camera turned aside sees the mirror image skewed. */
  eye?: { f: number; centre: PicturePoint } | null
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
  outline: { left: Float64Array; right: Float64Array }
}

export interface FoundRing {
  place: 'foot' | 'rim'
  points: PicturePoint[]
  sdPx: number
}

/** Points kept of a ring: their number carries no more than the pixels do. */
const RING_POINTS = 120
/** No ring's edge is better known than this, px: light and rounding at the edge, not noise, set the limit. */
const LEAST_RING_SD = 0.3

/**
 * Finds plumb line, foot, top and the rings that close the outline, in one photo. With a known lens the axis is found
 * in the picture of the camera turned towards it, where the mirror image is exact.
 * @throws CoreError `outline-not-found`
 */
export function searchPhoto(raster: Raster, options: SearchOptions): PhotoSearch {
  const { up, offset = { x: 0, y: 0 }, lens = null, eye = null, pointsAlong, onProgress } = options
  const found = findOutline(raster, { up, pointsAlong, onProgress: (f) => onProgress?.(0.9 * f) })
  const left = straightened(seen(found.left), offset, lens)
  const right = straightened(seen(found.right), offset, lens)
  const start: AxisLine = {
    at: { x: found.axis.at.x + offset.x, y: found.axis.at.y + offset.y },
    up: found.axis.up,
  }
  let fit = fitMirror(left, right, start) ?? found.mirror
  let axis = fit.axis
  if (eye) {
    const turned = turnedFit(left, right, axis, eye)
    if (turned) {
      axis = turned.axis
      fit = { ...turned.fit, axis }
    }
  }
  onProgress?.(0.95)
  const sides = [inAxis(left, axis), inAxis(right, axis)] as [Float64Array, Float64Array]
  const bottom = closing(sides)
  const top = closing(sides.map(reversed) as [Float64Array, Float64Array])
  const place = (u: number, v: number) => distort(lens, placeAt(axis, u, v))
  const ringSeen = (arc: ClosingArc | null) =>
    arc ? pairsOf(arc.points).map(([u, v]) => undistort(lens, place(u, v))) : []
  const ends = eye && hiddenMiddles(bottom, top, sides, axis, eye, ringSeen)
  const footV = bottom.ring?.ellipse.v0 ?? ends?.foot ?? bottom.crossing
  const topV = top.ring?.ellipse.v0 ?? ends?.top ?? top.crossing
  const rings: FoundRing[] = []
  const addRing = (name: FoundRing['place'], arc: ClosingArc | null) => {
    if (!arc) return
    const points = pairsOf(arc.points).map(([u, v]) => place(u, v))
    rings.push({ place: name, points, sdPx: Math.max(LEAST_RING_SD, 1.5 * arc.rms) })
  }
  addRing('foot', bottom.ring)
  addRing('rim', top.ring)
  onProgress?.(1)
  return {
    plumb: { foot: place(0, footV), top: place(0, topV), sdAngle: fit.sdAngle, sdOffset: fit.sdOffset },
    foot: place(0, footV),
    top: place(0, topV),
    rings,
    difference: fit.difference.map((d) => ({ ...d, along: d.along - footV })),
    spread: fit.spread,
    agreeing: fit.agreeing,
    blur: found.left.blur,
    outline: { left: moved(found.left.points, offset), right: moved(found.right.points, offset) },
  }
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

function reversed(points: Float64Array): Float64Array {
  const n = points.length
  return points.map((_, i) => points[n - 2 - (i - (i % 2)) + (i % 2)]!)
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

/** The radius at an end is read in this share of the height next to it. */
const END_BAND = 0.02
/**
 * A top is flat when the outline has this share of the band's width within the band's first fifth already; in a dome
 * it has √(1/5) = 0.45 there, whatever its radius. A foot stands on something, so it is flat.
 */
const FLAT_SHARE = 0.6

/**
 * Places of foot and top on the axis, along it in px, where their rings weren't found: what is seen there is the ring's
 * near or far edge, before or behind the axis by its radius, which the sides of the outline tell. The camera's tilt
 * comes from the other ring, or is taken for level. Domes keep their highest visible place.
 */
function hiddenMiddles(
  bottom: Closing,
  top: Closing,
  sides: readonly [Float64Array, Float64Array],
  axis: AxisLine,
  { f, centre }: { f: number; centre: PicturePoint },
  ringSeen: (arc: ClosingArc | null) => PicturePoint[],
): { foot: number; top: number } | null {
  const plumb = { foot: placeAt(axis, 0, bottom.crossing), top: placeAt(axis, 0, top.crossing) }
  const rings = [
    { place: 'foot' as const, points: ringSeen(bottom.ring), sdPx: LEAST_RING_SD },
    { place: 'rim' as const, points: ringSeen(top.ring), sdPx: LEAST_RING_SD },
  ].filter((r) => r.points.length > 0)
  const solved = solveNear(
    { plumb, centre, rings, focal: { value: f, sd: 0.02 * f }, pitch: null, distance: null },
    f,
  )
  if (!solved) return null
  const view: View = { kind: 'near', lens: null, eye: solved.eye, distance: 1, height: 0 }
  const side = sides.flatMap((points) =>
    Array.from({ length: points.length / 2 }, (_, i) =>
      toPlane(view, placeAt(axis, points[2 * i]!, points[2 * i + 1]!)),
    ),
  )
  const slope = (p: PicturePoint) => {
    const ray = rayOf(solved.eye, p)
    return ray[2] / ray[1]
  }
  const low = slope(plumb.foot)
  const high = slope(plumb.top)
  const tall = high - low
  const middle = (crossing: number, edge: number, inwards: 1 | -1): number => {
    const band = (depth: number, z: number) =>
      side.filter((p) => (p.z - z) * inwards > 0 && (p.z - z) * inwards < depth).map((p) => Math.abs(p.x))
    const widest = (depth: number) => Math.max(0, ...band(depth, edge))
    if (inwards < 0 && widest((END_BAND * tall) / 5) < FLAT_SHARE * widest(END_BAND * tall)) return crossing
    // Below the eye the lower end shows its near edge and the upper end its far one; above it the other way round.
    const behind = (edge < 0 ? 1 : -1) * -inwards
    let r = 0
    for (let round = 0; round < 4; round++) {
      const near = band(END_BAND * tall, edge * (1 + behind * r)).sort((a, b) => a - b)
      if (near.length > 0) r = near[near.length >> 1]!
    }
    const p = seenAt(solved.eye, [0, 1, edge * (1 + behind * r)])
    return p ? (p.x - axis.at.x) * axis.up.x + (p.y - axis.at.y) * axis.up.y : crossing
  }
  return { foot: middle(bottom.crossing, low, 1), top: middle(top.crossing, high, -1) }
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
