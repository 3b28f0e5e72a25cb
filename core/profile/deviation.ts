import { nearestChord } from './nearest-chord'

/** A point of the outline against the curve. */
export interface Deviation {
  r: number
  z: number
  /** Distance from the curve, mm, positive where the outline lies outside it. */
  mm: number
  /** Nearest place of the curve. */
  at: readonly [number, number]
}

export interface CurveDeviation {
  points: Deviation[]
  /** The largest one, or null without points. */
  most: Deviation | null
  rmsMm: number
}

/** A point is looked for this many chords before and after the one that the point before it was nearest to, */
const NEAR = 40
/** … and everywhere when it is farther from there than this share of the curve's extent. */
const FAR_SHARE = 0.02

/**
 * How far a dense outline lies from a curve, point by point.
 * @param chain chords of the curve [r z ...] that run as the outline does
 * @param outline [r, z], mm
 * @param counts which points to compare; default all
 */
export function curveDeviation(
  chain: Float64Array,
  outline: readonly (readonly [number, number])[],
  counts: (index: number) => boolean = () => true,
): CurveDeviation {
  const n = chain.length / 2 - 1
  if (n < 1) return { points: [], most: null, rmsMm: 0 }
  let extent = 0
  for (let i = 0; i < chain.length; i++) extent = Math.max(extent, Math.abs(chain[i]! - chain[i % 2]!))
  const points: Deviation[] = []
  let near = 0
  outline.forEach(([r, z], i) => {
    if (!counts(i)) return
    const [from, to] = [Math.max(0, near - NEAR), Math.min(n, near + NEAR)]
    let hit = nearestChord(chain, r, z, from, to)
    // At the border of what was looked at the nearest chord may lie beyond it.
    const atBorder = (hit.chord === from && from > 0) || (hit.chord === to - 1 && to < n)
    if (atBorder || hit.distance > FAR_SHARE * extent) hit = nearestChord(chain, r, z, 0, n)
    near = hit.chord
    const [dr, dz] = [chain[2 * near + 2]! - chain[2 * near]!, chain[2 * near + 3]! - chain[2 * near + 1]!]
    const right = (r - hit.at[0]) * dz - (z - hit.at[1]) * dr
    points.push({ r, z, mm: right < 0 ? -hit.distance : hit.distance, at: hit.at })
  })
  return {
    points,
    most: points.reduce<Deviation | null>((m, p) => (!m || Math.abs(p.mm) > Math.abs(m.mm) ? p : m), null),
    rmsMm: points.length ? Math.sqrt(points.reduce((s, p) => s + p.mm * p.mm, 0) / points.length) : 0,
  }
}
