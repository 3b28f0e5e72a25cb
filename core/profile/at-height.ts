import { pointOn, type Segment } from './segments'

const SAMPLES = 48
const HALVINGS = 60

/**
 * Parameters at which a segment passes a height, rising: where it changes from one side of the level to the other. Level
 * lines pass none, and a place that only touches the level isn't looked for.
 */
export function parametersAtHeight(segment: Segment, z: number): number[] {
  const at = (t: number) => pointOn(segment, t)[1] - z
  const steps = segment.kind === 'line' ? 1 : SAMPLES
  const out: number[] = []
  for (let k = 0; k < steps; k++) {
    let [low, high] = [k / steps, (k + 1) / steps]
    const [a, b] = [at(low), at(high)]
    if (a === 0 && b !== 0 && out[out.length - 1] !== low) out.push(low)
    else if (b === 0 && a !== 0) out.push(high)
    else if (a * b < 0) {
      for (let n = 0; n < HALVINGS; n++) {
        const middle = (low + high) / 2
        if (at(middle) * a > 0) low = middle
        else high = middle
      }
      out.push((low + high) / 2)
    }
  }
  return out
}

/** Largest radius of a curve at a height, mm; null where it doesn't pass there. */
export function outerRadiusAt(segments: readonly Segment[], z: number): number | null {
  const radii = segments.flatMap((s) => parametersAtHeight(s, z).map((t) => pointOn(s, t)[0]))
  return radii.length > 0 ? Math.max(...radii) : null
}
