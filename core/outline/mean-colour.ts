import type { LabPicture } from '../picture/reduce'
import { placeAt, type AxisLine } from './axis-line'

/** Mean OKLab colour of the places (u, v) about an axis, px, and whether some of them lie outside of the picture; null where all do. */
export function meanColour(
  picture: LabPicture,
  axis: AxisLine,
  us: readonly number[],
  vs: readonly number[],
): { colour: number[] | null; isBeyond: boolean } {
  const sum = [0, 0, 0]
  let count = 0
  for (const v of vs)
    for (const u of us) {
      const place = placeAt(axis, u, v)
      const [x, y] = [Math.floor(place.x), Math.floor(place.y)]
      if (x < 0 || y < 0 || x >= picture.width || y >= picture.height) continue
      const i = y * picture.width + x
      sum[0]! += picture.l[i]!
      sum[1]! += picture.a[i]!
      sum[2]! += picture.b[i]!
      count++
    }
  return { colour: count > 0 ? sum.map((s) => s / count) : null, isBeyond: count < us.length * vs.length }
}

/** Numbers one apart, from one to at most another. */
export const oneApart = (from: number, to: number): number[] =>
  Array.from({ length: Math.max(0, Math.floor(to - from) + 1) }, (_, k) => from + k)
