import { CoreError, type Problem } from '../errors'
import type { FlatProfile } from '../profile/flatten'
import { fromBody, toBody, toMesh, type Body, type BodyMesh, type Kernel, type SurfaceRun } from './kernel'
import { boxMapped, creased } from './creased'
import { grownMesh } from './grown'
import type { Mesh } from './mesh'
import { partMesh, type PartShape } from './part-shapes'
import { revolvedDistance, type Distance } from './fillet-to-body'
import { ON_AXIS, placed, placementMatrix, type Placement } from './placement'
import { sidesOfPart, type Turn } from './revolve'
import { shadingBuffers, type Mapping, type ShadingBuffers } from './shading'
import { squeezed, type Squeeze } from './squeeze'
import { threadSleeve } from './thread'

/** What a part does to the solid it belongs to; `separate` ones are solids of their own. */
export type Relation = 'added' | 'cut' | 'common' | 'separate'

/** The solid that is revolved from the half-profile. */
export const BODY = 'body'

export interface PlannedPart {
  id: string
  name: string
  relation: Relation
  /** The solid it is added to, cut from or intersected with: `BODY` or the id of a separate part before it. */
  target: string
  shape: PartShape
  place: Placement
  /** Angles about the axis at which it is repeated, radians. */
  copies: readonly number[]
  /** Number of its surface. */
  surface: number
  /** Room left about the target, mm: the target, grown by it, is cut away. */
  clearanceMm?: number
}

export interface AssemblyPlan {
  body: {
    flat: FlatProfile
    sides: number
    turn?: Turn
    mapping?: Mapping
    /** Number of the surface of each chord of the profile. */
    surfaces: readonly number[]
    /** The room inside a hollow body, as a closed half-profile: what is added to the body keeps out of it. */
    cavity?: Float64Array
    /** What presses the body and its inside out of round; the profile has rows at their levels. */
    squeezes?: readonly Squeeze[]
  }
  parts: readonly PlannedPart[]
  /** Surfaces are numbered from 0 up to this; what is cut open gets the number itself. */
  surfaces: number
  /** Cut out of everything for looking inside. */
  cutOpen?: Turn
}

export interface AssembledSolid extends BodyMesh {
  id: string
  volumeMm3: number
  areaMm2: number
  /** Separate bodies that it consists of. */
  pieces: number
  /** To the body, mm; 0 where they touch or overlap; null beyond what was looked for, and for the body. */
  gapMm: number | null
  /** Volume shared with the body. */
  overlapMm3: number
}

export interface Assembly {
  /** The body first, then separate parts in their order. */
  solids: AssembledSolid[]
  /** The body's mesh before anything was done to it. */
  plain: Mesh
  /** What went wrong with which part; the others are there all the same. */
  problems: PartProblem[]
}

export interface PartProblem extends Problem {
  part: string
}

/** When nobody says how a surface is unrolled. */
export const PLAIN_MAPPING: Mapping = { seam: 0, way: 'straight' }
/** Gaps are looked for up to this share of the body's extent. */
const GAP_SEARCH = 0.05
const GAP_STEPS = 4
/** A change of volume below this share is rounding: the part missed what it was for. */
const UNCHANGED = 1e-9

/**
 * Builds the solids of a piece by boolean operations, part by part. A part that fails is left out and said; all results are
 * closed.
 * @param onStep told before each part: which one of how many
 */
export function assemble(
  kernel: Kernel,
  { body, parts, surfaces, cutOpen }: AssemblyPlan,
  onStep: (done: number, all: number) => void = () => undefined,
): Assembly {
  // The kernel's bodies live outside the garbage collector's reach.
  const made: Body[] = []
  const own = (b: Body) => (made.push(b), b)
  const base = kernel.Manifold.reserveIDs(surfaces + 1)
  const problems: PartProblem[] = []
  try {
    const plain = shadingBuffers(body.flat, body.sides, body.turn, body.mapping ?? PLAIN_MAPPING)
    const runs = chordRuns(body, plain).map((r) => ({ ...r, surface: base + r.surface }))
    const round = own(toBody(kernel, plain, runs))
    const plainMesh = toMesh(round)
    const pressed = body.squeezes?.length ? own(toBody(kernel, squeezed(plain, body.squeezes), runs)) : round
    const solids = new Map<string, Body>([[BODY, pressed]])
    const reachMm = reachOf(body.flat.points)
    const adds = parts.some((p) => p.relation === 'added' && p.target === BODY)
    const cavity = adds && body.cavity && own(cavityOf(kernel, body, body.cavity, base))
    const distance = body.squeezes?.length ? undefined : revolvedDistance(body.flat.points, body.sides)
    const frame = { sides: body.sides, reachMm, base, distance }
    parts.forEach((part, k) => {
      onStep(k, parts.length)
      try {
        requireFillet(part, frame)
        const tool = toolOf(kernel, part, frame, own)
        const target = part.relation === 'separate' ? part.id : part.target
        const before = solids.get(part.target)
        if (part.relation !== 'separate' && !before) throw missing()
        if (part.relation === 'separate') {
          const fitted = part.clearanceMm ? own(tool.subtract(roomAbout(kernel, part, parts, { ...body, ...frame }, own))) : tool // prettier-ignore
          if (fitted.isEmpty()) throw nothingLeft()
          solids.set(target, fitted)
        } else {
          const clear = part.relation === 'added' && target === BODY && cavity ? own(tool.subtract(cavity)) : tool // prettier-ignore
          solids.set(target, worked(before!, clear, part.relation, own))
        }
      } catch (error) {
        problems.push(partProblem(part, error))
      }
    })
    onStep(parts.length, parts.length)
    const whole = solids.get(BODY)!
    const wedge = cutOpen && own(wedgeOf(kernel, cutOpen, 4 * reachMm, base + surfaces))
    return {
      plain: plainMesh,
      problems,
      solids: [...solids].map(([id, solid]) => ({
        id,
        ...withSurfaces(fromBody(wedge ? own(solid.subtract(wedge)) : solid), base),
        // Cut open for looking, it is still all there.
        ...(wedge && { mesh: toMesh(solid) }),
        volumeMm3: solid.volume(),
        areaMm2: solid.surfaceArea(),
        pieces: piecesOf(solid, own),
        ...(id === BODY ? { gapMm: null, overlapMm3: 0 } : fit(whole, solid, GAP_SEARCH * reachMm, own)),
      })),
    }
  } finally {
    for (const b of made) b.delete()
  }
}

/** What is wrong with a part, by its name. @throws what isn't a problem but a fault of the program */
export function partProblem({ id, name }: { id: string; name: string }, error: unknown): PartProblem {
  if (!(error instanceof CoreError)) throw error
  return { part: id, code: error.code, message: `“${name}”: ${error.message}` }
}

type Own = (b: Body) => Body
interface Frame {
  sides: number
  reachMm: number
  /** The kernel's number of surface 0. */
  base: number
  /** How far places are from the body; absent where it is pressed out of round. */
  distance?: Distance
}

/** @throws CoreError where a fillet is wanted to a body that isn't round */
function requireFillet({ shape, relation }: PlannedPart, { distance }: Frame): void {
  if ('filletMm' in shape && shape.filletMm && relation === 'added' && !distance)
    throw new CoreError({
      code: 'fillet',
      message: 'A fillet can only lead over to a round body, and this one is squeezed. Set the fillet to 0.',
    })
}

/** The same distances from places of a part's own frame. */
function seenFrom(place: Placement, distance: Distance): Distance {
  const matrix = placementMatrix(place)
  return (x, y, z) => distance(...placed(matrix, x, y, z))
}

function cavityOf(
  kernel: Kernel,
  { sides, squeezes }: AssemblyPlan['body'],
  points: Float64Array,
  base: number,
): Body {
  const corner = new Uint8Array(points.length / 2).fill(1)
  const buffers = shadingBuffers(
    { points, corner, segmentStart: Uint32Array.of(0, corner.length - 1) },
    sides,
  )
  return toBody(kernel, squeezes?.length ? squeezed(buffers, squeezes) : buffers, [
    { from: 0, surface: base },
  ])
}

/** The part with all its copies as one body. */
function toolOf(
  kernel: Kernel,
  part: PlannedPart,
  { sides, reachMm, base, distance }: Frame,
  own: Own,
): Body {
  const meets = part.relation === 'added' && part.target === BODY && distance
  const buffers = partMesh(part.shape, {
    sides,
    reachMm: 2 * reachMm + Math.abs(part.place.r),
    ...(meets && { body: seenFrom(part.place, meets) }),
  })
  const single = own(toBody(kernel, buffers, [{ from: 0, surface: base + part.surface }]))
  const copies = part.copies.map((angle) => own(single.transform(placementMatrix(part.place, angle))))
  return copies.length === 1 ? copies[0]! : own(kernel.Manifold.union(copies))
}

/** @throws CoreError when the part has no effect, or leaves nothing */
function worked(before: Body, tool: Body, relation: Exclude<Relation, 'separate'>, own: Own): Body {
  const after = own(
    relation === 'added' ? before.add(tool) : relation === 'cut' ? before.subtract(tool) : before.intersect(tool), // prettier-ignore
  )
  const status = after.status()
  if (status !== 'NoError')
    throw new CoreError({ code: 'part-failed', message: `The operation failed (${status}). Change its place or size a little.` }) // prettier-ignore
  if (after.isEmpty()) throw nothingLeft()
  if (Math.abs(after.volume() - before.volume()) <= UNCHANGED * before.volume())
    throw new CoreError({
      code: 'part-misses',
      message:
        relation === 'cut'
          ? 'It cuts nothing; it lies beside the solid.'
          : relation === 'added'
            ? 'It adds nothing; it lies inside the solid.'
            : 'It takes nothing away; the solid lies inside it.',
    })
  return after
}

const nothingLeft = () =>
  new CoreError({ code: 'part-swallows', message: 'It would leave nothing. Make it smaller or move it.' })
const missing = () =>
  new CoreError({ code: 'part-no-target', message: 'What it belongs to isn’t there; choose another part or the body.' }) // prettier-ignore

/** The body and its threads, grown by a part's clearance. */
function roomAbout(
  kernel: Kernel,
  { clearanceMm = 0, surface }: PlannedPart,
  parts: readonly PlannedPart[],
  body: AssemblyPlan['body'] & Frame,
  own: Own,
): Body {
  const grown = boxMapped(creased(grownMesh(kernel, body.flat.points, clearanceMm, body.sides)))
  const room = [own(toBody(kernel, grown, [{ from: 0, surface: body.base + surface }]))]
  for (const p of parts)
    if (p.relation === 'added' && p.target === BODY) {
      const shape = p.shape.kind === 'thread' ? { ...p.shape, clearanceMm } : p.shape
      room.push(toolOf(kernel, { ...p, shape, surface }, body, own))
      const sleeve = shape.kind === 'thread' ? threadSleeve(shape) : null
      if (sleeve) {
        const { diameterMm, fromMm, toMm } = sleeve
        const cylinder = {
          kind: 'cylinder',
          diameterMm,
          topDiameterMm: diameterMm,
          heightMm: toMm - fromMm,
        } as const
        const place = { ...p.place, z: p.place.z + fromMm }
        room.push(toolOf(kernel, { ...p, shape: cylinder, place, surface }, body, own))
      }
    }
  return room.length === 1 ? room[0]! : own(kernel.Manifold.union(room))
}

/** All between two planes through the axis. */
function wedgeOf(kernel: Kernel, { start, sweep }: Turn, reachMm: number, surface: number): Body {
  const shape = { kind: 'sector', fromMm: -reachMm, toMm: reachMm, innerDiameterMm: 0, angle: sweep } as const
  const wedge = toBody(kernel, partMesh(shape, { sides: 64, reachMm }), [{ from: 0, surface }])
  const turned = wedge.transform(placementMatrix(ON_AXIS, start))
  wedge.delete()
  return turned
}

function piecesOf(solid: Body, own: Own): number {
  const list = solid.decompose()
  list.forEach(own)
  return list.length
}

function fit(
  body: Body,
  solid: Body,
  search: number,
  own: Own,
): { gapMm: number | null; overlapMm3: number } {
  const overlapMm3 = own(body.intersect(solid)).volume()
  if (overlapMm3 > 0) return { gapMm: 0, overlapMm3 }
  // Near pairs of triangles are few where little is looked through: from narrow to wide.
  for (let reach = search / GAP_STEPS ** 3; reach <= search; reach *= GAP_STEPS) {
    const gap = body.minGap(solid, reach)
    if (gap < reach) return { gapMm: gap, overlapMm3 }
  }
  return { gapMm: null, overlapMm3 }
}

/** From the kernel's numbers of surfaces back to the plan's. */
function withSurfaces(mesh: BodyMesh, base: number): BodyMesh {
  return { ...mesh, runs: mesh.runs.map((r) => ({ ...r, surface: r.surface - base })) }
}

/** Largest distance of the profile from the origin, mm. */
function reachOf(points: Float64Array): number {
  let most = 0
  for (let i = 0; i < points.length; i += 2) most = Math.max(most, Math.hypot(points[i]!, points[i + 1]!))
  return most
}

/** Whose surface which triangles of the revolved profile are: they come chord by chord, flat ends of a part turn last. */
export function chordRuns(
  { flat, sides, turn, surfaces }: AssemblyPlan['body'],
  { indices, endsFrom }: Pick<ShadingBuffers, 'indices' | 'endsFrom'>,
  endSurface = 0,
): SurfaceRun[] {
  const around = turn ? sidesOfPart(sides, turn) : sides
  const last = flat.points.length / 2 - 2
  const runs: SurfaceRun[] = []
  let from = 0
  surfaces.forEach((surface, k) => {
    if (runs.at(-1)?.surface !== surface) runs.push({ from, surface })
    from += (k === 0 || k === last ? 3 : 6) * around
  })
  if (endsFrom < indices.length && runs.at(-1)!.surface !== endSurface)
    runs.push({ from: endsFrom, surface: endSurface })
  return runs
}
