export interface PathCost {
  /** What a step from place k - 1 to place k costs at line i, or back; at least 0. */
  step: (i: number, k: number) => number
  /** No change of place costs more than this: a corner is no harder than a slope. */
  most: number
}

/** A place that a path may not take is worth this. */
export const FORBIDDEN = -1e5

/**
 * The path through lines of places that earns most: one place a line, each change of place from line to line costs the
 * steps between, up to a limit. Exact dynamic program; the best predecessors come from two sweeps over the places and the
 * best of all (distance transform with a truncated cost, Felzenszwalb & Huttenlocher 2012, from memory).
 * @param worth `count` lines of `places` values
 * @returns the place at each line
 */
export function bestPath(worth: Float32Array, count: number, places: number, cost: PathCost): Int32Array {
  const from = new Uint16Array(count * places)
  let score = worth.slice(0, places)
  const steps = new Float64Array(places)
  for (let i = 1; i < count; i++) {
    let best = 0
    for (let k = 1; k < places; k++) if (score[k]! > score[best]!) best = k
    const next = score.slice()
    const row = from.subarray(i * places, (i + 1) * places)
    row[0] = 0
    for (let k = 1; k < places; k++) {
      row[k] = k
      steps[k] = cost.step(i, k)
      const over = next[k - 1]! - steps[k]!
      if (over <= next[k]!) continue
      next[k] = over
      row[k] = row[k - 1]!
    }
    for (let k = places - 2; k >= 0; k--) {
      const over = next[k + 1]! - steps[k + 1]!
      if (over <= next[k]!) continue
      next[k] = over
      row[k] = row[k + 1]!
    }
    const far = score[best]! - cost.most
    for (let k = 0; k < places; k++) {
      if (far > next[k]!) {
        next[k] = far
        row[k] = best
      }
      next[k]! += worth[i * places + k]!
    }
    score = next
  }
  const out = new Int32Array(count)
  let k = 0
  for (let j = 1; j < places; j++) if (score[j]! > score[k]!) k = j
  for (let i = count - 1; i >= 0; i--) {
    out[i] = k
    k = from[i * places + k]!
  }
  return out
}
