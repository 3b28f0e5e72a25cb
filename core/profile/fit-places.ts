import type { Chain } from './fit-primitives'

/** Gaps longer than this share of the whole length are filled, so that long straight runs count as much as they are long. */
const GAP = 1 / 400

/** The points without repetitions, with points put into long gaps. */
export function filledChain(points: readonly (readonly [number, number])[]): Chain {
  const clean = points.filter(([r, z], i) => i === 0 || r !== points[i - 1]![0] || z !== points[i - 1]![1])
  const step = (k: number) => Math.hypot(clean[k + 1]![0] - clean[k]![0], clean[k + 1]![1] - clean[k]![1])
  let length = 0
  for (let k = 0; k + 1 < clean.length; k++) length += step(k)
  const [r, z]: [number[], number[]] = [[], []]
  clean.forEach((p, k) => {
    const q = clean[k + 1]
    const parts = q ? Math.max(1, Math.ceil(step(k) / (GAP * length))) : 1
    for (let i = 0; i < parts; i++) {
      r.push(q && i > 0 ? p[0] + ((q[0] - p[0]) * i) / parts : p[0])
      z.push(q && i > 0 ? p[1] + ((q[1] - p[1]) * i) / parts : p[1])
    }
  })
  return { r: Float64Array.from(r), z: Float64Array.from(z) }
}

/** Candidate joints are at most this share of the chain's points apart. */
const FAR = 1 / 60

/** More candidates than this aren't worth their time; then fewer bends count. */
const MOST_PLACES = 90
const COARSER = 1.6

/**
 * Candidate joints: the points that a polyline within half the tolerance needs (Douglas & Peucker 1973), which crowd
 * where the curve bends, and some between where it doesn't.
 */
export function candidatePlaces(chain: Chain, toleranceMm: number, noiseMm: number): number[] {
  const last = chain.r.length - 1
  const far = Math.max(2, Math.ceil(FAR * last))
  for (let within = Math.max(toleranceMm / 2, 3 * noiseMm); ; within *= COARSER) {
    const places: number[] = [0]
    for (const i of polylinePoints(chain, within)) {
      const before = places[places.length - 1]!
      const parts = Math.ceil((i - before) / far)
      for (let k = 1; k <= parts; k++) places.push(Math.round(before + ((i - before) * k) / parts))
    }
    if (places.length <= MOST_PLACES) return places
  }
}

/** Indices that a polyline keeps which stays within a distance of all points, the first one left out. */
export function polylinePoints({ r, z }: Chain, within: number): number[] {
  const last = r.length - 1
  const kept = [last]
  const stack: [number, number][] = [[0, last]]
  while (stack.length > 0) {
    const [a, b] = stack.pop()!
    const [dr, dz] = [r[b]! - r[a]!, z[b]! - z[a]!]
    const length = Math.hypot(dr, dz)
    let [most, where] = [0, -1]
    for (let i = a + 1; i < b; i++) {
      const [pr, pz] = [r[i]! - r[a]!, z[i]! - z[a]!]
      const d = length > 0 ? Math.abs(pr * dz - pz * dr) / length : Math.hypot(pr, pz)
      if (d > most) [most, where] = [d, i]
    }
    if (where < 0 || most <= within) continue
    kept.push(where)
    stack.push([a, where], [where, b])
  }
  return kept.sort((p, q) => p - q)
}

/** Standard deviation of the points across the curve, from third differences: they cancel what is smooth. Mm. */
export function noiseOf({ r, z }: Chain): number {
  const n = r.length
  const off: number[] = []
  for (let i = 3; i < n; i++) {
    const [dr, dz] = [r[i]! - r[i - 3]!, z[i]! - z[i - 3]!]
    const length = Math.hypot(dr, dz)
    if (length === 0) continue
    const third = (v: Float64Array) => v[i]! - 3 * v[i - 1]! + 3 * v[i - 2]! - v[i - 3]!
    off.push(Math.abs(third(r) * dz - third(z) * dr) / length)
  }
  off.sort((p, q) => p - q)
  // Third differences of noise are √20 times as large; the median of absolute values is 0.6745 of the deviation.
  return off.length > 0 ? off[off.length >> 1]! / (0.6745 * Math.sqrt(20)) : 0
}
