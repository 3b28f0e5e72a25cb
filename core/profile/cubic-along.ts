import { solvePositive } from '../least-squares'
import { nearestOn } from './fit-primitives'
import type { Cubic } from './hobby'
import { derivativeAt, pointAt } from './segments'

const ROUNDS = 8

/**
 * The cubic from the first to the last of some points with given directions at its ends that lies nearest to them: only
 * its handles' lengths are free (after P. J. Schneider, Graphics Gems, 1990, with Gauss-Newton on the distances).
 * @param points [r, z], at least three
 * @param start direction of the way at its start, radians; `end` at its end
 */
export function cubicAlong(
  points: readonly (readonly [number, number])[],
  start: number,
  end: number,
): Cubic {
  const [a, b] = [points[0]!, points[points.length - 1]!]
  const chord = Math.hypot(b[0] - a[0], b[1] - a[1])
  const [u, v] = [start, end].map((angle) => [Math.cos(angle), Math.sin(angle)] as const) as [Unit, Unit]
  let [l, m] = [chord / 3, chord / 3]
  const t = points.map((_, i) => i / (points.length - 1))
  const cubic = (): Cubic => [a[0], a[1], a[0] + l * u[0], a[1] + l * u[1], b[0] - m * v[0], b[1] - m * v[1], b[0], b[1]] // prettier-ignore
  for (let round = 0; round < ROUNDS; round++) {
    const c = cubic()
    const [ata, atb] = [new Float64Array(4), new Float64Array(2)]
    for (let k = 1; k + 1 < points.length; k++) {
      t[k] = nearestOn(c, points[k]![0], points[k]![1], t[k]!)
      const [p, q] = pointAt(c, t[k]!)
      const [dr, dz] = derivativeAt(c, t[k]!)
      const size = Math.hypot(dr, dz) || 1
      const across = ([r, z]: Unit) => (r * dz - z * dr) / size
      const s = 1 - t[k]!
      const row = [3 * s * s * t[k]! * across(u), -3 * s * t[k]! * t[k]! * across(v)]
      const off = across([points[k]![0] - p, points[k]![1] - q])
      for (let i = 0; i < 2; i++) {
        atb[i]! += row[i]! * off
        for (let j = 0; j < 2; j++) ata[2 * i + j]! += row[i]! * row[j]!
      }
    }
    // Where the points lie on the chord nothing holds the lengths.
    for (let i = 0; i < 2; i++) ata[3 * i]! += 1e-9
    const step = solvePositive(ata, atb, 2)
    if (!step) break
    l = Math.min(3 * chord, Math.max(0.02 * chord, l + step[0]!))
    m = Math.min(3 * chord, Math.max(0.02 * chord, m + step[1]!))
  }
  return cubic()
}

type Unit = readonly [number, number]
