import type { PicturePoint } from '../conventions'
import { placeAt, reachAlong, type AxisLine } from '../outline/axis-line'
import type { OutlineSide } from '../outline/refine'
import { endLevel, endsInBall, fitEnd, levelled, likelyPitch } from './fit-end'
import { halfOutline, type HalfOutline } from './half-outline'
import type { Lens } from './lens'
import type { End } from './rounded-ring'
import { solveNear, type Known } from './solve-near'
import { makeEye, seenAt, type Eye, type NearView } from './view'

/** A rounded edge with which the outline closes, full picture px. */
export interface FoundRing {
  place: 'foot' | 'rim'
  points: PicturePoint[]
  sdPx: number
  /** The points run over the rounding of the edge. */
  rounded: true
  /** Pitch of the camera, radians, at which it was found; left out where the lens was unknown. */
  foundAt?: number
  /** Its near half is seen in front of the piece. */
  fromAbove?: boolean
}

/** No ring's edge is better known than this, px: light and rounding at the edge, not noise, set the limit. */
const LEAST_RING_SD = 0.3
/** Neighbouring points of an edge that wanders (a foot in its shadow) err alike, so that many say hardly more than few. */
export const LUMPY = 3

/** Both edges, px of the full picture. */
export interface Sides {
  left: OutlineSide
  right: OutlineSide
}

/** What is known of a camera besides where it stands. */
export interface Optics {
  /** Focal length, px. */
  f: number
  /** Principal point. */
  centre: PicturePoint
  lens: Lens | null
}

/** The half-outline as the camera sees it turned to the axis, as if it were level. */
export function seenStraight(sides: Sides, axis: AxisLine, { f, centre, lens }: Optics): HalfOutline {
  const eye = makeEye(f, centre, plumbOf(sides, axis), 0)
  return halfOutline(viewBy(eye, lens), sides.left, sides.right)
}

const viewBy = (eye: Eye, lens: Lens | null): NearView => ({
  kind: 'near',
  lens,
  eye,
  distance: 1,
  height: 0,
})

/** Where the piece begins and ends on the axis, about. */
function plumbOf({ right }: Sides, axis: AxisLine) {
  const { low, high } = reachAlong(right.points, axis)
  return { foot: placeAt(axis, 0, low), top: placeAt(axis, 0, high) }
}

/** Foot and top on the axis, and the rings, undistorted px. */
export interface Ends {
  foot: PicturePoint
  top: PicturePoint
  rings: FoundRing[]
}

/** Whether the rings of both ends tell the focal length of an unknown camera; where one of them is lost they don't. */
export function ringsTellLens({
  focal,
  rings,
}: {
  focal: Known | null
  rings: readonly FoundRing[]
}): boolean {
  return focal !== null && rings.length === ENDS.length
}

/** An edge that spreads more than this about its rounded ring, px, tells no tilt. */
const MOST_RING_SPREAD_PX = 1

const ENDS = [
  { place: 'foot', end: 'foot' },
  { place: 'rim', end: 'top' },
] as const

/**
 * The pitch at which the ends look most like edges is known so well, radians: of a hundred made-up photos nine of ten lay within 0.7°. It
 * asks more than how well points lie on rings, which they may do better at another pitch where a shadow bends them.
 */
export const FOUND_PITCH_SD = (0.5 * Math.PI) / 180

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
export function endsByCamera(sides: Sides, axis: AxisLine, optics: Optics, fromAbove: boolean): Ends {
  const { f, centre, lens } = optics
  const plumb = plumbOf(sides, axis)
  const straight = seenStraight(sides, axis, optics)
  const closings = ENDS.filter(({ end }) => !endsInBall(straight, end))
  const pitch = closings.length > 0 ? likelyPitch(straight, { closings: closings.map(({ end }) => end), topFromAbove: fromAbove }).pitch : 0 // prettier-ignore
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
    {
      plumb,
      centre,
      rings,
      focal: { value: f, sd: 0.01 * f },
      pitch: rings.length > 0 ? { value: pitch, sd: FOUND_PITCH_SD } : null,
      distance: null,
    },
    f,
  )
  // A pitch that no side view has means that what was taken for rings are none.
  const believable = solved && isBelievable(solved.pitch.value, saidByRings(solved.pitch.sd), rings.some((r) => r.place === 'foot') ? 'foot' : 'top') // prettier-ignore
  if (!believable) rings.length = 0
  const eye = believable ? solved.eye : makeEye(f, centre, plumb, 0)
  const turned = halfOutline(viewBy(eye, lens), sides.left, sides.right)
  const at = (end: End, crossing: number) => {
    const fitted = fitEnd(turned, end)
    return seenAt(eye, [0, 1, fitted ? endLevel(fitted, end) : crossing])!
  }
  const n = turned.points.length
  return { foot: at('foot', turned.points[1]!), top: at('top', turned.points[n - 1]!), rings }
}

/** Standard error that the rings alone would give the pitch: what is known of both adds up. */
function saidByRings(sd: number): number {
  return 1 / Math.sqrt(Math.max(0, sd ** -2 - FOUND_PITCH_SD ** -2))
}

/** Whether rings tell a pitch: of both ends, or of the top alone. */
function isBelievable(value: number, sd: number, end: End): boolean {
  const off = Math.abs(value)
  if (off >= MOST_PITCH) return false
  const usual = MOST_PITCH_SD[end]
  return sd < usual || (end === 'foot' && sd < AS_UNSURE * usual && off > FAR_FROM_LEVEL * sd)
}
