import type { PicturePoint } from '../conventions'
import type { KnownSize } from '../calibrate/known-size'
import { solveCalibration, type Calibration } from '../calibrate/calibrate'
import type { ProfileNode, Side } from '../profile/profile'
import * as edit from '../profile/edit'
import type { DisplayUnit } from '../units/units'
import type { PieceDocument, PiecePhoto } from './schema'

/** Every change of a document is one of these. */
export type Command =
  | { type: 'rename'; name: string }
  | { type: 'set-unit'; unit: DisplayUnit }
  | { type: 'set-photo'; photo: PiecePhoto | null }
  | { type: 'turn-photo'; quarterTurns: number }
  | { type: 'set-plumb'; plumb: Calibration['plumb'] }
  | { type: 'set-ground'; ground: PicturePoint | null }
  | { type: 'set-known-size'; size: KnownSize }
  | { type: 'remove-known-size'; id: string }
  | { type: 'set-side'; side: Side }
  /** `side` chooses the drawn side with the first node off the axis. */
  | { type: 'add-node'; node: ProfileNode; at: 'first' | 'last'; side?: Side }
  | { type: 'insert-node'; index: number; t: number; id: string }
  | { type: 'move-node'; id: string; r: number; z: number; drawn?: PicturePoint }
  | { type: 'type-coordinate'; id: string; coordinate: 'r' | 'z'; mm: number }
  | { type: 'set-joint'; id: string; joint: ProfileNode['joint'] }
  | { type: 'set-segment'; id: string; next: ProfileNode['next'] }
  | { type: 'delete-nodes'; ids: string[] }
  | { type: 'close-profile'; ids: [string, string] }
  | { type: 'clear-profile' }
  | { type: 'set-sides'; sides: number }

const LABELS: Record<Command['type'], string> = {
  rename: 'rename the piece',
  'set-unit': 'change the unit',
  'set-photo': 'change the photo',
  'turn-photo': 'turn the photo',
  'set-plumb': 'set the plumb line',
  'set-ground': 'set the ground line',
  'set-known-size': 'set a known size',
  'remove-known-size': 'remove a known size',
  'set-side': 'change the drawn side',
  'add-node': 'add a node',
  'insert-node': 'insert a node',
  'move-node': 'move a node',
  'type-coordinate': 'type a coordinate',
  'set-joint': 'change a joint',
  'set-segment': 'change a segment',
  'delete-nodes': 'delete nodes',
  'close-profile': 'close the profile',
  'clear-profile': 'clear the profile',
  'set-sides': 'change the sides',
}

/** The command in words, for "Undo: …". */
export function commandLabel(command: Command): string {
  return LABELS[command.type]
}

/**
 * Nodes between the ends stay at least this far from the axis, as a share of a pixel: nearer they could only
 * be meant to lie on it, and a profile that touches the axis half-way bounds no solid.
 */
const LEAST_RADIUS_PX = 0.25

/** The document after a command; the same object when nothing changes. Sections that don't change are shared. */
export function applyCommand(document: PieceDocument, command: Command): PieceDocument {
  switch (command.type) {
    case 'rename':
      return { ...document, name: command.name }
    case 'set-unit':
      return { ...document, unit: command.unit }
    case 'set-sides':
      return { ...document, solid: { ...document.solid, sides: command.sides } }
    case 'set-photo':
    case 'turn-photo':
    case 'set-plumb':
    case 'set-ground':
    case 'set-known-size':
    case 'remove-known-size':
      return withCalibration(document, command)
    default: {
      const profile = applyToProfile(document, command)
      return profile === document.profile ? document : { ...document, profile }
    }
  }
}

type CalibrationCommand = Extract<
  Command,
  { type: 'set-photo' | 'turn-photo' | 'set-plumb' | 'set-ground' | 'set-known-size' | 'remove-known-size' }
>
type ProfileCommand = Exclude<
  Command,
  CalibrationCommand | { type: 'rename' } | { type: 'set-unit' } | { type: 'set-sides' }
>

/** Changes what the picture's millimetres rest on, and lets the drawn nodes follow. */
function withCalibration(document: PieceDocument, command: CalibrationCommand): PieceDocument {
  const changed = applyToCalibration(document, command)
  const frame = frameOf(changed)
  if (!frame || changed.profile.nodes.length === 0) return changed
  return { ...changed, profile: edit.recalibrate(changed.profile, frame) }
}

function applyToCalibration(document: PieceDocument, command: CalibrationCommand): PieceDocument {
  const { calibration } = document
  const set = (change: Partial<Calibration>): PieceDocument => ({
    ...document,
    calibration: { ...calibration, ...change },
  })
  switch (command.type) {
    case 'set-photo':
      return { ...document, photo: command.photo }
    case 'turn-photo':
      if (!document.photo) return document
      return { ...document, photo: { ...document.photo, quarterTurns: command.quarterTurns } }
    case 'set-plumb':
      return set({ plumb: command.plumb })
    case 'set-ground':
      return set({ ground: command.ground })
    case 'set-known-size': {
      const known = calibration.knownSizes.some((s) => s.id === command.size.id)
      return set({
        knownSizes: known
          ? calibration.knownSizes.map((s) => (s.id === command.size.id ? command.size : s))
          : [...calibration.knownSizes, command.size],
      })
    }
    case 'remove-known-size':
      return set({ knownSizes: calibration.knownSizes.filter((s) => s.id !== command.id) })
  }
}

function applyToProfile(document: PieceDocument, command: ProfileCommand): PieceDocument['profile'] {
  const { profile } = document
  const frame = frameOf(document)
  switch (command.type) {
    case 'set-side':
      return mirrorTo(profile, command.side, frame)
    case 'add-node':
      return edit.appendNode({ ...profile, side: command.side ?? profile.side }, command.node, command.at)
    case 'insert-node':
      return edit.insertNode(profile, command.index, command.t, command.id, frame)
    case 'move-node':
      return edit.moveNode(profile, command.id, command, LEAST_RADIUS_PX * (frame?.mmPerPx ?? 0))
    case 'type-coordinate':
      return edit.typeCoordinate(profile, command.id, command.coordinate, command.mm)
    case 'set-joint':
      return edit.setNodeKind(profile, command.id, { joint: command.joint })
    case 'set-segment':
      return edit.setNodeKind(profile, command.id, { next: command.next })
    case 'delete-nodes':
      return edit.deleteNodes(profile, new Set(command.ids))
    case 'close-profile': {
      const ids = [...command.ids]
      return edit.closeToAxis(profile, () => ids.shift()!)
    }
    case 'clear-profile':
      return { ...profile, nodes: [] }
  }
}

/** Shows the same profile on the other side; the picture points move to the mirrored places. */
function mirrorTo(
  profile: PieceDocument['profile'],
  side: Side,
  frame: ReturnType<typeof frameOf>,
): PieceDocument['profile'] {
  if (profile.side === side) return profile
  const nodes = profile.nodes.map((node) =>
    node.drawn && frame ? { ...node, drawn: edit.picturePointOf(side, node, frame) } : node,
  )
  return { side, nodes }
}

/** The picture's frame, or undefined without a photo. */
export function frameOf(document: PieceDocument) {
  return document.photo ? solveCalibration(document.calibration, document.photo).frame : undefined
}
