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
    const next = score.slice()
    for (let k = 1; k < places; k++) steps[k] = cost.step(i, k)
    const line = { steps, most: cost.most, worth: worth.subarray(i * places, (i + 1) * places) }
    sweep(score, line, next, from.subarray(i * places, (i + 1) * places))
    score = next
  }
  const out = new Int32Array(count)
  let k = bestOf(score)
  for (let i = count - 1; i >= 0; i--) {
    out[i] = k
    k = from[i * places + k]!
  }
  return out
}

function bestOf(score: Float32Array): number {
  let best = 0
  for (let k = 1; k < score.length; k++) if (score[k]! > score[best]!) best = k
  return best
}

/** From what ways to the places of one line earn to those of the next. @param next as `score`; becomes the new one */
function sweep(
  score: Float32Array,
  { steps, most, worth }: { steps: Float64Array; most: number; worth: Float32Array },
  next: Float32Array,
  from: Uint16Array,
): void {
  const best = bestOf(score)
  from[0] = 0
  for (let k = 1; k < next.length; k++) {
    from[k] = k
    const over = next[k - 1]! - steps[k]!
    if (over <= next[k]!) continue
    next[k] = over
    from[k] = from[k - 1]!
  }
  for (let k = next.length - 2; k >= 0; k--) {
    const over = next[k + 1]! - steps[k + 1]!
    if (over <= next[k]!) continue
    next[k] = over
    from[k] = from[k + 1]!
  }
  const far = score[best]! - most
  for (let k = 0; k < next.length; k++) {
    if (far > next[k]!) {
      next[k] = far
      from[k] = best
    }
    next[k]! += worth[k]!
  }
}
