import { placeAt, type AxisLine } from '../outline/axis-line'
import { clearestAlong } from '../outline/edge-band'
import type { PicturePoint } from '../conventions'
import type { Raster } from '../picture/raster'
import { closingArc } from './ring-arc'

/** Rings that rise by less than this, px, are seen too nearly edge-on to tell. */
const LEAST_RISE_PX = 3
/** The near half is looked at over this share of the width, beside where it should lie by this share of the rise or so many px. */
const REACH = 0.85
const ASIDE_SHARE = 0.12
const ASIDE_PX = 1.5
const STEP_PX = 2
/** An edge is clear from this worth on; the near half shows one along so much of its way, … */
const CLEAR = 1
const SEEN = 0.85
/** … lies lower by up to this share of the rise where the edge is rounded, … */
const ROUNDED = [0, 0.25, 0.5]
/** … and shows more than lines that bend like the far half do, so many rises below it. */
const BANDS = [0.75, 1, 1.5, 2, 2.5, 3, 4]

/**
 * Whether the near half of the ring that closes a piece at its top is seen in front of it: then the camera looks down on it. Seen
 * from below it is the near half that closes the outline, and the far one is hidden. The arc alone can't tell the two apart.
 * @param halves of the outline in the axis’ frame, from the upper crossing down, px
 * @param offset where the raster's first pixel lies in the px of the axis
 */
export function topFaceSeen(
  raster: Raster,
  halves: readonly [Float64Array, Float64Array],
  { axis, offset, blur }: { axis: AxisLine; offset: PicturePoint; blur: number },
): boolean {
  const arc = closingArc(halves)
  if (!arc || arc.ellipse.b < LEAST_RISE_PX) return false
  const { v0, a, b } = arc.ellipse
  // An arc that bends the other way is the near half already.
  if (arc.points[1]! < v0) return false
  const aside = Math.max(ASIDE_PX, ASIDE_SHARE * b)
  const share = (levelAt: (sag: number) => number) => {
    const way: number[] = []
    for (let u = -REACH * a; u <= REACH * a; u += STEP_PX) {
      const { x, y } = placeAt(axis, u, levelAt(b * Math.sqrt(1 - (u / a) ** 2)))
      way.push(x - offset.x, y - offset.y)
    }
    const clear = clearestAlong(raster, Float64Array.from(way), { turn: 1, blur, aside })
    return clear.filter((v) => v >= CLEAR).length / clear.length
  }
  const near = Math.max(...ROUNDED.map((k) => share((sag) => v0 - sag - k * b)))
  return near >= SEEN && BANDS.every((k) => share((sag) => v0 + sag - k * b) < near)
}
