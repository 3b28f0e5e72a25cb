import { wrapAngle } from './arc'
import type { CornerEdge, ProfileNode } from './profile'
import {
  derivativeOn,
  endOf,
  lineSegment,
  partOf,
  pointOn,
  startOf,
  turnBetween,
  type ArcSegment,
  type Segment,
} from './segments'

/** A fillet or chamfer that its neighbours are too short for, and what was made of it. */
export interface EdgeNote {
  nodeId: string
  kind: CornerEdge['kind']
  askedMm: number
  madeMm: number
}

/** A turn smaller than this, radians (0.5°), is no corner. */
const NO_CORNER = (0.5 * Math.PI) / 180
/** What is left of a segment between two roundings is dropped when it is shorter than this share of it. */
const NOTHING_LEFT = 1e-9
const NEWTON = 30
/** Halvings when the largest size that fits is looked for: to a millionth of what was asked for. */
const HALVINGS = 24

/** How far a rounding cuts into the segments before and after its corner, as parameters of them. */
interface Trim {
  before: number
  after: number
}

interface Corner {
  /** Index of the segment that ends there, and of the node. */
  before: number
  node: number
  edge: CornerEdge
  mm: number
  trim: Trim | null
}

/**
 * Puts fillets and chamfers in place of the corners that carry one. A fillet is the circle of its radius that touches
 * both neighbours; a chamfer joins the places as far from the corner as its size. Sizes that the neighbours have no
 * room for are made as large as fits, two that share a segment by the same share.
 */
export function roundEdges(
  segments: readonly Segment[],
  nodes: readonly ProfileNode[],
): { segments: Segment[]; notes: EdgeNote[] } {
  if (!nodes.some((n) => n.edge)) return { segments: [...segments], notes: [] }
  const corners: Corner[] = []
  for (let i = 0; i + 1 < segments.length; i++) {
    const node = segments[i + 1]!.index
    const edge = nodes[node]!.edge
    if (!edge || Math.abs(turnBetween(segments[i]!, segments[i + 1]!)) < NO_CORNER) continue
    const mm = largestThat((size) => trimOf(segments, i, { ...edge, mm: size }) !== null, edge.mm)
    corners.push({ before: i, node, edge, mm, trim: trimOf(segments, i, { ...edge, mm }) })
  }
  corners.forEach((corner, k) => shareWith(corner, corners[k + 1], segments))
  return {
    segments: assembled(segments, corners),
    notes: corners
      .filter(({ mm, edge }) => mm < edge.mm * (1 - 1e-6))
      .map(({ node, edge, mm }) => ({ nodeId: nodes[node]!.id, kind: edge.kind, askedMm: edge.mm, madeMm: mm })), // prettier-ignore
  }
}

/** The largest size up to the one asked for that something holds for; 0 when it holds for none. */
function largestThat(fits: (mm: number) => boolean, asked: number): number {
  if (fits(asked)) return asked
  let [low, high] = [0, asked]
  for (let k = 0; k < HALVINGS; k++) {
    const middle = (low + high) / 2
    if (fits(middle)) low = middle
    else high = middle
  }
  return low
}

/** Makes both smaller where two corners cut into the segment between them from both ends. */
function shareWith(corner: Corner, next: Corner | undefined, segments: readonly Segment[]): void {
  if (!next || next.before !== corner.before + 1) return
  const both = (factor: number) =>
    [corner, next].map((c) => trimOf(segments, c.before, { ...c.edge, mm: c.mm * factor }))
  const fits = (factor: number) => {
    const [first, second] = both(factor)
    return !first || !second || first.after <= second.before
  }
  const factor = largestThat(fits, 1)
  if (factor === 1) return
  const trims = both(factor)
  ;[corner, next].forEach((c, i) => {
    c.mm *= factor
    c.trim = trims[i]!
  })
}

function assembled(segments: readonly Segment[], corners: readonly Corner[]): Segment[] {
  const out: Segment[] = []
  const at = new Map(corners.filter((c) => c.trim).map((c) => [c.before, c]))
  segments.forEach((segment, i) => {
    const from = at.get(i - 1)?.trim?.after ?? 0
    const corner = at.get(i)
    const to = corner?.trim?.before ?? 1
    if (to - from > NOTHING_LEFT) out.push(partOf(segment, from, to))
    if (!corner?.trim || corner.mm === 0) return
    out.push(edgeSegment(segment, segments[i + 1]!, corner, corner.trim))
  })
  return out
}

function edgeSegment(a: Segment, b: Segment, { edge, node, mm }: Corner, { before, after }: Trim): Segment {
  const [p, q] = [pointOn(a, before), pointOn(b, after)]
  if (edge.kind === 'chamfer') return { ...lineSegment(p, q, node), edge: true }
  const [s, t] = [derivativeOn(a, before), derivativeOn(b, after)]
  const sweep = wrapAngle(Math.atan2(t[1], t[0]) - Math.atan2(s[1], s[0]))
  const side = Math.sign(sweep)
  const length = Math.hypot(...s)
  const centre = [p[0] - (side * mm * s[1]) / length, p[1] + (side * mm * s[0]) / length] as const
  const arc: ArcSegment = {
    kind: 'arc',
    index: node,
    edge: true,
    ends: [...p, ...q],
    arc: { centre, radius: mm, from: Math.atan2(p[1] - centre[1], p[0] - centre[0]), sweep },
  }
  return arc
}

function trimOf(segments: readonly Segment[], before: number, edge: CornerEdge): Trim | null {
  const [a, b] = [segments[before]!, segments[before + 1]!]
  return edge.kind === 'fillet' ? filletTrim(a, b, edge.mm) : chamferTrim(a, b, edge.mm)
}

/**
 * Where a circle of a radius touches both segments: the two parameters at which their offset curves meet, by Newton's
 * method from the place where it would touch their tangents.
 */
function filletTrim(a: Segment, b: Segment, radius: number): Trim | null {
  const turn = turnBetween(a, b)
  const side = Math.sign(turn)
  const reach = radius * Math.tan(Math.abs(turn) / 2)
  let s = 1 - reach / Math.hypot(...derivativeOn(a, 1))
  let t = reach / Math.hypot(...derivativeOn(b, 0))
  if (!Number.isFinite(s) || !Number.isFinite(t)) return null
  const offset = (segment: Segment, u: number) => {
    const [r, z] = pointOn(segment, u)
    const [dr, dz] = derivativeOn(segment, u)
    const k = (side * radius) / Math.hypot(dr, dz)
    return [r - k * dz, z + k * dr] as const
  }
  const step = 1e-6
  const size = Math.hypot(endOf(a)[0] - startOf(a)[0], endOf(a)[1] - startOf(a)[1]) + radius
  for (let round = 0; round < NEWTON; round++) {
    const [p, q] = [offset(a, s), offset(b, t)]
    const [er, ez] = [p[0] - q[0], p[1] - q[1]]
    if (Math.hypot(er, ez) < 1e-12 * size) break
    const [p1, q1] = [offset(a, s + step), offset(b, t + step)]
    const [ar, az] = [(p1[0] - p[0]) / step, (p1[1] - p[1]) / step]
    const [br, bz] = [(q1[0] - q[0]) / step, (q1[1] - q[1]) / step]
    const det = ar * -bz + az * br
    if (!(Math.abs(det) > 0)) return null
    s -= (er * -bz + ez * br) / det
    t -= (ar * ez - az * er) / det
    if (!(Math.abs(s) < 3 && Math.abs(t) < 3)) return null
  }
  const [p, q] = [offset(a, s), offset(b, t)]
  const meets = Math.hypot(p[0] - q[0], p[1] - q[1]) < 1e-7 * size
  return meets && s >= 0 && s < 1 && t > 0 && t <= 1 ? { before: s, after: t } : null
}

/** The places as far from the corner as the chamfer is wide; null where a segment ends before. */
function chamferTrim(a: Segment, b: Segment, mm: number): Trim | null {
  const corner = endOf(a)
  const away = (segment: Segment, t: number) => {
    const [r, z] = pointOn(segment, t)
    return Math.hypot(r - corner[0], z - corner[1])
  }
  if (away(a, 0) < mm || away(b, 1) < mm) return null
  const crossing = (segment: Segment, near: number, far: number) => {
    let [low, high] = [near, far]
    for (let k = 0; k < 60; k++) {
      const middle = (low + high) / 2
      if (away(segment, middle) < mm) low = middle
      else high = middle
    }
    return (low + high) / 2
  }
  return { before: crossing(a, 1, 0), after: crossing(b, 0, 1) }
}
