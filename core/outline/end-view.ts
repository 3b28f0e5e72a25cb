import type { Raster } from '../picture/raster'
import { placeAt, type AxisLine } from './axis-line'
import { reversed } from './chain'
import { clearestAlong, CLEAR_EDGE, OWN_PX, shownAlong } from './edge-band'

/** Halves of an outline as seen from one of its ends: [u v ...], u aside of the axis, v along it and out of the piece. */

/** A half [u v ...], as seen from an end or from nowhere, in the picture. */
export function inPicture(half: Float64Array, axis: AxisLine, left: boolean, down = false): Float64Array {
  const out = new Float64Array(half.length)
  for (let i = 0; i < half.length; i += 2) {
    const [u, v] = [half[i]!, half[i + 1]!]
    const { x, y } = placeAt(axis, left ? -u : u, down ? -v : v)
    out.set([x, y], i)
  }
  return out
}

/** The half [u v ...] as seen from one end: it begins there, and v grows out of the piece. Its own inverse. */
export function fromEnd(half: Float64Array, down: boolean): Float64Array {
  return down ? half.map((c, i) => (i % 2 ? -c : c)) : reversed(half)
}

/** How far out a half reaches. */
export function outermost(half: Float64Array): number {
  let most = -Infinity
  for (let i = 1; i < half.length; i += 2) most = Math.max(most, half[i]!)
  return most
}

export interface SideView {
  axis: AxisLine
  blur: number
  down: boolean
  left: boolean
}

/** Where a side's [u v ...] shows a clear edge within a few px. */
export function clearAlong(
  raster: Raster,
  side: Float64Array,
  { axis, blur, down, left }: SideView,
): boolean[] {
  const chain = inPicture(side, axis, left, down)
  return clearestAlong(raster, chain, { turn: 1, blur, aside: OWN_PX }).map((v) => v >= CLEAR_EDGE)
}

/** Share of a way that shows clear edges. */
export function clearShare(raster: Raster, way: Float64Array, view: SideView): number {
  if (way.length < 6) return 0
  const clear = clearAlong(raster, way, view)
  return clear.filter((is) => is).length / clear.length
}

/** How clear the edge along a way is, on average; clear is 1. */
export function shown(raster: Raster, way: Float64Array, { axis, blur, down, left }: SideView): number {
  if (way.length < 6) return 0
  return shownAlong(raster, [inPicture(way, axis, left, down)], blur)
}

/** Where the half first reaches u, along the axis. */
export function crossingAt(half: Float64Array, u: number): number {
  for (let i = 0; i + 2 < half.length; i += 2) {
    if (half[i + 2]! < u) continue
    const [u0, u1] = [half[i]!, half[i + 2]!]
    const t = u1 > u0 ? Math.min(1, Math.max(0, (u - u0) / (u1 - u0))) : 1
    return half[i + 1]! + t * (half[i + 3]! - half[i + 1]!)
  }
  return -Infinity
}

/** Sides lean into the line that was drawn over an open end so far from it, of the half-width. */
const OPEN_CORNER = 0.12
/** … and so much of them farther on tells how they lean. */
const OPEN_SIDE = 0.4

/** Where a half whose beginning isn't believed (down to a corner, in half-widths) can be believed, and the straight way on from there; null where it has no such side. */
export function straightSide(
  half: Float64Array,
  wide: number,
  corner = OPEN_CORNER,
): { from: number; sideAt: (v: number) => number } | null {
  const end = outermost(half)
  const at = (level: number) => {
    let i = 0
    while (i < half.length && half[i + 1]! > level) i += 2
    return i
  }
  const [from, further] = [at(end - corner * wide), at(end - (corner + OPEN_SIDE) * wide)]
  if (further >= half.length || half[from + 1]! <= half[further + 1]!) return null
  const lean = (half[from]! - half[further]!) / (half[from + 1]! - half[further + 1]!)
  return { from, sideAt: (v) => half[from]! + lean * (v - half[from + 1]!) }
}
