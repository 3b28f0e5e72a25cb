import type { Plane } from '../picture/raster'
import type { Sharpness } from '../picture/sharpness'

/** What an edge keeps that has nothing but backdrop on both sides, and one that has nothing but piece. */
const KEPT_OF_BACKDROP = 0.3
const KEPT_OF_PIECE = 0.6
/** From this mean evidence on a side is surely backdrop; from the next on it speaks clearly for the piece, and surely at 1. */
const SURELY_BACKDROP = -0.35
const CLEARLY_PIECE = 0.4
/** The sides are looked at over so many px from an edge, and so many to either side along it. */
const FROM_EDGE = [1, 2, 3, 4]
const ALONG_EDGE = [-1, 0, 1]

/**
 * Sharp edges before a textured backdrop, in which those with the backdrop's own colours on both sides (joints, stripes, grain), or
 * with nothing but piece about them, count less: an outline has piece on one side and backdrop on the other.
 * @param evidence -1 (backdrop) to 1 (piece)
 */
export function withoutBackdropEdges({ x, y }: Sharpness, evidence: Plane): Sharpness {
  const damped = (sharp: Plane, across: readonly [number, number]): Plane => ({
    ...sharp,
    data: sharp.data.map((v, i) => {
      if (v === 0) return v
      const sides = [-1, 1].map((side) => meanBeside(evidence, i, across, side))
      const bare = within01(Math.max(...sides) / SURELY_BACKDROP)
      const inner = within01((Math.min(...sides) - CLEARLY_PIECE) / (1 - CLEARLY_PIECE))
      return v * (1 - (1 - KEPT_OF_BACKDROP) * bare) * (1 - (1 - KEPT_OF_PIECE) * inner)
    }),
  })
  return { x: damped(x, [1, 0]), y: damped(y, [0, 1]) }
}

/** Mean evidence on one side of an edge; beyond the picture's borders lies backdrop. */
function meanBeside(
  { width, height, data }: Plane,
  i: number,
  [ax, ay]: readonly [number, number],
  side: number,
): number {
  const [x0, y0] = [i % width, Math.floor(i / width)]
  let sum = 0
  for (const k of FROM_EDGE)
    for (const w of ALONG_EDGE) {
      const [x, y] = [x0 + side * k * ax + w * ay, y0 + side * k * ay + w * ax]
      sum += x < 0 || y < 0 || x >= width || y >= height ? -1 : data[y * width + x]!
    }
  return sum / (FROM_EDGE.length * ALONG_EDGE.length)
}

const within01 = (v: number) => Math.max(0, Math.min(1, v))
