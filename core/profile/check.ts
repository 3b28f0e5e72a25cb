import type { Problem } from '../errors'
import { isClosed, type ProfileNode } from './profile'
import type { FlatProfile } from './flatten'

/** Which end is open, and how far from the axis, mm. */
export interface OpenEnd {
  end: 'first' | 'last'
  /** `foot` for the lower of the two ends, `top` for the upper one. */
  place: 'foot' | 'top'
  gapMm: number
}

/** The ends that don't lie exactly on the axis. Empty for a closed profile and for fewer than two nodes. */
export function openEnds(nodes: readonly ProfileNode[]): OpenEnd[] {
  if (nodes.length < 2) return []
  const first = nodes[0]!
  const last = nodes[nodes.length - 1]!
  const firstIsFoot = first.z <= last.z
  const ends: OpenEnd[] = []
  if (first.r !== 0) ends.push({ end: 'first', place: firstIsFoot ? 'foot' : 'top', gapMm: first.r })
  if (last.r !== 0) ends.push({ end: 'last', place: firstIsFoot ? 'top' : 'foot', gapMm: last.r })
  return ends
}

/**
 * What keeps a closed profile from bounding a solid: it dips below the axis, touches it on the way,
 * or crosses itself. Heights in the sentences are mm.
 */
export function profileFaults(nodes: readonly ProfileNode[], flat: FlatProfile): Problem[] {
  const faults: Problem[] = []
  const { points } = flat
  const count = points.length / 2
  for (let i = 1; i < count - 1; i++) {
    const r = points[2 * i]!
    if (r > 0) continue
    const z = points[2 * i + 1]!
    faults.push({
      code: r < 0 ? 'crosses-axis' : 'touches-axis',
      message:
        r < 0
          ? `The curve crosses the axis at height ${z.toFixed(1)} mm; move the nodes beside it outwards or make it a line.`
          : `The curve touches the axis at height ${z.toFixed(1)} mm, between its ends; move that point outwards.`,
      where: `z=${z}`,
    })
    break
  }
  const crossing = firstCrossing(points)
  if (crossing) {
    faults.push({
      code: 'crosses-itself',
      message: `The curve crosses itself at ⌀ ${(2 * crossing.r).toFixed(1)} mm, height ${crossing.z.toFixed(1)} mm; drag the nodes apart there.`,
      where: `r=${crossing.r} z=${crossing.z}`,
    })
  }
  if (isClosed(nodes) && faults.length === 0 && signedArea(points) === 0) {
    faults.push({
      code: 'no-area',
      message: 'The profile encloses nothing; draw it out from the axis and back.',
    })
  }
  return faults
}

/** Area between chain and axis, mm²; positive when the chain runs from the lower end outwards and up. */
export function signedArea(points: Float64Array): number {
  let sum = 0
  for (let i = 0; i + 3 < points.length; i += 2) {
    sum += ((points[i]! + points[i + 2]!) * (points[i + 3]! - points[i + 1]!)) / 2
  }
  return sum
}

/**
 * First place where two chords that aren't neighbours cross properly. Chords are swept by height, so that
 * usual profiles (few chords at one height) take n log n.
 */
export function firstCrossing(points: Float64Array): { r: number; z: number } | null {
  const n = points.length / 2 - 1
  const order = Array.from({ length: Math.max(0, n) }, (_, i) => i)
  const low = (i: number) => Math.min(points[2 * i + 1]!, points[2 * i + 3]!)
  const high = (i: number) => Math.max(points[2 * i + 1]!, points[2 * i + 3]!)
  order.sort((a, b) => low(a) - low(b))
  let active: number[] = []
  for (const i of order) {
    const z = low(i)
    active = active.filter((j) => high(j) >= z)
    for (const j of active) {
      if (Math.abs(i - j) <= 1) continue
      const hit = properCrossing(points, i, j)
      if (hit) return hit
    }
    active.push(i)
  }
  return null
}

function properCrossing(p: Float64Array, i: number, j: number): { r: number; z: number } | null {
  const [ax, ay, bx, by] = [p[2 * i]!, p[2 * i + 1]!, p[2 * i + 2]!, p[2 * i + 3]!]
  const [cx, cy, dx, dy] = [p[2 * j]!, p[2 * j + 1]!, p[2 * j + 2]!, p[2 * j + 3]!]
  const side = (x: number, y: number, x1: number, y1: number, x2: number, y2: number) =>
    (x1 - x) * (y2 - y) - (y1 - y) * (x2 - x)
  const c1 = side(ax, ay, bx, by, cx, cy)
  const c2 = side(ax, ay, bx, by, dx, dy)
  const d1 = side(cx, cy, dx, dy, ax, ay)
  const d2 = side(cx, cy, dx, dy, bx, by)
  if (!(c1 * c2 < 0 && d1 * d2 < 0)) return null
  const t = d1 / (d1 - d2)
  return { r: ax + t * (bx - ax), z: ay + t * (by - ay) }
}
