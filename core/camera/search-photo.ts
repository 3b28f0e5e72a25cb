import type { PicturePoint } from '../conventions'
import { mayBeCutOff } from '../outline/border-coverage'
import { findOutline } from '../outline/find-outline'
import { alongAxis, inAxis, placeAt, reachAlong, type AxisLine } from '../outline/axis-line'
import { reversed } from '../outline/chain'
import { fitMirror, type MirrorFit } from '../outline/mirror'
import { asMeant } from '../picture/as-meant'
import type { Raster } from '../picture/raster'
import { movedAxis, movedGuides, type OutlineGuides } from '../outline/guides'
import { seen, type OutlineSide } from '../outline/refine'
import { endsByCamera, ringsTellLens, type FoundRing, type Optics, type Sides } from './closing-ends'
import { TELE, toldFocal, type Away } from './told-focal'
import { distort, undistort, type Lens } from './lens'
import type { Known } from './solve-near'
import { topFaceSeen } from './top-face'
import { makeEye, rayOf, seenAt } from './view'

/** What is known of the camera, full picture px. */
export interface SearchEye {
  /** Focal length, px; null when unknown. */
  f: number | null
  /** Principal point. */
  centre: PicturePoint
  /** How far it stood from the axis by tape; that tells the focal length as well. */
  away?: Away | null
}

export interface SearchOptions {
  /** Rough direction of the piece's top in the picture; one of the four. */
  up: PicturePoint
  /** Where the raster's first pixel lies in the full picture, px (a crop). Default 0, 0. */
  offset?: PicturePoint
  lens?: Lens | null
  /** Focal length, px (null when unknown), and principal point; without them an unknown one and the raster's middle. */
  eye?: SearchEye
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
  /** Focal length, px, as the tape or the rings tell it; null where it was known, or they don't. */
  focal: Known | null
  /** Left minus right along the axis, for a plot: height above the foot and difference, px. */
  difference: MirrorFit['difference']
  /** Robust spread of left minus right, px, and the share of edge points that agree. */
  spread: number
  agreeing: number
  /** Blur of the edges, px. */
  blur: number
  /** True when another thing seems to be in the picture. */
  others: boolean
  /** True when what lies below the foot was left out as its mirror image in a glossy floor. */
  mirrored: boolean
  /** True when something that only stands beside it, a ruler or a box, was left out. */
  besideLeftOut: boolean
  /** True when the picture's border may cut a cut-out off: it is as wide there as a little farther in. */
  mayBeCutOff: boolean
  /** True when the picture shows its piece before grey squares, as editors show what is clear, which was taken for a cut-out. */
  checkered: boolean
  /** True when lines or words that were drawn over it were left out. */
  marksLeftOut: boolean
  outline: Sides
}

/** A lens known no better than this, as a share, and by which not both rings are seen, says nothing of the ends: rays are taken for parallel. */
const HARDLY_TOLD = 0.6

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
    eye = { f: null, centre: { x: offset.x + raster.width / 2, y: offset.y + raster.height / 2 } },
    axis: given = null,
    guides = null,
    pointsAlong,
    onProgress,
  } = options
  const inRaster = { x: -offset.x, y: -offset.y }
  const meant = asMeant(raster)
  const found = findOutline(meant.raster, {
    up,
    pointsAlong,
    guides: guides && movedGuides(guides, inRaster),
    axis: given && movedAxis(given, inRaster),
    onProgress: (f) => onProgress?.(0.9 * f),
  })
  const left = straightened(seen(found.left), offset, lens)
  const right = straightened(seen(found.right), offset, lens)
  const start = movedAxis(found.axis, offset)
  const mirror = fitMirror(left, right, start) ?? found.mirror
  const sides = { left: movedSide(found.left, offset), right: movedSide(found.right, offset) }
  const fromAbove = (axis: AxisLine) => topFaceSeen(raster, downwards([inAxis(left, axis), inAxis(right, axis)]), { axis, offset, blur: found.left.blur }) // prettier-ignore
  const { centre } = eye
  const diagonalPx = Math.hypot(raster.width, raster.height)
  const camera = { centre, lens, diagonalPx }
  const about = given ?? mirror.axis
  const focal = eye.f === null ? toldFocal(sides, about, camera, eye.away ?? null, fromAbove(about)) : null
  /** Axis and ends as a camera of this focal length, px, sees them. */
  const seenBy = (f: number) => {
    const optics: Optics = { f, centre, lens }
    const turned = given ? null : turnedFit(left, right, about, optics)
    const axis = turned?.axis ?? about
    const fit = turned ? { ...turned.fit, axis } : mirror
    return { axis, fit, ends: endsByCamera(sides, axis, optics, fromAbove(axis)) }
  }
  const parallel = TELE * diagonalPx
  const told = eye.f ?? focal?.value ?? null
  const byLens = seenBy(told ?? parallel)
  onProgress?.(0.95)
  const isGuess = eye.f === null && focal !== null && focal.sd > HARDLY_TOLD * focal.value
  const isLost = isGuess && !ringsTellLens({ focal, rings: byLens.ends.rings })
  const { axis, fit, ends } = isLost ? seenBy(parallel) : byLens
  const isParallel = told === null || isLost
  const seenAs = (p: PicturePoint) => distort(lens, p)
  const foot = seenAs(ends.foot)
  const top = seenAs(ends.top)
  const footV = alongAxis(axis, ends.foot)
  onProgress?.(1)
  return {
    plumb: { foot, top, sdAngle: fit.sdAngle, sdOffset: fit.sdOffset },
    foot,
    top,
    // By parallel rays a ring tells another pitch than by the lens that somebody may yet type.
    rings: ends.rings.map(({ foundAt, ...ring }) => ({
      ...ring,
      points: ring.points.map(seenAs),
      ...(isParallel ? {} : { foundAt }),
    })),
    focal,
    difference: fit.difference.map((d) => ({ ...d, along: d.along - footV })),
    spread: fit.spread,
    agreeing: fit.agreeing,
    blur: found.left.blur,
    others: found.others,
    mirrored: found.mirrored,
    besideLeftOut: found.besideLeftOut,
    mayBeCutOff: mayBeCutOff(meant.raster),
    checkered: meant.isCheckered,
    marksLeftOut: meant.hadMarks,
    outline: sides,
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
  { f, centre }: Optics,
): { axis: AxisLine; fit: MirrorFit } | null {
  let axis = start
  let fit: MirrorFit | null = null
  const reach = reachAlong(left, axis)
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
    const now = reachAlong(left, axis)
    reach.low = now.low
    reach.high = now.high
  }
  return fit && { axis, fit }
}

/** Halves of an outline run from their upper crossing of the axis down. */
const downwards = (halves: readonly [Float64Array, Float64Array]) =>
  halves.map(reversed) as [Float64Array, Float64Array]

function movedSide(side: OutlineSide, by: PicturePoint): OutlineSide {
  return { ...side, points: moved(side.points, by) }
}
