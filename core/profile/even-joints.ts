import { CoreError } from '../errors'
import { curvatureOn } from './curvature'
import { indexOfNode, replaceNode } from './edit'
import type { Cubic } from './hobby'
import { withSegment } from './node-segment'
import type { HalfProfile, ProfileNode } from './profile'
import { handlesOf } from './segment-kind'
import { sharpSegments, type Segment } from './segments'

/** Two joints of one cubic depend on each other's handles; so many rounds bring them to rest. */
const ROUNDS = 12
/** Handles stay between these shares of their chord: beyond them a curve loops or kinks. */
const LEAST_HANDLE = 0.02
const MOST_HANDLE = 3
/** Curvatures that differ by less than this share of the larger are one. */
const SAME = 1e-6

/**
 * Makes the joint at a node one of equal curvature: smooth, with handles on fair curves beside it, since only handles can be
 * adjusted. The curvature itself is settled by `settleCurvature`.
 */
export function wishEven(profile: HalfProfile, id: string): HalfProfile {
  const index = indexOfNode(profile, id)
  const node = profile.nodes[index]
  if (!node) return profile
  let out = profile
  for (const segment of sharpSegments(profile.nodes)) {
    const own = profile.nodes[segment.index]!
    if (Math.abs(segment.index - index + 0.5) > 1 || own.next !== 'curve' || segment.kind !== 'cubic')
      continue
    out = replaceNode(out, segment.index, withSegment(own, { next: 'curve', handles: handlesOf(segment.cubic) })) // prettier-ignore
  }
  const even: ProfileNode = { ...out.nodes[index]!, joint: 'smooth', even: true }
  delete even.edge
  return replaceNode(out, index, even)
}

/** Curvature just before and just after a node, 1/mm along the way; null at ends. */
export function curvaturesAt(nodes: readonly ProfileNode[], index: number): [number, number] | null {
  const [a, b] = besides(nodes, index)
  return a && b ? [curvatureOn(a, 1), curvatureOn(b, 0)] : null
}

/**
 * Gives joints that are to be of one curvature that curvature again after an edit, by the lengths of the handles beside
 * them: an arc or a line leads, two curves meet at the geometric mean of theirs, curves that bend opposite ways go straight
 * through. Where no handles do it the joint stays smooth only.
 */
export function settleCurvature(
  before: readonly ProfileNode[],
  after: readonly ProfileNode[],
): ProfileNode[] {
  if (!after.some((node) => node.even)) return [...after]
  const old = new Set(before)
  const near = (i: number) => [-2, -1, 0, 1, 2].some((k) => after[i + k] && !old.has(after[i + k]!))
  const joints = after.flatMap((node, i) => (node.even && node.joint === 'smooth' && near(i) ? [i] : []))
  let nodes = [...after]
  if (joints.length === 0) return nodes
  for (let round = 0; round < ROUNDS; round++) for (const i of joints) nodes = evened(nodes, i)
  return nodes
}

/** @throws CoreError `not-even` where the joint at a node could not be made one of equal curvature */
export function requireEven(nodes: readonly ProfileNode[], id: string): void {
  const index = nodes.findIndex((n) => n.id === id)
  const found = curvaturesAt(nodes, index)
  if (found && Math.abs(found[0] - found[1]) <= SAME * Math.max(...found.map(Math.abs))) return
  const rigid = found && besides(nodes, index).every((s) => s?.kind !== 'cubic')
  throw new CoreError({
    code: 'not-even',
    message: rigid
      ? `Beside node ${index + 1} there are only lines and arcs, whose curvature is what it is. Make one of them a curve first.`
      : `The curves beside node ${index + 1} can’t meet with one curvature as they run now. Move the node or its handles, or leave the joint smooth.`,
    where: id,
  })
}

function besides(nodes: readonly ProfileNode[], index: number): [Segment | undefined, Segment | undefined] {
  const base = Math.max(0, index - 2)
  const segments = sharpSegments(nodes.slice(base, index + 3))
  return [index - 1, index].map((k) => segments.find((s) => s.index + base === k)) as [Segment | undefined, Segment | undefined] // prettier-ignore
}

function evened(nodes: readonly ProfileNode[], i: number): ProfileNode[] {
  const out = [...nodes]
  const [a, b] = besides(nodes, i)
  const [own, next] = [nodes[i - 1], nodes[i]!]
  if (!a || !b || !own) return out
  const curvature = sharedCurvature(a, b)
  const before = a.kind === 'cubic' && own.handles ? withStartCurvature(backwardsCubic(a.cubic), -curvature) : null // prettier-ignore
  const after = b.kind === 'cubic' && next.handles ? withStartCurvature(b.cubic, curvature) : null
  // One side alone would only move the step elsewhere.
  if ((a.kind === 'cubic' && !before) || (b.kind === 'cubic' && !after)) return out
  if (before) out[i - 1] = { ...own, handles: handlesOf(backwardsCubic(before)) }
  if (after) out[i] = { ...next, handles: handlesOf(after) }
  return out
}

function sharedCurvature(a: Segment, b: Segment): number {
  const [p, q] = [curvatureOn(a, 1), curvatureOn(b, 0)]
  if (a.kind !== 'cubic') return p
  if (b.kind !== 'cubic') return q
  return p * q > 0 ? Math.sign(p) * Math.sqrt(p * q) : 0
}

/**
 * A cubic with the curvature k at its start and the same tangents: k = 2/3 (t × (p2 - p0)) / a² with t the direction and a
 * the length of its first handle (G. Farin, Curves and Surfaces for CAGD, on end curvatures), so a follows from k; for k = 0
 * the other handle is cut so that p2 lies on the first tangent. Null where that takes no sensible handle.
 */
function withStartCurvature(c: Cubic, k: number): Cubic | null {
  const chord = Math.hypot(c[6] - c[0], c[7] - c[1])
  const sensible = (length: number) => length >= LEAST_HANDLE * chord && length <= MOST_HANDLE * chord
  const a = Math.hypot(c[2] - c[0], c[3] - c[1])
  const b = Math.hypot(c[6] - c[4], c[7] - c[5])
  if (a === 0 || b === 0) return null
  const t = [(c[2] - c[0]) / a, (c[3] - c[1]) / a] as const
  const u = [(c[6] - c[4]) / b, (c[7] - c[5]) / b] as const
  const across = (r: number, z: number) => t[0] * z - t[1] * r
  const out = [...c] as unknown as Cubic
  if (k === 0) {
    const m = across(c[6] - c[0], c[7] - c[1]) / across(u[0], u[1])
    if (!sensible(m)) return null
    out[4] = c[6] - m * u[0]
    out[5] = c[7] - m * u[1]
    return out
  }
  const square = ((2 / 3) * across(c[4] - c[0], c[5] - c[1])) / k
  const length = Math.sqrt(square)
  if (!(square > 0) || !sensible(length)) return null
  out[2] = c[0] + length * t[0]
  out[3] = c[1] + length * t[1]
  return out
}

function backwardsCubic(c: Cubic): Cubic {
  return [c[6], c[7], c[4], c[5], c[2], c[3], c[0], c[1]]
}
