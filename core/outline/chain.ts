/** Points at even steps along a polyline [x y ...]; first and last are kept. */
export function resample(points: ArrayLike<number>, step: number): Float64Array {
  const out: number[] = [points[0]!, points[1]!]
  let rest = step
  for (let i = 0; i + 3 < points.length; i += 2) {
    const [x0, y0, x1, y1] = [points[i]!, points[i + 1]!, points[i + 2]!, points[i + 3]!]
    const l = Math.hypot(x1 - x0, y1 - y0)
    let at = rest
    while (at < l) {
      out.push(x0 + ((x1 - x0) * at) / l, y0 + ((y1 - y0) * at) / l)
      at += step
    }
    rest = at - l
  }
  const n = points.length
  if (rest < step * 0.6 || out.length < 4) out.push(points[n - 2]!, points[n - 1]!)
  return Float64Array.from(out)
}

/** Whether a way runs more along a chain, from its first point to its last, than across it. */
export function runsAlong(points: Float64Array, dx: number, dy: number): boolean {
  const [ux, uy] = [points.at(-2)! - points[0]!, points.at(-1)! - points[1]!]
  return Math.abs(dx * ux + dy * uy) > Math.abs(dx * uy - dy * ux)
}

/** The points of a chain [x y ...] in the other order. */
export function reversed(points: Float64Array): Float64Array {
  const n = points.length
  return points.map((_, i) => points[n - 2 - (i - (i % 2)) + (i % 2)]!)
}

/** Gaussian average along a chain, `sigma` in points; the ends stay and are approached with ever smaller windows. */
export function smoothChain(points: Float64Array, sigma: number): Float64Array {
  const n = points.length / 2
  const reach = Math.ceil(2.5 * sigma)
  const out = new Float64Array(points.length)
  for (let i = 0; i < n; i++) {
    const r = Math.min(reach, i, n - 1 - i)
    let w = 0
    let x = 0
    let y = 0
    for (let k = -r; k <= r; k++) {
      const g = Math.exp((-k * k) / (2 * sigma * sigma))
      w += g
      x += g * points[2 * (i + k)]!
      y += g * points[2 * (i + k) + 1]!
    }
    out[2 * i] = x / w
    out[2 * i + 1] = y / w
  }
  return out
}

/**
 * Unit normals from the tangents of the smoothed chain.
 * @param turn 1 for normals to the right of the way on the picture (y down: clockwise from the tangent), -1 left of it
 */
export function normalsOf(points: Float64Array, turn: 1 | -1, sigma: number): Float64Array {
  const smooth = smoothChain(points, sigma)
  const n = points.length / 2
  const out = new Float64Array(points.length)
  for (let i = 0; i < n; i++) {
    const a = Math.max(0, i - 1)
    const b = Math.min(n - 1, i + 1)
    const dx = smooth[2 * b]! - smooth[2 * a]!
    const dy = smooth[2 * b + 1]! - smooth[2 * a + 1]!
    const l = Math.hypot(dx, dy) || 1
    out[2 * i] = (-turn * dy) / l
    out[2 * i + 1] = (turn * dx) / l
  }
  return out
}

/** A chain may cross itself again within so many points. */
const LOOP_POINTS = 40

/** The chain [x y ...] without the small loops in which it crosses itself: it goes on where it came back to. */
export function withoutLoops(points: Float64Array): Float64Array {
  const n = points.length / 2
  const out: number[] = []
  let x = points[0]!
  let y = points[1]!
  for (let i = 0; i + 1 < n;) {
    out.push(x, y)
    const [x1, y1] = [points[2 * i + 2]!, points[2 * i + 3]!]
    let next = i + 1
    ;[x, y] = [x1, y1]
    const [ax, ay] = [out.at(-2)!, out.at(-1)!]
    for (let j = Math.min(n - 2, i + LOOP_POINTS); j > i + 1; j--) {
      const [bx, by] = [points[2 * j]!, points[2 * j + 1]!]
      const [dx, dy] = [points[2 * j + 2]! - bx, points[2 * j + 3]! - by]
      const cross = (x1 - ax) * dy - (y1 - ay) * dx
      const t = ((bx - ax) * dy - (by - ay) * dx) / cross
      const s = ((bx - ax) * (y1 - ay) - (by - ay) * (x1 - ax)) / cross
      if (!(t > 0 && t < 1 && s > 0 && s < 1)) continue
      next = j
      x = ax + t * (x1 - ax)
      y = ay + t * (y1 - ay)
      break
    }
    i = next
  }
  out.push(points[2 * n - 2]!, points[2 * n - 1]!)
  return Float64Array.from(out)
}

/**
 * How a chain bends at one of its points towards its normal: half its curvature, per px, from the neighbours about `reach` px to either side;
 * 0 where it ends before.
 */
export function bendAt(points: Float64Array, normals: Float64Array, i: number, reach: number): number {
  const [x, y, nx, ny] = [points[2 * i]!, points[2 * i + 1]!, normals[2 * i]!, normals[2 * i + 1]!]
  for (let m = 1; i - m >= 0 && i + m < points.length / 2; m++) {
    const [before, after] = [2 * (i - m), 2 * (i + m)]
    const apart = Math.hypot(points[after]! - points[before]!, points[after + 1]! - points[before + 1]!) / 2
    if (apart < reach) continue
    const rise = (k: number) => (points[k]! - x) * nx + (points[k + 1]! - y) * ny
    return (rise(before) + rise(after)) / 2 / apart ** 2
  }
  return 0
}
