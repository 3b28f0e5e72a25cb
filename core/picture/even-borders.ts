import { codesApart, type Raster } from './raster'

/** A rectangle of a picture, px. */
export interface Part {
  left: number
  top: number
  width: number
  height: number
}

/** Bytes of an even colour differ by no more than this: compression leaves so much. */
const EVEN = 5
/** Where a bar ends, bytes change by more than this within so many px, which compression makes uneven, … */
const CHANGE = 10
const WITHIN_PX = 10
/** … over this share of its length, and of the ends of that, so long a share each: a piece doesn't reach into its picture's corners. */
const MOSTLY = 0.95
const AT_ENDS = 0.85
const END_SHARE = 0.03
/** Every so many px are looked at to find where bars end. */
const STRIDE = 3
/** Px beyond its end that a bar's edge may be blurred over. */
const SOFT_PX = 2
/** Less than this share of a picture is no photo, nor is that of which less than the other share has another colour than its corner. */
const LEAST = 0.2
const SOMETHING = 0.01

type Side = 'left' | 'right' | 'top' | 'bottom'
const SIDES = ['left', 'right', 'top', 'bottom'] as const

/** From a place to before another. */
interface Box {
  left: number
  top: number
  right: number
  bottom: number
}

/**
 * The part of a picture that shows a photo, where bars or a frame of an even colour were laid about that, as shops do to make pictures
 * square; null where none were. (A piece before an even backdrop fills no rectangle.)
 */
export function withinEvenBorders(picture: Raster): Part | null {
  const { width, height } = picture
  const whole: Box = { left: 0, top: 0, right: width, bottom: height }
  const rest = { ...whole }
  const bars: Bar[] = []
  for (const side of SIDES) {
    const lines = evenLines(picture, linesOf(picture, side, rest))
    if (lines === 0) continue
    bars.push({ side, lines })
    move(rest, side, lines)
    if (rest.right <= rest.left || rest.bottom <= rest.top) return null
  }
  const inner = withoutBars(picture, whole, bars)
  if (!inner) return null
  const { left, top, right, bottom } = inner
  const part = { left, top, width: right - left, height: bottom - top }
  const isLarge = right > left && bottom > top && part.width * part.height >= LEAST * width * height
  return isLarge && showsSomething(picture, part) ? part : null
}

/** So many lines of one colour along a side. */
interface Bar {
  side: Side
  lines: number
}

/** What is left of a picture without bars, but for those that don't end as bars do; null where none does. */
function withoutBars(picture: Raster, whole: Box, bars: readonly Bar[]): Box | null {
  if (bars.length === 0) return null
  const rest = { ...whole }
  for (const { side, lines } of bars) move(rest, side, lines)
  const ends = bars.map(({ side, lines }) => {
    // Between the other bars, which are even along it, too.
    const box = { ...rest }
    move(box, side, -lines)
    return endOf(picture, linesOf(picture, side, box), lines)
  })
  const real = bars.filter((_, k) => ends[k] !== null)
  if (real.length < bars.length) return withoutBars(picture, whole, real)
  const inner = { ...whole }
  bars.forEach(({ side }, k) => move(inner, side, ends[k]! + SOFT_PX))
  return inner
}

/** Moves a side of a box inwards. */
function move(box: Box, side: Side, by: number): void {
  box[side] += side === 'left' || side === 'top' ? by : -by
}

/** Lines from one side of a box inwards: so many, from one place along them to before another, and the number of a px of them. */
interface Lines {
  count: number
  from: number
  to: number
  at: (depth: number, k: number) => number
}

function linesOf({ width }: Raster, side: Side, { left, top, right, bottom }: Box): Lines {
  const place = (x: number, y: number) => y * width + x
  const upright = { count: right - left, from: top, to: bottom }
  const level = { count: bottom - top, from: left, to: right }
  switch (side) {
    case 'left':
      return { ...upright, at: (depth, k) => place(left + depth, k) }
    case 'right':
      return { ...upright, at: (depth, k) => place(right - 1 - depth, k) }
    case 'top':
      return { ...level, at: (depth, k) => place(k, top + depth) }
    case 'bottom':
      return { ...level, at: (depth, k) => place(k, bottom - 1 - depth) }
  }
}

/** How many lines from the first on are of one colour; about a cut-out nothing is. */
function evenLines(picture: Raster, { count, from, to, at }: Lines): number {
  const colour = at(0, (from + to) >> 1)
  if (picture.data[4 * colour + 3]! < 255) return 0
  for (let depth = 0; depth < count; depth++)
    for (let k = from; k < to; k += STRIDE) if (codesApart(picture, at(depth, k), colour) > EVEN) return depth
  return count
}

/** The line at which a bar of so many ends along all of its length; null where it doesn't. */
function endOf(picture: Raster, { count, from, to, at }: Lines, lines: number): number | null {
  const deepest = Math.min(count - 1, lines + WITHIN_PX)
  const changes = Array.from({ length: to - from }, (_, i) =>
    codesApart(picture, at(deepest, from + i), at(0, from + i)),
  )
  const share = (list: readonly number[]) => list.filter((by) => by > CHANGE).length / list.length
  const end = Math.max(1, Math.round(END_SHARE * changes.length))
  const ends = [changes.slice(0, end), changes.slice(-end)]
  if (share(changes) < MOSTLY || ends.some((list) => share(list) < AT_ENDS)) return null
  for (let depth = lines; depth < deepest; depth++) {
    const isThere = (by: number, i: number) =>
      2 * codesApart(picture, at(depth, from + i), at(0, from + i)) > by
    if (2 * changes.filter(isThere).length > changes.length) return depth
  }
  return deepest
}

/** Whether a part isn't of one colour throughout: that may be a piece itself, drawn as a level cylinder. */
function showsSomething(picture: Raster, { left, top, width, height }: Part): boolean {
  const place = (x: number, y: number) => y * picture.width + x
  let [other, all] = [0, 0]
  for (let y = top; y < top + height; y += STRIDE)
    for (let x = left; x < left + width; x += STRIDE, all++)
      if (codesApart(picture, place(x, y), place(left, top)) > CHANGE) other++
  return other >= SOMETHING * all
}

/** A part of a picture. */
export function partOf({ width, data }: Raster, { left, top, width: w, height: h }: Part): Raster {
  const out = new Uint8Array(4 * w * h)
  for (let y = 0; y < h; y++) {
    const from = 4 * ((top + y) * width + left)
    out.set(data.subarray(from, from + 4 * w), 4 * y * w)
  }
  return { width: w, height: h, data: out }
}
