import type { Known } from '../camera/solve-near'
import type { PicturePoint } from '../conventions'
import { upAfterTurns } from '../calibrate/calibrate'
import type { Calibration, LensMarks, PlumbLine, Ring, ViewFacts } from '../calibrate/calibration'
import { axisFromPairs, type EdgePair } from '../calibrate/edge-pairs'
import type { KnownSize } from '../calibrate/known-size'
import { followingEnds, settledCalibration } from '../calibrate/settled-calibration'
import type { View } from '../camera/view'
import type { OutlineGuides } from '../outline/guides'
import type { HalfProfile, ProfileNode } from '../profile/profile'
import { recalibrate } from '../profile/recalibrate'
import type { DisplayUnit } from '../units/units'
import { withCheckpoint } from './checkpoints'
import { followOutline, refitStretch } from './follow-outline'
import { applyToProfile, PROFILE_LABELS, type ProfileCommand } from './profile-commands'
import { keptByHand, readOutline, sidesOf, storedGuides, usualFit } from './outline'
import { solvedOf } from './solved'
import type {
  SurfacePicture,
  Checkpoint,
  Part,
  PieceDocument,
  PieceOutline,
  PiecePhoto,
  ReferencePhoto,
  Station,
  Zone,
} from './schema'

/** Axis, foot and rings as a search found them. */
export interface TakeFound {
  type: 'take-found'
  plumb: PlumbLine
  ground: PicturePoint | null
  rings: Ring[]
  overall: KnownSize | null
  /** Focal length, px, as the rings tell it; null where it is known, or they don't. */
  focal: Known | null
  near: boolean
}

/** Every change of a document is one of these. */
export type Command =
  | { type: 'rename'; name: string }
  | { type: 'set-unit'; unit: DisplayUnit }
  | { type: 'set-photo'; photo: PiecePhoto | null }
  | { type: 'turn-photo'; quarterTurns: number }
  | { type: 'crop-photo'; crop: PiecePhoto['crop'] }
  | { type: 'set-plumb'; plumb: PlumbLine | null }
  | { type: 'set-pairs'; pairs: EdgePair[] }
  | { type: 'set-ground'; ground: PicturePoint | null }
  | { type: 'set-ring'; ring: Ring }
  | { type: 'remove-ring'; id: string }
  /** What the search in the photo found, taken over in one step. */
  | TakeFound
  /** The edges found in the photo; nodes of the profile follow them where no hand has set others. */
  | {
      type: 'take-outline'
      left: PieceOutline['left']
      right: PieceOutline['right']
      blur: number
      idPrefix: string
      /** What the same search found of axis, foot and rings, where the calibration is to follow. */
      camera?: TakeFound | null
    }
  | { type: 'fit-outline'; toleranceMm: number; idPrefix: string }
  /** The stretch between the first and the last of the nodes, fitted anew. */
  | { type: 'fit-stretch'; ids: string[]; toleranceMm: number; idPrefix: string }
  | { type: 'choose-side'; choice: PieceOutline['choices'][number] }
  | { type: 'forget-choice'; id: string }
  | { type: 'lay-edge'; stroke: PieceOutline['strokes'][number] }
  | { type: 'lift-edge'; id: string }
  | { type: 'clear-outline' }
  /** What helps the next search of the outline. */
  | { type: 'set-guides'; guides: OutlineGuides | null }
  | { type: 'set-lens'; lens: LensMarks | null }
  | { type: 'set-view'; view: Partial<ViewFacts> }
  | { type: 'correct-scale'; factor: number }
  | { type: 'set-finish'; finish: Calibration['finish'] }
  | { type: 'set-reference'; reference: ReferencePhoto }
  | { type: 'remove-reference'; id: string }
  | { type: 'set-known-size'; size: KnownSize }
  | { type: 'remove-known-size'; id: string }
  | ProfileCommand
  | { type: 'set-station'; station: Station }
  | { type: 'remove-station'; id: string }
  | { type: 'keep-checkpoint'; id: string; name: string; at: string; by: Checkpoint['by'] }
  | { type: 'restore-checkpoint'; id: string }
  | { type: 'remove-checkpoint'; id: string }
  | { type: 'set-sides'; sides: number }
  /** Hollow with a wall, or filled. */
  | { type: 'set-wall'; wall: PieceDocument['solid']['wall'] }
  /** The inside as a curve of its own; null: by the wall's rule, or none. */
  | { type: 'set-inside'; inside: HalfProfile | null }
  | { type: 'shape-inside'; command: ProfileCommand }
  | { type: 'set-turn'; turn: PieceDocument['solid']['turn'] }
  | { type: 'set-lies'; lies: boolean }
  | { type: 'set-cage'; cage: PieceDocument['solid']['cage'] }
  | { type: 'set-mapping'; mapping: PieceDocument['solid']['mapping'] }
  | { type: 'set-material'; material: string | null }
  | { type: 'set-picture'; picture: SurfacePicture | null }
  | { type: 'set-part'; part: Part }
  | { type: 'remove-part'; id: string }
  /** Before or behind its neighbour: parts work one after the other. */
  | { type: 'move-part'; id: string; by: -1 | 1 }
  /** A command of the half-profile, done to the profile of a turned part. */
  | { type: 'shape-part'; id: string; command: ProfileCommand }
  | { type: 'set-zone'; zone: Zone }
  | { type: 'remove-zone'; id: string }

const LABELS: Record<Command['type'], string> = {
  rename: 'rename the piece',
  'set-unit': 'change the unit',
  'set-photo': 'change the photo',
  'turn-photo': 'turn the photo',
  'crop-photo': 'crop the photo',
  'set-plumb': 'set the plumb line',
  'set-pairs': 'mark edge pairs',
  'set-ring': 'set a ring',
  'remove-ring': 'remove a ring',
  'take-found': 'take what was found',
  'take-outline': 'take the outline',
  'fit-outline': 'fit nodes to the outline',
  'fit-stretch': 'fit a stretch to the outline',
  'choose-side': 'choose a side',
  'forget-choice': 'forget a chosen side',
  'lay-edge': 'draw an edge',
  'lift-edge': 'take a drawn edge away',
  'clear-outline': 'forget the outline',
  'set-guides': 'help the search',
  'set-lens': 'set the lens',
  'set-view': 'change the view',
  'correct-scale': 'correct the scale',
  'set-finish': 'change the finished size',
  'set-reference': 'change a reference photo',
  'remove-reference': 'remove a reference photo',
  'set-ground': 'set the ground line',
  'set-known-size': 'set a known size',
  'remove-known-size': 'remove a known size',
  'set-sides': 'change the sides',
  'set-wall': 'change the wall',
  'set-inside': 'change the inside',
  'shape-inside': 'shape the inside',
  'set-turn': 'change the turn',
  'set-lies': 'lay it down or stand it up',
  'set-cage': 'change the mesh of quads',
  'set-mapping': 'change how it is unrolled',
  'set-material': 'change the material',
  'set-picture': 'change the picture on the surface',
  'set-part': 'change a part',
  'remove-part': 'remove a part',
  'move-part': 'change the order of parts',
  'shape-part': 'shape a part',
  'set-zone': 'change a zone',
  'remove-zone': 'remove a zone',
  'set-station': 'set a station',
  'remove-station': 'remove a station',
  'keep-checkpoint': 'keep a checkpoint',
  'restore-checkpoint': 'restore a checkpoint',
  'remove-checkpoint': 'remove a checkpoint',
  ...PROFILE_LABELS,
}

/** The command in words, for "Undo: …". */
export function commandLabel(command: Command): string {
  if (command.type === 'shape-inside') return `${LABELS[command.command.type]} of the inside`
  if (command.type === 'shape-part') return `${LABELS[command.command.type]} of a part`
  return LABELS[command.type]
}

/**
 * The document after a command; the same object when nothing changes. Sections that don't change are shared.
 * @throws CoreError when what was asked for can't be made; nothing has changed then
 */
export function applyCommand(document: PieceDocument, command: Command): PieceDocument {
  return apply(document, command, false)
}

/** The same while the command is still under way (a drag): what takes long waits for its end. */
export function previewCommand(document: PieceDocument, command: Command): PieceDocument {
  return apply(document, command, true)
}

function apply(document: PieceDocument, command: Command, preview: boolean): PieceDocument {
  switch (command.type) {
    case 'rename':
      return { ...document, name: command.name }
    case 'set-unit':
      return { ...document, unit: command.unit }
    case 'set-sides':
      return { ...document, solid: { ...document.solid, sides: command.sides } }
    case 'set-wall':
      return { ...document, solid: { ...document.solid, wall: command.wall } }
    case 'set-inside':
      return { ...document, solid: { ...document.solid, inside: command.inside } }
    case 'shape-inside': {
      const { inside } = document.solid
      const profile = inside && applyToProfile(inside, command.command, solvedOf(document))
      return profile === inside ? document : { ...document, solid: { ...document.solid, inside: profile } }
    }
    case 'set-turn':
      return { ...document, solid: { ...document.solid, turn: command.turn } }
    case 'set-lies':
      return { ...document, solid: { ...document.solid, lies: command.lies } }
    case 'set-cage':
      return { ...document, solid: { ...document.solid, cage: command.cage } }
    case 'set-mapping':
      return { ...document, solid: { ...document.solid, mapping: command.mapping } }
    case 'set-picture':
      return { ...document, solid: { ...document.solid, picture: command.picture } }
    case 'set-material':
      return { ...document, solid: { ...document.solid, material: command.material } }
    case 'set-part':
      return { ...document, parts: put(document.parts, command.part) }
    case 'remove-part':
      return { ...document, parts: without(document.parts, command.id) }
    case 'move-part':
      return { ...document, parts: moved(document.parts, command.id, command.by) }
    case 'shape-part':
      return shapePart(document, command.id, command.command)
    case 'set-zone':
      return { ...document, zones: put(document.zones, command.zone) }
    case 'remove-zone':
      return { ...document, zones: without(document.zones, command.id) }
    case 'set-finish':
      return { ...document, calibration: { ...document.calibration, finish: command.finish } }
    case 'set-reference':
      return { ...document, references: put(document.references, command.reference) }
    case 'remove-reference':
      return { ...document, references: document.references.filter((r) => r.id !== command.id) }
    case 'set-station':
      return { ...document, stations: put(document.stations, command.station) }
    case 'remove-station':
      return { ...document, stations: without(document.stations, command.id) }
    case 'keep-checkpoint':
      return withCheckpoint(document, command)
    case 'restore-checkpoint': {
      const kept = document.checkpoints.find((c) => c.id === command.id)
      return kept ? { ...document, guides: null, ...kept.state } : document
    }
    case 'remove-checkpoint':
      return { ...document, checkpoints: without(document.checkpoints, command.id) }
    case 'set-photo':
    case 'turn-photo':
    case 'crop-photo':
    case 'set-plumb':
    case 'set-pairs':
    case 'set-ground':
    case 'set-ring':
    case 'remove-ring':
    case 'take-found':
    case 'set-known-size':
    case 'remove-known-size':
    case 'set-lens':
    case 'set-view':
    case 'correct-scale':
      return withCalibration(document, command, preview)
    case 'take-outline':
    case 'fit-outline':
    case 'fit-stretch':
    case 'choose-side':
    case 'forget-choice':
    case 'lay-edge':
    case 'lift-edge':
    case 'clear-outline':
      return withOutline(document, command)
    case 'set-guides':
      return { ...document, guides: command.guides && storedGuides(command.guides) }
    default: {
      const profile = applyToProfile(document.profile, command, solvedOf(document))
      if (profile === document.profile) return document
      return { ...document, profile: touched(document.profile, profile, command) }
    }
  }
}

/** Replaces the item with the same id, or adds it. */
function put<T extends { id: string }>(list: readonly T[], item: T): T[] {
  return list.some((x) => x.id === item.id) ? list.map((x) => (x.id === item.id ? item : x)) : [...list, item]
}

/** The list with an item one place further on, or back. */
function moved<T extends { id: string }>(list: T[], id: string, by: -1 | 1): T[] {
  const at = list.findIndex((x) => x.id === id)
  const [item, other] = [list[at], list[at + by]]
  if (!item || !other) return list
  return list.map((x, i) => (i === at ? other : i === at + by ? item : x))
}

/** A turned part with its profile changed as the piece's own would be. */
function shapePart(document: PieceDocument, id: string, command: ProfileCommand): PieceDocument {
  const part = document.parts.find((p) => p.id === id)
  if (part?.shape.kind !== 'turned') return document
  const profile = applyToProfile(part.shape.profile, command, solvedOf(document))
  if (profile === part.shape.profile) return document
  return { ...document, parts: put(document.parts, { ...part, shape: { kind: 'turned', profile } }) }
}

export type CalibrationCommand = Extract<
  Command,
  {
    type:
      | 'set-photo'
      | 'turn-photo'
      | 'crop-photo'
      | 'set-plumb'
      | 'set-pairs'
      | 'set-ground'
      | 'set-ring'
      | 'remove-ring'
      | 'take-found'
      | 'set-known-size'
      | 'remove-known-size'
      | 'set-lens'
      | 'set-view'
      | 'correct-scale'
  }
>
type OutlineCommand = Extract<
  Command,
  {
    type:
      | 'take-outline'
      | 'fit-outline'
      | 'fit-stretch'
      | 'choose-side'
      | 'forget-choice'
      | 'lay-edge'
      | 'lift-edge'
      | 'clear-outline'
  }
>

/** Changes the outline, and lets the nodes that follow it do so. */
function withOutline(document: PieceDocument, command: OutlineCommand): PieceDocument {
  const { outline } = document
  if (command.type === 'clear-outline') return outline ? { ...document, outline: null } : document
  if (command.type === 'take-outline') {
    const { left, right, blur, idPrefix, camera } = command
    // The old outline isn't read once more through the new camera.
    const placed = camera ? withCalibration({ ...document, outline: null }, camera, false) : document
    const next: PieceOutline = { left, right, blur, ...keptByHand(outline, { left, right }) }
    const view = solvedOf(placed)?.view
    // Nodes that only hands have set aren't mixed with others unasked.
    const free = placed.profile.nodes.every((node) => node.by === 'outline')
    if (!view || !free) return { ...placed, outline: next }
    const fitMm = next.fitMm ?? usualFit(readOutline(next, view))
    return refitted({ ...placed, outline: { ...next, fitMm } }, idPrefix)
  }
  if (!outline) return document
  switch (command.type) {
    case 'fit-outline':
      return refitted({ ...document, outline: { ...outline, fitMm: command.toleranceMm } }, command.idPrefix)
    case 'fit-stretch': {
      const view = solvedOf(document)?.view
      if (!view) return document
      const follows = command.toleranceMm === outline.fitMm
      return { ...document, profile: refitStretch(document.profile, outline, view, { ...command, follows }) }
    }
    case 'choose-side':
      return refitted({ ...document, outline: { ...outline, choices: put(outline.choices, command.choice) } })
    case 'forget-choice':
      return refitted({ ...document, outline: { ...outline, choices: without(outline.choices, command.id) } })
    case 'lay-edge':
      return refitted({ ...document, outline: { ...outline, strokes: put(outline.strokes, command.stroke) } })
    case 'lift-edge':
      return refitted({ ...document, outline: { ...outline, strokes: without(outline.strokes, command.id) } })
  }
}

const without = <T extends { id: string }>(list: readonly T[], id: string) => list.filter((x) => x.id !== id)

/** The document with the nodes that follow its outline fitted anew. */
function refitted(document: PieceDocument, idPrefix?: string): PieceDocument {
  const { outline, profile } = document
  const view = solvedOf(document)?.view
  if (!outline || outline.fitMm === null || !view) return document
  const prefix = idPrefix ?? profile.nodes.find((n) => n.by === 'outline')?.id.replace(/-\d+$/, '')
  if (prefix === undefined) return document
  return { ...document, profile: followOutline(profile, outline, view, outline.fitMm, prefix) }
}

/**
 * Nodes that a hand changed no longer follow the outline. Where nodes went away none does: what was deleted would come
 * back with the next fit.
 */
function touched(before: HalfProfile, after: HalfProfile, { type }: ProfileCommand): HalfProfile {
  if (type === 'set-side' || after.nodes.length === 0) return after
  const fewer = after.nodes.length < before.nodes.length
  let known: Set<ProfileNode> | null = null
  const nodes = after.nodes.map((node, i) => {
    if (node.by === undefined) return node
    if (!fewer && (node === before.nodes[i] || (known ??= new Set(before.nodes)).has(node))) return node
    const own = { ...node }
    delete own.by
    return own
  })
  return { ...after, nodes }
}

/** Changes what the picture's millimetres rest on, and lets the drawn nodes follow. */
function withCalibration(
  document: PieceDocument,
  command: CalibrationCommand,
  preview: boolean,
): PieceDocument {
  const asked = applyToCalibration(document, command)
  const changed = preview || !changesCamera(command, asked) ? asked : withSettledEnds(asked)
  const solved = solvedOf(changed)
  if (!solved) return changed
  const followed = withParts(changed, solved.view)
  if (followed.profile.nodes.length === 0) return followed
  const moved = { ...followed, profile: recalibrate(followed.profile, solved.view) }
  const follows = moved.outline?.fitMm && moved.profile.nodes.some((node) => node.by === 'outline')
  // While something is dragged the nodes move with their picture points; a fit takes a good part of a second.
  if (!follows || preview) return moved
  // The tolerance is a share of what was measured, and grows with it.
  const grown = scaleOf(solved.view) / scaleOf(solvedOf(document)!.view)
  return refitted({ ...moved, outline: { ...moved.outline!, fitMm: moved.outline!.fitMm! * grown } })
}

/** Whether a command may change what is known of the camera, and with it where on the axis the piece ends. */
function changesCamera({ type }: CalibrationCommand, { calibration }: PieceDocument): boolean {
  switch (type) {
    case 'set-view':
    case 'set-lens':
    case 'set-ring':
    case 'remove-ring':
      return true
    case 'set-known-size':
    case 'remove-known-size':
      // Beside a tape a size tells the lens; alone it only scales.
      return calibration.view.distanceMm !== null
    default:
      return false
  }
}

/** The document with the ends that a search found where its outline ends, read through its camera. */
function withSettledEnds(document: PieceDocument): PieceDocument {
  const { calibration, photo, outline } = document
  if (!photo || !outline) return document
  return { ...document, calibration: settledCalibration(calibration, photo, sidesOf(outline)) }
}

/** Profiles of parts and of the inside that were drawn in the photo follow it as the piece's own does. */
function withParts(document: PieceDocument, view: View): PieceDocument {
  const { inside } = document.solid
  const solid = inside ? { ...document.solid, inside: recalibrate(inside, view) } : document.solid
  if (!document.parts.some((part) => part.shape.kind === 'turned'))
    return inside ? { ...document, solid } : document
  const parts = document.parts.map((part) => {
    if (part.shape.kind !== 'turned') return part
    return { ...part, shape: { ...part.shape, profile: recalibrate(part.shape.profile, view) } }
  })
  return { ...document, solid, parts }
}

/** Size of what is seen, in a measure that two views of one photo can be compared by. */
function scaleOf(view: View): number {
  return view.kind === 'near' ? view.distance / view.eye.f : view.mmPerPx
}

/** What was found or painted in a picture belongs to it; what a hand has set in it stays, to be moved. */
function withPhoto(document: PieceDocument, photo: PiecePhoto | null): PieceDocument {
  const { plumb, rings } = document.calibration
  const calibration = {
    ...document.calibration,
    plumb: plumb?.by === 'found' ? null : plumb,
    rings: rings.filter((ring) => ring.by === 'hand'),
  }
  return { ...document, photo, calibration, outline: null, guides: null }
}

/** The document with its calibration changed, before anything that was drawn follows it. */
export function applyToCalibration(document: PieceDocument, command: CalibrationCommand): PieceDocument {
  const { calibration } = document
  const set = (change: Partial<Calibration>): PieceDocument => ({
    ...document,
    calibration: { ...calibration, ...change },
  })
  switch (command.type) {
    case 'set-photo':
      return withPhoto(document, command.photo)
    case 'turn-photo':
      if (!document.photo) return document
      return { ...document, photo: { ...document.photo, quarterTurns: command.quarterTurns } }
    case 'crop-photo':
      if (!document.photo) return document
      return { ...document, photo: { ...document.photo, crop: command.crop } }
    case 'set-plumb':
      // A line set by hand no longer follows the pairs.
      return set({ plumb: command.plumb, pairs: [] })
    case 'set-pairs': {
      const turns = document.photo?.quarterTurns ?? 0
      const axis = axisFromPairs(command.pairs, upAfterTurns(turns))
      const by = {
        by: 'pairs' as const,
        sdAngle: axis && Number.isFinite(axis.sdAngle) ? axis.sdAngle : undefined,
      }
      const plumb: PlumbLine | null = axis ? { foot: axis.foot, top: axis.top, ...by } : calibration.plumb
      return set({ pairs: command.pairs, plumb })
    }
    case 'set-ground':
      return set({ ground: command.ground })
    case 'set-ring':
      return set({ rings: put(calibration.rings, command.ring) })
    case 'remove-ring':
      return set({ rings: calibration.rings.filter((r) => r.id !== command.id) })
    case 'take-found': {
      // Ellipses laid by hand stay; what was found before is replaced.
      const rings = [...calibration.rings.filter((r) => r.by === 'hand'), ...command.rings]
      const moved = followingEnds(calibration.knownSizes, calibration.plumb, command.plumb)
      const knownSizes = command.overall ? [...moved, command.overall] : moved
      return set({
        plumb: command.plumb,
        pairs: [],
        ground: command.ground ?? calibration.ground,
        rings,
        knownSizes,
        view: {
          ...calibration.view,
          kind: command.near ? 'near' : calibration.view.kind,
          focalByRings: command.focal ?? undefined,
        },
      })
    }
    case 'set-known-size':
      return set({ knownSizes: put(calibration.knownSizes, command.size) })
    case 'remove-known-size':
      return set({ knownSizes: calibration.knownSizes.filter((s) => s.id !== command.id) })
    case 'set-lens':
      return set({ lens: command.lens })
    case 'set-view':
      return set({ view: { ...calibration.view, ...command.view } })
    case 'correct-scale':
      return set({ correction: calibration.correction * command.factor })
  }
}
