import { bulgeArriving, bulgeLeaving } from './arc'
import type { ProfileNode } from './profile'
import { sharpSegments, tangentAt, turnBetween, type Segment } from './segments'

/** Directions within this angle, radians, are one: what rounding leaves of it. */
const SAME = 1e-9

/**
 * Gives smooth joints one tangent again after an edit: the more rigid side leads, a line before an arc before a curve, and
 * of two curves both turn to their mean. Only joints beside what changed are touched, so that nothing else moves.
 */
export function settleTangents(before: readonly ProfileNode[], after: readonly ProfileNode[]): ProfileNode[] {
  // Most edits leave the nodes where they are in the list; else they are looked up.
  let old: Set<ProfileNode> | null = null
  const changed = (i: number) => {
    const node = after[i]
    if (node === undefined || node === before[i]) return false
    return !(old ??= new Set(before)).has(node)
  }
  let nodes = [...after]
  for (let i = 1; i + 1 < nodes.length; i++)
    if (nodes[i]!.joint === 'smooth' && (changed(i - 1) || changed(i) || changed(i + 1)))
      nodes = settled(nodes, i)
  return nodes
}

const RIGIDITY = { line: 2, arc: 1, cubic: 0 } as const

function settled(nodes: readonly ProfileNode[], i: number): ProfileNode[] {
  const segments = sharpSegments(nodes.slice(Math.max(0, i - 2), i + 3))
  const base = Math.max(0, i - 2)
  const [a, b] = [i - 1, i].map((k) => segments.find((s) => s.index + base === k))
  if (!a || !b) return [...nodes]
  const [into, out] = [angleOf(a, 1), angleOf(b, 0)]
  const turn = turnBetween(a, b)
  if (Math.abs(turn) < SAME) return [...nodes]
  const rank = (s: Segment) => RIGIDITY[s.kind]
  if (a.kind === 'line' && b.kind === 'line') return [...nodes]
  if (rank(a) > rank(b)) return turned(nodes, i, 'after', into)
  if (rank(b) > rank(a)) return turned(nodes, i, 'before', out)
  if (a.kind === 'arc') return turned(nodes, i, 'after', into)
  const mean = into + turn / 2
  return turned(turned(nodes, i, 'before', mean), i, 'after', mean)
}

function angleOf(s: Segment, end: 0 | 1): number {
  const [r, z] = tangentAt(s, end)
  return Math.atan2(z, r)
}

/** The segment before or after node i with another direction there; fair curves and arcs of a kept radius stay. */
function turned(
  nodes: readonly ProfileNode[],
  i: number,
  side: 'before' | 'after',
  angle: number,
): ProfileNode[] {
  const k = side === 'before' ? i - 1 : i
  const [a, b] = [nodes[k]!, nodes[k + 1]!]
  const [p, q] = [[a.r, a.z], [b.r, b.z]] as const // prettier-ignore
  const out = [...nodes]
  if (a.next === 'arc' && a.radius === undefined) {
    const bulge = side === 'before' ? bulgeArriving(p, q, angle) : bulgeLeaving(p, q, angle)
    if (Number.isFinite(bulge) && Math.abs(bulge) < MOST_BULGE) out[k] = { ...a, bulge }
  } else if (a.next === 'curve' && a.handles) {
    const [r1, z1, r2, z2] = a.handles
    const [c, s] = [Math.cos(angle), Math.sin(angle)]
    const [l, m] = [Math.hypot(r1, z1), Math.hypot(r2, z2)]
    out[k] = { ...a, handles: side === 'before' ? [r1, z1, -m * c, -m * s] : [l * c, l * s, r2, z2] }
  }
  return out
}

/** More than seven eighths of a circle is nothing that a tangent should make of an arc. */
const MOST_BULGE = Math.tan((7 / 8) * (Math.PI / 2))
