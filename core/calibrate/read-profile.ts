import { endLevel, fitEnd, type FittedEnd } from '../camera/fit-end'
import { grazingRays, radiusAt } from '../camera/envelope'
import {
  halfOutline,
  type HalfOutline,
  type OneSideReason,
  type PointState,
  type SideChoice,
} from '../camera/half-outline'
import type { End } from '../camera/rounded-ring'
import type { NearView, View } from '../camera/view'
import type { OutlineSide } from '../outline/refine'
import { levelEnd } from './level-end'

/** A half-profile read off an outline, from the axis at the foot out and up to the axis at the top. */
export interface ReadProfile {
  /** [r, z], mm. */
  points: [number, number][]
  /** Standard error across the profile at each point, mm, camera and scale included, and who vouches for it. */
  sd: number[]
  states: (PointState | 'assumed')[]
  /** Of points that one side alone vouches for: why. */
  reasons: (OneSideReason | null)[]
  foot: number
  top: number
  half: HalfOutline
  ends: { foot: FittedEnd | null; top: FittedEnd | null }
}

export interface ReadOptions {
  /** Of a distant view: heights of foot and top where they are known otherwise, mm. Default: the ground, or where the outline closes above it; the ring that closes it, or where it crosses the axis. */
  foot?: number
  top?: number
  /** Which side to believe between two heights, mm. */
  choices?: readonly SideChoice[]
  /** Rows over the height. Default 1200: chords then stay within 0.01 % of it for curves as sharp as one sees. */
  rows?: number
}

const ROWS = 1200
/** Where the radius jumps by more than this share of the height, rows are put between. */
const JUMP = 0.002
const LEAST_ROW = 1e-5
/** Rows begin so far from the ends, px: nearer, a closing ray's noise counts for more than the surface. */
const END_PX = 0.7

/**
 * The half-profile that an outline shows through a solved view. Near: the envelope of all rays, and at the ends the
 * rounded edges fitted to the closing arcs. Distant: the outline itself by the scale, between foot and top.
 */
export function readProfile(
  view: View,
  sides: { left: OutlineSide; right: OutlineSide },
  options: ReadOptions = {},
): ReadProfile {
  const choices = (options.choices ?? []).map((c) => ({
    ...c,
    from: levelOf(view, c.from),
    to: levelOf(view, c.to),
  }))
  const half = halfOutline(view, sides.left, sides.right, choices)
  const sd = edgeErrors(half)
  if (view.kind === 'distant') return byScale(half, sd, options)
  const read = throughCamera(view, half, sd, options)
  return { ...read, sd: withScaleError(read, view.pitchSd ?? 0) }
}

/**
 * What the noise along an edge doesn't show: light, shading and the lens move edges by this, px (from the bench of made-up
 * photos).
 */
const EDGE_FLOOR_PX = 0.12
/** Left and right are compared over so many neighbours on either side. */
const COMPARED = 20
/** Half of what the sides differ by is the error of their mean; differences beyond this, px, are a handle's. */
const MOST_DIFFERENCE_PX = 12

/** Standard errors of the half-outline's points, px, with half the root mean square difference of the two sides near each. */
function edgeErrors({ difference, sd }: HalfOutline): Float64Array {
  const out = new Float64Array(difference.length)
  for (let i = 0; i < difference.length; i++) {
    let [sum, count] = [0, 0]
    for (let k = Math.max(0, i - COMPARED); k <= Math.min(difference.length - 1, i + COMPARED); k++) {
      const d = difference[k]!
      if (Number.isNaN(d)) continue
      sum += Math.min(Math.abs(d), MOST_DIFFERENCE_PX) ** 2
      count++
    }
    out[i] = Math.hypot(sd[i]!, EDGE_FLOOR_PX, count > 0 ? Math.sqrt(sum / count) / 2 : 0)
  }
  return out
}

/** Standard errors with that of the scale: a pitch that is off shifts foot and top by their radii against each other, and with the height all radii. */
function withScaleError({ points, sd, foot, top }: ReadProfile, pitchSd: number): number[] {
  const near = (level: number) => Math.max(0, ...points.filter(([, z]) => Math.abs(z - level) < 0.02 * (top - foot)).map((p) => p[0])) // prettier-ignore
  const shift = (near(foot) + near(top)) * pitchSd
  return points.map(([r], i) => Math.hypot(sd[i]!, (r * shift) / (top - foot)))
}

/** A height, mm, in the unit of the half-outline. */
function levelOf(view: View, mm: number): number {
  return view.kind === 'near' ? (mm - view.height) / view.distance : mm
}

/** Collects points from foot to top. `push` takes mm; places without a standard error or a voucher are assumed. */
function profileOf(foot: number, top: number, half: HalfOutline, ends: ReadProfile['ends']) {
  const read: ReadProfile = { points: [], sd: [], states: [], reasons: [], foot, top, half, ends }
  const push = (
    r: number,
    z: number,
    sd = Infinity,
    state: PointState | 'assumed' = 'assumed',
    reason: OneSideReason | null = null,
  ) => {
    read.points.push([r, z])
    read.sd.push(sd)
    read.states.push(state)
    read.reasons.push(reason)
  }
  return { read, push }
}

function throughCamera(
  { distance, height }: NearView,
  half: HalfOutline,
  edgeSd: Float64Array,
  { rows: count = ROWS }: ReadOptions,
): ReadProfile {
  const ends = { foot: fitEnd(half, 'foot'), top: fitEnd(half, 'top') }
  const rays = grazingRays(half.points)
  const px = 1 / half.pxPerUnit
  // Without a fit the crossing itself stands in.
  const foot = ends.foot ? endLevel(ends.foot, 'foot') : half.points[1]!
  const top = ends.top ? endLevel(ends.top, 'top') : half.points[half.points.length - 1]!
  /** True for rays that pass over an end near the axis, and where none comes: what lies beyond isn't seen. */
  const isClosing = (from: number, z: number) => {
    const end = z < (foot + top) / 2 ? ends.foot : ends.top
    return from < 0 || !end || half.points[2 * from]! < CLOSING_SHARE * (end.r + end.rounding)
  }
  const at = (z: number): Row => {
    const { r, from } = radiusAt(rays, z)
    const cap = Math.min(dome(ends.foot, 'foot', z), dome(ends.top, 'top', z))
    // Where rays graze the rounding they know it better than the circle that was laid through it.
    const led = cap < r && (r - cap < SAME_PX * px || isClosing(from, z))
    return led ? { z, r: cap, from, capped: true } : { z, r, from, capped: false }
  }
  const rows = refined(at, foot + END_PX * px, top - END_PX * px, top - foot, count)
  const hidden = hiddenRows(rows, half.points, px)
  const mm = (z: number) => height + distance * z
  const { read, push } = profileOf(mm(foot), mm(top), half, ends)
  if (rows.length === 0) return read
  const assume = ([r, z]: [number, number]) => push(distance * r, mm(z))
  push(0, mm(foot))
  // A dome closes by itself; anything else ends flat.
  closing(ends.foot, 'foot', foot, rows[0]!).forEach(assume)
  rows.forEach(({ r, z, from, capped }, i) => {
    if (!Number.isFinite(r)) return
    const sd = from < 0 ? Infinity : edgeSd[from]! * px * distance
    const state = capped || hidden[i] ? 'assumed' : (half.states[from] ?? 'bridged')
    push(distance * r, mm(z), sd, state, half.reasons[from] ?? null)
  })
  closing(ends.top, 'top', top, rows[rows.length - 1]!).forEach(assume)
  push(0, mm(top))
  return read
}

interface Row {
  z: number
  r: number
  from: number
  capped: boolean
}

function refined(at: (z: number) => Row, low: number, high: number, tall: number, count: number): Row[] {
  if (!(high > low)) return []
  const rows: Row[] = []
  const between = (a: Row, b: Row) => {
    if (Math.abs(b.r - a.r) > JUMP * tall && b.z - a.z > LEAST_ROW * tall) {
      const middle = at((a.z + b.z) / 2)
      between(a, middle)
      rows.push(middle)
      between(middle, b)
    }
  }
  let before = at(low)
  rows.push(before)
  for (let k = 1; k <= count; k++) {
    const row = at(low + ((high - low) * k) / count)
    between(before, row)
    rows.push(row)
    before = row
  }
  return rows
}

/** A place of the outline that rules rows over so many px more than it is high itself hides what lies behind it. */
const HIDDEN_PX = 3
/** Points so near to each other on the outline are one place. */
const SAME_PLACE = 2

/**
 * Rows whose radius comes from one and the same place of the outline, row after row: a ray that passes over an edge and
 * grazes nothing else. The surface behind it is hidden; the radius is the largest it may have.
 * @param points [X W ...] of the outline
 */
function hiddenRows(rows: readonly Row[], points: Float64Array, px: number): boolean[] {
  const out = rows.map(() => false)
  const levelAt = (i: number) => points[2 * Math.max(0, i) + 1] ?? points.at(-1)!
  let start = 0
  for (let i = 1; i <= rows.length; i++) {
    if (i < rows.length && Math.abs(rows[i]!.from - rows[start]!.from) <= SAME_PLACE) continue
    const place = rows.slice(start, i).map(({ from }) => from)
    const high = Math.abs(levelAt(Math.max(...place) + 1) - levelAt(Math.min(...place)))
    if (rows[i - 1]!.z - rows[start]!.z > high + HIDDEN_PX * px) out.fill(true, start, i)
    start = i
  }
  return out
}

/** Largest radius that a fitted rounding allows at a height beyond its middle, where rays can't follow it to its end. */
function dome(end: FittedEnd | null, which: End, z: number): number {
  if (!end) return Infinity
  const beyond = which === 'foot' ? end.z - z : z - end.z
  if (beyond < BEYOND * end.rounding || beyond > end.rounding) return Infinity
  return end.r + Math.sqrt(end.rounding ** 2 - beyond ** 2)
}

/** Rays within this share of an end's half-width from the axis pass over it. */
const CLOSING_SHARE = 0.2
/** Where the two differ by less than this, px, the rounding's smooth circle stands for noisy rays. */
const SAME_PX = 1

/** Beyond 45° the rounding leads. */
const BEYOND = Math.SQRT1_2

/** Points of a rounding between the last row and the axis. */
const CLOSING_STEPS = 12

/** What lies between the last row and the axis. */
function closing(end: FittedEnd | null, which: End, level: number, last: Row): [number, number][] {
  if (!end || end.rounding === 0) return [[last.r, level]]
  const sign = which === 'foot' ? -1 : 1
  const from = Math.asin(Math.min(1, Math.max(0, (sign * (last.z - end.z)) / end.rounding)))
  const arc: [number, number][] = []
  for (let k = CLOSING_STEPS; k >= 0; k--) {
    const a = from + ((Math.PI / 2 - from) * k) / CLOSING_STEPS
    arc.push([
      Math.min(last.r, end.r + end.rounding * Math.cos(a)),
      end.z + sign * end.rounding * Math.sin(a),
    ])
  }
  return which === 'foot' ? arc : arc.reverse()
}

/** Of the height: nearer to each other two levels are one. */
const LEVEL_SHARE = 1e-9

/** Level of the ring that closes the outline at the top, mm; null where none does. */
function topLevel({ points, sd, pxPerUnit }: HalfOutline): number | null {
  const seen: number[] = []
  for (let i = sd.length - 1; i >= 0; i--)
    if (Number.isFinite(sd[i]!)) seen.push(points[2 * i]! * pxPerUnit, points[2 * i + 1]! * pxPerUnit)
  const level = seen.length > 0 ? levelEnd(Float64Array.from(seen)) : null
  return level === null ? null : level / pxPerUnit
}

function byScale(half: HalfOutline, edgeSd: Float64Array, options: ReadOptions): ReadProfile {
  const n = half.points.length / 2
  // The near edge of a foot seen from above hangs below the ground; the foot itself stands on it.
  const { foot = Math.max(0, half.points[1]!), top = topLevel(half) ?? half.points[2 * n - 1]! } = options
  const { read, push } = profileOf(foot, top, half, { foot: null, top: null })
  push(0, foot)
  let lastR: number | null = null
  for (let i = 0; i < n; i++) {
    const [r, z] = [half.points[2 * i]!, half.points[2 * i + 1]!]
    // Points of the end's own level belong to it, whatever rounding says.
    if (z < foot || z > top + LEVEL_SHARE * (top - foot)) continue
    if (lastR === null) push(r, foot)
    lastR = r
    push(r, z, edgeSd[i]! / half.pxPerUnit, half.states[i]!, half.reasons[i] ?? null)
  }
  push(lastR ?? 0, top)
  push(0, top)
  return read
}
