import type { Raster } from '../picture/raster'
import { clearShare, outermost, type SideView } from './end-view'

/** Ends narrower than this, px, are no rings. */
export const LEAST_HALF_PX = 12
/** An end is looked at over so many px of the axis at least. */
export const LEAST_WINDOW_PX = 14
/** Cameras look down by no more than 35° at what is called a side view: b / a is the sine. */
export const MOST_RISE = 0.57

/** A side runs upright where it rises so many times faster than it widens, over this long, px. */
const UPRIGHT = 1.5
const UPRIGHT_PX = 8

/** Where the way over an end first runs upright: from one place to before another; null where it does nowhere. */
function firstUpright(half: Float64Array, from: number, end: number): [number, number] | null {
  for (let i = from; i < half.length; i += 2) {
    const u = half[i]!
    // A broad end closes over more rows than a narrow one.
    if (end - half[i + 1]! > Math.max(LEAST_WINDOW_PX, MOST_RISE * u)) return null
    if (u <= LEAST_HALF_PX || !isUpright(half, i)) continue
    let k = i + 2
    while (k < half.length && isUpright(half, k)) k += 2
    return [i, Math.min(k + 2, half.length)]
  }
  return null
}

/** Whether a way, from one of its places on, rises clearly faster than it widens. */
function isUpright(half: Float64Array, i: number): boolean {
  const [u, v] = [half[i]!, half[i + 1]!]
  let k = i
  while (k + 2 < half.length && Math.hypot(half[k]! - u, half[k + 1]! - v) < UPRIGHT_PX) k += 2
  return v - half[k + 1]! > UPRIGHT * Math.abs(half[k]! - u)
}

/** Where the way goes on to so many times the width within the rise of a ring of that … */
const JOG = 2
/** … and shows less of a clear edge where it ran upright, it jumps there from line to line. */
const JOG_CLEAR = 0.6

/** Where a way goes on that runs upright over some of its places but only jumps there, between two lines of what closes it; else null. */
function goesOnAfter(
  raster: Raster,
  half: Float64Array,
  [from, to]: [number, number],
  { end, ...view }: SideView & { end: number },
): number | null {
  const wide = JOG * half[from]!
  for (let i = to; i < half.length; i += 2)
    if (half[i]! >= wide && end - half[i + 1]! <= MOST_RISE * half[i]!)
      return clearShare(raster, half.subarray(from, to), view) < JOG_CLEAR ? i : null
  return null
}

/** How far aside the outline has come where it first runs upright, near the end, and whether it jumps before it has. */
export function widthNear(
  raster: Raster,
  half: Float64Array,
  about: SideView & { end: number },
): { wide: number; jumps: boolean } {
  const { end } = about
  let from = 0
  for (let i = 0; i < half.length; i += 2) if (half[i + 1]! > half[from + 1]!) from = i
  let upright = firstUpright(half, from, end)
  let jumps = false
  for (let on = upright && goesOnAfter(raster, half, upright, about); on !== null;) {
    jumps = true
    from = on
    upright = firstUpright(half, from, end)
    on = upright && goesOnAfter(raster, half, upright, about)
  }
  let wide = 0
  for (let i = from; i < half.length; i += 2) {
    const [u, v] = [half[i]!, half[i + 1]!]
    if (upright ? i > upright[0] : end - v > Math.max(LEAST_WINDOW_PX, MOST_RISE * u)) break
    wide = Math.max(wide, u)
  }
  return { wide, jumps }
}

/** How far out the outline reaches at an end, and how wide it is there. */
export interface EndSize {
  end: number
  wide: number
  /** On its way there it jumps from line to line. */
  jumps: boolean
}

/** @param facing both halves [u v ...] as seen from the end, the left one first */
export function sizeOfEnd(
  raster: Raster,
  facing: readonly Float64Array[],
  view: Omit<SideView, 'left'>,
): EndSize {
  const end = Math.max(...facing.map(outermost))
  const widths = facing.map((half, k) => widthNear(raster, half, { ...view, left: k === 0, end }))
  return { end, wide: Math.min(...widths.map((w) => w.wide)), jumps: widths.some((w) => w.jumps) }
}
