import type { Silhouette, Strip } from './silhouette'

/** Strips for tests, made of what a piece's edges would show. */
export const RADII = 90

/** A strip whose sides show an edge of so much sharpness at half-widths of the true piece, in the rows that are asked for. */
export function stripOf(truth: readonly number[], sharp: (row: number) => number): Strip {
  const n = RADII + 1
  const rows = truth.length
  const weaker = new Float32Array(rows * n)
  truth.forEach((half, row) => {
    if (half > 0) weaker[row * n + half] = sharp(row)
  })
  const axis = { at: { x: 100, y: 100 }, up: { x: 0, y: -1 } }
  return {
    axis,
    top: 0,
    rows,
    radii: RADII,
    both: weaker.map((v) => 2 * v),
    weaker,
    level: new Float32Array(rows * n),
  }
}

export const silhouetteOf = ({ axis, top }: Strip, half: readonly number[]): Silhouette => ({
  axis,
  top,
  half: Float32Array.from(half),
  edges: 1,
})

/** 20 rows of air, 120 of a vase, 20 of air. */
export const vase = Array.from({ length: 160 }, (_, row) =>
  row < 20 || row >= 140 ? 0 : Math.round(40 + 20 * Math.sin(((row - 20) / 120) * Math.PI)),
)

export const farOff = (found: Silhouette, truth: readonly number[]) =>
  Math.max(...truth.map((half, row) => Math.abs(half - found.half[row]!)))

/** In these rows one side alone shows an edge at half-widths. */
export const oneSideShows = ({ both }: Strip, halves: readonly number[], where: (row: number) => boolean) =>
  halves.forEach((half, row) => where(row) && (both[row * (RADII + 1) + half] = 0.8))
