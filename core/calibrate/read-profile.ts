import { endLevel, fitEnd, type FittedEnd } from '../camera/fit-end'
import { grazingRays, radiusAt } from '../camera/envelope'
import { halfOutline, type HalfOutline, type PointState, type SideChoice } from '../camera/half-outline'
import type { View } from '../camera/view'
import type { OutlineSide } from '../outline/refine'

/** A half-profile read off an outline, from the axis at the foot out and up to the axis at the top. */
export interface ReadProfile {
  /** [r, z], mm. */
  points: [number, number][]
  /** Standard error across the profile at each point, mm, and who vouches for it. */
  sd: number[]
  states: (PointState | 'assumed')[]
  foot: number
  top: number
  half: HalfOutline
  ends: { foot: FittedEnd | null; top: FittedEnd | null }
}

export interface ReadOptions {
  /** Heights of foot and top where they are known otherwise, mm. Default: as the outline closes. */
  foot?: number
  top?: number
  choices?: readonly SideChoice[]
}

/** Steps over the height; chords then stay within 0.01 % of it for curves as sharp as one sees. */
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
  const half = halfOutline(view, sides.left, sides.right, options.choices)
  return view.kind === 'near' ? throughCamera(view.distance, view.height, half, options) : byScale(half, options)
}

function throughCamera(
  distance: number,
  height: number,
  half: HalfOutline,
  options: ReadOptions,
): ReadProfile {
  const ends = { foot: fitEnd(half, 'foot'), top: fitEnd(half, 'top') }
  const rays = grazingRays(half.points)
  const px = 1 / half.pxPerUnit
  const n = half.points.length
  // Without a fit the crossing itself stands in.
  const low = ends.foot ? endLevel(ends.foot, 'foot') : half.points[1]!
  const high = ends.top ? endLevel(ends.top, 'top') : half.points[n - 1]!
  const foot = options.foot === undefined ? low : (options.foot - height) / distance
  const top = options.top === undefined ? high : (options.top - height) / distance
  const capped = (z: number) => Math.min(dome(ends.foot, 'foot', z), dome(ends.top, 'top', z))
  const at = (z: number): Row => {
    const { r, from } = radiusAt(rays, z)
    const cap = capped(z)
    return cap < r ? { z, r: cap, from, capped: true } : { z, r, from, capped: false }
  }
  const rows = refined(at, foot + END_PX * px, top - END_PX * px, top - foot)
  const mm = (z: number) => height + distance * z
  const out: ReadProfile = {
    points: [],
    sd: [],
    states: [],
    foot: mm(foot),
    top: mm(top),
    half,
    ends,
  }
  const push = (r: number, z: number, sd: number, state: PointState | 'assumed') => {
    out.points.push([distance * r, mm(z)])
    out.sd.push(sd)
    out.states.push(state)
  }
  if (rows.length === 0) return out
  push(0, foot, Infinity, 'assumed')
  // A dome closes by itself; anything else ends flat.
  closing(ends.foot, 'foot', foot, rows[0]!).forEach(([r, z]) => push(r, z, Infinity, 'assumed'))
  for (const { r, z, from, capped } of rows) {
    if (!Number.isFinite(r)) continue
    const sd = from < 0 ? Infinity : (half.sd[from]! / half.pxPerUnit) * distance
    push(r, z, sd, capped ? 'assumed' : (half.states[from] ?? 'bridged'))
  }
  closing(ends.top, 'top', top, rows[rows.length - 1]!).forEach(([r, z]) => push(r, z, Infinity, 'assumed'))
  push(0, top, Infinity, 'assumed')
  return out
}

interface Row {
  z: number
  r: number
  from: number
  capped: boolean
}

function refined(at: (z: number) => Row, low: number, high: number, tall: number): Row[] {
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
  for (let k = 1; k <= ROWS; k++) {
    const row = at(low + ((high - low) * k) / ROWS)
    between(before, row)
    rows.push(row)
    before = row
  }
  return rows
}

/** Largest radius that a fitted rounding allows at a height beyond its middle, where rays can't follow it to its end. */
function dome(end: FittedEnd | null, which: 'foot' | 'top', z: number): number {
  if (!end) return Infinity
  const beyond = which === 'foot' ? end.z - z : z - end.z
  if (beyond < BEYOND * end.rounding || beyond > end.rounding) return Infinity
  return end.r + Math.sqrt(end.rounding ** 2 - beyond ** 2)
}

/** Beyond 45° the rounding leads. */
const BEYOND = Math.SQRT1_2

/** What lies between the last row and the axis. */
function closing(
  end: FittedEnd | null,
  which: 'foot' | 'top',
  level: number,
  last: Row,
): [number, number][] {
  if (!end || end.rounding === 0) return [[last.r, level]]
  const arc: [number, number][] = []
  const sign = which === 'foot' ? -1 : 1
  const from = Math.min(1, Math.max(0, (sign * (last.z - end.z)) / end.rounding))
  const STEPS = 12
  for (let k = STEPS; k >= 0; k--) {
    const a = Math.asin(from) + ((Math.PI / 2 - Math.asin(from)) * k) / STEPS
    const r = Math.min(last.r, end.r + end.rounding * Math.cos(a))
    arc.push([r, Math.abs(level - (end.z + sign * end.rounding)) < 1e-12 ? end.z + sign * end.rounding * Math.sin(a) : level]) // prettier-ignore
  }
  return which === 'foot' ? arc : arc.reverse()
}

function byScale(half: HalfOutline, { foot, top }: ReadOptions): ReadProfile {
  const n = half.points.length / 2
  const low = foot ?? half.points[1]!
  const high = top ?? half.points[2 * n - 1]!
  const out: ReadProfile = {
    points: [],
    sd: [],
    states: [],
    foot: low,
    top: high,
    half,
    ends: { foot: null, top: null },
  }
  const push = (r: number, z: number, sd: number, state: PointState | 'assumed') => {
    out.points.push([r, z])
    out.sd.push(sd)
    out.states.push(state)
  }
  push(0, low, Infinity, 'assumed')
  let first = true
  let lastR = 0
  for (let i = 0; i < n; i++) {
    const [r, z] = [half.points[2 * i]!, half.points[2 * i + 1]!]
    if (z < low || z > high) continue
    if (first) push(r, low, Infinity, 'assumed')
    first = false
    lastR = r
    push(r, z, half.sd[i]! / half.pxPerUnit, half.states[i]!)
  }
  push(lastR, high, Infinity, 'assumed')
  push(0, high, Infinity, 'assumed')
  return out
}
