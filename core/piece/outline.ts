import { readProfile, type ReadProfile } from '../calibrate/read-profile'
import type { View } from '../camera/view'
import type { PicturePoint } from '../conventions'
import type { OutlineSide } from '../outline/refine'
import { picturePointOf } from '../profile/edit'
import { fitNodes } from '../profile/fit-nodes'
import { onAxis, type HalfProfile, type ProfileNode } from '../profile/profile'
import { withStroke } from '../outline/strokes'
import type { PieceOutline } from './schema'

/** Rows suffice for drawing and for nodes; files from the command line take more. */
const ROWS = 500
/** Digits kept of picture positions: a thousandth px. */
const KEPT = 1000

/** A found side as a document keeps it. */
export function storedSide({ points, sd }: OutlineSide): PieceOutline['left'] {
  return {
    points: Array.from(points, (v) => Math.round(v * KEPT) / KEPT),
    sd: Array.from(sd, (v) => (Number.isFinite(v) ? Math.round(v * KEPT) / KEPT : null)),
  }
}

/** What was read of a found side, kept for as long as nothing that it rests on changes; the nodes' tolerance does not. */
interface Kept {
  right: PieceOutline['right']
  strokes: PieceOutline['strokes']
  sides: { left: OutlineSide; right: OutlineSide }
  read?: { choices: PieceOutline['choices']; view: View; profile: ReadProfile }
}
const keptByLeft = new WeakMap<PieceOutline['left'], Kept>()

function keptOf(outline: PieceOutline): Kept {
  const { left, right, strokes, blur } = outline
  const kept = keptByLeft.get(left)
  if (kept && kept.right === right && kept.strokes === strokes) return kept
  const side = (name: 'left' | 'right'): OutlineSide => {
    const found: OutlineSide = {
      points: Float64Array.from(outline[name].points),
      sd: Float64Array.from(outline[name].sd, (v) => v ?? Infinity),
      blur,
    }
    return strokes.filter((s) => s.side === name).reduce((s, stroke) => withStroke(s, stroke.points), found)
  }
  const fresh: Kept = { right, strokes, sides: { left: side('left'), right: side('right') } }
  keptByLeft.set(left, fresh)
  return fresh
}

/** Both sides with the strokes drawn by hand laid over them. */
export function sidesOf(outline: PieceOutline): { left: OutlineSide; right: OutlineSide } {
  return keptOf(outline).sides
}

/** The half-profile that the outline of a document shows through a view. */
export function readOutline(outline: PieceOutline, view: View): ReadProfile {
  const kept = keptOf(outline)
  const { choices } = outline
  if (kept.read?.view !== view || kept.read.choices !== choices)
    kept.read = { choices, view, profile: readProfile(view, kept.sides, { choices, rows: ROWS }) }
  return kept.read.profile
}

/** Tolerance of the fitted nodes as a share of the height, and at least so many standard errors of the edge. */
const FIT_SHARE = 0.0005
const FIT_SDS = 3

/** How near fitted nodes should stay to an outline when nobody says, mm. */
export function usualFit(read: ReadProfile): number {
  const { sd, pxPerUnit } = read.half
  const sds = [...sd].filter(Number.isFinite).sort((a, b) => a - b)
  const tall = read.top - read.foot
  const n = read.half.points.length
  const perUnit = tall / (read.half.points[n - 1]! - read.half.points[1]!)
  return Math.max(FIT_SHARE * tall, (FIT_SDS * perUnit * (sds[sds.length >> 1] ?? 0)) / pxPerUnit)
}

/** Nodes of the outline nearer to a hand's node than this share of the height make room for it. */
const ROOM = 0.015

/**
 * The profile with its nodes fitted anew to the outline. Nodes that a hand set or touched stay where they are, and those
 * of the outline beside them make room.
 * @param idPrefix makes the ids of the new nodes
 */
export function followOutline(
  profile: HalfProfile,
  outline: PieceOutline,
  view: View,
  toleranceMm: number,
  idPrefix: string,
): HalfProfile {
  const read = readOutline(outline, view)
  let count = 0
  const fitted = fitNodes(read.points, toleranceMm, () => `${idPrefix}-${count++}`).nodes.map(
    (node): ProfileNode => ({ ...node, by: 'outline', drawn: drawnAt(profile, node, view) }),
  )
  const hands = profile.nodes.filter((node) => node.by !== 'outline')
  if (hands.length === 0 || fitted.length === 0) return { ...profile, nodes: fitted }
  const room = ROOM * (read.top - read.foot)
  const near = (a: ProfileNode, b: ProfileNode) => Math.hypot(a.r - b.r, a.z - b.z)
  const nodes = fitted.filter((node) => onAxis(node) || hands.every((hand) => near(hand, node) > room))
  for (const hand of hands) {
    if (onAxis(hand)) continue
    nodes.splice(placeFor(hand, nodes), 0, hand)
  }
  return { ...profile, nodes }
}

function drawnAt(profile: HalfProfile, node: ProfileNode, view: View): PicturePoint {
  return picturePointOf(profile.side, node, view)
}

/** Index at which a node lengthens the chain least. */
function placeFor(node: ProfileNode, nodes: readonly ProfileNode[]): number {
  let best = nodes.length
  let least = Infinity
  for (let i = 1; i < nodes.length; i++) {
    const [a, b] = [nodes[i - 1]!, nodes[i]!]
    const detour =
      Math.hypot(node.r - a.r, node.z - a.z) +
      Math.hypot(b.r - node.r, b.z - node.z) -
      Math.hypot(b.r - a.r, b.z - a.z)
    if (detour < least) {
      least = detour
      best = i
    }
  }
  return best
}
