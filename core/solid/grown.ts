import { toMesh, type Kernel } from './kernel'
import type { Mesh } from './mesh'

/** Corners of the grown outline are rounded by so many steps a full turn. */
const ROUNDING = 64

/**
 * A revolved profile grown by a distance on all sides, inside and outside: what must stay free about it. Measured square to
 * the flat sides, which lie nearer to each other than their corners do.
 * @param points closed half-profile [r z ...], mm
 */
export function grownMesh(kernel: Kernel, points: Float64Array, distanceMm: number, sides: number): Mesh {
  const outline: [number, number][] = []
  for (let i = 0; i < points.length; i += 2) outline.push([points[i]!, points[i + 1]!])
  // With its mirror image the outline has no end on the axis, where growing would round it.
  for (let i = points.length - 4; i >= 2; i -= 2) outline.push([-points[i]!, points[i + 1]!])
  const section = new kernel.CrossSection([outline], 'NonZero')
  const grown = section.offset(
    distanceMm / Math.cos(Math.PI / sides) / Math.cos(Math.PI / ROUNDING),
    'Round',
    2,
    ROUNDING,
  )
  const body = grown.revolve(sides)
  try {
    return toMesh(body)
  } finally {
    for (const made of [section, grown, body]) made.delete()
  }
}
