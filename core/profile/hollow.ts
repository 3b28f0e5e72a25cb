import { CoreError, type Problem } from '../errors'
import { plainMm } from '../units/format-length'
import { firstCrossing } from './check'
import { crossings } from './crossings'
import { roundEdges } from './edges'
import { extent, flatten } from './flatten'
import { beadedRim } from './rim-bead'
import { withPunt, type Punt } from './punt'
import { offsetSegments, straightOn, type OffsetSide } from './offset-segments'
import type { ProfileNode } from './profile'
import {
  backwards,
  endOf,
  lineSegment,
  partOf,
  pointOn,
  startOf,
  turnBetween,
  type Segment,
} from './segments'
import { mostThickness, thicknessAt, type Thickness } from './thickness'

/** The wall of a hollow piece by rule. */
export interface Wall extends Thickness {
  /** Of the bottom on the axis, mm. */
  floorMm: number
  /** The drawn curve is the outside and the wall lies within it, or the inside and the wall lies around it. */
  way: 'inwards' | 'outwards'
  lip: 'flat' | 'round' | 'bead'
  /** ⌀ of the bead, mm. */
  beadMm?: number
  punt?: Punt | null
  /** Inside, the neck is bored straight from its narrowest place to the rim. */
  bore: boolean
}

export interface HollowProfile {
  /** The closed chain: up the outside, over the rim, down the inside to the axis. */
  segments: Segment[]
  /** The outside from the axis to the rim, and the inside from the rim to the axis; the lip lies between them. */
  outside: Segment[]
  inside: Segment[]
  /** What the wall had to do without, in words. */
  notes: Problem[]
}

/** Bottoms are found among what lies this near to the foot, as a share of the height. */
const FOOT_SHARE = 0.25
/** Lines of less slope than this lie: a steeper one is a chamfer, and the wall keeps its distance from it. */
const LYING = 0.25
/** Distances to the wall are taken to chords; a place counts as far enough from this share of the thickness on. */
const ENOUGH = 0.996
/** Ends of pieces nearer than this share of the extent meet. */
const MEETS = 1e-6
/** Narrower than this share of the extent a mouth is closed. */
const PINHOLE = 1e-4
/** A lip is rounded up to this share of its breadth: a little flat keeps the two roundings apart. */
const ROUNDED = 0.49

/**
 * Hollows a closed, outwards oriented half-profile with a level mouth: the other side of the wall is the parallel curve at
 * the wall's thickness, cut off at floor and rim, with all that comes nearer to the wall removed.
 * @throws CoreError `no-mouth`, `wall-too-thick`
 */
export function hollowOut(segments: readonly Segment[], wall: Wall): HollowProfile {
  const { body, rim, mouthZ, note } = openMouth(segments)
  const bottom = startOf(body[0]!)[1]
  const side: OffsetSide = wall.way === 'inwards' ? 1 : -1
  const floorZ = bottom + side * wall.floorMm
  if (side === 1 && floorZ >= mouthZ)
    throw new CoreError({
      code: 'wall-too-thick',
      message: `The floor of ${plainMm(wall.floorMm)} mm is as thick as the piece is tall. Make it thinner.`,
      where: 'floor',
    })
  const own = withoutUnderside(body, mouthZ)
  let other = trace(own, wall, side, floorZ, mouthZ)
  if (!other)
    throw new CoreError({
      code: 'wall-too-thick',
      message: `At the rim (⌀ ${plainMm(2 * rim)} mm) there is no room for a wall of ${plainMm(thicknessAt(wall, mouthZ))} mm. Make it thinner there.`,
      where: 'wall',
    })
  const notes: Problem[] = note ? [note] : []
  const foot = startOf(other[0]!)
  if (side === 1 && foot[1] > floorZ + MEETS * extent(body))
    notes.push({
      code: 'solid-below',
      message: `Below a height of ${plainMm(foot[1])} mm the outside is too narrow for two walls: it is solid there.`,
      where: `z=${foot[1]}`,
    })
  if (wall.bore && side === 1) other = bored(other, mouthZ)
  const sides = {
    outside: side === 1 ? [...body] : other,
    inside: backwards(side === 1 ? other : body),
  }
  return withLip(bottomed(sides, wall, notes), wall, thicknessAt(wall, mouthZ), notes)
}

interface WallSides {
  outside: Segment[]
  inside: Segment[]
}

/** What can be made; where it can't be, what is without it, and why is noted. */
function orWithout<T>(without: T, notes: Problem[], make: () => T): T {
  try {
    return make()
  } catch (error) {
    if (!(error instanceof CoreError)) throw error
    notes.push(error)
    return without
  }
}

/** With its punt; where there is no room for it, without, and said. */
function bottomed(sides: WallSides, { punt, floorMm }: Wall, notes: Problem[]): WallSides {
  if (!punt) return sides
  return orWithout(sides, notes, () => withPunt(sides.outside, sides.inside, punt, floorMm))
}

/** The whole chain, its rim worked as asked for; where that can't be, flat, and said. */
function withLip({ outside, inside }: WallSides, wall: Wall, thick: number, notes: Problem[]): HollowProfile {
  const [a, b] = [endOf(outside[outside.length - 1]!), startOf(inside[0]!)]
  const rimLine = lineSegment(a, b, outside[outside.length - 1]!.index)
  const flat = { segments: [...outside, rimLine, ...inside], outside, inside, notes }
  if (wall.lip === 'flat') return flat
  return orWithout(flat, notes, () => {
    const made =
      wall.lip === 'bead'
        ? withBead(flat, wall.beadMm ?? 2 * thick)
        : { ...flat, segments: roundedLip(flat.segments, outside.length, thick) }
    if (!firstCrossing(flatten(made.segments).points)) return made
    throw new CoreError({
      code: 'lip-flat',
      message: 'The wall arrives at the rim too slantingly for its lip to be worked so; it stays flat.',
      where: 'lip',
    })
  })
}

function withBead(flat: HollowProfile, beadMm: number): HollowProfile {
  const { outside, bead, inside } = beadedRim(flat.outside, flat.inside, beadMm)
  return { ...flat, segments: [...outside, bead, ...inside], outside, inside }
}

/** A lid rises by no more than this share of its breadth: outlines of rims seen from a little above look so. */
const LID_SLOPE = 0.4
/** … and begins with a turn of at least this, radians: a dome has none. */
const LID_TURN = Math.PI / 6

/**
 * The curve without the lid that closes its top, and where its rim is: from the last sharp turn on all runs inwards and
 * nearly level, or exactly level lines end the curve.
 */
export function openMouth(segments: readonly Segment[]): {
  body: Segment[]
  rim: number
  mouthZ: number
  note?: Problem
} {
  const end = segments[segments.length - 1]
  const topZ = end ? endOf(end)[1] : 0
  const same = (a: number, b: number) => Math.abs(a - b) <= 1e-9 * extent(segments)
  const lies = (s: Segment) =>
    LID_SLOPE * (startOf(s)[0] - endOf(s)[0]) >= Math.abs(endOf(s)[1] - startOf(s)[1])
  const level = (s: Segment) => s.kind === 'line' && same(startOf(s)[1], topZ) && same(endOf(s)[1], topZ)
  const from = (is: (s: Segment) => boolean) => segments.findLastIndex((s) => !is(s)) + 1
  const sharp = segments.findIndex(
    (s, k) => k >= Math.max(1, from(lies)) && Math.abs(turnBetween(segments[k - 1]!, s)) >= LID_TURN,
  )
  const count = sharp > 0 ? sharp : from(level)
  if (count === segments.length || count === 0)
    throw new CoreError({
      code: 'no-mouth',
      message:
        'A hollow piece needs a mouth: let the half-profile end with a level line from the rim to the axis.',
      where: 'top',
    })
  const body = segments.slice(0, count)
  const [rim, mouthZ] = endOf(body[count - 1]!)
  if (same(mouthZ, topZ)) return { body, rim, mouthZ }
  const note = {
    code: 'mouth-levelled',
    message: `The mouth is taken to be level at the rim, at ${plainMm(mouthZ)} mm; what is drawn ${topZ > mouthZ ? 'above' : 'below'} it is left away.`,
    where: `z=${mouthZ}`,
  }
  return { body, rim, mouthZ, note }
}

/** What the wall follows: all but the bottom, which has a thickness of its own. */
function withoutUnderside(body: readonly Segment[], mouthZ: number): Segment[] {
  const bottom = Math.min(...body.map((s) => Math.min(startOf(s)[1], endOf(s)[1])))
  const near = bottom + FOOT_SHARE * (mouthZ - bottom)
  let from = 0
  body.forEach((s, k) => {
    const [a, b] = [startOf(s), endOf(s)]
    const lying = s.kind === 'line' && LYING * (b[0] - a[0]) > Math.abs(b[1] - a[1])
    if (lying && Math.max(a[1], b[1]) <= near && k + 1 < body.length) from = k + 1
  })
  return body.slice(from)
}

/** The other side of the wall, from the axis or the floor up to the rim; null when it doesn't reach the rim. */
function trace(
  own: readonly Segment[],
  wall: Wall,
  side: OffsetSide,
  floorZ: number,
  mouthZ: number,
): Segment[] | null {
  const size = extent(own) + mostThickness(wall)
  const raw = offsetSegments(own, wall, side)
  const widest = 2 * size
  const pieces = [
    lineSegment([0, floorZ], [widest, floorZ], 0),
    straightOn(raw, 'start', size),
    ...raw,
    straightOn(raw, 'end', size),
    lineSegment([widest, mouthZ], [0, mouthZ], 0),
    lineSegment([0, mouthZ + size], [0, floorZ - size], 0),
  ]
  const axis = pieces.length - 1
  const rim = axis - 1
  const cuts = pieces.map(() => [0, 1])
  for (const { a, b, ta, tb } of crossings(pieces, 1e-4 * mostThickness(wall))) {
    cuts[a]!.push(ta)
    cuts[b]!.push(tb)
  }
  const far = farEnough(own, wall)
  const parts = pieces.slice(0, rim).flatMap((piece, k) => {
    const places = [...new Set(cuts[k])].sort((a, b) => a - b)
    return places.slice(1).flatMap((t, i) => {
      if (t - places[i]! < 1e-9) return []
      const part = partOf(piece, places[i]!, t)
      const middle = pointOn(part, 0.5)
      const within = middle[0] > 0 && middle[1] > floorZ - MEETS * size && middle[1] < mouthZ + MEETS * size // prettier-ignore
      return within && far(middle) ? [part] : []
    })
  })
  const meets = (p: readonly [number, number], q: readonly [number, number]) => Math.hypot(p[0] - q[0], p[1] - q[1]) <= MEETS * size // prettier-ignore
  // From the rim down, always on from what ends where the last one begins; the last that reaches the rim is the wall's.
  const top = parts.findLastIndex((part) => Math.abs(endOf(part)[1] - mouthZ) <= MEETS * size)
  // A mouth that the wall leaves no more than a pinhole of is none.
  if (top < 0 || endOf(parts[top]!)[0] <= PINHOLE * size) return null
  const chain = [parts[top]!]
  const left = new Set(parts.map((_, i) => i).filter((i) => i !== top))
  for (;;) {
    const start = startOf(chain[0]!)
    if (start[0] <= MEETS * size) break
    const next = [...left].find((i) => meets(endOf(parts[i]!), start))
    if (next === undefined) return null
    left.delete(next)
    chain.unshift(parts[next]!)
  }
  return closedUp(chain, mouthZ)
}

/** The chain with its ends exactly on the axis and at the rim, and each part beginning where the one before it ends. */
function closedUp(chain: readonly Segment[], mouthZ: number): Segment[] {
  const out: Segment[] = []
  chain.forEach((s, k) => {
    const before = out[k - 1]
    const after = chain[k + 1]
    const from = before ? endOf(before) : ([0, startOf(s)[1]] as const)
    const to = after ? meeting(s, after) : ([straight(s, 0) ? startOf(s)[0] : endOf(s)[0], mouthZ] as const)
    out.push(withEnds(s, from, to))
  })
  return out
}

/** True for a line along which a coordinate (0 = r, 1 = z) stays the same. */
function straight(s: Segment, coordinate: 0 | 1): boolean {
  return s.kind === 'line' && s.cubic[coordinate] === s.cubic[6 + coordinate]
}

/** Where two parts meet: upright and level lines say it exactly. */
function meeting(a: Segment, b: Segment): readonly [number, number] {
  const [p, q] = [endOf(a), startOf(b)]
  const of = (coordinate: 0 | 1) => (straight(b, coordinate) && !straight(a, coordinate) ? q : p)[coordinate]
  return [of(0), of(1)]
}

/** A segment with its ends moved by what rounding left. */
function withEnds(
  s: Segment,
  [ar, az]: readonly [number, number],
  [br, bz]: readonly [number, number],
): Segment {
  if (s.kind === 'line') return lineSegment([ar, az], [br, bz], s.index)
  if (s.kind === 'arc') return { ...s, ends: [ar, az, br, bz], span: undefined }
  const c = s.cubic
  return { ...s, span: undefined, cubic: [ar, az, c[2], c[3], c[4], c[5], br, bz] }
}

/** Whether a place is as far from the wall's own side as the wall is thick. */
function farEnough(own: readonly Segment[], wall: Wall): (p: readonly [number, number]) => boolean {
  const { points } = flatten(own, { toleranceMm: 1e-3 * mostThickness(wall) })
  const n = points.length / 2 - 1
  return ([r, z]) => {
    for (let i = 0; i < n; i++) {
      const [a, b] = [points[2 * i]!, points[2 * i + 1]!]
      const [dr, dz] = [points[2 * i + 2]! - a, points[2 * i + 3]! - b]
      const square = dr * dr + dz * dz
      const t = square > 0 ? Math.max(0, Math.min(1, ((r - a) * dr + (z - b) * dz) / square)) : 0
      const at = b + t * dz
      if (Math.hypot(r - a - t * dr, z - at) < ENOUGH * thicknessAt(wall, at)) return false
    }
    return true
  }
}

/** The inside with a straight bore from the narrowest place above its widest one up to the rim. */
function bored(inside: readonly Segment[], mouthZ: number): Segment[] {
  const STEPS = 32
  let widest = { k: 0, r: -1 }
  inside.forEach((s, k) => {
    for (let i = 0; i <= STEPS; i++) {
      const r = pointOn(s, i / STEPS)[0]
      if (r > widest.r) widest = { k, r }
    }
  })
  let narrow = { k: inside.length - 1, t: 1, r: Infinity }
  inside.forEach((s, k) => {
    if (k <= widest.k) return
    for (let i = 0; i <= STEPS; i++) {
      const r = pointOn(s, i / STEPS)[0]
      if (r < narrow.r - 1e-9) narrow = { k, t: i / STEPS, r }
    }
  })
  if (!Number.isFinite(narrow.r)) return [...inside]
  const kept = [
    ...inside.slice(0, narrow.k),
    ...(narrow.t > 0 ? [partOf(inside[narrow.k]!, 0, narrow.t)] : []),
  ]
  const [r, z] = kept.length > 0 ? endOf(kept[kept.length - 1]!) : startOf(inside[0]!)
  return z < mouthZ ? [...kept, lineSegment([r, z], [r, mouthZ], inside[narrow.k]!.index)] : kept
}

/** The chain with both edges of the rim rounded. @param rim index of the rim's line */
function roundedLip(chain: readonly Segment[], rim: number, thick: number): Segment[] {
  const [a, b] = [startOf(chain[rim]!), endOf(chain[rim]!)]
  // Across a slanting wall the rim is broader than the wall is thick.
  const mm = ROUNDED * Math.min(thick, Math.abs(a[0] - b[0]))
  if (!(mm > 0)) return [...chain]
  const numbered = chain.map((s, index) => ({ ...s, index }) as Segment)
  const nodes = numbered.map((_, i): ProfileNode => ({ id: String(i), r: 0, z: 0, joint: 'corner', next: 'line', ...(i === rim || i === rim + 1 ? { edge: { kind: 'fillet', mm } } : {}) })) // prettier-ignore
  return roundEdges(numbered, nodes).segments
}
