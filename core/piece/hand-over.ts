import { CoreError } from '../errors'
import { csv } from '../formats/csv'
import { dxf } from '../formats/dxf'
import { glb, type GlbMaterial, type GlbPicture } from '../formats/glb'
import { obj, quads, writeMtl, type ObjAxes } from '../formats/obj'
import { ply } from '../formats/ply'
import { step, type StepSolid } from '../formats/step'
import { stl } from '../formats/stl'
import { svg } from '../formats/svg'
import { threemf } from '../formats/threemf'
import { profileMeasures } from '../measure/profile-measures'
import { GRAIN_MM, GRAIN_PX, grainPicture } from '../picture/grain'
import { writePng } from '../picture/png'
import { BODY } from '../solid/assemble'
import { laidDown, lyingOn } from '../solid/laid-down'
import { joinedMesh, type Mesh } from '../solid/mesh'
import type { ShadingBuffers } from '../solid/shading'
import { MM_PER_UNIT } from '../units/units'
import { cageMesh, usualCage } from './cage'
import type { SolidProfile } from './derive'
import { finishedMeshes, finishedSegments, requireSolid, type Finished, type FinishOptions } from './finished'
import { hexColour } from './materials'
import { isExact, turnedSegments } from './plan-assembly'
import type { PieceDocument, SurfaceMap } from './schema'

/** The formats a piece can be handed over in, by extension. */
export const FORMATS = { stl, '3mf': threemf, glb, obj, quads, ply, step, svg, dxf, csv } as const
export type Format = keyof typeof FORMATS

/** What unitless formats are written in; usual: mm, z up. */
export interface MeshAxes {
  unit: 'mm' | 'cm' | 'm' | 'in'
  up: 'y' | 'z'
}
export const USUAL_AXES: MeshAxes = { unit: 'mm', up: 'z' }

export interface HandOverOptions extends Omit<FinishOptions, 'mapped'> {
  /** ISO 8601, for formats that carry one; default: none in particular, so that the same piece gives the same bytes. */
  timeStamp?: string
  axes?: MeshAxes
  /** The files of pictures laid on surfaces, by SHA-256; those that aren't there are left out of a GLB. */
  pictures?: ReadonlyMap<string, PictureFile>
  /** Sides of lighter meshes that a GLB carries beside its own, in scenes of their own; default: none. */
  lighter?: readonly number[]
}

/** When nobody says when: formats that must carry a time stamp carry this. */
export const NO_TIME = '1970-01-01T00:00:00'

/** A picture that a GLB can carry. */
export type PictureFile = Pick<GlbPicture, 'bytes' | 'mediaType'>

/** A file with its name. */
export type NamedFile = readonly [name: string, bytes: Uint8Array<ArrayBuffer>]

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
  return writerOf(document, [format], 'piece', options)(format)[0]![1]
}

/**
 * The files of some formats, all called by one name: one a format, and the materials beside an OBJ.
 * @throws CoreError as `handOver` does; nothing is left out silently
 */
export function handOverFiles(
  document: PieceDocument,
  formats: readonly Format[],
  baseName: string,
  options: HandOverOptions = {},
): NamedFile[] {
  const write = writerOf(document, formats, baseName, options)
  return formats.flatMap((format) => write(format))
}

/** Formats that say where textures lie. */
const MAPPED: readonly Format[] = ['glb', 'obj']

/** Writes a piece in any of some formats; what they share is computed once, when the first of them needs it. */
function writerOf(
  document: PieceDocument,
  formats: readonly Format[],
  baseName: string,
  options: HandOverOptions,
): (format: Format) => NamedFile[] {
  const solid = requireSolid(document)
  const { timeStamp = NO_TIME, axes = USUAL_AXES } = options
  const { factor } = document.calibration.finish
  const name =
    factor === 1 ? document.name : `${document.name}, finished size x ${Number(factor.toPrecision(6))}`
  const sized = (list: Parameters<typeof finishedSegments>[1]) => finishedSegments(document, list)
  const mapped = formats.some((f) => MAPPED.includes(f))
  let finished: Finished | null = null
  const meshes = () => (finished ??= finishedMeshes(document, solid, { ...options, mapped }))
  const bytesOf = (format: Format): Uint8Array<ArrayBuffer> => {
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
        const exact = exactSolids(document, solid, options.only)
        return step.toBytes(exact.map((s) => ({ ...s, segments: sized(s.segments) })), { name, timeStamp }) // prettier-ignore
      }
      case 'quads': {
        const { heightMm } = profileMeasures(solid.segments)
        const poly = cageMesh(solid, document.solid.cage ?? usualCage(heightMm))
        const { positions: standing } = poly
        const placed = document.solid.lies ? laidDown(standing, lyingOn([standing])) : standing
        const positions = turned(placed, axes, factor)
        return quads.toBytes({ ...poly, positions }, name, axes)
      }
      case 'glb': {
        const lighter = (options.lighter ?? []).map((sides) => finishedMeshes(document, solid, { ...options, sides, mapped })) // prettier-ignore
        return writeGlb(name, meshes(), lighter, options.pictures)
      }
      default:
        return writeMeshes(format, name, meshes(), { axes, baseName })
    }
  }
  return (format) => {
    const main = [`${baseName}.${FORMATS[format].extension}`, bytesOf(format)] as const
    return format === 'obj' ? [main, [mtlName(baseName), writeMtl(meshes().looks)]] : [main]
  }
}

const mtlName = (baseName: string) => `${baseName}.mtl`

function writeGlb(
  name: string,
  { solids, looks, thicknessMm, facts }: Finished,
  lighter: Finished[],
  pictures: HandOverOptions['pictures'],
) {
  const grain = looks.some((look) => look.grain) ? grainFile() : undefined
  const materials = looks.map((look): GlbMaterial => {
    const file = look.laid && pictures?.get(look.laid.sha256)
    const picture = file && look.laid ? { ...file, matrix: look.laid.matrix } : look.grain ? grain : undefined
    const over = (map: SurfaceMap) =>
      picture && look.laid?.[map] ? pictures?.get(look.laid[map]) : undefined
    return { ...look, thickness: thicknessMm / 1000, picture, roughnessFile: over('roughness'), normalsFile: over('normals') } // prettier-ignore
  })
  const levels = lighter.map((l) => ({
    name: `${name}, ${l.facts['sides']} sides`,
    solids: l.solids,
    extras: l.facts,
  }))
  return glb.toBytes({ name, solids, materials, extras: facts, levels })
}

/** The grain of woods, as their pictures on the bench show it. */
function grainFile(): GlbPicture {
  const bytes = writePng(grainPicture(), GRAIN_PX, GRAIN_PX)
  return { bytes, mediaType: 'image/png', matrix: [1 / GRAIN_MM, 0, 0, 0, 1 / GRAIN_MM, 0] }
}

type MeshFormat = 'stl' | '3mf' | 'obj' | 'ply'

function writeMeshes(
  format: MeshFormat,
  name: string,
  { solids, looks }: Finished,
  { axes, baseName }: { axes: MeshAxes; baseName: string },
): Uint8Array<ArrayBuffer> {
  const named = solids.length === 1 ? [{ ...solids[0]!, name }] : solids
  const joined = (): Mesh => {
    const mesh = joinedMesh(solids.map((s) => s.mesh))
    return { ...mesh, positions: turned(mesh.positions, axes) }
  }
  switch (format) {
    case '3mf':
      return threemf.toBytes(named, name, looks.map((l) => ({ name: l.name, colour: hexColour(l.colour) }))) // prettier-ignore
    case 'obj': {
      const placed = named.map((s) => ({
        ...s,
        mesh: { ...s.mesh, positions: turned(s.mesh.positions, axes) },
        buffers: turnedNormals(s.buffers, axes),
      }))
      const own: ObjAxes = axes
      return obj.toBytes(placed, { materials: { fileName: mtlName(baseName), materials: looks }, axes: own })
    }
    case 'stl':
      return stl.toBytes(joined(), `${name}, ${inWords(axes)}`)
    case 'ply':
      return ply.toBytes(joined(), name, inWords(axes))
  }
}

const inWords = ({ unit, up }: MeshAxes) => `${unit}, ${up} up`

/** Positions in the unit and with the upward axis that are asked for: turned about x, so that what was behind stays behind. */
function turned(positions: Float64Array, { unit, up }: MeshAxes, factor = 1): Float64Array {
  const size = factor / MM_PER_UNIT[unit]
  if (size === 1 && up === 'z') return positions
  const out = new Float64Array(positions.length)
  for (let i = 0; i < out.length; i += 3) {
    const [x, y, z] = [positions[i]! * size, positions[i + 1]! * size, positions[i + 2]! * size]
    out[i] = x
    out[i + 1] = up === 'z' ? y : z
    out[i + 2] = up === 'z' ? z : -y
  }
  return out
}

function turnedNormals(buffers: ShadingBuffers, { up }: MeshAxes): ShadingBuffers {
  if (up === 'z') return buffers
  const n = buffers.normals
  const normals = new Float32Array(n.length)
  for (let i = 0; i < n.length; i += 3) normals.set([n[i]!, n[i + 2]!, -n[i + 1]!], i)
  return { ...buffers, normals }
}

/**
 * The solids that can be written exactly: whole turns about the axis, the body and separate turned parts.
 * @throws CoreError `part-turn`, `part-not-exact`, which say what to do
 */
function exactSolids(document: PieceDocument, solid: SolidProfile, only?: readonly string[]): StepSolid[] {
  if (document.solid.turn)
    throw new CoreError({
      code: 'part-turn',
      message: 'STEP is written of whole turns only. Turn the piece all round, or hand over a mesh.',
    })
  const wanted = (id: string) => !only || only.includes(id)
  // What works on a solid changes it; a solid that isn't wanted may be anything.
  const parts = document.parts.filter(
    (p) => p.shown && (p.relation === 'separate' ? wanted(p.id) : wanted(p.target)),
  )
  const exact = parts.map((part): StepSolid => {
    const segments = isExact(part) ? turnedSegments(part, solid) : null
    if (!segments)
      throw new CoreError({
        code: 'part-not-exact',
        message: `STEP is written exactly, of turned parts on the axis that stand by themselves; “${part.name}” is none. Hide it, or hand over a mesh.`,
        where: part.id,
      })
    return { name: part.name, segments }
  })
  const body = wanted(BODY) ? [{ name: document.name, segments: solid.segments }] : []
  const solids = [...body, ...exact]
  if (solids.length === 0)
    throw new CoreError({
      code: 'nothing-wanted',
      message: 'No solid is chosen to be handed over. Tick at least one.',
    })
  return solids
}
