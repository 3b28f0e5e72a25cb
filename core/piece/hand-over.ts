import { CoreError } from '../errors'
import { archive } from '../formats/archive'
import { csv } from '../formats/csv'
import { dxf } from '../formats/dxf'
import { glb } from '../formats/glb'
import { obj, quads } from '../formats/obj'
import { ply } from '../formats/ply'
import { step, type StepSolid } from '../formats/step'
import { stl } from '../formats/stl'
import { svg } from '../formats/svg'
import { threemf } from '../formats/threemf'
import { profileMeasures } from '../measure/profile-measures'
import { scaledSegment, type Segment } from '../profile/segments'
import type { Kernel } from '../solid/kernel'
import { joinedMesh, type Mesh } from '../solid/mesh'
import type { ShadingBuffers } from '../solid/shading'
import { cageMesh, usualCage } from './cage'
import { build, meshesOf, type Build } from './build'
import { derive, type SolidProfile } from './derive'
import { hexColour, materialOf, PLAIN_LOOK, type Look } from './materials'
import { turnedSegments } from './plan-assembly'
import type { PieceDocument } from './schema'

/** The formats a piece can be handed over in, by extension. */
export const FORMATS = { stl, '3mf': threemf, glb, obj, quads, ply, step, svg, dxf, csv } as const
export type Format = keyof typeof FORMATS

export interface HandOverOptions {
  /** Sides of meshes; default: the document's. */
  sides?: number
  /** ISO 8601, for formats that carry one; default: none in particular, so that the same piece gives the same bytes. */
  timeStamp?: string
  /** Needed for meshes of pieces with parts. */
  kernel?: Kernel
}

/** When nobody says when: formats that must carry a time stamp carry this. */
const NO_TIME = '1970-01-01T00:00:00'

/**
 * The bytes of a file of the piece at its finished size; the same from the bench and from the terminal.
 * @throws CoreError `not-closed` when the profile is open or bounds no solid, `part-turn` and `part-not-exact` where a format
 * can't say it, `part-failed` when a part couldn't be made, and what `build` throws
 */
export function handOver(
  document: PieceDocument,
  format: Format,
  options: HandOverOptions = {},
): Uint8Array<ArrayBuffer> {
  return writerOf(document, [format], options)(format)
}

/** Formats that say where textures lie. */
const MAPPED: readonly Format[] = ['glb', 'obj']

/** Writes a piece in any of some formats; what they share is computed once, when the first of them needs it. */
function writerOf(
  document: PieceDocument,
  formats: readonly Format[],
  { sides = document.solid.sides, timeStamp = NO_TIME, kernel }: HandOverOptions,
): (format: Format) => Uint8Array<ArrayBuffer> {
  const { solid, faults } = derive(document)
  if (!solid || solid.closedForShow) {
    const reason = faults[0]?.message ?? 'Its half-profile is open; close it on the bench first.'
    throw new CoreError({ code: 'not-closed', message: `“${document.name}” can’t be handed over. ${reason}` })
  }
  const { factor } = document.calibration.finish
  const name =
    factor === 1 ? document.name : `${document.name}, finished size x ${Number(factor.toPrecision(6))}`
  const sized = (list: readonly Segment[]) => list.map((s) => scaledSegment(s, factor))
  const asked = { ...document, solid: { ...document.solid, sides } }
  let finished: Finished | null = null
  const meshes = () => {
    if (finished) return finished
    const built = build(asked, solid, { kernel, mapped: formats.some((f) => MAPPED.includes(f)) })
    if (built.problems[0])
      throw new CoreError({
        code: 'part-failed',
        message: `${built.problems[0].message} Mend or hide that part first; nothing is left out silently.`,
      })
    const facts = factsOf(document, sized(solid.segments), built, factor, sides)
    return (finished = { ...sizedBuild(asked, solid, built, factor), facts })
  }
  return (format) => {
    switch (format) {
      case 'svg':
        return svg.toBytes(sized(solid.segments), name)
      case 'dxf':
        return dxf.toBytes(sized(solid.segments), name)
      case 'csv':
        return csv.toBytes({
          outside: sized(solid.hollow?.outside ?? solid.segments),
          inside: solid.hollow ? sized(solid.hollow.inside) : null,
        })
      case 'step': {
        const exact = exactSolids(document, solid).map((s) => ({ ...s, segments: sized(s.segments) }))
        return step.toBytes(exact, { name, timeStamp })
      }
      case 'quads': {
        const { heightMm } = profileMeasures(solid.segments)
        const poly = cageMesh(solid, document.solid.cage ?? usualCage(heightMm))
        return quads.toBytes({ ...poly, positions: poly.positions.map((v) => v * factor) }, name)
      }
      default:
        return writeMeshes(format, name, meshes())
    }
  }
}

/** Everything a mesh format may want to know of one solid, at its finished size, mm. */
interface FinishedSolid {
  name: string
  mesh: Mesh
  buffers: ShadingBuffers
  runs: { from: number; material: number }[]
}
interface Finished {
  solids: FinishedSolid[]
  /** By number of surface. */
  looks: (Look & { name: string })[]
  thicknessMm: number
  /** What a GLB says of the piece. */
  facts: Record<string, string | number>
}

function sizedBuild(
  document: PieceDocument,
  solid: SolidProfile,
  built: Build,
  factor: number,
): Omit<Finished, 'facts'> {
  const meshes = meshesOf(document, solid, built)
  const grow = <T extends Float32Array | Float64Array>(list: T) => (factor === 1 ? list : (list.map((v) => v * factor) as T)) // prettier-ignore
  const looks = built.surfaces.map((surface) => {
    const material = materialOf(surface.material)
    return { ...(material?.look ?? PLAIN_LOOK), name: material?.name ?? 'plain' }
  })
  // Surfaces of one material are one material of the file.
  const first = looks.map((look) => looks.findIndex((l) => l.name === look.name))
  const kept = [...new Set(first)]
  const solids = built.solids.map(({ name, buffers, runs }, k) => ({
    name,
    buffers: { ...buffers, positions: grow(buffers.positions) },
    mesh: { ...meshes[k]!.mesh, positions: grow(meshes[k]!.mesh.positions) },
    runs: runs.map(({ from, surface }) => ({ from, material: kept.indexOf(first[surface]!) })),
  }))
  const wall = document.solid.wall?.mm ?? 2 * profileMeasures(solid.segments).maxRadiusMm
  return { solids, looks: kept.map((k) => looks[k]!), thicknessMm: wall * factor }
}

type MeshFormat = Exclude<Format, 'svg' | 'dxf' | 'csv' | 'step' | 'quads'>

function writeMeshes(
  format: MeshFormat,
  name: string,
  { solids, looks, thicknessMm, facts }: Finished,
): Uint8Array<ArrayBuffer> {
  const joined = () => joinedMesh(solids.map((s) => s.mesh))
  switch (format) {
    case 'glb': {
      const materials = looks.map((look) => ({ ...look, thickness: thicknessMm / 1000 }))
      return glb.toBytes({ name, solids, materials, extras: facts })
    }
    case '3mf': {
      const named = solids.length === 1 ? [{ ...solids[0]!, name }] : solids
      return threemf.toBytes(named, name, looks.map((l) => ({ name: l.name, colour: hexColour(l.colour) }))) // prettier-ignore
    }
    case 'obj':
      return obj.toBytes(solids.length === 1 ? [{ ...solids[0]!, name }] : solids)
    case 'stl':
      return stl.toBytes(joined(), `${name}, millimetres`)
    case 'ply':
      return ply.toBytes(joined(), name)
  }
}

/** What a GLB says of the piece: of the exact curve, or of the meshes where booleans worked on it. */
function factsOf(
  document: PieceDocument,
  segments: Segment[],
  { assembly }: Build,
  factor: number,
  sides: number,
): Record<string, string | number> {
  const { heightMm, maxRadiusMm, volumeMm3 } = profileMeasures(segments)
  const volume = assembly ? assembly.solids[0]!.volumeMm3 * factor ** 3 : volumeMm3
  return {
    unit: 'mm',
    height: rounded(heightMm),
    maxDiameter: rounded(2 * maxRadiusMm),
    volume: rounded(volume),
    sides,
    ...(assembly && { parts: document.parts.filter((p) => p.shown).map((p) => p.name).join(', ') }), // prettier-ignore
  }
}

/**
 * The solids that can be written exactly: whole turns about the axis, the body and separate turned parts.
 * @throws CoreError `part-turn`, `part-not-exact`, which say what to do
 */
function exactSolids(document: PieceDocument, solid: SolidProfile): StepSolid[] {
  if (document.solid.turn)
    throw new CoreError({
      code: 'part-turn',
      message: 'STEP is written of whole turns only. Turn the piece all round, or hand over a mesh.',
    })
  const parts = document.parts.filter((p) => p.shown)
  const exact = parts.map((part): StepSolid => {
    const { r, lean } = part.place
    const turned = part.relation === 'separate' && r === 0 && lean === 0 && !part.round && !part.clearanceMm
    const segments = turned ? turnedSegments(part, solid) : null
    if (!segments)
      throw new CoreError({
        code: 'part-not-exact',
        message: `STEP is written exactly, of turned parts on the axis that stand by themselves; “${part.name}” is none. Hide it, or hand over a mesh.`,
        where: part.id,
      })
    return { name: part.name, segments }
  })
  return [{ name: document.name, segments: solid.segments }, ...exact]
}

const rounded = (value: number) => Number(value.toPrecision(8))

/**
 * Several files of the piece in one ZIP archive, all called by one name; its own time stamps are all the same.
 * @throws CoreError as `handOver` does; nothing is left out silently
 */
export function handOverArchive(
  document: PieceDocument,
  formats: readonly Format[],
  baseName: string,
  options: HandOverOptions = {},
): Uint8Array<ArrayBuffer> {
  const write = writerOf(document, formats, options)
  const files = formats.map((format) => [`${baseName}.${FORMATS[format].extension}`, write(format)] as const)
  return archive(Object.fromEntries(files))
}
