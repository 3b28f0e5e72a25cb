import { flatten } from './flatten'
import { derivativeOn, pointOn, type Segment } from './segments'

/** Where two segments of a list cross, with the parameter on each. */
export interface Crossing {
  a: number
  b: number
  ta: number
  tb: number
}

const NEWTON = 12
/** Crossings nearer to each other than this, as parameters, are one. */
const SAME = 1e-7

/**
 * All places where segments of a list cross each other (ends that meet along the list are none): chords first, bettered by
 * Newton's method on the exact curves.
 * @param toleranceMm largest distance of the chords from the curves
 */
export function crossings(segments: readonly Segment[], toleranceMm: number): Crossing[] {
  const chords = segments.flatMap((s, k) => chordsOf(s, k, toleranceMm))
  chords.sort((p, q) => p.low - q.low)
  const out: Crossing[] = []
  let active: Chord[] = []
  for (const chord of chords) {
    active = active.filter((c) => c.high >= chord.low)
    for (const other of active) {
      const hit = other.segment !== chord.segment && chordCrossing(other, chord)
      if (!hit) continue
      const found = refined(segments, other.segment, chord.segment, hit)
      if (!found || meetAlong(found)) continue
      if (!out.some((c) => c.a === found.a && c.b === found.b && Math.abs(c.ta - found.ta) < SAME)) out.push(found) // prettier-ignore
    }
    active.push(chord)
  }
  return out
}

interface Chord {
  segment: number
  t0: number
  t1: number
  from: readonly [number, number]
  to: readonly [number, number]
  low: number
  high: number
}

function chordsOf(s: Segment, segment: number, toleranceMm: number): Chord[] {
  const { points } = flatten([s], { toleranceMm })
  const n = points.length / 2 - 1
  return Array.from({ length: n }, (_, k) => {
    const from = [points[2 * k]!, points[2 * k + 1]!] as const
    const to = [points[2 * k + 2]!, points[2 * k + 3]!] as const
    // A chord's breadth more at both ends: curves cross where chords just miss each other.
    return { segment, t0: k / n, t1: (k + 1) / n, from, to, low: Math.min(from[1], to[1]) - toleranceMm, high: Math.max(from[1], to[1]) + toleranceMm } // prettier-ignore
  })
}

/** Chords reach this share of their length beyond their ends: what crosses at a common end must not fall between. */
const BEYOND = 0.02

function chordCrossing(p: Chord, q: Chord): { ta: number; tb: number } | null {
  const [ur, uz] = [p.to[0] - p.from[0], p.to[1] - p.from[1]]
  const [vr, vz] = [q.to[0] - q.from[0], q.to[1] - q.from[1]]
  const det = ur * vz - uz * vr
  if (det === 0) return null
  const [wr, wz] = [q.from[0] - p.from[0], q.from[1] - p.from[1]]
  const s = (wr * vz - wz * vr) / det
  const t = (wr * uz - wz * ur) / det
  if (s < -BEYOND || s > 1 + BEYOND || t < -BEYOND || t > 1 + BEYOND) return null
  return { ta: p.t0 + (p.t1 - p.t0) * s, tb: q.t0 + (q.t1 - q.t0) * t }
}

function refined(
  segments: readonly Segment[],
  a: number,
  b: number,
  start: { ta: number; tb: number },
): Crossing | null {
  let { ta, tb } = start
  for (let k = 0; k < NEWTON; k++) {
    const [p, q] = [pointOn(segments[a]!, ta), pointOn(segments[b]!, tb)]
    const [u, v] = [derivativeOn(segments[a]!, ta), derivativeOn(segments[b]!, tb)]
    const [er, ez] = [q[0] - p[0], q[1] - p[1]]
    const det = u[0] * v[1] - u[1] * v[0]
    if (det === 0) return null
    const [da, db] = [(er * v[1] - ez * v[0]) / det, (er * u[1] - ez * u[0]) / det]
    ta += da
    tb += db
    if (Math.abs(da) + Math.abs(db) < 1e-14) break
  }
  const within = (t: number) => t > -SAME && t < 1 + SAME
  if (!within(ta) || !within(tb)) return null
  const [x, y] =
    a < b
      ? [
          { a, ta },
          { b, tb },
        ]
      : [
          { a: b, ta: tb },
          { b: a, tb: ta },
        ]
  const clamp = (t: number) => Math.min(1, Math.max(0, t))
  return { a: x.a, ta: clamp(x.ta), b: y.b, tb: clamp(y.tb) }
}

/** True for the common end of neighbours. */
function meetAlong({ a, b, ta, tb }: Crossing): boolean {
  return b === a + 1 && ta > 1 - SAME && tb < SAME
}
