import { CoreError } from '../errors'
import type { Cubic } from '../profile/hobby'
import { refusal } from './drawn'

type Pair = readonly [number, number]

/**
 * A B-spline of degree 1 to 3 as Bézier cubics: every inner knot is inserted until it is as often there as the degree (Boehm 1980).
 * @throws CoreError `bad-spline` for another degree, or knots that don't fit the points
 */
export function bezierPieces(degree: number, points: readonly Pair[], knots: readonly number[]): Cubic[] {
  if (!(degree >= 1 && degree <= 3) || points.length <= degree || knots.length !== points.length + degree + 1)
    throw new CoreError(refusal('bad-spline', `A spline of degree ${degree} with ${points.length} points and ${knots.length} knots can’t be read; splines up to degree 3 can.`)) // prettier-ignore
  if (knots.some((k, i) => !Number.isFinite(k) || (i > 0 && k < knots[i - 1]!)))
    throw new CoreError(refusal('bad-spline', 'The knots of a spline don’t rise. Export the drawing again.'))
  let [p, u]: [Pair[], number[]] = [[...points], [...knots]]
  const [first, last] = [u[degree]!, u[u.length - 1 - degree]!]
  const insert = (t: number) => ([p, u] = inserted(degree, p, u, t))
  for (const t of new Set(u.filter((k) => k >= first && k <= last))) {
    const wanted = degree - u.filter((k) => k === t).length
    for (let n = 0; n < wanted; n++) insert(t)
  }
  const out: Cubic[] = []
  for (let k = u.lastIndexOf(first); u[k]! < last;) {
    const piece = p.slice(k - degree, k + 1)
    out.push(raised(piece))
    k += degree
    while (u[k + 1] === u[k]) k++
  }
  return out
}

/** The same curve with one knot more. */
function inserted(degree: number, p: readonly Pair[], u: readonly number[], t: number): [Pair[], number[]] {
  let k = u.findLastIndex((knot) => knot <= t)
  // The last knot belongs to the span before it.
  while (k >= u.length - 1 - degree) k--
  const points = Array.from({ length: p.length + 1 }, (_, i): Pair => {
    if (i <= k - degree) return p[i]!
    if (i > k) return p[i - 1]!
    const span = u[i + degree]! - u[i]!
    const a = span > 0 ? (t - u[i]!) / span : 0
    const [before, own] = [p[i - 1]!, p[i] ?? p[i - 1]!]
    return [(1 - a) * before[0] + a * own[0], (1 - a) * before[1] + a * own[1]]
  })
  return [points, [...u.slice(0, k + 1), t, ...u.slice(k + 1)]]
}

/** A Bézier curve of degree 1 to 3 as a cubic. */
function raised(points: readonly Pair[]): Cubic {
  const mix = (a: Pair, b: Pair, t: number): Pair => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]
  const [a, b, c, d] = points
  if (d) return [...a!, ...b!, ...c!, ...d] as unknown as Cubic
  if (c) return [...a!, ...mix(a!, b!, 2 / 3), ...mix(c, b!, 2 / 3), ...c] as unknown as Cubic
  return [...a!, ...mix(a!, b!, 1 / 3), ...mix(a!, b!, 2 / 3), ...b!] as unknown as Cubic
}
