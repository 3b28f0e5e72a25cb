import { CoreError } from '../errors'
import { below, fillRange } from '../measure/capacity'
import { flatten, type FlatProfile } from '../profile/flatten'
import type { ProfileNode } from '../profile/profile'
import { backwards, closedLevel, endOf, startOf, type Segment } from '../profile/segments'
import {
  partProblem,
  PLAIN_MAPPING,
  type AssemblyPlan,
  type PartProblem,
  type PlannedPart,
} from '../solid/assemble'
import type { PartShape } from '../solid/part-shapes'
import { sidesARepeat } from '../solid/rhythm'
import { requireSqueeze, squeezeLevels, squeezeShare, type Squeeze } from '../solid/squeeze'
import { turnedProfile, type SolidProfile } from './derive'
import type { Part, PieceDocument, SurfacePicture, Zone } from './schema'
import { laidPicture, type LaidPicture } from './surface-picture'
import { cutAtLevels, zonedProfile } from './zones'

/** A surface, by its number: of what it is, and its material; null where none was chosen. */
export interface Surface {
  kind: 'body' | 'zone' | Part['relation']
  material: string | null
  /** What is laid on it. */
  picture?: LaidPicture
}

/** The surfaces of a body and its zones, in the order of their numbers. */
export function bodySurfaces({ solid, zones }: Making, flat: FlatProfile): Surface[] {
  const { material = null, mapping = PLAIN_MAPPING } = solid
  const laid = (picture: SurfacePicture | null | undefined, zone: Zone | null) =>
    picture ? { picture: laidPicture(picture, flat, mapping, zone) } : {}
  return [
    { kind: 'body', material, ...laid(solid.picture, null) },
    ...zones.map((z) => ({ kind: 'zone' as const, material: z.material ?? material, ...laid(z.picture, z) })),
  ]
}

/** What is to be built, and which parts can't be even tried. */
export interface PlannedAssembly {
  plan: AssemblyPlan
  surfaces: Surface[]
  problems: PartProblem[]
}

/** What a solid is built from, beside its half-profile. */
export type Making = Pick<PieceDocument, 'name' | 'solid' | 'parts' | 'zones'>

/** True when the solid is more than the revolved profile. */
export function isAssembled({ parts }: Pick<PieceDocument, 'parts'>): boolean {
  return parts.some((p) => p.shown)
}

/** The solid with its parts, as steps for `assemble`; lengths as measured, before the finished size. */
export function planAssembly(document: Making, solid: SolidProfile): PlannedAssembly {
  const { sides, turn, mapping, material = null } = document.solid
  const squeezes: Squeeze[] = []
  const surfaces = bodySurfaces(document, solid.flat)
  const problems: PlannedAssembly['problems'] = []
  const parts: PlannedPart[] = []
  for (const part of document.parts) {
    if (!part.shown) continue
    try {
      if (part.shape.kind === 'squeeze') {
        requireSqueeze(part.shape)
        squeezes.push(part.shape)
        continue
      }
      const owner = document.parts.find((p) => p.id === part.target)
      surfaces.push({ kind: part.relation, material: part.material ?? owner?.material ?? material })
      parts.push(plannedPart(part, document, solid, surfaces.length - 1))
    } catch (error) {
      problems.push(partProblem(part, error))
    }
  }
  const levels = squeezes.flatMap(squeezeLevels)
  const rows = cutAtLevels(solid.flat, levels)
  const { flat, surfaces: chords } = zonedProfile(rows, document.zones, solid.hollow)
  const inside = cavityOf(solid)
  const cavity = inside && cutAtLevels(inside, levels).points
  const body = { flat, sides, turn: turn ?? undefined, surfaces: chords, cavity, squeezes, mapping }
  return { plan: { body, parts, surfaces: surfaces.length }, surfaces, problems }
}

/** What share of its round sections a vessel has, by height, where parts squeeze it; undefined where none does. */
export function vesselShare({ parts }: Pick<PieceDocument, 'parts'>): ((z: number) => number) | undefined {
  const squeezes = parts.flatMap((p) => (p.shown && p.shape.kind === 'squeeze' ? [p.shape] : []))
  return squeezes.length > 0 ? squeezeShare(squeezes) : undefined
}

/** The inside of a hollow piece up to its rim, closed level. */
function cavityOf({ hollow }: SolidProfile): FlatProfile | undefined {
  if (!hollow) return undefined
  return flatten(closedLevel(backwards(hollow.inside)))
}

function plannedPart(part: Part, document: Making, solid: SolidProfile, surface: number): PlannedPart {
  const { id, name, relation, target, clearanceMm } = part
  const { place, copies, angle } = around(part, document.solid.sides)
  const shape = shapeOf(part, solid)
  return {
    id,
    name,
    relation,
    target: relation === 'separate' ? id : target,
    shape: shape.kind === 'sector' && angle !== null ? { ...shape, angle } : shape,
    place,
    copies,
    surface,
    clearanceMm: relation === 'separate' && part.shape.kind !== 'filling' ? (clearanceMm ?? undefined) : undefined, // prettier-ignore
  }
}

/** Where the copies of a part stand about the axis; in a rhythm, also the angle that each takes. */
function around({ place, round }: Part, sides: number) {
  if (!round) return { place, copies: [0], angle: null }
  const copies = Array.from({ length: round.count }, (_, k) => (2 * Math.PI * k) / round.count)
  if (!round.rhythm) return { place, copies, angle: null }
  const { up, down } = sidesARepeat(round.count, round.rhythm, sides)
  const side = (2 * Math.PI) / sides
  // Sides stand first, so that the cut begins at a corner of the piece.
  const azimuth = side * (Math.round(place.azimuth / side) + up)
  return { place: { ...place, azimuth }, copies, angle: down * side }
}

/** True of what stands once, upright on the axis of the piece. */
export function isOnAxis({ place, round }: Part): boolean {
  return place.r === 0 && place.lean === 0 && !round
}

/** True of what stands by itself, turned about the axis of the piece. */
export function isExact(part: Part): boolean {
  return part.relation === 'separate' && isOnAxis(part) && !part.clearanceMm
}

/** The closed half-profile of a turned part; null for other kinds. @throws CoreError where it bounds nothing */
export function turnedSegments({ shape, place }: Part, solid: SolidProfile): Segment[] | null {
  if (shape.kind === 'filling') return fillingSegments(solid, shape.levelMm)
  if (shape.kind !== 'turned') return null
  const raised =
    place.z === 0 ? shape.profile.nodes : shape.profile.nodes.map((n) => ({ ...n, z: n.z + place.z }))
  return closedProfile(raised).segments
}

function closedProfile(nodes: readonly ProfileNode[]): SolidProfile {
  const profile = turnedProfile(nodes)
  if (!profile)
    throw new CoreError({
      code: 'part-open',
      message: 'Its profile bounds no solid yet. Draw it from the axis and back to it.',
    })
  return profile
}

function shapeOf({ shape }: Part, solid: SolidProfile): PartShape {
  switch (shape.kind) {
    case 'turned':
      return { kind: 'turned', flat: closedProfile(shape.profile.nodes).flat }
    case 'filling':
      return { kind: 'turned', flat: flatten(fillingSegments(solid, shape.levelMm)) }
    case 'thread':
      return { ...shape, clearanceMm: 0 }
    case 'squeeze':
      throw new CoreError({ code: 'squeeze', message: 'It presses the body and is no body itself.' })
    default:
      return shape
  }
}

/** What the vessel holds up to a level, as a closed profile. */
function fillingSegments({ hollow }: SolidProfile, levelMm: number): Segment[] {
  if (!hollow)
    throw new CoreError({ code: 'not-hollow', message: 'The piece isn’t hollow; give it a wall first.' })
  const { bottomMm, brimMm } = fillRange(hollow.inside)
  if (levelMm <= bottomMm || levelMm > brimMm)
    throw new CoreError({
      code: 'fill-level',
      message: `Its level must lie between ${bottomMm.toFixed(1)} and ${brimMm.toFixed(1)} mm.`,
      where: 'level',
    })
  const upwards = backwards(below(hollow.inside, levelMm))
  requireOnePool(upwards, levelMm)
  return closedLevel(upwards)
}

/** Below a narrow place of the inside that lies higher, liquid would stand apart. */
function requireOnePool(upwards: readonly Segment[], levelMm: number): void {
  for (let k = 1; k < upwards.length; k++) {
    const [a, b] = [endOf(upwards[k - 1]!), startOf(upwards[k]!)]
    if (Math.hypot(a[0] - b[0], a[1] - b[1]) > 1e-6)
      throw new CoreError({
        code: 'fill-level',
        message: `At ${levelMm.toFixed(1)} mm it would stand in more than one place; choose another level.`,
        where: 'level',
      })
  }
}
