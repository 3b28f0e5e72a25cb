import { outerRadiusAt } from '../profile/at-height'
import { flatten } from '../profile/flatten'
import { endOf, pointOn, startOf, turnBetween, type Segment } from '../profile/segments'

/** A height that deserves its ⌀ on a drawing. */
export interface Level {
  r: number
  z: number
  name: string | null
}

/** An arc that deserves its radius. */
export interface RadiusMark {
  r: number
  z: number
  radius: number
}

/** Joints that turn by more than this, radians, show as edges. */
const EDGE = (8 * Math.PI) / 180

/** The circles at which a chain has edges, off the axis. */
export function edgesOf(segments: readonly Segment[]): [r: number, z: number][] {
  return segments.flatMap((segment, i) => {
    const next = segments[i + 1]
    const [r, z] = endOf(segment)
    return next && r > 0 && Math.abs(turnBetween(segment, next)) > EDGE ? [[r, z]] : []
  })
}

/**
 * Levels of a curve that a workshop would ask for, most wanted first: stations, the largest ⌀, both ends, cylinders, edges, and
 * necks and bellies. Of two within `apart` of each other in height, or with the same ⌀ on one cylinder, the less wanted one is left out.
 */
export function levelsOf(
  segments: readonly Segment[],
  stations: readonly { name: string; z: number }[],
  apart: number,
): Level[] {
  const wanted: Level[] = []
  for (const { name, z } of stations) {
    const r = outerRadiusAt(segments, z)
    if (r !== null && r > 0) wanted.push({ r, z, name })
  }
  const plain = ([r, z]: readonly [number, number]) => {
    if (r > 0) wanted.push({ r, z, name: null })
  }
  const points = turningPoints(segments)
  const largest = points.reduce((a, b) => (b[0] > a[0] ? b : a), [0, 0] as [number, number])
  plain(largest)
  const upright = segments.filter((s) => s.kind === 'line' && Math.abs(s.cubic[0] - s.cubic[6]) < 1e-9 * Math.abs(s.cubic[1] - s.cubic[7])) // prettier-ignore
  for (const s of upright) plain(pointOn(s, 0.5))
  for (const edge of edgesOf(segments)) plain(edge)
  const [first, last] = [segments[0], segments.at(-1)]
  if (first && last) [startOf(first), endOf(last)].forEach(plain)
  for (const point of points) plain(point)
  const kept: Level[] = []
  for (const level of wanted) {
    const near = kept.some((k) => Math.abs(k.z - level.z) < apart || (!level.name && sameCylinder(upright, k, level))) // prettier-ignore
    if (!near) kept.push(level)
  }
  return kept
}

/** Heights of a curve that a workshop would ask for: stations, edges, necks and bellies, at least `apart` from each other. */
export function heightsOf(
  segments: readonly Segment[],
  stations: readonly { z: number }[],
  apart: number,
): { r: number; z: number }[] {
  const named = stations.map(({ z }) => [outerRadiusAt(segments, z) ?? 0, z] as const)
  const kept: { r: number; z: number }[] = []
  for (const [r, z] of [...named, ...edgesOf(segments), ...turningPoints(segments)])
    if (r > 0 && kept.every((k) => Math.abs(k.z - z) >= apart)) kept.push({ r, z })
  return kept
}

function sameCylinder(upright: readonly Segment[], a: Level, b: Level): boolean {
  return upright.some((s) => {
    const [low, high] = [startOf(s)[1], endOf(s)[1]].sort((p, q) => p - q) as [number, number]
    const on = ({ r, z }: Level) =>
      Math.abs(r - startOf(s)[0]) < 1e-6 * r && z >= low - 1e-6 && z <= high + 1e-6
    return on(a) && on(b)
  })
}

/** Where a curve is widest or narrowest between its neighbours, within its segments. */
function turningPoints(segments: readonly Segment[]): [number, number][] {
  const { points: p } = flatten(segments)
  const out: [number, number][] = []
  for (let i = 1; i + 1 < p.length / 2; i++) {
    const [a, b, c] = [p[2 * i - 2]!, p[2 * i]!, p[2 * i + 2]!]
    if ((b >= a && b > c) || (b <= a && b < c)) out.push([b, p[2 * i + 1]!])
  }
  return out
}

/** Arcs by their middles, longest first, one a radius; `least` is the shortest that is worth it, mm. */
export function radiiOf(segments: readonly Segment[], least: number): RadiusMark[] {
  const arcs = segments.flatMap((s) => {
    if (s.kind !== 'arc' || s.arc.radius * Math.abs(s.arc.sweep) < least) return []
    const [r, z] = pointOn(s, 0.5)
    return [{ r, z, radius: s.arc.radius, length: s.arc.radius * Math.abs(s.arc.sweep) }]
  })
  arcs.sort((a, b) => b.length - a.length)
  return arcs.filter((a, i) => arcs.findIndex((b) => Math.abs(b.radius / a.radius - 1) < 1e-3) === i)
}
