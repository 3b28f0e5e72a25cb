import { closingArc, EDGE_ON_PX } from '../camera/ring-arc'

/** An end looks level that has fallen by no more than a ring seen edge-on over this share of its width; the rest is its edge's rounding. */
const LEVEL_SHARE = 0.85
/** Nearer to the edge than this share of the width its rounding begins. */
const KEPT = 0.95
/** The width is looked for so far down, px. */
const EDGE_PX = 12
/** What begins farther from the axis than this share of the width isn't closed by what is seen. */
const CLOSED = 0.2
/** Ends narrower than this, px, tell nothing. */
const LEAST_HALF_PX = 12

/**
 * Level of the ring with which a half-outline ends, seen by parallel rays: its near or far side bulges beyond it, where the
 * piece itself is level.
 * @param half [u v ...] px of what is seen, from where the outline crosses the axis outwards, v growing out of the piece
 * @returns null for a dome, a point, or an end that isn't clear or isn't seen
 */
export function levelEnd(half: Float64Array): number | null {
  const arc = closingArc([half, half])
  if (arc) return Math.min(arc.ellipse.v0, half[1]!)
  const crossing = half[1]!
  let wide = 0
  let widest = 0
  for (let i = 0; i < half.length && crossing - half[i + 1]! <= EDGE_PX; i += 2) {
    widest = Math.max(widest, half[i]!)
    if (crossing - half[i + 1]! <= EDGE_ON_PX) wide = widest
  }
  if (widest < LEAST_HALF_PX || half[0]! > CLOSED * wide || wide < LEVEL_SHARE * widest) return null
  let level = crossing
  for (let i = 0; i < half.length && half[i]! < KEPT * wide; i += 2) level = Math.min(level, half[i + 1]!)
  return level
}
