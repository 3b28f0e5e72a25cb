import type { OutlineSide } from './refine'

/** What a hand that follows a hugging pen is trusted to, px. */
const HAND_SD_PX = 0.3

/**
 * A side of the outline with a stroke laid over it: between the places nearest to the stroke's ends the stroke's points
 * stand instead of what was found.
 * @param stroke [x y ...], drawn either way
 */
export function withStroke(side: OutlineSide, stroke: readonly number[]): OutlineSide {
  if (stroke.length < 4) return side
  const n = stroke.length / 2
  let from = nearest(side.points, stroke[0]!, stroke[1]!)
  let to = nearest(side.points, stroke[2 * n - 2]!, stroke[2 * n - 1]!)
  let laid = Array.from({ length: n }, (_, i) => [stroke[2 * i]!, stroke[2 * i + 1]!] as const)
  if (from > to) {
    ;[from, to] = [to, from]
    laid = laid.reverse()
  }
  const before = hand(side).slice(0, from)
  const after = hand(side).slice(to + 1)
  return {
    points: Float64Array.from([
      ...side.points.slice(0, 2 * from),
      ...laid.flat(),
      ...side.points.slice(2 * to + 2),
    ]),
    sd: Float64Array.from([
      ...side.sd.slice(0, from),
      ...laid.map(() => HAND_SD_PX),
      ...side.sd.slice(to + 1),
    ]),
    hand: Uint8Array.from([...before, ...laid.map(() => 1), ...after]),
    blur: side.blur,
  }
}

function hand(side: OutlineSide): Uint8Array {
  return side.hand ?? new Uint8Array(side.sd.length)
}

function nearest(points: Float64Array, x: number, y: number): number {
  let best = 0
  let least = Infinity
  for (let i = 0; i < points.length; i += 2) {
    const d = (points[i]! - x) ** 2 + (points[i + 1]! - y) ** 2
    if (d < least) {
      least = d
      best = i >> 1
    }
  }
  return best
}
