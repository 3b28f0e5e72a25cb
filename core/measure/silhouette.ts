import type { PicturePoint } from '../conventions'
import { undistort } from '../camera/lens'
import { acrossOf, rayOf, type Vec, type View } from '../camera/view'
import { signedPlace } from '../profile/nearest-chord'

/** How far an edge seen in the photo lies from the silhouette of the solid; positive: outside of it. */
export interface EdgeMiss {
  px: number
  mm: number
  /** Height of the place of the solid that is nearest, mm. */
  z: number
}

/**
 * How far picture points lie from the silhouette that a view shows of a revolved profile: the ray of each point is followed
 * past the solid, and its least distance to the surface taken (negative where it goes in: how deep). Nothing is drawn for it;
 * the chords of the profile are the geometry. From mm to px by the depth of that place, to first order.
 * @param points undistorted by this function; px
 * @param profiles the filled, closed half-profiles [r z ...], mm, each from its lower axis end to its upper one: of the body and
 *   of all that is turned about the same axis; their silhouettes count as one
 */
export function silhouetteMisses(
  view: View,
  points: readonly PicturePoint[],
  profiles: readonly Float64Array[],
): EdgeMiss[] {
  const reach = Math.max(...profiles.map(reachOf))
  const rims = profiles.map(outermost)
  return points.map((p) => {
    const ray = rayThrough(view, undistort(view.lens, p))
    const { distance, z, t } = nearestPass(ray, profiles, rims, reach)
    const pxPerMm = view.kind === 'distant' ? 1 / view.mmPerPx : view.eye.f / t
    return { mm: distance, px: distance * pxPerMm, z }
  })
}

/** A line of sight: where it is at depth t from the eye (near), or t mm behind the axis plane (distant). */
interface Ray {
  from: Vec
  along: Vec
  /** Depth at which it passes nearest to the axis. */
  middle: number
  /** Depth per mm of way. */
  perMm: number
}

function rayThrough(view: View, p: PicturePoint): Ray {
  if (view.kind === 'near') {
    const from: Vec = [0, -view.distance, view.height]
    const along = rayOf(view.eye, p)
    const level = along[0] * along[0] + along[1] * along[1]
    return { from, along, middle: (view.distance * along[1]) / level, perMm: 1 / Math.hypot(...along) }
  }
  const across = acrossOf(view)
  const [dx, dy] = [p.x - view.origin.x, p.y - view.origin.y]
  const x = (dx * across.x + dy * across.y) * view.mmPerPx
  const z = (dx * view.up.x + dy * view.up.y) * view.mmPerPx
  return { from: [x, 0, z], along: [0, 1, 0], middle: 0, perMm: 1 }
}

/** Places along a ray that are looked at before the nearest are followed up. */
const PLACES = 96
/** So many of the nearest are. */
const FOLLOWED = 3
/** Golden sections: each leaves 0.62 of the range, these a millionth. */
const SECTIONS = 30
const GOLDEN = (Math.sqrt(5) - 1) / 2

/** Where a ray passes nearest to the solid, or deepest through it. */
function nearestPass(
  { from, along, middle, perMm }: Ray,
  profiles: readonly Float64Array[],
  rims: readonly Outermost[],
  reach: number,
) {
  const at = (t: number): [number, number] => [
    Math.hypot(from[0] + t * along[0], from[1] + t * along[1]),
    from[2] + t * along[2],
  ]
  /** From the nearest of them: of bodies together that is the distance. */
  const nearestAt = (t: number) => {
    const [r, z] = at(t)
    const each = profiles.map((profile) => signedPlace(profile, r, z))
    return each.reduce((a, b) => (b.distance < a.distance ? b : a))
  }
  const distanceAt = (t: number) => nearestAt(t).distance
  // A distant view's ray may be nearest before the axis or behind it alike: one half is enough.
  const first = middle - reach * perMm
  const step = (2 * reach * perMm) / (PLACES - 1)
  const rough = Array.from({ length: PLACES }, (_, k) => {
    const [r, z] = at(first + k * step)
    return Math.min(...rims.map((rim) => rim.roughDistance(r, z)))
  })
  const lows = rough
    .map((d, k) => ({ d, k }))
    .filter(({ d, k }) => d <= (rough[k - 1] ?? Infinity) && d <= (rough[k + 1] ?? Infinity))
    .sort((a, b) => a.d - b.d)
    .slice(0, FOLLOWED)
  let best = { distance: Infinity, t: middle }
  for (const { k } of lows) {
    let [low, high] = [first + (k - 1) * step, first + (k + 1) * step]
    let [a, b] = [high - GOLDEN * (high - low), low + GOLDEN * (high - low)]
    let [fa, fb] = [distanceAt(a), distanceAt(b)]
    for (let n = 0; n < SECTIONS; n++) {
      if (fa < fb) {
        ;[high, b, fb] = [b, a, fa]
        a = high - GOLDEN * (high - low)
        fa = distanceAt(a)
      } else {
        ;[low, a, fa] = [a, b, fb]
        b = low + GOLDEN * (high - low)
        fb = distanceAt(b)
      }
    }
    const found = fa < fb ? { distance: fa, t: a } : { distance: fb, t: b }
    if (found.distance < best.distance) best = found
  }
  return { ...best, z: nearestAt(best.t).at[1] }
}

interface Outermost {
  /** Distance outwards from the outermost surface at that height; beyond the ends also by the height. */
  roughDistance(r: number, z: number): number
}

const LEVELS = 800

/** The largest radius by height, in even steps. */
function outermost(profile: Float64Array): Outermost {
  let [low, high] = [Infinity, -Infinity]
  for (let i = 1; i < profile.length; i += 2)
    [low, high] = [Math.min(low, profile[i]!), Math.max(high, profile[i]!)]
  const step = (high - low) / (LEVELS - 1)
  const radius = new Float64Array(LEVELS)
  for (let i = 0; i + 3 < profile.length; i += 2) {
    const [r0, z0, r1, z1] = [profile[i]!, profile[i + 1]!, profile[i + 2]!, profile[i + 3]!]
    const [a, b] = [Math.min(z0, z1), Math.max(z0, z1)]
    for (
      let k = Math.max(0, Math.floor((a - low) / step));
      k <= Math.min(LEVELS - 1, Math.ceil((b - low) / step));
      k++
    ) {
      const z = Math.min(b, Math.max(a, low + k * step))
      const r = z1 === z0 ? Math.max(r0, r1) : r0 + ((z - z0) / (z1 - z0)) * (r1 - r0)
      radius[k] = Math.max(radius[k]!, r)
    }
  }
  return {
    roughDistance(r, z) {
      const k = Math.round((Math.min(high, Math.max(low, z)) - low) / step)
      const beyond = Math.max(low - z, z - high, 0)
      const out = r - radius[k]!
      return beyond > 0 ? Math.hypot(Math.max(0, out), beyond) : out
    },
  }
}

function reachOf(profile: Float64Array): number {
  let most = 0
  for (let i = 0; i < profile.length; i += 2) most = Math.max(most, profile[i]!)
  return 1.5 * most
}

/** What a silhouette says of a solid as a whole. */
export interface SilhouetteReport {
  misses: { left: EdgeMiss[]; right: EdgeMiss[] }
  rmsPx: number
  rmsMm: number
  /** Half of all points lie within this, px. */
  medianPx: number
  worst: EdgeMiss & { side: 'left' | 'right' }
}

/** Figures over both sides. */
export function silhouetteReport(left: EdgeMiss[], right: EdgeMiss[]): SilhouetteReport | null {
  const all = [
    ...left.map((m) => ({ ...m, side: 'left' as const })),
    ...right.map((m) => ({ ...m, side: 'right' as const })),
  ]
  if (all.length === 0) return null
  const rms = (key: 'px' | 'mm') => Math.sqrt(all.reduce((sum, m) => sum + m[key] * m[key], 0) / all.length)
  const sorted = all.map((m) => Math.abs(m.px)).sort((a, b) => a - b)
  return {
    misses: { left, right },
    rmsPx: rms('px'),
    rmsMm: rms('mm'),
    medianPx: sorted[sorted.length >> 1]!,
    worst: all.reduce((w, m) => (Math.abs(m.px) > Math.abs(w.px) ? m : w)),
  }
}
