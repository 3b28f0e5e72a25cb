import { cubicAlong } from './cubic-along'
import { FAIR, LINE, withSegment, type NodeSegment } from './node-segment'
import type { HalfProfile, ProfileNode } from './profile'
import { handlesOf } from './segment-kind'
import { pointOn, sharpSegments, tangentAt, type Segment } from './segments'

/**
 * Takes nodes out. What was between their neighbours becomes one segment: a line of lines, a fair curve of fair curves,
 * of anything else the cubic nearest to what was there, with its tangents at both ends.
 */
export function deleteNodes(profile: HalfProfile, ids: ReadonlySet<string>): HalfProfile {
  const { nodes } = profile
  const kept = nodes.map((_, i) => i).filter((i) => !ids.has(nodes[i]!.id))
  const segments = sharpSegments(nodes)
  return {
    ...profile,
    ties: profile.ties
      ?.map((tie) => ({ ...tie, nodes: tie.nodes.filter((id) => !ids.has(id)) }))
      .filter((tie) => tie.nodes.length > 1),
    nodes: kept.map((i, k) => {
      const next = kept[k + 1]
      if (next === undefined || next === i + 1) return nodes[i]!
      return withSegment(nodes[i]!, joinedSegment(nodes.slice(i, next), segments, i, next))
    }),
  }
}

/** Samples of a segment that is joined to others. */
const JOIN_SAMPLES = 12

function joinedSegment(
  run: readonly ProfileNode[],
  segments: readonly Segment[],
  from: number,
  to: number,
): NodeSegment {
  const [{ way }] = run as [ProfileNode]
  if (run.every((n) => n.next === 'line')) return run.every((n) => n.way === way) ? { ...LINE, way } : LINE
  if (run.every((n) => n.next === 'curve' && !n.handles)) return FAIR
  const parts = segments.filter((s) => s.index >= from && s.index < to)
  const [first, last] = [parts[0], parts[parts.length - 1]]
  if (!first || !last) return LINE
  const points = parts.flatMap((s, k) =>
    Array.from({ length: JOIN_SAMPLES + (k === 0 ? 1 : 0) }, (_, i) =>
      pointOn(s, (k === 0 ? i : i + 1) / JOIN_SAMPLES),
    ),
  )
  const angle = (s: Segment, end: 0 | 1) => Math.atan2(tangentAt(s, end)[1], tangentAt(s, end)[0])
  return { next: 'curve', handles: handlesOf(cubicAlong(points, angle(first, 0), angle(last, 1))) }
}
