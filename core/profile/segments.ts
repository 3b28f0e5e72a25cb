import { hobbyChain, type Cubic, type EndDirection } from './hobby'
import { onAxis, type ProfileNode } from './profile'

/** A piece of the exact half-profile between nodes `index` and `index + 1`; lines are straight cubics. */
export interface Segment {
  kind: 'line' | 'cubic'
  /** Control points [r0 z0 r1 z1 r2 z2 r3 z3], mm. */
  cubic: Cubic
  /** Index of the node it starts at. */
  index: number
}

/**
 * The exact curve through the nodes: straight segments as typed, curved ones as Hobby splines over each
 * run of curve segments. A smooth node beside a line takes the line's direction; a smooth end on the
 * axis is level, so that a dome has no tip. Segments of no length are left out.
 */
export function profileSegments(nodes: readonly ProfileNode[]): Segment[] {
  const kept = nodes
    .map((node, index) => ({ node, index }))
    .filter(({ node }, i, all) => {
      const next = all[i + 1]?.node ?? null
      return next === null || next.r !== node.r || next.z !== node.z
    })
  const segments: Segment[] = []
  let i = 0
  while (i + 1 < kept.length) {
    const { node, index } = kept[i]!
    if (node.next === 'line') {
      const to = kept[i + 1]!.node
      segments.push({ kind: 'line', index, cubic: straight(node, to) })
      i++
      continue
    }
    let j = i + 1
    while (j + 1 < kept.length && kept[j]!.node.joint === 'smooth' && kept[j]!.node.next === 'curve') j++
    const chain = kept.slice(i, j + 1)
    const points = chain.flatMap(({ node: p }) => [p.r, p.z])
    const start = endDirection(node, kept[i - 1]?.node, chain[1]!.node, 'start')
    const last = kept[j]!.node
    const after = last.next === 'line' ? kept[j + 1]?.node : undefined
    const end = endDirection(last, after, chain[chain.length - 2]!.node, 'end')
    hobbyChain(points, start, end).forEach((cubic, k) => {
      segments.push({ kind: 'cubic', cubic, index: chain[k]!.index })
    })
    i = j
  }
  return segments
}

function straight(a: ProfileNode, b: ProfileNode): Cubic {
  const dr = (b.r - a.r) / 3
  const dz = (b.z - a.z) / 3
  return [a.r, a.z, a.r + dr, a.z + dz, b.r - dr, b.z - dz, b.r, b.z]
}

/**
 * Direction of a chain of curves at one of its ends.
 * @param beyond the node on the other side of a neighbouring line, if there is one
 * @param inner the chain's node next to the end
 */
function endDirection(
  node: ProfileNode,
  beyond: ProfileNode | undefined,
  inner: ProfileNode,
  which: 'start' | 'end',
): EndDirection {
  if (node.joint !== 'smooth') return 'free'
  if (beyond) {
    const s = which === 'start' ? 1 : -1
    return Math.atan2(s * (node.z - beyond.z), s * (node.r - beyond.r))
  }
  // Level at the pole: away from the axis at the start, towards it at the end.
  if (onAxis(node) && inner.r > 0) return which === 'start' ? 0 : Math.PI
  return 'free'
}

/** Point of a segment at parameter t in 0..1, as [r, z]. */
export function pointAt(c: Cubic, t: number): [number, number] {
  const s = 1 - t
  const a = s * s * s
  const b = 3 * s * s * t
  const d = 3 * s * t * t
  const e = t * t * t
  return [a * c[0] + b * c[2] + d * c[4] + e * c[6], a * c[1] + b * c[3] + d * c[5] + e * c[7]]
}

/** Derivative of a segment at parameter t, as [dr/dt, dz/dt]. */
export function derivativeAt(c: Cubic, t: number): [number, number] {
  const s = 1 - t
  const a = 3 * s * s
  const b = 6 * s * t
  const d = 3 * t * t
  return [
    a * (c[2] - c[0]) + b * (c[4] - c[2]) + d * (c[6] - c[4]),
    a * (c[3] - c[1]) + b * (c[5] - c[3]) + d * (c[7] - c[5]),
  ]
}
