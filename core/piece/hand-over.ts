import { CoreError } from '../errors'
import { archive } from '../formats/archive'
import { csv } from '../formats/csv'
import { dxf } from '../formats/dxf'
import { glb } from '../formats/glb'
import { obj } from '../formats/obj'
import { ply } from '../formats/ply'
import { step } from '../formats/step'
import { stl } from '../formats/stl'
import { svg } from '../formats/svg'
import { threemf } from '../formats/threemf'
import { profileMeasures } from '../measure/profile-measures'
import type { FlatProfile } from '../profile/flatten'
import { scaledSegment, type Segment } from '../profile/segments'
import { revolve } from '../solid/revolve'
import { shadingBuffers } from '../solid/shading'
import { derive } from './derive'
import { materialOf, type Look } from './materials'
import type { PieceDocument } from './schema'

/** The formats a piece can be handed over in, by extension. */
export const FORMATS = { stl, '3mf': threemf, glb, obj, ply, step, svg, dxf, csv } as const
export type Format = keyof typeof FORMATS

export interface HandOverOptions {
  /** Sides of meshes; default: the document's. */
  sides?: number
  /** ISO 8601, for formats that carry one; default: none in particular, so that the same piece gives the same bytes. */
  timeStamp?: string
}

/** When nobody says when: formats that must carry a time stamp carry this. */
const NO_TIME = '1970-01-01T00:00:00'
/** Without a chosen material: turned wood by its colour, no claim about what it is. */
const PLAIN: Look = { colour: [0.48, 0.27, 0.15], metallic: 0, roughness: 0.6 }

/**
 * The bytes of a file of the piece at its finished size; the same from the bench and from the terminal.
 * @throws CoreError `not-closed` when the profile is open or bounds no solid, `part-turn` where a format can't say it, and
 * what `revolve` throws
 */
export function handOver(
  document: PieceDocument,
  format: Format,
  { sides = document.solid.sides, timeStamp = NO_TIME }: HandOverOptions = {},
): Uint8Array<ArrayBuffer> {
  const { solid, faults } = derive(document)
  if (!solid || solid.closedForShow) {
    const reason = faults[0]?.message ?? 'Its half-profile is open; close it on the bench first.'
    throw new CoreError({ code: 'not-closed', message: `“${document.name}” can’t be handed over. ${reason}` })
  }
  const { factor } = document.calibration.finish
  const name =
    factor === 1 ? document.name : `${document.name}, finished size x ${Number(factor.toPrecision(6))}`
  const sized = (list: readonly Segment[]) => list.map((s) => scaledSegment(s, factor))
  const segments = sized(solid.segments)
  const turn = document.solid.turn ?? undefined
  if (format === 'svg') return svg.toBytes(segments, name)
  if (format === 'dxf') return dxf.toBytes(segments, name)
  if (format === 'csv')
    return csv.toBytes({
      outside: solid.hollow ? sized(solid.hollow.outside) : segments,
      inside: solid.hollow ? sized(solid.hollow.inside) : null,
    })
  if (format === 'step') {
    if (turn)
      throw new CoreError({
        code: 'part-turn',
        message: 'STEP is written of whole turns only. Turn the piece all round, or hand over a mesh.',
      })
    return step.toBytes(segments, { name, timeStamp })
  }
  const flat: FlatProfile = { ...solid.flat, points: solid.flat.points.map((v) => v * factor) }
  if (format === 'glb') {
    const material = materialOf(document.solid.material)
    const look = material?.look ?? PLAIN
    const { heightMm, maxRadiusMm, volumeMm3 } = profileMeasures(segments)
    return glb.toBytes(shadingBuffers(flat, sides, turn), {
      name,
      material: { ...look, name: material?.name ?? 'plain', thickness: (document.solid.wall?.mm ?? 2 * maxRadiusMm) / 1000 }, // prettier-ignore
      extras: {
        unit: 'mm',
        height: rounded(heightMm),
        maxDiameter: rounded(2 * maxRadiusMm),
        volume: rounded(volumeMm3),
        sides,
      },
    })
  }
  const mesh = revolve(flat.points, { sides, turn })
  if (format === 'stl') return stl.toBytes(mesh, `${name}, millimetres`)
  if (format === '3mf') return threemf.toBytes(mesh, name)
  if (format === 'ply') return ply.toBytes(mesh, name)
  return obj.toBytes(mesh, name)
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
  return archive(Object.fromEntries(formats.map((format) => [`${baseName}.${FORMATS[format].extension}`, handOver(document, format, options)]))) // prettier-ignore
}
