import { outerRadiusAt } from '../profile/at-height'
import { flatten } from '../profile/flatten'
import type { Segment } from '../profile/segments'
import { edgesOf } from './levels'

/** What of a solid is seen from the side: its outline upwards, and the circles of its edges. */
export interface SeenOutside {
  /** Runs of [r z ...], mm. */
  outline: number[][]
  edges: [number, number][]
}

/** @param scale of the page: what differs by less than a fiftieth of a mm on it is one */
export function seenFromOutside(segments: readonly Segment[], scale: number): SeenOutside {
  const { points } = flatten(segments, { toleranceMm: 0.01 / scale })
  const slack = 0.02 / scale
  const reach = (z: number) => outerRadiusAt(segments, z) ?? 0
  // A level line is seen from its edge, and a chord may lie a hair inside its curve: what counts is the thinner side of it.
  const isSeen = (r: number, z: number) => r >= Math.min(reach(z + slack), reach(z - slack)) - slack
  const runs: number[][] = []
  let [low, high] = [
    [0, Infinity],
    [0, -Infinity],
  ] as [number, number][]
  for (let i = 0; i < points.length; i += 2) {
    const [r, z] = [points[i]!, points[i + 1]!]
    if (z < low![1] || (z === low![1] && r > low![0])) low = [r, z]
    if (z > high![1] || (z === high![1] && r > high![0])) high = [r, z]
    if (i === 0) continue
    const [r0, z0] = [points[i - 2]!, points[i - 1]!]
    const seen = isSeen(Math.abs(z - z0) < slack ? Math.max(r0, r) : (r0 + r) / 2, (z0 + z) / 2)
    const run = runs.at(-1)
    if (!seen) continue
    if (run && run.at(-2) === r0 && run.at(-1) === z0) run.push(r, z)
    else runs.push([r0, z0, r, z])
  }
  const ends = [low!, high!].map(([r, z]) => [0, z, r, z])
  return {
    outline: [...runs, ...ends],
    edges: edgesOf(segments).filter(([r, z]) => isSeen(r, z)),
  }
}
