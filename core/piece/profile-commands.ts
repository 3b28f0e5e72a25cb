import type { SolvedCalibration } from '../calibrate/calibrate'
import type { PicturePoint } from '../conventions'
import type { View } from '../camera/view'
import { cutAt } from '../profile/between-levels'
import { copyStretch, type StretchCopy } from '../profile/copy-stretch'
import { deleteNodes } from '../profile/delete-nodes'
import { appendNode, appendNodes, changeNode, closeToAxis, picturePointOf } from '../profile/edit'
import { requireEven, settleCurvature, wishEven } from '../profile/even-joints'
import { fairStretch } from '../profile/fair-stretch'
import { insertNode } from '../profile/insert-node'
import { moveNode, moveNodes, typeCoordinate } from '../profile/move-nodes'
import { setHandles, setNodeKind } from '../profile/segment-kind'
import { moveWithLocks, requireLocks } from '../profile/locks'
import { mirrorEnds } from '../profile/mirror-ends'
import type { CornerEdge, HalfProfile, ProfileNode, Side, Tie } from '../profile/profile'
import { insertStretch, type ReadyStretch } from '../profile/ready-stretches'
import { typeSegment, type SegmentMeasure } from '../profile/segment-measures'
import { dropStroke, joinStroke, layAside, reverseStroke, splitAt, takeStroke } from '../profile/strokes'
import { settleTangents } from '../profile/tangents'

/** Changes of the half-profile. */
export type ProfileCommand =
  | { type: 'set-side'; side: Side }
  /** `side` chooses the drawn side with the first node off the axis. */
  | { type: 'add-node'; node: ProfileNode; at: 'first' | 'last'; side?: Side }
  /** A run of nodes that goes on from an end; its first node stands on that end. */
  | { type: 'add-nodes'; nodes: ProfileNode[]; at: 'first' | 'last' }
  | { type: 'insert-node'; index: number; t: number; id: string }
  | { type: 'move-node'; id: string; r: number; z: number; drawn?: PicturePoint }
  /** Several nodes together: ⌀ by a factor or an amount, heights by an amount; those within reach follow less and less. */
  | { type: 'move-nodes'; ids: string[]; dr?: number; dz?: number; factor?: number; reachMm?: number }
  | { type: 'type-coordinate'; id: string; coordinate: 'r' | 'z'; mm: number }
  /** Length and angle of a line, or radius of an arc, exactly. */
  | { type: 'type-segment'; id: string; measure: SegmentMeasure; value: number }
  | { type: 'align-nodes'; ids: string[]; coordinate: 'r' | 'z'; mm: number }
  /** `even`: smooth, and of one curvature. */
  | { type: 'set-joint'; id: string; joint: ProfileNode['joint'] | 'even' }
  | { type: 'set-segment'; id: string; next: ProfileNode['next'] }
  | { type: 'set-bulge'; id: string; bulge: number }
  | { type: 'set-handles'; id: string; handles: NonNullable<ProfileNode['handles']> }
  /** Fillet or chamfer of corners; null takes it away. */
  | { type: 'set-edge'; ids: string[]; edge: CornerEdge | null }
  | { type: 'hold-node'; id: string; coordinate: 'r' | 'z'; on: boolean }
  | { type: 'lock-segment'; id: string; way: ProfileNode['way'] | null }
  | { type: 'lock-radius'; id: string; mm: number | null }
  | { type: 'tie-nodes'; tie: Tie }
  | { type: 'untie-nodes'; id: string }
  | { type: 'delete-nodes'; ids: string[] }
  | { type: 'insert-stretch'; stretch: ReadyStretch; idPrefix: string }
  /** The profile passes a height with a ⌀; its neighbours follow within reach. */
  | { type: 'meet-station'; z: number; diameterMm: number; reachMm: number; id: string }
  | { type: 'copy-stretch'; copy: StretchCopy; idPrefix: string }
  | { type: 'mirror-ends'; z: number; keep: 'below' | 'above'; idPrefix: string }
  /** The stretch between the first and the last of the nodes, made fair within a distance. */
  | { type: 'fair-stretch'; ids: string[]; withinMm: number; idPrefix: string }
  | { type: 'lay-aside'; stroke: string }
  | { type: 'take-stroke'; id: string; as: string }
  | { type: 'split-stroke'; id: string; node: string; stroke: string }
  | { type: 'join-stroke'; id: string; mergeMm: number }
  | { type: 'reverse-stroke' }
  | { type: 'drop-stroke'; id: string }
  | { type: 'close-profile'; ids: [string, string] }
  | { type: 'clear-profile' }
  /** A curve from a file in place of the one in hand. */
  | { type: 'bring-in-profile'; nodes: ProfileNode[] }

export const PROFILE_LABELS: Record<ProfileCommand['type'], string> = {
  'set-side': 'change the drawn side',
  'add-node': 'add a node',
  'add-nodes': 'draw along the edge',
  'insert-node': 'insert a node',
  'move-node': 'move a node',
  'move-nodes': 'move nodes',
  'type-coordinate': 'type a coordinate',
  'type-segment': 'type a measure',
  'align-nodes': 'align nodes',
  'set-joint': 'change a joint',
  'set-segment': 'change a segment',
  'set-bulge': 'bend an arc',
  'set-handles': 'bend a curve',
  'set-edge': 'round or bevel corners',
  'hold-node': 'hold a node',
  'lock-segment': 'lock a segment',
  'lock-radius': 'keep a radius',
  'tie-nodes': 'tie nodes',
  'untie-nodes': 'untie nodes',
  'delete-nodes': 'delete nodes',
  'insert-stretch': 'insert a ready stretch',
  'meet-station': 'pass through a caliper reading',
  'copy-stretch': 'copy a stretch',
  'mirror-ends': 'mirror an end',
  'fair-stretch': 'make a stretch fair',
  'lay-aside': 'begin another stroke',
  'take-stroke': 'take another stroke',
  'split-stroke': 'part the stroke',
  'join-stroke': 'join a stroke',
  'reverse-stroke': 'turn the stroke round',
  'drop-stroke': 'throw a stroke away',
  'close-profile': 'close the profile',
  'clear-profile': 'clear the profile',
  'bring-in-profile': 'bring in a half-profile',
}

/** True for commands that change a half-profile, whosever it is. */
export function isProfileCommand(command: { type: string }): command is ProfileCommand {
  return Object.hasOwn(PROFILE_LABELS, command.type)
}

/**
 * Nodes between the ends stay at least this far from the axis, as a share of a pixel: nearer they could only
 * be meant to lie on it, and a profile that touches the axis half-way bounds no solid.
 */
const LEAST_RADIUS_PX = 0.25

/**
 * The profile after a command: locks hold, smooth joints keep one tangent, and what moved remembers its new place in the
 * picture.
 * @throws CoreError where locks contradict each other or what was asked for can't be made; nothing has changed then
 */
export function applyToProfile(
  profile: HalfProfile,
  command: ProfileCommand,
  solved: SolvedCalibration | undefined,
): HalfProfile {
  const view = solved?.view
  const edited = change(profile, command, view, LEAST_RADIUS_PX * (solved?.frame.mmPerPx ?? 0))
  if (edited === profile || command.type === 'set-side') return edited
  const before = [profile, ...(profile.aside ?? [])].flatMap((stroke) => stroke.nodes)
  const nodes = settleCurvature(before, settleTangents(before, edited.nodes))
  if (command.type === 'set-joint' && command.joint === 'even') requireEven(nodes, command.id)
  // The ends made by closing stay level with their neighbours instead of standing anywhere in the picture; what a file says in mm
  // has nothing to do with the picture either.
  const places = command.type !== 'close-profile' && command.type !== 'bring-in-profile'
  return { ...edited, nodes: view ? redrawn(profile, { ...edited, nodes }, view, places) : nodes }
}

function change(
  profile: HalfProfile,
  command: ProfileCommand,
  view: View | undefined,
  leastR: number,
): HalfProfile {
  switch (command.type) {
    case 'set-side':
      return mirrorTo(profile, command.side, view)
    case 'add-node':
      return appendNode({ ...profile, side: command.side ?? profile.side }, command.node, command.at)
    case 'add-nodes':
      return appendNodes(profile, command.nodes, command.at)
    case 'insert-node':
      return insertNode(profile, command.index, command.t, command.id, view)
    case 'move-node':
      return moveNode(profile, command.id, command, leastR)
    case 'move-nodes':
      return moveNodes(profile, new Set(command.ids), command, leastR)
    case 'type-coordinate':
      return typeCoordinate(profile, command.id, command.coordinate, command.mm)
    case 'type-segment':
      return typeSegment(profile, command.id, command.measure, command.value)
    case 'align-nodes':
      return moveWithLocks(
        profile,
        new Map(command.ids.map((id) => [id, { [command.coordinate]: command.mm }])),
      )
    case 'set-joint':
      if (command.joint === 'even') return wishEven(profile, command.id)
      return setNodeKind(profile, command.id, { joint: command.joint })
    case 'set-segment':
      return setNodeKind(profile, command.id, { next: command.next })
    case 'set-bulge':
      return changeNode(profile, command.id, { bulge: command.bulge })
    case 'set-handles':
      return setHandles(profile, command.id, command.handles)
    case 'set-edge':
      return command.ids.reduce((p, id) => changeNode(p, id, { edge: command.edge ?? undefined }), profile) // prettier-ignore
    case 'hold-node': {
      const held = new Set(profile.nodes.find((n) => n.id === command.id)?.held)
      if (command.on) held.add(command.coordinate)
      else held.delete(command.coordinate)
      return withLocks(changeNode(profile, command.id, { held: held.size > 0 ? [...held] : undefined }))
    }
    case 'lock-segment':
      return withLocks(changeNode(profile, command.id, { way: command.way ?? undefined }))
    case 'lock-radius':
      return withLocks(changeNode(profile, command.id, { radius: command.mm ?? undefined }))
    case 'tie-nodes':
      return withLocks({ ...profile, ties: [...(profile.ties ?? []).filter((t) => t.id !== command.tie.id), command.tie] }) // prettier-ignore
    case 'untie-nodes':
      return { ...profile, ties: profile.ties?.filter((t) => t.id !== command.id) }
    case 'delete-nodes':
      return deleteNodes(profile, new Set(command.ids))
    case 'insert-stretch':
      return insertStretch(profile, command.stretch, counter(command.idPrefix))
    case 'meet-station': {
      const cut = cutAt(profile, command.z, command.id)
      const node = cut.profile.nodes[cut.index]!
      const dr = command.diameterMm / 2 - node.r
      return moveNodes(cut.profile, new Set([node.id]), { dr, reachMm: command.reachMm }, leastR)
    }
    case 'copy-stretch':
      return copyStretch(profile, command.copy, counter(command.idPrefix))
    case 'mirror-ends':
      return mirrorEnds(profile, command.z, command.keep, counter(command.idPrefix))
    case 'fair-stretch':
      return fairStretch(profile, command.ids, command.withinMm, counter(command.idPrefix))
    case 'lay-aside':
      return layAside(profile, command.stroke)
    case 'take-stroke':
      return takeStroke(profile, command.id, command.as)
    case 'split-stroke':
      return splitAt(profile, command.id, command)
    case 'join-stroke':
      return joinStroke(profile, command.id, command.mergeMm)
    case 'reverse-stroke':
      return reverseStroke(profile)
    case 'drop-stroke':
      return dropStroke(profile, command.id)
    case 'close-profile': {
      const ids = [...command.ids]
      return closeToAxis(profile, () => ids.shift()!)
    }
    case 'clear-profile':
      return { side: profile.side, nodes: [] }
    case 'bring-in-profile':
      return { side: profile.side, nodes: command.nodes, ...(profile.aside && { aside: profile.aside }) }
  }
}

/** Names for new nodes. */
function counter(prefix: string): () => string {
  let count = 0
  return () => `${prefix}-${count++}`
}

/** The profile moved so that its locks hold. */
function withLocks(profile: HalfProfile): HalfProfile {
  return moveWithLocks(requireLocks(profile), new Map())
}

/**
 * Nodes that moved without being drawn anew stand elsewhere in the picture too, and new ones stand where they were made, so
 * that a corrected scale takes them along.
 */
function redrawn(before: HalfProfile, after: HalfProfile, view: View, places: boolean): ProfileNode[] {
  // Most nodes are those of before, in their places; others are looked up.
  let old: Map<string, ProfileNode> | null = null
  return after.nodes.map((node, i) => {
    if (node === before.nodes[i]) return node
    old ??= new Map(before.nodes.map((n) => [n.id, n]))
    const was = old.get(node.id)
    if (!was && !node.drawn && places) return { ...node, drawn: picturePointOf(after.side, node, view) }
    const moved = was && (was.r !== node.r || was.z !== node.z) && was.drawn && was.drawn === node.drawn
    return moved ? { ...node, drawn: picturePointOf(after.side, node, view) } : node
  })
}

/** Shows the same profile on the other side; the picture points move to the mirrored places. */
function mirrorTo(profile: HalfProfile, side: Side, view: View | undefined): HalfProfile {
  if (profile.side === side) return profile
  const mirrored = (nodes: readonly ProfileNode[]) =>
    nodes.map((node) => (node.drawn && view ? { ...node, drawn: picturePointOf(side, node, view) } : node))
  const aside = profile.aside?.map((s) => ({ ...s, nodes: mirrored(s.nodes) }))
  return { ...profile, side, nodes: mirrored(profile.nodes), ...(aside && { aside }) }
}
