import type { PicturePoint } from '../conventions'
import { smoothChain } from '../outline/chain'
import { undistort } from './lens'
import { rayOf, toPlane, type NearView, type View } from './view'

export interface SideProfileOptions {
  /** Heights of foot and top on the axis, mm; what is read beyond them belongs to the rings' far or near halves. */
  foot: number
  top: number
  /** Standard deviation of the smoothing along the outline, in points. Default 3. */
  smoothing?: number
}

/** Directions before and after a point that differ by more than this make a corner, which smoothing doesn't cross. */
const CORNER = (30 * Math.PI) / 180
/** Directions are taken over so many points on either side. */
const DIRECTION_POINTS = 5
/**
 * Contacts farther to the front or the back of the axis than this sine of their azimuth are left out: there the outline
 * runs along a ring or over a dome, and a degree of the tangent's direction moves them by several percent of the height.
 */
const MOST_ASIDE = 0.6
/** Rays that graze a nearly level part say nothing of where they touch it. */
const LEAST_SINE = 0.02

/**
 * The half-profile [r z ...] that one side of an outline shows, from foot to top: for a near view every point's ray and
 * tangent give the place where the surface touches the plane of sight (Wong, Mendonça & Cipolla 2003, from memory: the
 * surface's normal there meets the axis); for a distant view the point itself.
 * @param side picture points [x y ...] in order along the outline, from the lower axis crossing to the upper one
 */
export function sideProfile(view: View, side: Float64Array, options: SideProfileOptions): Float64Array {
  const { foot, top, smoothing = 3 } = options
  const out: number[] = []
  const air = 0.002 * (top - foot)
  const keep = (r: number, z: number) => {
    if (Number.isFinite(r) && z > foot - air && z < top + air) out.push(r, Math.min(top, Math.max(foot, z)))
  }
  for (const piece of pieces(undistorted(view, side), smoothing)) {
    const n = piece.length / 2
    for (let i = 0; i < n; i++) {
      const p = { x: piece[2 * i]!, y: piece[2 * i + 1]! }
      if (view.kind === 'distant') {
        const { x, z } = toPlane({ ...view, lens: null }, p)
        keep(Math.abs(x), z)
        continue
      }
      const a = Math.max(0, i - 2)
      const b = Math.min(n - 1, i + 2)
      const t = { x: piece[2 * b]! - piece[2 * a]!, y: piece[2 * b + 1]! - piece[2 * a + 1]! }
      const touch = contact(view, p, t)
      if (touch) keep(touch.r, touch.z)
    }
  }
  return Float64Array.from(out)
}

/** Where the plane through the eye that touches the surface along a picture tangent meets it. */
function contact(view: NearView, p: PicturePoint, t: PicturePoint): { r: number; z: number } | null {
  const { eye, distance, height } = view
  const d = rayOf(eye, p)
  const w = [0, 1, 2].map((k) => {
    const axis = [eye.right, eye.away, eye.up][k]!
    return axis[0] * t.x + axis[1] * t.y
  }) as [number, number, number]
  const n = [d[1] * w[2] - d[2] * w[1], d[2] * w[0] - d[0] * w[2]] as const
  const nz = d[0] * w[1] - d[1] * w[0]
  const cross = d[0] * n[1] - d[1] * n[0]
  if (Math.abs(cross) < LEAST_SINE * Math.hypot(...d) * Math.hypot(n[0], n[1], nz)) return null
  // The eye stands at (0, -distance): its cross product with n is distance · n_x.
  const along = -(distance * n[0]) / cross
  if (!(along > 0)) return null
  const y = along * d[1] - distance
  const r = Math.hypot(along * d[0], y)
  return Math.abs(y) <= MOST_ASIDE * r ? { r, z: height + along * d[2] } : null
}

function undistorted(view: View, side: Float64Array): Float64Array {
  if (!view.lens) return side
  const out = new Float64Array(side.length)
  for (let i = 0; i < side.length; i += 2) {
    const p = undistort(view.lens, { x: side[i]!, y: side[i + 1]! })
    out[i] = p.x
    out[i + 1] = p.y
  }
  return out
}

/** The chain cut at its corners, each piece smoothed by itself. */
function pieces(points: Float64Array, sigma: number): Float64Array[] {
  const n = points.length / 2
  const rough = smoothChain(points, 1.5)
  const turn = (i: number): number => {
    const a = Math.max(0, i - DIRECTION_POINTS)
    const b = Math.min(n - 1, i + DIRECTION_POINTS)
    const [ux, uy] = [rough[2 * i]! - rough[2 * a]!, rough[2 * i + 1]! - rough[2 * a + 1]!]
    const [vx, vy] = [rough[2 * b]! - rough[2 * i]!, rough[2 * b + 1]! - rough[2 * i + 1]!]
    return Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy))
  }
  const cuts = [0]
  for (let i = DIRECTION_POINTS; i < n - DIRECTION_POINTS; i++) {
    const here = turn(i)
    if (here < CORNER || here < turn(i - 1) || here < turn(i + 1)) continue
    if (i - cuts[cuts.length - 1]! >= DIRECTION_POINTS) cuts.push(i)
  }
  cuts.push(n - 1)
  return cuts
    .slice(1)
    .map((end, k) => smoothChain(points.subarray(2 * cuts[k]!, 2 * end + 2), sigma))
    .filter((piece) => piece.length >= 4)
}

/**
 * The mean of two half-profiles [r z ...] of one piece: each point of the first moves half-way to the second where that
 * is near, and stays where it isn't (a handle, a shadow on one side).
 * @param reach how far the two may differ, mm
 */
export function meanProfile(a: Float64Array, b: Float64Array, reach: number): Float64Array {
  const out = a.slice()
  if (b.length < 4) return out
  let near = 0
  for (let i = 0; i < a.length; i += 2) {
    let best = reach * reach
    let at: [number, number] | null = null
    const from = Math.max(0, near - 120)
    const to = Math.min(b.length - 4, near + 240)
    for (let j = from; j <= to; j += 2) {
      const [r0, z0] = [b[j]!, b[j + 1]!]
      const [dr, dz] = [b[j + 2]! - r0, b[j + 3]! - z0]
      const l2 = dr * dr + dz * dz || 1e-18
      const t = Math.max(0, Math.min(1, ((a[i]! - r0) * dr + (a[i + 1]! - z0) * dz) / l2))
      const d2 = (a[i]! - r0 - t * dr) ** 2 + (a[i + 1]! - z0 - t * dz) ** 2
      if (d2 < best) {
        best = d2
        at = [r0 + t * dr, z0 + t * dz]
        near = j
      }
    }
    if (at) {
      out[i] = (a[i]! + at[0]) / 2
      out[i + 1] = (a[i + 1]! + at[1]) / 2
    }
  }
  return out
}
