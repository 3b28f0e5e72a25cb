import { CoreError } from '../errors'
import { solveBanded } from '../least-squares'
import { curveDeviation } from './deviation'
import { flatten } from './flatten'
import type { Cubic } from './hobby'
import { FAIR, withSegment } from './node-segment'
import type { HalfProfile, ProfileNode } from './profile'
import { derivativeOn, pointOn, sharpSegments, tangentAt, type Segment } from './segments'
import { handlesOf } from './segment-kind'

type Pair = readonly [number, number]

/** Places along a run at which it is made fair. */
const PLACES = 481
/** Of the deviation allowed, what smoothing may take; the cubics laid along the result get the rest. */
const SMOOTHING_SHARE = 0.7
/** Stiffness is searched between these: below them nothing moves, above them only straight ways are left. */
const SOFTEST = 1e-3
const STIFFEST = 1e14
const HALVINGS = 24
/** Numbers of cubics that are tried for a run. */
const COUNTS = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 12, 14, 16, 20, 24, 32, 48, 80] as const
/** When the cubics stray too far, smoothing is tried again with this share of its allowance, so many times. */
const LESS = 0.6
const TRIES = 4

/**
 * Makes the stretch between the first and the last of some nodes fair: of all curves within a distance of what is there, the
 * one whose curvature changes least along it (penalised least squares on the third differences: Whittaker 1923). Corners,
 * held nodes, level and upright lines stay, and so do the directions at smooth ends.
 * @param withinMm largest distance from the curve as it is
 * @throws CoreError `stretch-too-short` without a curve between the nodes
 */
export function fairStretch(
  profile: HalfProfile,
  ids: readonly string[],
  withinMm: number,
  newId: () => string,
): HalfProfile {
  const { nodes } = profile
  const chosen = nodes.flatMap((n, i) => (ids.includes(n.id) ? [i] : []))
  const [first, last] = [chosen[0], chosen[chosen.length - 1]]
  const tied = new Set((profile.ties ?? []).flatMap((t) => t.nodes))
  const segments = sharpSegments(nodes)
  const runs = first === undefined || last === undefined ? [] : runsBetween(nodes, first, last, tied)
  const wanted = runs.filter(([a, b]) => b - a > 1 || segments.find((s) => s.index === a)?.kind === 'cubic')
  if (wanted.length === 0)
    throw new CoreError({
      code: 'stretch-too-short',
      message:
        'Between these nodes there is no curve to make fair: choose the first and the last node of a longer stretch, without corners in it.',
      where: 'nodes',
    })
  const out: ProfileNode[] = []
  for (let i = 0; i < nodes.length;) {
    const run = wanted.find(([a]) => a === i)
    if (!run) out.push(nodes[i++]!)
    else {
      out.push(...fairRun(nodes, segments, run, withinMm, newId))
      i = run[1]
    }
  }
  return { ...profile, nodes: out }
}

/** Runs of segments that may be changed: between corners, held or tied nodes and lines that are locked straight. */
function runsBetween(
  nodes: readonly ProfileNode[],
  first: number,
  last: number,
  tied: ReadonlySet<string>,
): [number, number][] {
  const stays = (n: ProfileNode) => n.joint === 'corner' || n.held !== undefined || n.r === 0 || tied.has(n.id) // prettier-ignore
  const runs: [number, number][] = []
  let from = first
  for (let i = first; i < last; i++) {
    const locked = nodes[i]!.way !== undefined
    if (locked) {
      if (i > from) runs.push([from, i])
      from = i + 1
    } else if (stays(nodes[i + 1]!) || i + 1 === last) {
      runs.push([from, i + 1])
      from = i + 1
    }
  }
  return runs
}

/** The nodes of a run made fair, all but the last. */
function fairRun(
  nodes: readonly ProfileNode[],
  segments: readonly Segment[],
  [a, b]: readonly [number, number],
  withinMm: number,
  newId: () => string,
): ProfileNode[] {
  const own = segments.filter((s) => s.index >= a && s.index < b)
  const places = evenly(own)
  const angle = (s: Segment, end: 0 | 1) => Math.atan2(tangentAt(s, end)[1], tangentAt(s, end)[0])
  const keeps = (i: number) => nodes[i]!.joint === 'smooth'
  const start = keeps(a) ? angle(own[0]!, 0) : null
  const end = keeps(b) ? angle(own[own.length - 1]!, 1) : null
  for (let tries = 0, allowed = SMOOTHING_SHARE * withinMm; tries < TRIES; tries++, allowed *= LESS) {
    const smooth = smoothed(places, allowed, start, end)
    const cubics = alongCubics(smooth, start, end, withinMm - allowed)
    if (farthest(cubics, places, withinMm / 100) > withinMm) continue
    return cubics.map((cubic, k): ProfileNode =>
      withSegment(
        k === 0 ? nodes[a]! : { id: newId(), r: cubic[0], z: cubic[1], joint: 'smooth', next: 'curve' },
        { ...FAIR, handles: handlesOf(cubic) },
      ),
    )
  }
  // Not even the last try is near enough: better unfair than elsewhere.
  return nodes.slice(a, b)
}

/** Points of some segments at equal distances along them. */
function evenly(segments: readonly Segment[]): Pair[] {
  const STEPS = 64
  const way: { s: Segment; t: number; at: number }[] = []
  let length = 0
  segments.forEach((s, k) => {
    for (let i = k === 0 ? 0 : 1; i <= STEPS; i++) {
      if (i > 0) length += Math.hypot(...derivativeOn(s, (i - 0.5) / STEPS)) / STEPS
      way.push({ s, t: i / STEPS, at: length })
    }
  })
  let k = 0
  return Array.from({ length: PLACES }, (_, i) => {
    const wanted = (i / (PLACES - 1)) * length
    while (k + 2 < way.length && way[k + 1]!.at < wanted) k++
    const [p, q] = [way[k]!, way[k + 1]!]
    const share = Math.min(1, Math.max(0, (wanted - p.at) / (q.at - p.at || 1)))
    const from = q.t < p.t || p.s !== q.s ? 0 : p.t
    return pointOn(q.s, from + (q.t - from) * share)
  })
}

/** The stiffest way past some places that stays within a distance of all of them; its ends stay. */
function smoothed(places: readonly Pair[], within: number, start: number | null, end: number | null): Pair[] {
  let [low, high] = [Math.log(SOFTEST), Math.log(STIFFEST)]
  let best = places.slice()
  for (let k = 0; k < HALVINGS; k++) {
    const middle = k === 0 ? high : (low + high) / 2
    const tried = stiffened(places, Math.exp(middle), start, end)
    const off = tried ? tried.reduce((m, p, i) => Math.max(m, Math.hypot(p[0] - places[i]![0], p[1] - places[i]![1])), 0) : Infinity // prettier-ignore
    if (off <= within) {
      best = tried!
      if (k === 0) break
      low = middle
    } else high = middle
  }
  return best
}

/** Minimises Σ |x - p|² + stiffness Σ |third differences of x|² with both ends, and given directions there, held. */
function stiffened(
  places: readonly Pair[],
  stiffness: number,
  start: number | null,
  end: number | null,
): Pair[] | null {
  const n = places.length
  const fixed = new Map<number, Pair>([[0, places[0]!], [n - 1, places[n - 1]!]]) // prettier-ignore
  const hold = (angle: number | null, i: number, from: Pair, sign: 1 | -1) => {
    if (angle === null) return
    const step = Math.hypot(places[i]![0] - from[0], places[i]![1] - from[1])
    fixed.set(i, [from[0] + sign * step * Math.cos(angle), from[1] + sign * step * Math.sin(angle)])
  }
  hold(start, 1, places[0]!, 1)
  hold(end, n - 2, places[n - 1]!, -1)
  const place = new Map<number, number>()
  for (let i = 0; i < n; i++) if (!fixed.has(i)) place.set(i, place.size)
  const m = place.size
  const W = DIFFERENCE.length - 1
  const band = new Float64Array(m * (W + 1))
  const right = [new Float64Array(m), new Float64Array(m)] as const
  for (const [i, k] of place) {
    band[k * (W + 1)]! += 1
    for (const c of [0, 1] as const) right[c][k]! += places[i]![c]
  }
  for (let i = 0; i + W < n; i++)
    for (let a = 0; a <= W; a++) {
      const k = place.get(i + a)
      if (k === undefined) continue
      for (let b = 0; b <= W; b++) {
        const weight = stiffness * DIFFERENCE[a]! * DIFFERENCE[b]!
        const l = place.get(i + b)
        const held = fixed.get(i + b)
        if (held) for (const c of [0, 1] as const) right[c][k]! -= weight * held[c]
        else if (l !== undefined && l <= k) band[k * (W + 1) + (k - l)]! += weight
      }
    }
  if (!solveBanded(band, W, right)) return null
  const [r, z] = right
  return places.map((_, i) => fixed.get(i) ?? [r[place.get(i)!]!, z[place.get(i)!]!])
}

/** Third differences: what a way of constant curvature has (nearly) none of. */
const DIFFERENCE = [-1, 3, -3, 1] as const

/** The fewest cubics along a smooth way that stay within a distance of it. */
function alongCubics(
  points: readonly Pair[],
  start: number | null,
  end: number | null,
  within: number,
): Cubic[] {
  const from = start ?? directionAt(points, 0)
  const to = end ?? directionAt(points, points.length - 1)
  const demand = knotDemand(points)
  let cubics: Cubic[] = []
  for (const count of COUNTS) {
    cubics = splineThrough(points, knotsBy(demand, count), from, to)
    if (farthest(cubics, points, within / 20) <= within) break
  }
  return cubics
}

/** The largest distance of some points from cubics that follow each other, mm. */
function farthest(cubics: readonly Cubic[], points: readonly Pair[], toleranceMm: number): number {
  const segments = cubics.map((cubic, index) => ({ kind: 'cubic' as const, cubic, index }))
  return Math.abs(curveDeviation(flatten(segments, { toleranceMm }).points, points).most?.mm ?? 0)
}

/** Where nothing bends knots are still wanted at this share of the mean demand. */
const LEAST_DEMAND = 0.25

/**
 * How densely knots are wanted up to each point: a cubic spline strays from a way by h⁴/384 of its fourth derivative, so that
 * equal parts of the integral of that derivative's fourth root stray equally.
 */
function knotDemand(points: readonly Pair[]): Float64Array {
  const n = points.length
  const fourth = Float64Array.from({ length: n }, (_, i) => {
    const k = Math.min(n - 3, Math.max(2, i))
    const across = ([0, 1] as const).map((c) => points[k - 2]![c] - 4 * points[k - 1]![c] + 6 * points[k]![c] - 4 * points[k + 1]![c] + points[k + 2]![c]) // prettier-ignore
    return Math.hypot(...across) ** 0.25
  })
  const mean = fourth.reduce((s, v) => s + v, 0) / n
  let sum = 0
  return fourth.map((v) => (sum += Math.max(v, LEAST_DEMAND * mean) || 1))
}

/** Indices of knots, the ends among them, that share a demand out evenly. */
function knotsBy(demand: Float64Array, count: number): number[] {
  const n = demand.length
  const [low, high] = [demand[0]!, demand[n - 1]!]
  const knots = [0]
  for (let k = 1, i = 0; k < count; k++) {
    while (i < n - 1 && demand[i]! < low + ((high - low) * k) / count) i++
    if (i > knots[knots.length - 1]! && i < n - 1) knots.push(i)
  }
  return [...knots, n - 1]
}

/**
 * The cubic spline with two continuous derivatives through some of the points, with given directions at its ends (C. de Boor,
 * A Practical Guide to Splines, 1978, "complete" spline), over the length of the way: its curvature has no steps.
 */
function splineThrough(points: readonly Pair[], knots: readonly number[], from: number, to: number): Cubic[] {
  const lengths = knots.slice(1).map((to, k) => {
    let length = 0
    for (let i = knots[k]! + 1; i <= to; i++)
      length += Math.hypot(points[i]![0] - points[i - 1]![0], points[i]![1] - points[i - 1]![1])
    return length
  })
  const places = knots.map((i) => points[i]!)
  const slopes = ([0, 1] as const).map((c) => {
    const [first, last] = [from, to].map((angle) => (c === 0 ? Math.cos(angle) : Math.sin(angle)))
    return splineSlopes(places.map((p) => p[c]), lengths, first!, last!) // prettier-ignore
  })
  return lengths.map((h, k): Cubic => {
    const [p, q] = [places[k]!, places[k + 1]!]
    const at = (i: number, c: 0 | 1) => (slopes[c]![i]! * h) / 3
    return [...p, p[0] + at(k, 0), p[1] + at(k, 1), q[0] - at(k + 1, 0), q[1] - at(k + 1, 1), ...q]
  })
}

/**
 * Derivatives at knots between given ones at the ends, so that second derivatives agree:
 * h(k) m(k-1) + 2 (h(k-1) + h(k)) m(k) + h(k-1) m(k+1) = 3 (h(k) d(k-1) + h(k-1) d(k)) with d the slopes of the chords.
 */
function splineSlopes(y: readonly number[], h: readonly number[], first: number, last: number): Float64Array {
  const n = y.length
  const m = new Float64Array(n)
  const carried = new Float64Array(n)
  const chord = (k: number) => (y[k + 1]! - y[k]!) / h[k]!
  m[0] = first
  for (let k = 1; k + 1 < n; k++) {
    const [before, after] = [h[k - 1]!, h[k]!]
    const pivot = 2 * (before + after) - after * carried[k - 1]!
    carried[k] = before / pivot
    m[k] = (3 * (after * chord(k - 1) + before * chord(k)) - after * m[k - 1]!) / pivot
  }
  m[n - 1] = last
  for (let k = n - 2; k > 0; k--) m[k]! -= carried[k]! * m[k + 1]!
  return m
}

/** Direction of a way at one of its points, by the parabola through it and its neighbours. */
function directionAt(points: readonly Pair[], i: number): number {
  const n = points.length
  const [a, b, c] = i === 0 ? [0, 1, 2] : i === n - 1 ? [n - 1, n - 2, n - 3] : [i - 1, i, i + 1]
  const at = (k: number) => points[k]!
  const d = ([0, 1] as const).map((k) =>
    i > 0 && i < n - 1 ? at(c)[k] - at(a)[k] : (i === 0 ? 1 : -1) * (-3 * at(a)[k] + 4 * at(b)[k] - at(c)[k]),
  )
  return Math.atan2(d[1]!, d[0]!)
}
