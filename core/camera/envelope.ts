/** A ray that grazes the piece, by its slopes against the level plane: to the side and upwards, both per unit ahead. */
export interface Envelope {
  /** Radius at a height. */
  r: number
  /** Index of the outline's segment whose ray came nearest to the axis there; -1 when none reaches this height. */
  from: number
}

/** Segments of an outline seen from one place, made ready to be asked for radii. */
export interface GrazingRays {
  readonly points: Float64Array
  /** Per segment: distance of its plane of sight from the axis at the eye's level, its change with height, and its level normal. */
  readonly planes: Float64Array
}

/**
 * Makes the outline [X W ...] ready: X and W are the slopes of the rays sidewards and upwards, seen from an eye one
 * unit before the axis.
 */
export function grazingRays(points: Float64Array): GrazingRays {
  const n = points.length / 2 - 1
  const planes = new Float64Array(4 * Math.max(0, n))
  for (let i = 0; i < n; i++) {
    const [x0, w0, x1, w1] = [points[2 * i]!, points[2 * i + 1]!, points[2 * i + 2]!, points[2 * i + 3]!]
    // Normal of the plane through the eye and both rays (x, 1, w).
    const nx = w1 - w0
    const ny = w0 * x1 - x0 * w1
    const nz = x0 - x1
    const level = Math.hypot(nx, ny)
    planes.set(level > 0 ? [ny / level, nz / level, nx / level, ny / level] : [NaN, 0, 0, 0], 4 * i)
  }
  return { points, planes }
}

/**
 * Radius of the piece at a height (against the eye, in units of its distance): every ray of the outline grazes the
 * solid, so none comes nearer to the axis than the surface, and the one that touches it there comes as near. The least
 * distance over the whole outline needs no derivatives and doesn't mind hidden parts (there it is an upper bound).
 * Between two points of the outline the rays form a plane, whose line at this height has a nearest place.
 */
export function radiusAt({ points, planes }: GrazingRays, t: number): Envelope {
  let best = Infinity
  let from = -1
  const n = planes.length / 4
  for (let i = 0; i < n; i++) {
    const rho = planes[4 * i]! + planes[4 * i + 1]! * t
    const size = rho < 0 ? -rho : rho
    if (!(size < best)) continue
    const x = -planes[4 * i + 2]! * rho
    const ahead = 1 - planes[4 * i + 3]! * rho
    if (!(ahead > 0)) continue
    const [x0, w0, x1, w1] = [points[2 * i]!, points[2 * i + 1]!, points[2 * i + 2]!, points[2 * i + 3]!]
    const [dx, dw] = [x1 - x0, w1 - w0]
    const k = Math.abs(dx) > Math.abs(dw) ? (x / ahead - x0) / dx : (t / ahead - w0) / dw
    if (k < 0 || k > 1) continue
    best = size
    from = i
  }
  for (let i = 0; i <= n; i++) {
    const ahead = t / points[2 * i + 1]!
    if (!(ahead > 0)) continue
    const x = points[2 * i]! * ahead
    const y = ahead - 1
    if (Math.abs(x) >= best || Math.abs(y) >= best) continue
    const rho = Math.sqrt(x * x + y * y)
    if (rho < best) {
      best = rho
      from = Math.min(i, n - 1)
    }
  }
  return { r: best, from }
}
