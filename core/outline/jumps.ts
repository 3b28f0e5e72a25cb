import type { Run, Strip } from './silhouette'

/** A silhouette jumps where its half-width changes by this much over two rows, px, … */
export const LEAST_JUMP = 4
/** … and by this much, px, where it follows level lines of floor and wall; beads and rings jump less. */
export const LINE_JUMP = 14
/** … and is back where it comes to within this, px. */
export const BACK = 2
/** Nothing that it jumps out of and back to is taller than this share of it, or it is the piece. */
export const TALLEST = 0.25
/** Mean sharpness of edges below which nothing but colour speaks for a way. */
export const BARE = 0.12

/** Mean edge of a strip along rows of half-widths. */
export function meanEdge(
  { radii }: Strip,
  edges: Float32Array,
  half: Float32Array,
  { from, to }: Run,
): number {
  let sum = 0
  for (let k = from; k < to; k++) sum += edges[k * (radii + 1) + Math.round(half[k]!)] ?? 0
  return sum / Math.max(1, to - from)
}

/** The sharpest edge within so many px of a place of a strip. */
export function sharpestNear(edges: Float32Array, at: number, reach: number): number {
  return edges.subarray(Math.max(0, at - reach), at + reach + 1).reduce((p, q) => Math.max(p, q), 0)
}
