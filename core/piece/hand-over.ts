import { CoreError } from '../errors'
import { obj } from '../formats/obj'
import { stl } from '../formats/stl'
import { svg } from '../formats/svg'
import { derive } from './derive'
import { scaledSegment } from '../profile/segments'
import type { PieceDocument } from './schema'
import { revolve } from '../solid/revolve'

/** The formats a piece can be handed over in, by extension. */
export const FORMATS = { stl, obj, svg } as const
export type Format = keyof typeof FORMATS

/**
 * The bytes of a file of the piece at its finished size; the same from the bench and from the terminal.
 * @throws CoreError `not-closed` when the profile is open or bounds no solid, and what `revolve` throws
 */
export function handOver(
  document: PieceDocument,
  format: Format,
  sides = document.solid.sides,
): Uint8Array<ArrayBuffer> {
  const { solid, faults } = derive(document)
  if (!solid || solid.closedForShow) {
    const reason = faults[0]?.message ?? 'Its half-profile is open; close it on the bench first.'
    throw new CoreError({ code: 'not-closed', message: `“${document.name}” can’t be handed over. ${reason}` })
  }
  const { factor } = document.calibration.finish
  const name =
    factor === 1 ? document.name : `${document.name}, finished size x ${Number(factor.toPrecision(6))}`
  if (format === 'svg') {
    return svg.toBytes(
      solid.segments.map((s) => scaledSegment(s, factor)),
      name,
    )
  }
  const mesh = revolve(
    solid.flat.points.map((v) => v * factor),
    { sides, turn: document.solid.turn ?? undefined },
  )
  return format === 'stl' ? stl.toBytes(mesh, `${name}, millimetres`) : obj.toBytes(mesh, name)
}
