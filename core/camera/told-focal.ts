import { inAxis, reachAlong, type AxisLine } from '../outline/axis-line'
import { endsByCamera, seenStraight, type Optics, type Sides } from './closing-ends'
import { endsInBall, likelyPitch, likelyPitchNear, type LikelyPitch } from './fit-end'
import type { Known } from './solve-near'

/** How far a camera stood from the axis, in heights or in largest diameters of the piece. */
export interface Away {
  times: number
  size: 'height' | 'diameter'
}

/** With a focal length that nothing tells rays are taken for parallel, about: picture diagonals. */
export const TELE = 8

/**
 * The focal length, px, of a camera of which neither file nor user says it: as a tape tells it, or else the rings at both ends.
 * @param fromAbove the upper ring is known to be looked down on
 * @returns null where nothing tells it
 */
export function toldFocal(
  sides: Sides,
  axis: AxisLine,
  camera: Camera,
  away: Away | null,
  fromAbove: boolean,
): Known | null {
  return away
    ? focalByTape(sides, axis, camera, away, fromAbove)
    : focalByRings(sides, axis, camera, fromAbove)
}

/** What is known of the camera nevertheless, and its picture's diagonal. */
type Camera = Omit<Optics, 'f'> & { diagonalPx: number }

/** A focal length by tape is known as well as tape and caliper are, and as what they measure is seen: about so, as a share. */
const BY_TAPE_SD = 0.02

/** The focal length of a camera that stood so far away. */
function focalByTape(
  sides: Sides,
  axis: AxisLine,
  camera: Camera,
  { times, size }: Away,
  fromAbove: boolean,
): Known {
  const { low, high } = reachAlong(sides.right.points, axis)
  const across = inAxis(sides.right.points, axis).filter((_, i) => i % 2 === 0)
  let value =
    times * (size === 'height' ? high - low : 2 * across.reduce((p, q) => Math.max(p, Math.abs(q)), 0))
  // An outline is higher than its piece by the arcs that close it.
  if (size === 'height') {
    const { foot, top } = endsByCamera(sides, axis, { ...camera, f: value }, fromAbove)
    value = times * Math.hypot(top.x - foot.x, top.y - foot.y)
  }
  return { value, sd: BY_TAPE_SD * value }
}

/** Focal lengths tried, logarithms of picture diagonals: 21 to 480 mm lenses (35 mm equivalents), an eighth apart, since clean rings look like none by a lens a tenth off. */
const BETWEEN = Math.LN2 / 6
const LOGS = Array.from({ length: 28 }, (_, i) => Math.log(0.5) + i * BETWEEN)
/** The best few are bettered by halving the step between them so often. */
const FOLLOWED = 2
const HALVINGS = 4
/** The costs so far to either side of the best, as a logarithm, tell how well it is known. */
const SLOPE = 0.17
/** No lens is told better than this by rings, as a share: their edges are rounded and lie in shadows (an estimate, no source). */
const LEAST_SD = 0.05

/**
 * The focal length, px, by which the rings at both ends look most like rings. Seen from near by, foot and rim are seen at angles that
 * differ by what the camera sees between them (the third case of camera estimation from two circles); one ring, or a ring and a dome,
 * leaves it open.
 */
function focalByRings(sides: Sides, axis: AxisLine, camera: Camera, fromAbove: boolean): Known | null {
  const { diagonalPx } = camera
  const seenBy = (f: number) => seenStraight(sides, axis, { ...camera, f })
  const tele = seenBy(TELE * diagonalPx)
  if (endsInBall(tele, 'foot') || endsInBall(tele, 'top')) return null
  const ends = { topFromAbove: fromAbove }
  const at = (log: number) => seenBy(diagonalPx * Math.exp(log))
  const tried = LOGS.map((log) => ({ log, ...likelyPitch(at(log), { ...ends, quick: true }) }))
  const valleys = tried.filter(({ cost }, i) =>
    [tried[i - 1], tried[i + 1]].every((beside) => !beside || cost <= beside.cost),
  )
  const near = ({ pitch }: LikelyPitch, log: number) => ({ log, ...likelyPitchNear(at(log), pitch, ends) })
  const ended = valleys
    .sort((p, q) => p.cost - q.cost)
    .slice(0, FOLLOWED)
    .map((start) => {
      let best = start
      for (let step = BETWEEN / 2, k = 0; k < HALVINGS; k++, step /= 2)
        for (const log of [best.log - step, best.log + step]) {
          const other = near(best, log)
          if (other.cost < best.cost) best = other
        }
      return best
    })
  const best = ended.reduce((p, q) => (q.cost < p.cost ? q : p))
  const beside = [-SLOPE, SLOPE].map((d) => near(best, best.log + d).cost)
  const rise = Math.min(...beside) - best.cost
  // As of any least squares; where the ends look unlike rings anyway, their misses say as much less.
  const sd = SLOPE * Math.sqrt(Math.max(1, best.cost) / Math.max(1e-6, rise))
  const value = diagonalPx * Math.exp(best.log)
  return { value, sd: value * Math.max(LEAST_SD, sd) }
}
