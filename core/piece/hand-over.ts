import { CoreError } from '../errors'
import { obj } from '../formats/obj'
import { stl } from '../formats/stl'
import { svg } from '../formats/svg'
import { derive } from './derive'
import type { PieceDocument } from './schema'
import { revolve } from '../solid/revolve'

/** The formats a piece can be handed over in, by extension. */
export const FORMATS = { stl, obj, svg } as const
export type Format = keyof typeof FORMATS

/**
 * The bytes of a file of the piece; the same from the bench and from the terminal.
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
  if (format === 'svg') return svg.toBytes(solid.segments, document.name)
  const mesh = revolve(solid.flat.points, { sides })
  return format === 'stl'
    ? stl.toBytes(mesh, `${document.name}, millimetres`)
    : obj.toBytes(mesh, document.name)
}
