import { CoreError } from '../errors'
import { profileMeasures } from '../measure/profile-measures'
import { scaledSegment, type Segment } from '../profile/segments'
import type { Kernel } from '../solid/kernel'
import type { Mesh } from '../solid/mesh'
import type { ShadingBuffers } from '../solid/shading'
import { BODY } from '../solid/assemble'
import { laidDown, lyingOn } from '../solid/laid-down'
import { build, meshesOf, type Build } from './build'
import { derive, type SolidProfile } from './derive'
import { materialOf, PLAIN_LOOK, type Look } from './materials'
import type { PieceDocument } from './schema'
import type { LaidPicture } from './surface-picture'

/** Everything a mesh format may want to know of one solid, at its finished size, mm. */
export interface FinishedSolid {
  /** `body`, or the id of a separate part. */
  id: string
  name: string
  mesh: Mesh
  buffers: ShadingBuffers
  /** Which of the looks the triangles have, from an index on. */
  runs: { from: number; material: number }[]
}

export interface Finished {
  solids: FinishedSolid[]
  /** Looks by number, one a material. */
  looks: (Look & { name: string; grain: boolean; laid?: LaidPicture })[]
  /** Of the wall, or of the whole piece, for what lets light through. */
  thicknessMm: number
  /** What a GLB says of the piece. */
  facts: Record<string, string | number>
}

export interface FinishOptions {
  /** Sides of meshes; default: the document's. */
  sides?: number
  kernel?: Kernel
  /** With texture coordinates. */
  mapped?: boolean
  /** Solids that are wanted, by id; default: all. */
  only?: readonly string[]
  onStep?: (done: number, all: number) => void
}

/**
 * The closed solid of a document.
 * @throws CoreError `not-closed`, in words that say what is missing
 */
export function requireSolid(document: PieceDocument): SolidProfile {
  const { solid, faults } = derive(document)
  if (solid && !solid.closedForShow) return solid
  const reason = faults[0]?.message ?? 'Its half-profile is open; close it on the bench first.'
  throw new CoreError({ code: 'not-closed', message: `“${document.name}” can’t be handed over. ${reason}` })
}

/** Segments at the finished size of the piece. */
export function finishedSegments(document: PieceDocument, list: readonly Segment[]): Segment[] {
  const { factor } = document.calibration.finish
  return list.map((s) => scaledSegment(s, factor))
}

/**
 * The meshes of a piece at its finished size.
 * @throws CoreError `part-failed` when a part couldn't be made, `nothing-wanted`, and what `build` throws
 */
export function finishedMeshes(
  document: PieceDocument,
  solid: SolidProfile,
  options: FinishOptions,
): Finished {
  const { sides = document.solid.sides, kernel, mapped, only, onStep } = options
  const { factor } = document.calibration.finish
  const asked = { ...document, solid: { ...document.solid, sides } }
  const built = build(asked, solid, { kernel, mapped, onStep })
  if (built.problems[0])
    throw new CoreError({
      code: 'part-failed',
      message: `${built.problems[0].message} Mend or hide that part first; nothing is left out silently.`,
    })
  const meshes = meshesOf(asked, solid, built)
  const grow = <T extends Float32Array | Float64Array>(list: T) => (factor === 1 ? list : (list.map((v) => v * factor) as T)) // prettier-ignore
  const looks = built.surfaces.map((surface) => {
    const material = materialOf(surface.material)
    const laid = surface.picture
    const name = `${material?.name ?? 'plain'}${laid ? ', with its picture' : ''}`
    return { ...(material?.look ?? PLAIN_LOOK), name, grain: material?.grain ?? false, laid }
  })
  // Surfaces of one material are one material of the file.
  const first = looks.map((look) => looks.findIndex((l) => l.name === look.name && l.laid === look.laid))
  const kept = [...new Set(first)]
  const solids = built.solids
    .map(({ id, name, buffers, runs }, k) => ({
      id,
      name,
      buffers: { ...buffers, positions: grow(buffers.positions) },
      mesh: { ...meshes[k]!.mesh, positions: grow(meshes[k]!.mesh.positions) },
      runs: runs.map(({ from, surface }) => ({ from, material: kept.indexOf(first[surface]!) })),
    }))
    .filter(({ id }) => !only || only.includes(id))
  if (solids.length === 0)
    throw new CoreError({
      code: 'nothing-wanted',
      message: 'No solid is chosen to be handed over. Tick at least one.',
    })
  const wall = document.solid.wall?.mm ?? 2 * profileMeasures(solid.segments).maxRadiusMm
  return {
    solids: document.solid.lies ? lying(solids) : solids,
    looks: kept.map((k) => looks[k]!),
    thicknessMm: wall * factor,
    facts: factsOf(document, finishedSegments(document, solid.segments), built, sides),
  }
}

/** The same solids with their axis level, along x, on the ground. */
function lying(solids: FinishedSolid[]): FinishedSolid[] {
  const up = lyingOn(solids.map(({ mesh }) => mesh.positions))
  return solids.map(({ mesh, buffers, ...rest }) => ({
    ...rest,
    mesh: { ...mesh, positions: laidDown(mesh.positions, up) },
    buffers: {
      ...buffers,
      positions: laidDown(buffers.positions, up),
      normals: laidDown(buffers.normals),
    },
  }))
}

/** What a GLB says of the piece: of the exact curve, or of the meshes where booleans worked on it. */
function factsOf(
  document: PieceDocument,
  segments: Segment[],
  { assembly }: Build,
  sides: number,
): Record<string, string | number> {
  const { heightMm, maxRadiusMm, volumeMm3 } = profileMeasures(segments)
  const body = assembly?.solids.find((s) => s.id === BODY)
  const volume = body ? body.volumeMm3 * document.calibration.finish.factor ** 3 : volumeMm3
  return {
    unit: 'mm',
    height: rounded(heightMm),
    maxDiameter: rounded(2 * maxRadiusMm),
    volume: rounded(volume),
    sides,
    ...(assembly && { parts: document.parts.filter((p) => p.shown).map((p) => p.name).join(', ') }), // prettier-ignore
  }
}

const rounded = (value: number) => Number(value.toPrecision(8))
